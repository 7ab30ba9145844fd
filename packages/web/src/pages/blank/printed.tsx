import {
  type BlankSettings,
  bendList,
  type ExportPreset,
  type PartBuild,
  type PartDocument,
  type Point,
  STOP_WORDS,
  sayLength,
  shortLength,
  stops,
  type Units,
  unitName,
} from "@hillcrest/core";
import { type ReactNode, useEffect } from "react";
import { createPortal } from "react-dom";
import type { ExportEntry } from "../../api/parts-api.ts";
import { findingsOf, openBuild } from "../../state/build-slice.ts";
import { useApp } from "../../state/store.ts";
import { useUnits } from "../../state/units.ts";
import { BendTable } from "./blank-drawer.tsx";
import { BlankDrawing } from "./blank-drawing.tsx";
import { ProofLines } from "./file-panel.tsx";
import { FOOT, MARGIN, type PrintPlan, sayScale } from "./print-pages.ts";
import type { SheetDrawn } from "./sheet-geometry.ts";

/** CSS pixels in a mm, on paper as on the screen. */
const PIXEL = 96 / 25.4;

/** Puts something on paper instead of the page, and asks the browser to print it. */
function OnPaper({ page, children, onDone }: { page: string; children: ReactNode; onDone: () => void }) {
  useEffect(() => {
    const done = () => onDone();
    window.addEventListener("afterprint", done);
    // What is to be printed must be drawn first.
    const timer = setTimeout(() => window.print(), 150);
    return () => {
      clearTimeout(timer);
      window.removeEventListener("afterprint", done);
    };
  }, [onDone]);
  return createPortal(
    <div id="on-paper" data-theme="day">
      <style>{`@page { size: ${page}; margin: 0 } @media print { #root { display: none !important } #on-paper { display: block !important } html, body { height: auto !important; background: #fff !important } }`}</style>
      {children}
    </div>,
    document.body,
  );
}

interface PrintedProps {
  readonly document: PartDocument;
  readonly build: PartBuild;
  readonly drawn: SheetDrawn;
  readonly settings: BlankSettings;
  readonly preset: ExportPreset;
  readonly units: Units;
  readonly plan: PrintPlan;
  readonly bends: boolean;
  readonly onDone: () => void;
}

/** The blank on paper: each page with what it shows of it, its scale, and a ruler to check that by. */
export function PrintedBlank(props: PrintedProps) {
  const { document, build, plan, bends, onDone, units } = props;
  const size = `${plan.width}mm ${plan.height}mm`;
  const rows = bends ? bendList(document, build) : [];
  return (
    <OnPaper page={size} onDone={onDone}>
      {plan.pages.map((p) => (
        <PrintedPage key={`${p.row}.${p.column}`} {...props} page={p} />
      ))}
      {rows.length > 0 && (
        <div
          className="overflow-hidden text-[8px]"
          style={{ width: `${plan.width}mm`, padding: `${MARGIN}mm`, breakBefore: "page" }}
        >
          <h1 className="mb-2 text-[14px] font-bold">{document.name}: bend list</h1>
          <div style={{ zoom: plan.width < 250 ? 0.62 : 0.8 }}>
            <BendTable rows={rows} units={unitName(units)} order={(b) => b.forming ?? ""} />
          </div>
        </div>
      )}
    </OnPaper>
  );
}

