import {
  type BendQuestion,
  type BendRow,
  formatFixed,
  formatShort,
  hardwareOf,
  lengthText,
  type PartBuild,
  type RolledRow,
  toDegrees,
  type Units,
  whyBend,
} from "@hillcrest/core";
import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import { Fragment, type ReactNode, type RefObject, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { toggleHeld } from "../../../state/edits.ts";
import { openPart } from "../../../state/part-slice.ts";
import { useBenchSources } from "../../../state/sources.ts";
import { useApp, useSend } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";
import { pickKey, viewActions } from "../../../state/view-slice.ts";
import { FindingMark } from "../../../ui/finding-mark.tsx";
import { focusViews } from "../../../ui/focus.ts";
import { WhyNumber } from "../../../ui/why-card.tsx";

const HEADS = [
  "#",
  "joins",
  "way",
  "angle",
  "radius",
  "K",
  "BA",
  "BD",
  "length",
  "force",
  "K from",
  "study",
  "show flat",
];
const LEFT_HEADS = new Set(["#", "joins", "way", "K from", "study"]);

/** Every bend with its numbers, and what is set into the part. */
export function BendList({ build }: { build?: PartBuild }) {
  const frame = useRef<HTMLDivElement>(null);
  if (!build || build.bends.length + build.rolled.length === 0)
    return (
      <>
        <p className="px-3.5 py-3 text-quiet">No bends yet. Pick an edge and press F for a flange.</p>
        {build && <SetIn build={build} />}
      </>
    );
  return (
    <div ref={frame} className="scroll-quiet grow overflow-auto">
      <SetIn build={build} />
      <table className="w-full text-[12.5px]" aria-rowcount={build.bends.length + build.rolled.length + 1}>
        <thead className="sticky top-0 z-10 bg-panel text-quiet">
          <tr aria-rowindex={1}>
            {HEADS.map((h) => (
              <th
                key={h}
                className={`border-b border-hairline px-2.5 py-1 font-medium ${LEFT_HEADS.has(h) ? "text-left" : "text-right"}`}
              >
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <Rows build={build} frame={frame} />
        <RolledRows build={build} />
      </table>
    </div>
  );
}

/** What is set into the part, counted by the openings that are there. */
function SetIn({ build }: { build: PartBuild }) {
  const list = hardwareOf(build);
  if (list.length === 0) return null;
  return (
    <p data-set-in className="px-3.5 py-1.5 text-[12.5px]">
      <span className="text-quiet">Set in: </span>
      {list.map(({ item, count }) => `${count} × ${item.name}`).join(", ")}
    </p>
  );
}

/** About so high is a row, px. */
const ROW_HEIGHT = 28;
/** Of so many rows all are there; of more those in sight, and the one that somebody is at. */
const FEW_ROWS = 100;

interface RowsProps {
  readonly build: PartBuild;
  /** What is scrolled. */
  readonly frame: RefObject<HTMLElement | null>;
}

function Rows({ build, frame }: RowsProps) {
  const held = useApp((s) => openPart(s).document?.held);
  const picks = useApp((s) => s.view.picks);
  const picked = new Set(picks.map(pickKey));
  const [kept, keep] = useState<string>();
  const { bends } = build;
  const many = bends.length > FEW_ROWS;
  const virtual = useVirtualizer({
    count: bends.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_HEIGHT,
    initialRect: { width: 600, height: 220 },
    overscan: many ? 12 : FEW_ROWS,
    rangeExtractor: (range) => {
      const seen = defaultRangeExtractor(range);
      const at = kept === undefined ? -1 : bends.findIndex((b) => b.id === kept);
      return at < 0 || seen.includes(at) ? seen : [...seen, at].sort((p, q) => p - q);
    },
  });
  const items = virtual.getVirtualItems();
  const end = items.at(-1)?.end ?? 0;
  return (
    <tbody className="num">
      {many && <Widest build={build} />}
      {items.map(({ index, start }, i) => {
        const row = bends[index];
        return (
          <Fragment key={row.id}>
            <Gap height={start - (i === 0 ? 0 : items[i - 1].end)} />
            <BendLine
              row={row}
              index={index}
              build={build}
              picked={picked.has(`bend:${row.id}`)}
              held={held?.includes(row.id) ?? false}
              measure={virtual.measureElement}
              onKeep={keep}
            />
          </Fragment>
        );
      })}
      <Gap height={virtual.getTotalSize() - end} />
    </tbody>
  );
}

/** The room of rows that are out of sight. */
const Gap = ({ height }: { height: number }) =>
  height > 0.5 ? (
    <tr className="invisible">
      <td colSpan={HEADS.length} style={{ height, padding: 0 }} />
    </tr>
  ) : null;

/** A row without height of what is longest in each column, so that none moves when other rows come in sight. */
function Widest({ build }: { build: PartBuild }) {
  const units = useUnits();
  const longest = useMemo(() => {
    const out = HEADS.map(() => "");
    for (const row of build.bends)
      [
        row.number.toString(),
        row.between.join(" / "),
        "▼ down",
        ...numbersOf(row, units).map(({ text, otherwise }) => text ?? otherwise),
      ].forEach((text, k) => {
        if (text.length > out[k].length) out[k] = text;
      });
    return out;
  }, [build, units]);
  return (
    <tr className="invisible">
      {longest.map((text, k) => (
        <td key={HEADS[k]} className="px-2.5 whitespace-nowrap">
          <div className="h-0 overflow-hidden">{text}</div>
        </td>
      ))}
    </tr>
  );
}

const LEFT = "px-2.5 py-1 text-left whitespace-nowrap";
const RIGHT = "px-2.5 py-1 text-right whitespace-nowrap";

interface BendLineProps {
  readonly row: BendRow;
  readonly index: number;
  readonly build: PartBuild;
  readonly picked: boolean;
  readonly held: boolean;
  readonly measure: (row: HTMLElement | null) => void;
  /** Told that somebody is at the row, which is then there however far the list is scrolled. */
  readonly onKeep: (id: string) => void;
}

function BendLine({ row, index, build, picked, held, measure, onKeep }: BendLineProps) {
  const part = useApp((s) => openPart(s).id);
  const lit = useLit(row.id, picked);
  return (
    <tr
      ref={measure}
      data-index={index}
      data-bend={row.number}
      aria-rowindex={index + 2}
      {...lit}
      onFocus={() => onKeep(row.id)}
    >
      <Which row={row} title="Pick this bend">
        {row.number}
      </Which>
      <BendNumbers row={row} build={build} />
      <td className={`${LEFT} max-w-44 truncate font-sans text-quiet`} title={row.kSource.label}>
        {row.kSource.outside && <FindingMark level="warn" />} {row.kSource.label}
      </td>
      <td className={`${LEFT} font-sans`}>
        <Link
          className="text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
          to={`/study?part=${part}&bend=${row.id}`}
        >
          section
        </Link>
      </td>
      <ShowFlat id={row.id} label={`Show bend ${row.number} flat`} held={held} />
    </tr>
  );
}

/** How the row of a bend looks, and that the views light it while the row is pointed at. */
function useLit(id: string, picked: boolean) {
  const send = useSend();
  return {
    className: `border-b border-hairline/60 ${picked ? "bg-amber-soft" : "hover:bg-moss-soft/50"}`,
    onPointerEnter: () => send(viewActions.hovered([{ kind: "bend", id }])),
    onPointerLeave: () => send(viewActions.hovered([])),
  };
}

interface WhichProps {
  readonly row: Pick<RolledRow, "id" | "between" | "up">;
  readonly title: string;
  readonly children: ReactNode;
}

/** The first cells of a row: which it is, by which it is picked, what it joins and which way it turns. */
function Which({ row, title, children }: WhichProps) {
  const send = useSend();
  return (
    <>
      <td className={LEFT}>
        <button
          type="button"
          className="font-bold"
          title={title}
          onClick={(e) => {
            send(viewActions.picked({ pick: { kind: "bend", id: row.id }, add: false }));
            if (e.detail > 0) focusViews();
          }}
        >
          {children}
        </button>
      </td>
      <td className={LEFT}>{row.between.join(" / ")}</td>
      <td className={`${LEFT} ${row.up ? "text-up" : "text-down"}`}>{row.up ? "▲ up" : "▼ down"}</td>
    </>
  );
}

/** Shows one flat, which is only a way of looking. */
const ShowFlat = ({ id, label, held }: { id: string; label: string; held: boolean }) => (
  <td className={RIGHT}>
    <input
      type="checkbox"
      className="mr-4 size-3.5 align-middle accent-moss"
      aria-label={label}
      title="Only a way of looking: nothing that is built changes by it"
      checked={held}
      onChange={() => toggleHeld(id)}
      onClick={(e) => e.detail > 0 && focusViews()}
    />
  </td>
);

/** What is rolled and not bent: it has no number and no section, and two radii where it is a cone. */
function RolledRows({ build }: { build: PartBuild }) {
  const picks = useApp((s) => s.view.picks);
  const held = useApp((s) => openPart(s).document?.held);
  if (build.rolled.length === 0) return null;
  const picked = new Set(picks.map(pickKey));
  return (
    <tbody className="num">
      {build.rolled.map((row) => (
        <RolledLine
          key={row.id}
          row={row}
          picked={picked.has(`bend:${row.id}`)}
          held={held?.includes(row.id) ?? false}
        />
      ))}
    </tbody>
  );
}

function RolledLine({ row, picked, held }: { row: RolledRow; picked: boolean; held: boolean }) {
  const units = useUnits();
  const lit = useLit(row.id, picked);
  const both = ([least, most]: readonly [number, number]) =>
    least === most ? lengthText(least, units) : `${lengthText(least, units)} to ${lengthText(most, units)}`;
  const numbers = [
    `${formatShort(toDegrees(row.angle))}°`,
    both(row.radius),
    formatFixed(row.k, 3),
    both(row.allowance),
    "none",
    lengthText(row.length, units),
    "–",
  ];
  return (
    <tr data-rolled={row.id} {...lit}>
      <Which row={row} title="Pick this rolled wall">
        rolled
      </Which>
      {numbers.map((text, i) => (
        <td key={HEADS[i + 3]} className={RIGHT}>
          {text}
        </td>
      ))}
      <td className={LEFT} />
      <td className={LEFT} />
      <ShowFlat id={row.id} label={`Show the rolled wall ${row.between.join(" / ")} flat`} held={held} />
    </tr>
  );
}

interface BendNumber {
  readonly question: BendQuestion;
  readonly text: string | undefined;
  /** What stands where there is no such number. */
  readonly otherwise: string;
}

function numbersOf(row: BendRow, units: Units): readonly BendNumber[] {
  const length = (mm: number) => lengthText(mm, units);
  const { deduction, force, pieces } = row;
  const long = pieces.length > 1 ? pieces.map(length).join(" + ") : length(row.length);
  return [
    { question: "angle", text: `${formatShort(toDegrees(row.angle))}°`, otherwise: "" },
    { question: "radius", text: length(row.radius), otherwise: "" },
    { question: "k", text: formatFixed(row.k, 3), otherwise: "" },
    { question: "allowance", text: length(row.allowance), otherwise: "" },
    {
      question: "deduction",
      text: deduction === undefined ? undefined : length(deduction),
      otherwise: "none",
    },
    { question: "length", text: long, otherwise: "" },
    { question: "force", text: force && `${formatFixed(force.total, 1)} kN`, otherwise: "–" },
  ];
}

/** The numbers of a bend, each of which can be asked why. */
function BendNumbers({ row, build }: Pick<BendLineProps, "row" | "build">): ReactNode {
  const document = useApp((s) => openPart(s).document);
  const units = useUnits();
  const sources = useBenchSources();
  return numbersOf(row, units).map(({ question, text, otherwise }) => (
    <td
      key={question}
      className={`${RIGHT} ${question === "force" && row.force?.tooMuch ? "text-warn" : ""}`}
    >
      {text === undefined ? (
        otherwise
      ) : (
        <WhyNumber
          text={text}
          label={`${question} of bend ${row.number}`}
          why={() => whyBend(document!, build, row, question)}
          {...sources}
        />
      )}
    </td>
  ));
}
