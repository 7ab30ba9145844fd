import {
  type Comparison,
  formatFixed,
  INCH,
  lengthText,
  type MeasureEnd,
  type PartBuild,
  type PartDocument,
  smallestRectangle,
  unitName,
} from "@hillcrest/core";
import { type DragEvent, useEffect, useMemo, useState } from "react";
import { Link } from "react-router";
import type { ExportEntry } from "../../api/parts-api.ts";
import { openBuild } from "../../state/build-slice.ts";
import { blankSettings, partPreset, saveFile } from "../../state/exporting.ts";
import { openPart, partActions } from "../../state/part-slice.ts";
import { useStock } from "../../state/stock.ts";
import { useApp, useSend } from "../../state/store.ts";
import { useUnits } from "../../state/units.ts";
import { viewActions } from "../../state/view-slice.ts";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { takesText } from "../../ui/focus.ts";
import { ThemeSwitch } from "../../ui/page-head.tsx";
import { PartUndo, ShelfLink } from "../part/part-head.tsx";
import { SavingState } from "../part/saving-state.tsx";
import { BlankCanvas } from "./blank-canvas.tsx";
import { BlankDrawer, type BlankTab } from "./blank-drawer.tsx";
import { type BlankTool, BlankTools, DimensionCard, sayTurn } from "./blank-tools.tsx";
import { FilePanel } from "./file-panel.tsx";
import { PrintDialog } from "./print-dialog.tsx";
import type { PrintPlan } from "./print-pages.ts";
import { PrintedBlank, PrintedSlip } from "./printed.tsx";
import { type SheetDrawn, sheetDrawn } from "./sheet-geometry.ts";
import { useDimensions } from "./use-dimensions.ts";
import { useReturned } from "./use-returned.ts";

/** The flat pattern, large: how it lies, its dimensions, what leaves of it and what came back. */
export function BlankPage() {
  useStock();
  const document = useApp((s) => openPart(s).document)!;
  const build = useApp((s) => openBuild(s).shown?.build);
  const failed = useApp((s) => openBuild(s).failed);
  const stale = useApp((s) => openBuild(s).stale);
  const drawn = useMemo(() => (build ? sheetDrawn(document, build) : undefined), [document, build]);
  return (
    <div className="flex h-full flex-col overflow-hidden">
      <BlankHead build={build} drawn={drawn} />
      {stale && (
        <p role="alert" className="border-b border-hairline bg-panel px-3.5 py-1.5">
          <FindingMark level="warn" /> A step is wrong: this is the last good shape. Mend the step on the
          Bench.
        </p>
      )}
      {drawn && build ? (
        <Opened document={document} build={build} drawn={drawn} />
      ) : (
        <p className="p-8 text-quiet">
          {failed ??
            (build
              ? "There is nothing to cut yet. Make a plate or a profile on the Bench first."
              : "Laying it flat…")}
        </p>
      )}
    </div>
  );
}

/** Where one is, how the blank lies, and how large it is. */
function BlankHead({ build, drawn }: { build?: PartBuild; drawn?: SheetDrawn }) {
  const id = useApp((s) => openPart(s).id);
  const name = useApp((s) => openPart(s).document?.name ?? "");
  const { turn } = useApp(blankSettings);
  return (
    <header className="flex h-11 shrink-0 items-center gap-3 border-b border-hairline bg-panel px-3.5">
      <ShelfLink />
      <Link
        to={`/parts/${id}`}
        title={`${name}: to the Bench`}
        className="max-w-56 truncate rounded text-quiet hover:text-ink"
      >
        {name}
      </Link>
      <h1 className="text-[16px] font-bold">Blank</h1>
      {drawn && (
        <span className="truncate text-quiet">
          side {drawn.placed.side} up, {sayTurn(turn)}
        </span>
      )}
      <SavingState />
      <span className="grow" />
      {build?.blank && drawn && <Sizes build={build} />}
      <div className="flex items-center">
        <PartUndo />
        <ThemeSwitch />
      </div>
    </header>
  );
}

/** Area, mass, and the least rectangle that it is cut from. */
function Sizes({ build }: { build: PartBuild }) {
  const units = useUnits();
  const { blank, folded } = build;
  const least = useMemo(() => smallestRectangle(blank!.outlines.flat()), [blank]);
  const area =
    units === "mm"
      ? `${formatFixed(blank!.area, 0)} mm²`
      : `${formatFixed(blank!.area / INCH / INCH, 2)} in²`;
  return (
    <span className="hidden whitespace-nowrap text-quiet lg:inline">
      area <span className="num">{area}</span> · mass{" "}
      <span className="num">{formatFixed(folded?.mass ?? 0, 3)} kg</span>
      {least && (
        <>
          {" "}
          · smallest rectangle{" "}
          <span className="num" data-smallest>
            {lengthText(least.along, units)} × {lengthText(least.across, units)} {unitName(units)}
          </span>
        </>
      )}
    </span>
  );
}

interface OpenedProps {
  readonly document: PartDocument;
  readonly build: PartBuild;
  readonly drawn: SheetDrawn;
}

