import {
  aboutOf,
  canBeAccepted,
  type Finding,
  type FindingLevel,
  type FindingPiece,
  type Mend,
  notChecked,
  type PartBuild,
} from "@hillcrest/core";
import { Hourglass } from "lucide-react";
import { useMemo, useRef } from "react";
import { findingsOf, isChecking, openBuild } from "../../../state/build-slice.ts";
import { endPreview, mend, mendsOf, previewMends } from "../../../state/mending.ts";
import { type Thunk, useApp, useSend } from "../../../state/store.ts";
import { type Grouping, viewActions } from "../../../state/view-slice.ts";
import { FindingMark } from "../../../ui/finding-mark.tsx";
import { focusFirstField, focusShown } from "../../../ui/focus.ts";
import { runFold } from "../../../views/folded/fold-dial.tsx";
import { pickOfPiece, pickTitle } from "../../../views/pick-names.ts";
import { Accept, Accepted } from "./accepting.tsx";

const LEVELS: readonly FindingLevel[] = ["stop", "warn", "note"];
const LEVEL_NAMES = { stop: "stops", warn: "warnings", note: "notes" } as const;
const GROUPINGS: readonly { readonly value: Grouping; readonly label: string }[] = [
  { value: "none", label: "gravest first" },
  { value: "rule", label: "by rule" },
  { value: "piece", label: "by plate and bend" },
];

/** Which levels are listed, each with how many there are, and how the list is put together. */
export function FindingTools({ findings }: { findings: readonly Finding[] }) {
  const hidden = useApp((s) => s.view.hiddenLevels);
  const grouping = useApp((s) => s.view.grouping);
  const looking = useApp((s) => isChecking(openBuild(s)));
  const send = useSend();
  return (
    <span className="flex min-w-0 items-center gap-2 text-[12.5px]">
      {looking && (
        <span
          className="shrink-0 text-quiet"
          data-checking
          role="status"
          title="Collisions are still being looked for; what else there is to say stands here already"
        >
          <Hourglass size={13} aria-hidden />
          <span className="sr-only">looking for collisions …</span>
        </span>
      )}
      {LEVELS.map((level) => {
        const count = findings.filter((f) => f.level === level && !f.accepted).length;
        return (
          <button
            key={level}
            type="button"
            aria-pressed={!hidden.includes(level)}
            title={
              hidden.includes(level) ? `List ${LEVEL_NAMES[level]} too` : `Leave ${LEVEL_NAMES[level]} out`
            }
            className={`shrink-0 whitespace-nowrap rounded px-1 ${hidden.includes(level) ? "text-quiet line-through" : "hover:bg-moss-soft/60"}`}
            onClick={() => send(viewActions.levelToggled(level))}
          >
            <FindingMark level={level} /> {count}
          </button>
        );
      })}
      <select
        aria-label="How findings are put together"
        className="shrink-0 rounded border border-hairline bg-raised px-1"
        value={grouping}
        onChange={(e) => send(viewActions.groupingChosen(e.currentTarget.value as Grouping))}
      >
        {GROUPINGS.map((g) => (
          <option key={g.value} value={g.value}>
            {g.label}
          </option>
        ))}
      </select>
    </span>
  );
}

const nameOf = (p: FindingPiece, build: PartBuild, labels: ReadonlyMap<string, string>): string =>
  pickTitle(pickOfPiece(p), build, labels).join(" ");

interface Group {
  readonly title?: string;
  readonly findings: readonly Finding[];
}

/** Findings put together by what they share; one that is about several pieces stands with each of them. */
function groupsOf(
  findings: readonly Finding[],
  by: Grouping,
  nameOfPiece: (p: FindingPiece) => string,
): Group[] {
  if (by === "none") return [{ findings }];
  const groups = new Map<string, Finding[]>();
  for (const f of findings) {
    const titles = by === "rule" ? [ruleTitle(f.rule)] : (f.pieces ?? []).map(nameOfPiece);
    for (const title of titles.length > 0 ? titles : ["The whole part"]) {
      const group = groups.get(title);
      if (group) group.push(f);
      else groups.set(title, [f]);
    }
  }
  return [...groups].map(([title, list]) => ({ title, findings: list }));
}

const ruleTitle = (rule: string): string => {
  const words = rule.replaceAll("-", " ");
  return words[0].toUpperCase() + words.slice(1);
};

