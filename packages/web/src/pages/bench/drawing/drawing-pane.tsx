import { closeChains, DRAW_TOOLS, unitName, withoutSaying, type XY } from "@hillcrest/core";
import { useCallback, useEffect, useMemo, useState } from "react";
import { outlinesOf, putKind, putOutline, standKind } from "../../../state/drawing.ts";
import { drawingActions } from "../../../state/drawing-slice.ts";
import { useNames } from "../../../state/labels.ts";
import { useItems, useStock } from "../../../state/stock.ts";
import { useApp, useSend } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";
import { Button } from "../../../ui/button.tsx";
import { FindingMark } from "../../../ui/finding-mark.tsx";
import { focusViews } from "../../../ui/focus.ts";
import type { Framed } from "../../../views/blank/use-window.ts";
import { Disagreements } from "../drawer/outline-panel.tsx";
import { DrawingCanvas } from "./drawing-canvas.tsx";
import { DrawingFoot } from "./drawing-foot.tsx";
import { holdAll, takeTool, useDrawingKeys } from "./drawing-keys.ts";
import { boundsOfPlaces, placesOfOutline, placesOfShape } from "./drawn-bounds.ts";
import { TOOL_PICTURES } from "./glyphs.tsx";
import { type Aim, type Drawing, useDrawing } from "./use-drawing.ts";

/** Where an outline is drawn, in place of the blank, with the folded part beside it. */
export function DrawingPane() {
  const drawing = useDrawing();
  const send = useSend();
  const key = useApp((s) => s.drawing.key);
  const gone = useApp(
    (s) => s.drawing.key !== undefined && !outlinesOf(s).some((o) => o.key === s.drawing.key),
  );
  // An undo may take the outline away that is drawn: then there is nothing to draw on.
  useEffect(() => {
    if (gone) send(drawingActions.closed());
  }, [gone, send]);
  if (!drawing) return null;
  return <Table key={key} drawing={drawing} />;
}

function Table({ drawing }: { drawing: Drawing }) {
  const send = useSend();
  const [pointer, setPointer] = useState<XY>();
  const [aim, setAim] = useState<Aim>();
  const fits = useApp((s) => (s.view.facing.to === "fit" ? s.view.facing.count : 0));
  const hasBehind = drawing.backdrops.length > 0;
  // What is seen stays while it is drawn in, until it is asked to fit, or the part comes into view.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the frame is that of the moment when it is asked for
  const frame = useMemo(() => frameOf(drawing), [fits, drawing.key, hasBehind]);
  useDrawingKeys(drawing, aim);
  useLostPlaces(drawing);
  useEffect(() => {
    focusViews();
  }, []);
  const onAim = useCallback((next: Aim | undefined) => setAim(next), []);
  const drop = (id: string) => putOutline(drawing.key, withoutSaying(drawing.outline, id));
  const { solved } = drawing;
  const tool = useApp((s) => s.drawing.tool);
  // A chain that is being drawn is open: nothing is to be said of that.
  const open = tool === undefined && solved.state !== "conflict" ? drawing.areas.problems : [];
  const repeats = tool === undefined && solved.repeats.length > 0;
  const told = solved.state === "conflict" || drawing.lost.length > 0 || open.length > 0 || repeats;
  return (
    <div className="absolute inset-0" data-drawing={drawing.key}>
      <DrawingCanvas drawing={drawing} frame={frame} pointer={pointer} onPointer={setPointer} onAim={onAim} />
      <DrawingHead drawing={drawing} onDone={() => send(drawingActions.closed())} />
      <Tools />
      {told && (
        <div
          className={`absolute right-3 bottom-[70px] left-20 z-10 rounded-md border bg-panel px-3 py-1.5 text-[12.5px] shadow-card ${solved.state === "conflict" ? "border-stop" : "border-hairline"}`}
        >
          <Disagreements drawing={drawing} onDrop={drop} />
          {open.length > 0 && <Mends drawing={drawing} />}
          {drawing.lost.length > 0 && <Lost drawing={drawing} />}
        </div>
      )}
      <DrawingFoot drawing={drawing} aim={aim} />
    </div>
  );
}

