import {
  type BendListRow,
  bendList,
  blankFacts,
  type Comparison,
  type Difference,
  factChanges,
  formatFixed,
  formatShort,
  lengthText,
  type PartBuild,
  type PartDocument,
  sayLength,
  toDegrees,
  unitName,
} from "@hillcrest/core";
import { type ReactNode, useEffect, useMemo, useState } from "react";
import { type ExportEntry, partsApi } from "../../api/parts-api.ts";
import { blankSettings, sendWaitingExports, setBlank } from "../../state/exporting.ts";
import { openPart } from "../../state/part-slice.ts";
import { useApp, useSend } from "../../state/store.ts";
import { useUnits } from "../../state/units.ts";
import { Button } from "../../ui/button.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { FootTab } from "../../ui/foot-tab.tsx";
import { wholeValue } from "../../ui/whole-value.ts";
import { CsvButton } from "../csv-button.tsx";
import { ProofLines } from "./file-panel.tsx";

export type BlankTab = "bends" | "exports" | "compare";

interface BlankDrawerProps {
  readonly document: PartDocument;
  readonly build: PartBuild;
  readonly tab?: BlankTab;
  readonly onTab: (tab: BlankTab | undefined) => void;
  /** Counts what has been saved in this visit: the list is read anew. */
  readonly saved: number;
  readonly compared?: Compared;
  readonly onWithin: (within: number) => void;
  readonly onForget: () => void;
  readonly onSlip: (entry: ExportEntry) => void;
}

/** A file that was dropped, and what comparing it gave. */
export interface Compared {
  readonly file: string;
  readonly within: number;
  readonly found?: Comparison;
  readonly problem?: string;
}

/** The foot of the page: the bend list in full, what has left, and what came back. */
export function BlankDrawer(props: BlankDrawerProps) {
  const { document, build, tab, onTab, saved, compared, onSlip } = props;
  const exports = useExports(saved);
  const differences = compared?.found ? differencesOf(compared.found).length : 0;
  const button = (which: BlankTab, body: ReactNode) => (
    <FootTab name={which} open={tab === which} onClick={() => onTab(tab === which ? undefined : which)}>
      {body}
    </FootTab>
  );
  return (
    <section
      aria-label="Bend list, exports and comparison"
      className={`flex shrink-0 flex-col border-t border-hairline bg-panel ${tab ? "h-[34%]" : ""}`}
    >
      <header className="flex h-9 shrink-0 items-center gap-5 px-3.5">
        {button("bends", `Bends ${build.bends.length}`)}
        {button("exports", `Exports ${exports.list?.length || ""}`)}
        {compared && button("compare", `Compared ${differences || ""}`)}
        <span className="grow" />
        {tab === "bends" && build.bends.length > 0 && <CsvButton />}
      </header>
      {tab === "bends" && <FullBendList document={document} build={build} />}
      {tab === "exports" && <ExportList build={build} {...exports} onSlip={onSlip} />}
      {tab === "compare" && compared && <ComparedList {...props} compared={compared} />}
    </section>
  );
}

const HEADS = [
  "#",
  "order",
  "joins",
  "way",
  "bend",
  "opening",
  "radius",
  "K",
  "K from",
  "BA",
  "BD",
  "length",
  "outside 1",
  "outside 2",
  "across",
  "up",
  "die",
  "force",
];
const LEFT_HEADS = new Set(["#", "order", "joins", "way", "K from", "die"]);
const LEFT = "px-1.5 py-1 text-left whitespace-nowrap";
const RIGHT = "px-1.5 py-1 text-right whitespace-nowrap";

/** The bend list as the person at the brake needs it; the order of forming is put in by hand. */
export function FullBendList({ document, build }: { document: PartDocument; build: PartBuild }) {
  const units = useUnits();
  const rows = useMemo(() => bendList(document, build), [document, build]);
  if (rows.length === 0) return <p className="px-3.5 py-3 text-quiet">This part has no bends: it is flat.</p>;
  return (
    <div className="scroll-quiet grow overflow-auto">
      <BendTable rows={rows} units={unitName(units)} order={(row) => <FormingBox row={row} />} />
    </div>
  );
}