function PrintedPage({
  document,
  build,
  drawn,
  settings,
  preset,
  units,
  plan,
  page,
}: PrintedProps & { page: PrintPlan["pages"][number] }) {
  const { blank } = drawn.placed;
  const zoom = plan.scale * PIXEL;
  const [left, top] = [page.x * PIXEL, page.y * PIXEL];
  const place = (p: Point): Point => ({
    x: (p.x - blank.bounds.minX) * zoom - left,
    y: (blank.bounds.maxY - p.y) * zoom - top,
  });
  const transform = `translate(${-left - blank.bounds.minX * zoom} ${-top + blank.bounds.maxY * zoom}) scale(${zoom})`;
  const { width, height } = plan.room;
  const drawing = { document, build, drawn, settings, preset, units, zoom, place, transform };
  return (
    <div
      data-printed-page
      className="relative overflow-hidden bg-white text-black"
      style={{
        width: `${plan.width}mm`,
        height: `${plan.height}mm`,
        padding: `${MARGIN}mm`,
        breakAfter: "page",
      }}
    >
      <svg
        data-printed-blank
        role="img"
        aria-label={`The blank of ${document.name}`}
        style={{ display: "block", width: `${width}mm`, height: `${height}mm` }}
        viewBox={`0 0 ${width * PIXEL} ${height * PIXEL}`}
      >
        <BlankDrawing {...drawing} />
      </svg>
      <PrintFoot document={document} build={build} plan={plan} page={page} side={drawn.placed.side} />
    </div>
  );
}

function PrintFoot({
  document,
  build,
  plan,
  page,
  side,
}: Pick<PrintedProps, "document" | "build" | "plan"> & {
  page: PrintPlan["pages"][number];
  side: "A" | "B";
}) {
  const { pages, scale } = plan;
  const place =
    pages.length > 1 ? ` · row ${page.row + 1}, column ${page.column + 1} of ${pages.length} pages` : "";
  const thickness = build.stock?.thickness;
  const stopped = useApp((s) => findingsOf(openBuild(s))).filter(stops);
  return (
    <div
      className="flex items-end justify-between gap-6 border-t border-black/40 pt-1 text-[11px]"
      style={{ height: `${FOOT}mm` }}
    >
      <div className="min-w-0 leading-snug">
        <b className="block truncate text-[13px]">{document.name}</b>
        {stopped.length > 0 && (
          <b data-printed-stop className="block truncate">
            ■ {STOP_WORDS} {stopped[0].message}
          </b>
        )}
        {thickness !== undefined && `${sayLength(thickness, document.units)} · `}side {side} up ·{" "}
        {sayScale(scale)}
        {place}
      </div>
      <svg
        data-ruler
        role="img"
        aria-label="A ruler of 100 mm"
        style={{ width: "104mm", height: "10mm", flexShrink: 0 }}
        viewBox="-2 0 104 10"
      >
        <path
          d={`M0 4H100${Array.from({ length: 11 }, (_, i) => `M${i * 10} 4V${i % 5 === 0 ? 1 : 2.4}`).join("")}`}
          stroke="#000"
          strokeWidth={0.25}
          fill="none"
        />
        <text x={0} y={8.4} fontSize={3}>
          100 mm on paper: measure it before you trust the scale
        </text>
      </svg>
    </div>
  );
}

/** A file's proof as a slip of paper that goes with it to the shop. */
export function PrintedSlip({
  entry,
  name,
  onDone,
}: {
  entry: ExportEntry;
  name: string;
  onDone: () => void;
}) {
  const { facts } = entry;
  const units = useUnits();
  return (
    <OnPaper page="148mm 210mm" onDone={onDone}>
      <div data-printed-slip className="bg-white p-[10mm] text-[12px] leading-relaxed text-black">
        <h1 className="text-[16px] font-bold">{name}</h1>
        <p className="font-semibold">{entry.file}</p>
        <p>
          {new Date(entry.madeAt).toLocaleString("en-GB", { dateStyle: "long", timeStyle: "short" })}
          {entry.by && `, by ${entry.by}`} · revision {entry.revision} · {entry.preset}
        </p>
        <p className="num text-[10px] break-all">SHA-256 {entry.sha256}</p>
        <p className="mt-2">
          {sayLength(facts.thickness, units)} · {shortLength(facts.width, units, 2)} ×{" "}
          {sayLength(facts.height, units, 2)} · {facts.openings} openings · {facts.bends.length} bends
        </p>
        <h2 className="mt-3 font-bold">Read back from the file</h2>
        <ProofLines lines={entry.proof} />
      </div>
    </OnPaper>
  );
}