/** What an outline stands on that the part no longer has, each to be picked again. */
function Lost({ drawing: { outline, lost } }: { drawing: Drawing }) {
  const send = useSend();
  return (
    <div role="alert" data-lost>
      <p className="leading-snug">
        <FindingMark level="warn" /> No longer in the part. What was drawn on it stays where it was.
      </p>
      {lost.slice(0, 4).map((name) => {
        const curve = outline.references?.find((r) => r.to === name)?.id;
        return (
          <p key={name} className="flex items-baseline gap-3">
            <span className="num">{name}</span>
            {curve && (
              <Button
                kind="quiet"
                data-stand-for={curve}
                onClick={() => send(drawingActions.toolChosen(standKind(curve)))}
              >
                Pick another for it
              </Button>
            )}
          </p>
        );
      })}
    </div>
  );
}

/** What keeps chains from bounding an area, and what mends it. */
function Mends({ drawing }: { drawing: Drawing }) {
  const send = useSend();
  const { problems } = drawing.areas;
  const { outline, closed } = closeChains(drawing.now);
  const crossing = problems.some((p) => p.message.includes(" cross at "));
  return (
    <div data-mends>
      {problems.slice(0, 3).map((p) => (
        <p key={p.message} className="leading-snug">
          <FindingMark level="note" /> {p.message}
        </p>
      ))}
      <p className="flex gap-4">
        {closed > 0 && (
          <Button kind="quiet" data-close-chains onClick={() => putOutline(drawing.key, outline)}>
            Close {closed === 1 ? "it" : `all ${closed}`}
          </Button>
        )}
        {crossing && (
          <Button kind="quiet" data-trim onClick={() => send(takeTool("trim"))}>
            Trim
          </Button>
        )}
      </p>
    </div>
  );
}

/** After an undo a tool's places may lean on points that are gone: then it begins again. */
function useLostPlaces({ outline }: Drawing): void {
  const send = useSend();
  const places = useApp((s) => s.drawing.places);
  const picks = useApp((s) => s.drawing.picks);
  useEffect(() => {
    const things = new Set([
      ...Object.keys(outline.points),
      ...[...outline.curves, ...outline.relations, ...outline.dimensions].map((t) => t.id),
    ]);
    const lost = places.some(
      (p) =>
        (p.caught?.by === "point" && !things.has(p.caught.id)) ||
        (p.after !== undefined && !things.has(p.after)),
    );
    if (lost) send(drawingActions.placed([]));
    const left = picks.filter((id) => things.has(id.replace(/^area:/, "")));
    if (left.length < picks.length) send(drawingActions.pickedAll(left));
  }, [outline, places, picks, send]);
}

/** What is to be seen: the outline and the part behind it, or a sheet's worth of nothing. */
function frameOf({ now, backdrops }: Drawing): Framed {
  const places = [...placesOfOutline(now), ...backdrops.flatMap((b) => placesOfShape(b.curve))];
  const bounds = boundsOfPlaces(places.length < 2 ? [...places, [-60, -45], [60, 45]] : places);
  const room = Math.max(bounds.maxX - bounds.minX, bounds.maxY - bounds.minY, 1) * 0.12;
  // The tools stand at the left.
  const seen = { ...bounds, minX: bounds.minX - 2 * room };
  return { bounds: seen, width: seen.maxX - seen.minX + room, height: seen.maxY - seen.minY + room };
}