/** All that is to be said of the part, but for levels that are left out. */
export function FindingList() {
  const build = useApp((s) => openBuild(s).latest);
  const all = useApp((s) => findingsOf(openBuild(s)));
  const failed = useApp((s) => openBuild(s).collisions?.failed);
  const hidden = useApp((s) => s.view.hiddenLevels);
  const grouping = useApp((s) => s.view.grouping);
  const shown = all.filter((f) => !hidden.includes(f.level));
  const labels = useMemo(
    () =>
      new Map((build?.sheet?.pieces ?? []).flatMap((p) => (p.kind === "plate" ? [[p.id, p.letter]] : []))),
    [build],
  );
  const left = build && notChecked(build);
  const groups = groupsOf(shown, grouping, (p) => (build ? nameOf(p, build, labels) : p.id));
  return (
    <div className="scroll-quiet grow overflow-auto" data-findings>
      {failed && (
        <p className="px-3.5 py-1.5 text-warn">
          Whether plates and bends stand in one another could not be found: {failed}
        </p>
      )}
      {all.length === 0 && <NothingFound />}
      {all.length > 0 && shown.length === 0 && (
        <p className="px-3.5 py-3 text-quiet">All findings are of levels that are left out above.</p>
      )}
      {left && <p className="px-3.5 py-1.5 text-quiet">{left}</p>}
      {groups.map(({ title, findings }) => (
        <section key={title ?? ""}>
          {title !== undefined && (
            <h3 className="sticky top-0 flex items-baseline bg-panel py-1 pl-3.5 font-bold text-quiet">
              <span className="grow">
                {title} <span className="num font-medium">{findings.length}</span>
              </span>
              {grouping === "rule" && mendsOf(findings).length > 1 && (
                <MendButton mends={mendsOf(findings)} title={`Mend all ${mendsOf(findings).length}`} />
              )}
            </h3>
          )}
          <ul>
            {keyed(findings).map(([key, f]) => (
              <FindingLine key={key} finding={f} />
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}

/** Findings with a key each that stays theirs while others come and go, so that what is open at one stays there. */
function keyed(findings: readonly Finding[]): [string, Finding][] {
  const seen = new Map<string, number>();
  return findings.map((f) => {
    const name = `${f.rule} ${aboutOf(f)}`;
    const before = seen.get(name) ?? 0;
    seen.set(name, before + 1);
    return [`${name} ${before}`, f];
  });
}

const NothingFound = () => (
  <p className="px-3.5 py-3 text-quiet">
    Nothing found. Looked at: values and edges of every step, reliefs beside bends, cuts that reach into
    bends, a blank that would lie over itself, bends outside their chart, radii against card and material, the
    force on dies, and plates and bends that stand in one another, folded and on the way.
  </p>
);

/** Lights what it is about in both views while pointed at, and opens the field where it is to be mended. */
function FindingLine({ finding: f }: { finding: Finding }) {
  const send = useSend();
  const light = () => {
    send(viewActions.hovered((f.pieces ?? []).map(pickOfPiece)));
    send(viewActions.clashShown(clashOf(f)));
  };
  const dim = () => send(viewActions.hovered([]));
  return (
    <li
      className="flex items-baseline border-b border-hairline/60 hover:bg-moss-soft/50"
      onPointerEnter={light}
      onPointerLeave={dim}
    >
      <button
        type="button"
        data-finding={f.rule}
        className={`flex grow items-baseline gap-2 py-1.5 pl-3.5 text-left ${f.accepted ? "text-quiet" : ""}`}
        onFocus={light}
        onBlur={dim}
        onClick={() => send(openFinding(f))}
      >
        <FindingMark level={f.level} />
        <span>{f.message}</span>
      </button>
      {f.mend && !f.accepted && <MendButton mends={[f.mend]} title={f.mend.title} />}
      {f.collision && <ToFirstContact at={f.collision.at} onShow={light} />}
      {f.accepted ? <Accepted accepted={f.accepted} /> : canBeAccepted(f) && <Accept finding={f} />}
    </li>
  );
}

/**
 * What would work, as one action: shown in both views while it is pointed at, done by a click. A line that comes
 * up under a pointer at rest, as after undo, is not pointed at: the part shown is the part as it is.
 */
function MendButton({ mends, title }: { mends: readonly Mend[]; title: string }) {
  const send = useSend();
  const pointedAt = useRef(false);
  const end = () => {
    pointedAt.current = false;
    send(endPreview());
  };
  return (
    <button
      type="button"
      data-mend
      className="mx-3.5 shrink-0 font-semibold whitespace-nowrap text-moss hover:underline"
      onPointerMove={() => {
        if (!pointedAt.current) send(previewMends(mends));
        pointedAt.current = true;
      }}
      onPointerLeave={end}
      onFocus={() => send(previewMends(mends))}
      onBlur={end}
      onClick={() => send(mend(mends))}
    >
      {title}
    </button>
  );
}

const clashOf = ({ collision, pieces = [] }: Finding): readonly [FindingPiece, FindingPiece] | undefined =>
  collision && pieces.length === 2 ? [pieces[0], pieces[1]] : undefined;

/** Sets the dial to where two pieces first meet: a hair past it, so that there is something to see. */
function ToFirstContact({ at, onShow }: { at: number; onShow: () => void }) {
  const send = useSend();
  const percent = Math.min(100, Math.ceil(at * 100 + 0.3));
  return (
    <button
      type="button"
      data-first-contact
      className="mx-3.5 shrink-0 font-semibold whitespace-nowrap text-moss hover:underline"
      title="Set the fold dial to where the two first meet"
      onClick={() => {
        onShow();
        send(runFold(percent / 100));
      }}
    >
      first contact, {percent} %
    </button>
  );
}

/** Opens the step and field, or the table, where a finding is to be mended. */
const openFinding =
  (f: Finding): Thunk =>
  (send) => {
    if (f.field?.startsWith("variables.")) send(viewActions.drawerChosen("values"));
    if (!f.step) return;
    send(viewActions.stepOpened(f.step));
    focusFirstField(f.step, f.field);
  };

/** Puts the focus on the next finding of the list, or the one before; opens the list first where it is shut. */
export const stepFinding =
  (way: 1 | -1): Thunk =>
  (send, getState) => {
    const { drawer } = getState().view;
    if (drawer !== "findings") send(viewActions.findingsShown());
    const lines = () => [...document.querySelectorAll<HTMLElement>("[data-finding]")];
    const before = lines().indexOf(document.activeElement as HTMLElement);
    focusShown("[data-finding]");
    const all = lines();
    if (all.length === 0) return;
    const start = way > 0 ? 0 : all.length - 1;
    all[before < 0 ? start : (before + way + all.length) % all.length].focus();
  };
