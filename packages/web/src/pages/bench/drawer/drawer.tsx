import {
  type BendQuestion,
  type BendRow,
  type Finding,
  formatFixed,
  formatShort,
  hardwareOf,
  INCH,
  lengthText,
  type PartBuild,
  toDegrees,
  type Units,
  whyBend,
  whyBlankArea,
  whyMass,
} from "@hillcrest/core";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { findingsOf, isChecking, openBuild } from "../../../state/build-slice.ts";
import { toggleHeld } from "../../../state/edits.ts";
import { saveFile } from "../../../state/exporting.ts";
import { openPart } from "../../../state/part-slice.ts";
import { useBenchSources } from "../../../state/sources.ts";
import { useApp, useSend } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";
import { type DrawerTab, pickKey, viewActions } from "../../../state/view-slice.ts";
import { FindingMark } from "../../../ui/finding-mark.tsx";
import { focusViews } from "../../../ui/focus.ts";
import { FootTab } from "../../../ui/foot-tab.tsx";
import { WhyNumber } from "../../../ui/why-card.tsx";
import { FindingList, FindingTools } from "./findings.tsx";
import { MeasureList } from "./measure-list.tsx";
import { OutlinePanel } from "./outline-panel.tsx";
import { ValuesTable } from "./values-table.tsx";

/** The foot: bend list and findings, with their counts when closed. */
export function Drawer() {
  const send = useSend();
  const drawer = useApp((s) => s.view.drawer);
  const findings = useApp((s) => findingsOf(openBuild(s)));
  const looking = useApp((s) => isChecking(openBuild(s)));
  // Numbers belong to the shape that is drawn; findings to what the steps say now.
  const shown = useApp((s) => openBuild(s).shown?.build);
  return (
    <section
      aria-label="Bend list, findings, measures, outlines and values"
      data-looking={looking || undefined}
      className={`flex shrink-0 flex-col border-t border-hairline bg-panel ${drawer === "closed" ? "" : "h-1/3"}`}
    >
      <header className="flex h-9 shrink-0 items-center gap-3 px-3.5">
        <Tabs bends={shown?.bends.length ?? 0} findings={findings} />
        <span className="grow" />
        {drawer === "findings" && <FindingTools findings={findings} />}
        {shown?.folded && <Totals build={shown} />}
        {drawer === "bends" && shown !== undefined && shown.bends.length > 0 && (
          <button
            type="button"
            className="text-quiet hover:text-ink"
            title="Save the bend list as CSV"
            onClick={() => void send(saveFile("csv"))}
          >
            CSV
          </button>
        )}
      </header>
      {drawer === "bends" && <BendList build={shown} />}
      {drawer === "findings" && <FindingList />}
      {drawer === "measure" && <MeasureList />}
      {drawer === "outlines" && <OutlinePanel />}
      {drawer === "values" && <ValuesTable />}
    </section>
  );
}

/** What the drawer can show, each with how much of it there is. */
function Tabs({ bends, findings }: { bends: number; findings: readonly Finding[] }) {
  const drawer = useApp((s) => s.view.drawer);
  const variables = useApp((s) => openPart(s).document?.variables?.length ?? 0);
  const outlines = useApp((s) => openPart(s).document?.outlines?.length ?? 0);
  const measures = useApp((s) => openPart(s).document?.measures?.length ?? 0);
  const send = useSend();
  // What is accepted comes last, and counts for nothing.
  const open = findings.filter((f) => !f.accepted);
  const worst = open[0]?.level;
  const tab = (which: DrawerTab, body: ReactNode) => (
    <FootTab name={which} open={drawer === which} onClick={() => send(viewActions.drawerChosen(which))}>
      {body}
    </FootTab>
  );
  return (
    <>
      {tab("bends", <>Bends {bends}</>)}
      {tab(
        "findings",
        <>
          Findings {worst && <FindingMark level={worst} />} {open.length}
        </>,
      )}
      {tab("measure", <>Measure {measures || ""}</>)}
      {tab("outlines", <>Outlines {outlines || ""}</>)}
      {tab("values", <>Values {variables || ""}</>)}
    </>
  );
}