function DrawingHead({ drawing, onDone }: { drawing: Drawing; onDone: () => void }) {
  const send = useSend();
  const names = useNames();
  const units = useUnits();
  const grid = useApp((s) => s.drawing.grid);
  const construction = useApp((s) => s.drawing.construction);
  const { solved, outline } = drawing;
  const state =
    solved.state === "conflict"
      ? "disagrees"
      : solved.free > 0
        ? `${solved.free} left free`
        : outline.curves.length > 0
          ? "all fixed"
          : "nothing drawn yet";
  const inches = units !== "mm";
  const pitches = inches ? [0, 3.175, 6.35, 12.7, 25.4] : [0, 1, 2, 5, 10];
  return (
    <header className="absolute inset-x-0 top-0 z-10 flex h-9 items-center gap-3 border-b border-hairline bg-panel px-3 text-[12.5px]">
      <h2 className="font-bold text-quiet">Drawing</h2>
      <input
        aria-label="Name of the outline"
        data-outline-name
        key={outline.name}
        defaultValue={outline.name}
        maxLength={200}
        className="min-w-0 grow bg-transparent font-semibold focus:bg-raised focus:outline-2 focus:outline-moss"
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === "Escape") e.currentTarget.value = outline.name;
          if (e.key === "Enter" || e.key === "Escape") focusViews();
        }}
        onBlur={(e) => {
          const name = e.currentTarget.value.trim();
          if (name && name !== outline.name) putOutline(drawing.key, { ...outline, name });
        }}
      />
      <span
        data-drawing-state
        className={`num whitespace-nowrap ${solved.state === "conflict" ? "text-stop" : ""}`}
      >
        {state}
      </span>
      {solved.state === "free" && solved.free > 0 && (
        <Button kind="quiet" data-hold onClick={() => send(holdAll(drawing, names))}>
          Hold it as it is
        </Button>
      )}
      <button
        type="button"
        aria-pressed={construction}
        title="What is drawn is only to draw by (Q); of what is picked, make it so"
        className={`rounded px-1.5 whitespace-nowrap ${construction ? "bg-moss-soft font-semibold" : "text-quiet hover:text-ink"}`}
        onClick={() => send(drawingActions.constructionToggled())}
      >
        to draw by
      </button>
      <PutKept />
      <select
        aria-label="Grid"
        title="Grid"
        className="rounded border border-hairline bg-raised px-1"
        value={grid}
        onChange={(e) => {
          send(drawingActions.gridChosen(Number(e.currentTarget.value)));
          focusViews();
        }}
      >
        {pitches.map((p) => (
          <option key={p} value={p}>
            {p === 0
              ? "no grid"
              : inches
                ? `1/${Math.round(25.4 / p)} in`.replace("1/1 in", "1 in")
                : `${p} ${unitName(units)}`}
          </option>
        ))}
      </select>
      <Button kind="primary" data-drawing-done onClick={onDone}>
        Done
      </Button>
    </header>
  );
}

/** Kept outlines of the shop, to be put into the drawing by two places. */
function PutKept() {
  useStock();
  const send = useSend();
  const kept = useItems("outlines").filter((i) => i.outline.curves.length > 0);
  if (kept.length === 0) return null;
  return (
    <select
      aria-label="Put a kept outline in"
      data-put-kept
      className="w-24 rounded border border-hairline bg-raised px-1"
      value=""
      onChange={(e) => {
        send(drawingActions.toolChosen(e.currentTarget.value));
        focusViews();
      }}
    >
      <option value="">put in…</option>
      {kept.flatMap((i) =>
        [false, true].map((mirrored) => (
          <option key={putKind(i.id, mirrored)} value={putKind(i.id, mirrored)}>
            {i.name}
            {mirrored ? ", mirrored" : ""}
          </option>
        )),
      )}
    </select>
  );
}

/** Tools as small pictures, each with the key that takes it. */
function Tools() {
  const send = useSend();
  const tool = useApp((s) => s.drawing.tool);
  const group = (which: "draw" | "change") => (
    <div className="grid grid-cols-2 gap-0.5">
      {DRAW_TOOLS.filter((t) => t.group === which).map((t) => (
        <button
          key={t.kind}
          type="button"
          data-tool={t.kind}
          aria-pressed={tool === t.kind}
          aria-label={t.title}
          title={`${t.title} (${t.key.toUpperCase()})`}
          className={`relative grid size-[29px] place-items-center rounded ${tool === t.kind ? "bg-moss text-moss-ink" : "hover:bg-moss-soft"}`}
          onClick={(e) => {
            send(takeTool(t.kind));
            if (e.detail > 0) focusViews();
          }}
        >
          <svg
            width="20"
            height="20"
            viewBox="0 0 20 20"
            fill="none"
            stroke="currentColor"
            strokeWidth="1.5"
            strokeLinecap="round"
            strokeLinejoin="round"
            aria-hidden="true"
          >
            {TOOL_PICTURES[t.kind]}
          </svg>
          <kbd className="absolute right-0.5 bottom-0 text-[8.5px] leading-none opacity-60">
            {t.key.toUpperCase()}
          </kbd>
        </button>
      ))}
    </div>
  );
  return (
    <nav
      aria-label="Drawing tools"
      className="absolute top-11 left-2 z-10 space-y-1.5 rounded-md border border-hairline bg-panel p-1"
    >
      {group("draw")}
      <hr className="border-hairline" />
      {group("change")}
    </nav>
  );
}