function Opened({ document, build, drawn }: OpenedProps) {
  const [tab, setTab] = useState<BlankTab | undefined>("bends");
  const saved = useApp((st) => st.exporting.count);
  const [printing, setPrinting] = useState<"ask" | { plan: PrintPlan; bends: boolean }>();
  const [slip, setSlip] = useState<ExportEntry>();
  const returned = useReturned(() => setTab("compare"));
  const paper = { document, build, drawn, ...usePaper() };
  const drop = (e: DragEvent) => {
    e.preventDefault();
    const [file] = e.dataTransfer.files;
    if (file) returned.compare(file);
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: dropping a file is a second way to what Compare does
    <div className="flex min-h-0 grow" onDragOver={(e) => e.preventDefault()} onDrop={drop}>
      <div className="flex min-w-0 grow flex-col">
        <SheetArea
          document={document}
          build={build}
          drawn={drawn}
          comparison={returned.compared?.found}
          onPrint={() => setPrinting("ask")}
          onCompare={returned.compare}
        />
        <BlankDrawer
          document={document}
          build={build}
          tab={tab}
          onTab={setTab}
          saved={saved}
          compared={returned.compared}
          onWithin={returned.within}
          onForget={() => {
            returned.forget();
            setTab("bends");
          }}
          onSlip={setSlip}
        />
      </div>
      <div className="w-[316px] shrink-0">
        <FilePanel build={build} />
      </div>
      {printing === "ask" && (
        <PrintDialog
          blank={drawn.placed.blank}
          bends={build.bends.length}
          onClose={() => setPrinting(undefined)}
          onPrint={(plan, bends) => setPrinting({ plan, bends })}
        />
      )}
      {printing && printing !== "ask" && (
        <PrintedBlank {...paper} {...printing} onDone={() => setPrinting(undefined)} />
      )}
      {slip && <PrintedSlip entry={slip} name={document.name} onDone={() => setSlip(undefined)} />}
    </div>
  );
}

/** What of the part's settings the drawing hangs on, on paper as on the page. */
function usePaper() {
  const settings = useApp(blankSettings);
  const { preset } = useApp(partPreset);
  const units = useUnits();
  return { settings, preset, units };
}

interface SheetAreaProps extends OpenedProps {
  readonly comparison?: Comparison;
  readonly onPrint: () => void;
  readonly onCompare: (file: File) => void;
}

/** The blank itself with its tools above it, and what is picked on it. */
function SheetArea({ document, build, drawn, comparison, onPrint, onCompare }: SheetAreaProps) {
  const send = useSend();
  const [tool, setTool] = useState<BlankTool>("look");
  const dims = useDimensions(document, build, drawn, tool, setTool);
  useBlankKeys({
    d: () => setTool((t) => (t === "dimension" ? "look" : "dimension")),
    z: () => void send(viewActions.facingChosen("fit")),
    Escape: () => {
      setTool("look");
      dims.select(undefined);
    },
    Delete: dims.removeSelected,
    Backspace: dims.removeSelected,
    save: () => void send(saveFile("dxf")),
  });
  return (
    <>
      <div className="shrink-0 px-3.5 pt-3">
        <BlankTools
          placed={drawn.placed}
          tool={tool}
          onTool={setTool}
          onPrint={onPrint}
          onCompare={onCompare}
        />
      </div>
      <div data-views tabIndex={-1} className="relative min-h-0 grow overflow-hidden outline-none">
        <BlankCanvas
          document={document}
          build={build}
          drawn={drawn}
          picking={tool !== "look"}
          only={tool === "edge" || tool === "datum" ? "edge" : undefined}
          first={dims.first}
          onPick={dims.pick}
          onNothing={() => dims.select(undefined)}
          dimensions={{ selected: dims.selected?.key, onSelect: dims.select, onMove: dims.move }}
          comparison={comparison}
        />
        <div className="pointer-events-none absolute inset-x-0 top-2 flex justify-center">
          <div className="pointer-events-auto">
            {dims.selected ? (
              <DimensionCard
                dimension={dims.selected}
                text={dims.said}
                onChange={dims.change}
                onRemove={dims.removeSelected}
              />
            ) : (
              <ToolHint tool={tool} first={dims.first} told={dims.told} />
            )}
          </div>
        </div>
      </div>
    </>
  );
}

function ToolHint({ tool, first, told }: { tool: BlankTool; first?: MeasureEnd; told?: string }) {
  const words =
    told ??
    (tool === "edge"
      ? "Click the edge that is to lie level, at the foot."
      : tool === "datum"
        ? "Click an edge: an upright one is what distances across are taken from, a level one those up."
        : tool === "dimension"
          ? first
            ? "And to what? Click the same again for its own size."
            : "Click an edge, a corner, an opening or a bend line."
          : undefined);
  if (!words) return null;
  return (
    <p role="status" className="rounded-lg border border-hairline bg-panel px-3 py-1.5 shadow-card">
      {words} <span className="text-quiet">Escape ends it.</span>
    </p>
  );
}

/** The page's keys: letters while nothing is typed into, and those with Ctrl always. */
function useBlankKeys(keys: Readonly<Record<string, () => void>>): void {
  const send = useSend();
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      if (e.defaultPrevented || globalThis.document.querySelector("[role=dialog][data-state=open]")) return;
      const key = e.key.length === 1 ? e.key.toLowerCase() : e.key;
      const typing = takesText(e.target);
      if (e.ctrlKey || e.metaKey) {
        if (key === "e") keys.save();
        else if (key === "z" && !typing) send(e.shiftKey ? partActions.redone() : partActions.undone());
        else if (key === "y" && !typing) send(partActions.redone());
        else if (key !== "s") return;
        return e.preventDefault();
      }
      if (typing || e.altKey || !Object.hasOwn(keys, key) || key === "save") return;
      keys[key]();
      e.preventDefault();
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [keys, send]);
}