/** The table of bends, as it stands on the page and on paper. */
export function BendTable({
  rows,
  units,
  order,
}: {
  rows: readonly BendListRow[];
  units: string;
  order: (row: BendListRow) => ReactNode;
}) {
  const shown = useUnits();
  const length = (v: number | undefined) => (v === undefined ? "–" : lengthText(v, shown));
  const several = (v: readonly number[]) =>
    v.length === 0 ? "–" : v.map((x) => lengthText(x, shown)).join(" / ");
  return (
    <table className="w-full text-[12px]" data-bend-table>
      <thead className="sticky top-0 bg-panel text-quiet">
        <tr>
          {HEADS.map((h) => (
            <th
              key={h}
              title={TITLES[h]?.replace("mm", units)}
              className={`border-b border-hairline px-1.5 py-1 font-medium whitespace-nowrap ${LEFT_HEADS.has(h) ? "text-left" : "text-right"}`}
            >
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody className="num">
        {rows.map((b) => (
          <tr key={b.id} data-bend={b.number} className="border-b border-hairline/60 hover:bg-moss-soft/50">
            <td className={`${LEFT} font-bold`}>{b.number}</td>
            <td className={LEFT}>{order(b)}</td>
            <td className={LEFT}>{b.between.join(" / ")}</td>
            <td className={`${LEFT} ${b.seenUp ? "text-up" : "text-down"}`}>
              {b.seenUp ? "▲ up" : "▼ down"}
            </td>
            <td className={RIGHT}>{formatShort(toDegrees(b.angle), 3)}°</td>
            <td className={RIGHT}>{formatShort(toDegrees(b.opening), 3)}°</td>
            <td className={RIGHT}>{length(b.radius)}</td>
            <td className={RIGHT}>{formatFixed(b.k, 3)}</td>
            <td className={`${LEFT} max-w-20 truncate font-sans text-quiet`} title={b.kSource.label}>
              {b.kSource.label}
            </td>
            <td className={RIGHT}>{length(b.allowance)}</td>
            <td className={RIGHT}>{b.deduction === undefined ? "none" : length(b.deduction)}</td>
            <td className={RIGHT}>
              {b.pieces.length > 1 ? b.pieces.map(length).join(" + ") : length(b.length)}
            </td>
            <td className={RIGHT} data-outside="1">
              {length(b.legs[0])}
            </td>
            <td className={RIGHT} data-outside="2">
              {length(b.legs[1])}
            </td>
            <td className={RIGHT}>{several(b.across)}</td>
            <td className={RIGHT}>{several(b.upwards)}</td>
            <td className={`${LEFT} font-sans`}>{b.force?.dieName ?? "–"}</td>
            <td className={`${RIGHT} ${b.force?.tooMuch ? "text-warn" : ""}`}>
              {b.force ? `${formatFixed(b.force.total, 1)} kN` : "–"}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const TITLES: Readonly<Record<string, string>> = {
  order: "In which order the bends are formed, put in by hand; their numbers stay",
  "outside 1":
    "The first leg as a caliper finds it: to the outer mould point, above 90° to the outside of the bend; its other end is a free edge or the outside of the next bend",
  "outside 2": "The second leg, likewise",
  across: "From the left datum edge to the bend line, mm",
  up: "From the lower datum edge to the bend line, mm",
};

/** A bend's place in the order of forming. Nothing stands in it until it is put in. */
function FormingBox({ row }: { row: BendListRow }) {
  const send = useSend();
  const { forming = {} } = useApp(blankSettings);
  const [draft, setDraft] = useState<string>();
  const wrong = draft !== undefined && draft.trim() !== "" && !/^[1-9]\d{0,3}$/.test(draft.trim());
  const put = (text: string) => {
    setDraft(text);
    const trimmed = text.trim();
    const others = Object.fromEntries(Object.entries(forming).filter(([id]) => id !== row.id));
    const next = /^[1-9]\d{0,3}$/.test(trimmed)
      ? { ...others, [row.id]: Number(trimmed) }
      : trimmed === ""
        ? others
        : undefined;
    if (next)
      send(setBlank({ forming: Object.keys(next).length > 0 ? next : undefined }, `forming:${row.id}`));
  };
  return (
    <input
      aria-label={`Order of bend ${row.number}`}
      aria-invalid={wrong || undefined}
      title={wrong ? "A whole number from 1 to 9999, or nothing" : TITLES.order}
      data-forming={row.number}
      className={`num w-9 rounded border bg-raised px-1 py-0 text-right ${wrong ? "border-stop text-stop" : "border-hairline"}`}
      value={draft ?? (row.forming === undefined ? "" : String(row.forming))}
      {...wholeValue}
      onChange={(e) => put(e.currentTarget.value)}
      onBlur={() => setDraft(undefined)}
      onKeyDown={(e) => {
        if (!e.ctrlKey && !e.metaKey) e.stopPropagation();
        if (e.key === "Enter") e.currentTarget.blur();
      }}
    />
  );
}

/** What has left of the part; read anew when something is saved. */
function useExports(saved: number) {
  const id = useApp((s) => openPart(s).id);
  const [list, setList] = useState<readonly ExportEntry[]>();
  const [problem, setProblem] = useState<string>();
  // biome-ignore lint/correctness/useExhaustiveDependencies: each file that is saved lengthens the list
  useEffect(() => {
    if (id === undefined) return;
    let left = false;
    sendWaitingExports()
      .then(() => partsApi.exports(id))
      .then((found) => {
        if (left) return;
        setList(found);
        setProblem(undefined);
      })
      .catch((error) => !left && setProblem((error as Error).message));
    return () => {
      left = true;
    };
  }, [id, saved]);
  return { list, problem };
}

interface ExportListProps {
  readonly build: PartBuild;
  readonly list?: readonly ExportEntry[];
  readonly problem?: string;
  readonly onSlip: (entry: ExportEntry) => void;
}

/** Files that have left, the newest first: by whom and when, and whether the part has changed since. */
function ExportList({ build, list, problem, onSlip }: ExportListProps) {
  const [open, setOpen] = useState<number>();
  const now = useMemo(() => blankFacts(build), [build]);
  if (problem)
    return (
      <p role="alert" className="px-3.5 py-3">
        <FindingMark level="warn" /> {problem}
      </p>
    );
  if (!list) return <p className="px-3.5 py-3 text-quiet">Looking…</p>;
  if (list.length === 0)
    return (
      <p className="px-3.5 py-3 text-quiet">
        Nothing has left yet. What is saved as DXF is listed here with its proof.
      </p>
    );
  return (
    <ul className="scroll-quiet grow overflow-auto px-3.5 pb-3">
      {list.map((e) => {
        const changes = now ? factChanges(e.facts, now) : [];
        return (
          <li key={e.id} data-export={e.file} className="border-b border-hairline/60 py-1.5">
            <div className="flex flex-wrap items-baseline gap-x-4">
              <b>{e.file}</b>
              <span className="num text-quiet">
                {new Date(e.madeAt).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}
              </span>
              {e.by && <span>by {e.by}</span>}
              <span className="text-quiet">
                revision {e.revision} · {e.preset}
              </span>
              <span className="num text-quiet" title={e.sha256}>
                {e.sha256.slice(0, 12)}…
              </span>
              <span
                data-since={changes.length > 0 ? "changed" : "same"}
                className={changes.length > 0 ? "text-warn" : "text-moss"}
              >
                {changes.length === 0 ? "✓ the blank is still this" : `◆ since then: ${changes.join("; ")}`}
              </span>
              <span className="grow" />
              <button
                type="button"
                className="text-moss"
                aria-expanded={open === e.id}
                onClick={() => setOpen(open === e.id ? undefined : e.id)}
              >
                proof
              </button>
              <button type="button" className="text-moss" onClick={() => onSlip(e)}>
                print slip
              </button>
            </div>
            {open === e.id && (
              <div className="mt-1 rounded-md bg-moss-soft p-2">
                <p className="num break-all text-quiet">SHA-256 {e.sha256}</p>
                <ProofLines lines={e.proof} />
              </div>
            )}
          </li>
        );
      })}
    </ul>
  );
}

interface Told {
  readonly glyph: string;
  readonly kind: string;
  readonly d: Difference;
}

function differencesOf({ moved, changed, added, removed }: Comparison): Told[] {
  const of = (list: readonly Difference[], glyph: string, kind: string) =>
    list.map((d): Told => ({ glyph, kind, d }));
  return [
    ...of(moved, "↦", "moved"),
    ...of(changed, "◆", "changed"),
    ...of(added, "+", "added"),
    ...of(removed, "−", "removed"),
  ];
}

/** What is said of the whole file. */
export function sayWhole({ scale, mirrored, turned, offset }: Comparison): string[] {
  const near = (v: number) => Math.abs(scale / v - 1) < 1e-6;
  const size = near(25.4)
    ? "25.4 times as large: millimetres read as inches"
    : near(1 / 25.4)
      ? "1/25.4 as large: inches read as millimetres"
      : scale === 1
        ? undefined
        : `${formatShort(scale, 6)} times as large`;
  return [
    ...(size ? [`The whole file is ${size}.`] : []),
    ...(mirrored ? ["The whole file is mirrored."] : []),
    ...(turned !== 0 ? [`The whole file is turned by ${formatShort(turned, 3)}°.`] : []),
    ...(Math.hypot(...offset) > 1e-6
      ? [`Its lower left corner lies at ${offset.map((v) => formatShort(v, 3)).join(", ")}.`]
      : []),
  ];
}

function ComparedList({ compared, onWithin, onForget }: BlankDrawerProps & { compared: Compared }) {
  const units = useUnits();
  const { found, problem, file, within } = compared;
  const at = ([x, y]: readonly [number, number]) => `${lengthText(x, units)}, ${lengthText(y, units)}`;
  return (
    <div className="scroll-quiet grow overflow-auto px-3.5 pb-3" data-compared={found ? found.same : ""}>
      <div className="flex items-center gap-3 py-1.5">
        <b>{file}</b>
        <label className="flex items-center gap-2 text-quiet">
          the same within
          <select
            aria-label="Tolerance of the comparison"
            className="rounded border border-hairline bg-raised px-1 text-ink"
            value={within}
            onChange={(e) => onWithin(Number(e.currentTarget.value))}
          >
            {[0.001, 0.005, 0.01, 0.05, 0.1, 0.5].map((v) => (
              <option key={v} value={v}>
                {sayLength(v, units)}
              </option>
            ))}
          </select>
        </label>
        <span className="grow" />
        <Button kind="quiet" onClick={onForget}>
          Forget it
        </Button>
      </div>
      {problem && (
        <p role="alert">
          <FindingMark level="stop" /> {problem}
        </p>
      )}
      {!found && !problem && <p className="text-quiet">Comparing…</p>}
      {found?.same && <p className="text-moss">✓ It is this blank, within {sayLength(within, units)}.</p>}
      {found && sayWhole(found).map((line) => <p key={line}>{line}</p>)}
      {found?.notes.map((line) => (
        <p key={line} className="text-quiet">
          {line}
        </p>
      ))}
      {found && (
        <table className="mt-1">
          <tbody>
            {differencesOf(found).map(({ glyph, kind, d }, i) => (
              <tr key={i} data-difference={kind}>
                <td className="pr-2 font-bold">{glyph}</td>
                <td className="pr-4">{kind}</td>
                <td className="pr-4">{d.what}</td>
                <td className="num pr-4 text-quiet">
                  {at(d.at)}
                  {d.to && ` → ${at(d.to)}`}
                </td>
                <td className="num">
                  {d.by !== undefined && `by ${lengthText(d.by, units, 3)} ${unitName(units)}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