/** Mass and area of the blank, each of which can be asked why. */
function Totals({ build }: { build: PartBuild }) {
  const document = useApp((s) => openPart(s).document);
  const units = useUnits();
  const sources = useBenchSources();
  return (
    <span className="whitespace-nowrap text-quiet">
      mass{" "}
      <WhyNumber
        text={formatFixed(build.folded?.mass ?? 0, 3)}
        label="mass"
        why={() => whyMass(document!, build)}
        {...sources}
      />{" "}
      <span className="num">kg</span> · blank area{" "}
      <WhyNumber
        text={areaText(build.blank?.area ?? 0, units)}
        label="blank area"
        why={() => whyBlankArea(document!, build)}
        {...sources}
      />
    </span>
  );
}

const areaText = (area: number, units: Units) =>
  units === "mm" ? `${formatFixed(area, 0)} mm²` : `${formatFixed(area / INCH / INCH, 2)} in²`;

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

function BendList({ build }: { build?: PartBuild }) {
  const held = useApp((s) => openPart(s).document?.held);
  const picks = useApp((s) => s.view.picks);
  const picked = new Set(picks.map(pickKey));
  if (!build || build.bends.length === 0)
    return (
      <>
        <p className="px-3.5 py-3 text-quiet">No bends yet. Pick an edge and press F for a flange.</p>
        {build && <SetIn build={build} />}
      </>
    );
  return (
    <div className="scroll-quiet grow overflow-auto">
      <SetIn build={build} />
      <table className="w-full text-[12.5px]">
        <thead className="sticky top-0 bg-panel text-quiet">
          <tr>
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
        <tbody className="num">
          {build.bends.map((row) => (
            <BendLine
              key={row.id}
              row={row}
              build={build}
              picked={picked.has(`bend:${row.id}`)}
              held={held?.includes(row.id) ?? false}
            />
          ))}
        </tbody>
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

const LEFT = "px-2.5 py-1 text-left whitespace-nowrap";
const RIGHT = "px-2.5 py-1 text-right whitespace-nowrap";

interface BendLineProps {
  readonly row: BendRow;
  readonly build: PartBuild;
  readonly picked: boolean;
  readonly held: boolean;
}

function BendLine({ row, build, picked, held }: BendLineProps) {
  const part = useApp((s) => openPart(s).id);
  const send = useSend();
  return (
    <tr
      data-bend={row.number}
      className={`border-b border-hairline/60 ${picked ? "bg-amber-soft" : "hover:bg-moss-soft/50"}`}
      onPointerEnter={() => send(viewActions.hovered([{ kind: "bend", id: row.id }]))}
      onPointerLeave={() => send(viewActions.hovered([]))}
    >
      <td className={LEFT}>
        <button
          type="button"
          className="font-bold"
          title="Pick this bend"
          onClick={(e) => {
            send(viewActions.picked({ pick: { kind: "bend", id: row.id }, add: false }));
            if (e.detail > 0) focusViews();
          }}
        >
          {row.number}
        </button>
      </td>
      <td className={LEFT}>{row.between.join(" / ")}</td>
      <td className={`${LEFT} ${row.up ? "text-up" : "text-down"}`}>{row.up ? "▲ up" : "▼ down"}</td>
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
      <td className={RIGHT}>
        <input
          type="checkbox"
          className="mr-4 size-3.5 align-middle accent-moss"
          aria-label={`Show bend ${row.number} flat`}
          title="Only a way of looking: nothing that is built changes by it"
          checked={held}
          onChange={() => toggleHeld(row.id)}
          onClick={(e) => e.detail > 0 && focusViews()}
        />
      </td>
    </tr>
  );
}

/** The numbers of a bend, each of which can be asked why. */
function BendNumbers({ row, build }: Pick<BendLineProps, "row" | "build">) {
  const document = useApp((s) => openPart(s).document);
  const units = useUnits();
  const sources = useBenchSources();
  const length = (mm: number) => lengthText(mm, units);
  const { deduction, force, pieces } = row;
  const numbers: readonly (readonly [BendQuestion, string | undefined, string])[] = [
    ["angle", `${formatShort(toDegrees(row.angle))}°`, ""],
    ["radius", length(row.radius), ""],
    ["k", formatFixed(row.k, 3), ""],
    ["allowance", length(row.allowance), ""],
    ["deduction", deduction === undefined ? undefined : length(deduction), "none"],
    ["length", pieces.length > 1 ? pieces.map(length).join(" + ") : length(row.length), ""],
    ["force", force && `${formatFixed(force.total, 1)} kN`, "–"],
  ];
  return numbers.map(([question, text, otherwise]) => (
    <td key={question} className={`${RIGHT} ${question === "force" && force?.tooMuch ? "text-warn" : ""}`}>
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
