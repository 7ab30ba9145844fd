import {
  type BendQuestion,
  type BendRow,
  formatFixed,
  formatShort,
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
import { openBuild } from "../../../state/build-slice.ts";
import { toggleHeld } from "../../../state/edits.ts";
import { openPart } from "../../../state/part-slice.ts";
import { useBenchSources } from "../../../state/sources.ts";
import { useApp, useSend } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";
import { type DrawerTab, pickKey, viewActions } from "../../../state/view-slice.ts";
import { download, fileName } from "../../../ui/error-boundary.tsx";
import { FindingMark } from "../../../ui/finding-mark.tsx";
import { focusFirstField, focusViews } from "../../../ui/focus.ts";
import { WhyNumber } from "../../../ui/why-card.tsx";
import { MeasureList } from "./measure-list.tsx";
import { ValuesTable } from "./values-table.tsx";

/** The foot: bend list and findings, with their counts when closed. */
export function Drawer() {
  const drawer = useApp((s) => s.view.drawer);
  const latest = useApp((s) => openBuild(s).latest);
  // Numbers belong to the shape that is drawn; findings to what the steps say now.
  const shown = useApp((s) => openBuild(s).shown?.build);
  const document = useApp((s) => openPart(s).document);
  const name = document?.name ?? "";
  const units = useUnits();
  const sources = useBenchSources();
  const variables = useApp((s) => openPart(s).document?.variables?.length ?? 0);
  const measures = useApp((s) => openPart(s).document?.measures?.length ?? 0);
  const send = useSend();
  const findings = latest?.findings ?? [];
  const worst = findings[0]?.level;
  const tab = (which: DrawerTab, body: ReactNode) => (
    <button
      type="button"
      aria-expanded={drawer === which}
      data-drawer={which}
      className={`h-full border-b-2 px-1 ${drawer === which ? "border-moss font-bold" : "border-transparent text-quiet hover:text-ink"}`}
      onClick={() => send(viewActions.drawerChosen(which))}
    >
      {body}
    </button>
  );
  return (
    <section
      aria-label="Bend list, findings, measures and values"
      className={`flex shrink-0 flex-col border-t border-hairline bg-panel ${drawer === "closed" ? "" : "h-1/3"}`}
    >
      <header className="flex h-9 shrink-0 items-center gap-5 px-3.5">
        {tab("bends", <>Bends {shown?.bends.length ?? 0}</>)}
        {tab(
          "findings",
          <>
            Findings {worst && <FindingMark level={worst} />} {findings.length}
          </>,
        )}
        {tab("measure", <>Measure {measures || ""}</>)}
        {tab("values", <>Values {variables || ""}</>)}
        <span className="grow" />
        {shown?.folded && (
          <span className="text-quiet">
            mass{" "}
            <WhyNumber
              text={formatFixed(shown.folded.mass, 3)}
              label="mass"
              why={() => whyMass(document!, shown)}
              {...sources}
            />{" "}
            <span className="num">kg</span> · blank area{" "}
            <WhyNumber
              text={areaText(shown.blank?.area ?? 0, units)}
              label="blank area"
              why={() => whyBlankArea(document!, shown)}
              {...sources}
            />
          </span>
        )}
        {drawer === "bends" && shown !== undefined && shown.bends.length > 0 && (
          <button
            type="button"
            className="text-quiet hover:text-ink"
            title="Save the bend list as CSV"
            onClick={() => download(`${fileName(name)} bends.csv`, bendCsv(shown.bends), "text/csv")}
          >
            CSV
          </button>
        )}
      </header>
      {drawer === "bends" && <BendList build={shown} />}
      {drawer === "findings" && <FindingList build={latest} />}
      {drawer === "measure" && <MeasureList />}
      {drawer === "values" && <ValuesTable />}
    </section>
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
const LEFT = new Set(["#", "joins", "way", "K from", "study"]);

function BendList({ build }: { build?: PartBuild }) {
  const held = useApp((s) => openPart(s).document?.held);
  const picks = useApp((s) => s.view.picks);
  const document = useApp((s) => openPart(s).document);
  const part = useApp((s) => openPart(s).id);
  const units = useUnits();
  const sources = useBenchSources();
  const send = useSend();
  const picked = new Set(picks.map(pickKey));
  if (!build || build.bends.length === 0)
    return <p className="px-3.5 py-3 text-quiet">No bends yet. Pick an edge and press F for a flange.</p>;
  const left = "px-2.5 py-1 text-left whitespace-nowrap";
  const cell = "px-2.5 py-1 text-right whitespace-nowrap";
  const length = (mm: number) => lengthText(mm, units);
  const why = (row: BendRow, question: BendQuestion, text: string) => (
    <WhyNumber
      text={text}
      label={`${question} of bend ${row.number}`}
      why={() => whyBend(document!, build, row, question)}
      {...sources}
    />
  );
  return (
    <div className="scroll-quiet grow overflow-auto">
      <table className="w-full text-[12.5px]">
        <thead className="sticky top-0 bg-panel text-quiet">
          <tr>
            {HEADS.map((h) => (
              <th
                key={h}
                className={`border-b border-hairline px-2.5 py-1 font-medium ${LEFT.has(h) ? "text-left" : "text-right"}`}
              >
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="num">
          {build.bends.map((row) => (
            <tr
              key={row.id}
              data-bend={row.number}
              className={`border-b border-hairline/60 ${picked.has(`bend:${row.id}`) ? "bg-amber-soft" : "hover:bg-moss-soft/50"}`}
              onPointerEnter={() => send(viewActions.hovered({ kind: "bend", id: row.id }))}
              onPointerLeave={() => send(viewActions.hovered(undefined))}
            >
              <td className={left}>
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
              <td className={left}>{row.between.join(" / ")}</td>
              <td className={`${left} ${row.up ? "text-up" : "text-down"}`}>{row.up ? "▲ up" : "▼ down"}</td>
              <td className={cell}>{why(row, "angle", `${formatShort(toDegrees(row.angle))}°`)}</td>
              <td className={cell}>{why(row, "radius", length(row.radius))}</td>
              <td className={cell}>{why(row, "k", formatFixed(row.k, 3))}</td>
              <td className={cell}>{why(row, "allowance", length(row.allowance))}</td>
              <td className={cell}>
                {row.deduction === undefined ? "none" : why(row, "deduction", length(row.deduction))}
              </td>
              <td className={cell}>
                {why(
                  row,
                  "length",
                  row.pieces.length > 1 ? row.pieces.map(length).join(" + ") : length(row.length),
                )}
              </td>
              <td className={`${cell} ${row.force?.tooMuch ? "text-warn" : ""}`}>
                {row.force ? why(row, "force", `${formatFixed(row.force.total, 1)} kN`) : "–"}
              </td>
              <td className={`${left} max-w-44 truncate font-sans text-quiet`} title={row.kSource.label}>
                {row.kSource.outside && <FindingMark level="warn" />} {row.kSource.label}
              </td>
              <td className={`${left} font-sans`}>
                <Link
                  className="text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
                  to={`/study?part=${part}&bend=${row.id}`}
                >
                  section
                </Link>
              </td>
              <td className={cell}>
                <input
                  type="checkbox"
                  className="mr-4 size-3.5 align-middle accent-moss"
                  aria-label={`Show bend ${row.number} flat`}
                  title="Only a way of looking: nothing that is built changes by it"
                  checked={held?.includes(row.id) ?? false}
                  onChange={() => toggleHeld(row.id)}
                  onClick={(e) => e.detail > 0 && focusViews()}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function FindingList({ build }: { build?: PartBuild }) {
  const send = useSend();
  const findings = build?.findings ?? [];
  if (findings.length === 0)
    return (
      <p className="px-3.5 py-3 text-quiet">
        Nothing found. Looked at: values and edges of every step, reliefs beside bends, cuts that reach into
        bends, a blank that would lie over itself, bends outside their chart, radii against card and material,
        and the force on dies.
      </p>
    );
  return (
    <ul className="scroll-quiet grow overflow-auto">
      {findings.map((f, i) => (
        <li key={i} className="border-b border-hairline/60">
          <button
            type="button"
            className="flex w-full items-baseline gap-2 px-3.5 py-1.5 text-left hover:bg-moss-soft/50"
            onClick={() => {
              if (f.field?.startsWith("variables.")) send(viewActions.drawerChosen("values"));
              if (!f.step) return;
              send(viewActions.stepOpened(f.step));
              focusFirstField(f.step, f.field);
            }}
          >
            <FindingMark level={f.level} />
            <span>{f.message}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

function bendCsv(rows: readonly BendRow[]): string {
  const lines = rows.map((b) =>
    [
      b.number,
      b.between.join("/"),
      b.up ? "up" : "down",
      formatShort(toDegrees(b.angle), 6),
      formatShort(b.radius, 6),
      formatShort(b.k, 6),
      formatFixed(b.allowance, 6),
      b.deduction === undefined ? "" : formatFixed(b.deduction, 6),
      formatFixed(b.length, 6),
      b.pieces.map((v) => formatFixed(v, 6)).join(" + "),
    ].join(","),
  );
  return `number,joins,direction,angle,radius,K,BA,BD,length,pieces\r\n${lines.join("\r\n")}\r\n`;
}
