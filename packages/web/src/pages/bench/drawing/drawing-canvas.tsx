import type { Outline, OutlineDrag, XY } from "@hillcrest/core";
import { type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import { placeGiven, putOutline } from "../../../state/drawing.ts";
import { drawingActions } from "../../../state/drawing-slice.ts";
import { useApp, useSend } from "../../../state/store.ts";
import { type Framed, useSize, useWindow, type Window } from "../../../views/blank/use-window.ts";
import { Annotations } from "./annotations.tsx";
import { Areas, Behind, Curves, Grid, Hint, Points, Preview, Rubber } from "./drawing-layers.tsx";
import type { Screen } from "./layout.ts";
import { type Aim, aimAt, type Drawing, takeHold, useTooling } from "./use-drawing.ts";

/** How near the pointer must be to catch something, pixels. */
const CATCH = 9;

interface CanvasProps {
  readonly drawing: Drawing;
  readonly frame: Framed;
  /** Where the pointer is, in the outline, once it has been over it: what is typed goes on from there. */
  readonly pointer: XY | undefined;
  readonly onPointer: (at: XY) => void;
  readonly onAim: (aim: Aim | undefined) => void;
}

/** What of the drawing is meant at a place of it, with the tool and the numbers that stand. */
function useAiming(drawing: Drawing) {
  const { places, picks, construction, grid } = useApp((s) => s.drawing);
  const tooling = useTooling();
  return (where: XY, zoom: number, free: boolean): Aim =>
    aimAt({
      ...tooling,
      drawing,
      places,
      picks,
      construction,
      pointer: where,
      within: CATCH / zoom,
      grid,
      free,
    });
}

/** The sheet on which an outline is drawn: zoomed with the wheel, moved with a drag on nothing. */
export function DrawingCanvas({ drawing, frame, pointer, onPointer, onAim }: CanvasProps) {
  const send = useSend();
  const host = useRef<SVGSVGElement>(null);
  const size = useSize(host);
  const tool = useApp((s) => s.drawing.tool);
  const tooling = useTooling();
  const [free, setFree] = useState(false);
  const [over, setOver] = useState(false);
  const aimFor = useAiming(drawing);
  const at = (e: { clientX: number; clientY: number }, { x, y, zoom }: Window): XY => {
    const box = host.current!.getBoundingClientRect();
    return [
      (e.clientX - box.left - box.width / 2) / zoom + x,
      y - (e.clientY - box.top - box.height / 2) / zoom,
    ];
  };
  const seen = useWindow(host, frame, size, (e, window) => {
    if (tool === undefined) pick(e);
    else send(placeGiven(aimFor(at(e, window), window.zoom, e.altKey).place, drawing.now, tooling));
  });
  const pick = (e: PointerEvent) => {
    const id = (e.target as Element).closest<SVGElement>("[data-thing]")?.dataset.thing;
    if (id) send(drawingActions.picked({ id, add: e.shiftKey }));
    else if (!e.shiftKey) send(drawingActions.pickedAll([]));
  };
  const hold = useHold(drawing, (e) => at(e, seen));
  const aim = tool !== undefined && pointer ? aimFor(pointer, seen.zoom, free) : undefined;
  // What the foot shows of it follows the pointer.
  const told = JSON.stringify(aim && [aim.reads, aim.aimed.at]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: told only when what is read has changed
  useEffect(() => onAim(aim), [told, onAim]);
  const { x: left, y: top, zoom } = seen;
  const { width, height } = size;
  // The same for as long as the window is: only what follows the pointer is drawn anew with it.
  const screen = useMemo<Screen>(
    () => ({
      at: ([x, y]) => [(x - left) * zoom + width / 2, (top - y) * zoom + height / 2],
      width,
      height,
    }),
    [left, top, zoom, width, height],
  );
  return (
    <>
      <svg
        ref={host}
        data-view="drawing"
        className={`absolute inset-0 size-full touch-none select-none ${tool === undefined ? "" : "cursor-crosshair"}`}
        role="img"
        aria-label={`Drawing of ${drawing.outline.name}`}
        onContextMenu={(e) => e.preventDefault()}
        {...seen.drag}
        onPointerDown={(e) => {
          if (!hold.begin(e, tool)) seen.drag.onPointerDown(e);
        }}
        onPointerMove={(e) => {
          setFree(e.altKey);
          setOver(true);
          onPointer(at(e, seen));
          if (!hold.move(e)) seen.drag.onPointerMove(e);
        }}
        onPointerUp={(e) => {
          if (!hold.end()) seen.drag.onPointerUp(e);
          else if (hold.pressed()) send(drawingActions.picked({ id: hold.pressed()!, add: e.shiftKey }));
        }}
        onPointerLeave={() => setOver(false)}
      >
        {width > 0 && (
          <Layers drawing={drawing} now={hold.moved ?? drawing.now} screen={screen} seen={seen} />
        )}
      </svg>
      {aim && width > 0 && <Pointed drawing={drawing} screen={screen} aim={aim} over={over} />}
    </>
  );
}

interface LayersProps {
  readonly drawing: Drawing;
  readonly now: Outline;
  readonly screen: Screen;
  readonly seen: Window;
}

/** All that is drawn, from the back to the front. */
function Layers({ drawing, now, screen, seen }: LayersProps) {
  const { tool, picks, grid } = useApp((s) => s.drawing);
  const layer = { drawing, now, screen, picks };
  const { x, y, zoom } = seen;
  return (
    <>
      <Grid pitch={grid} seen={seen} screen={screen} />
      <Behind drawing={drawing} screen={screen} />
      <Areas drawing={drawing} screen={screen} picks={picks} />
      <Curves {...layer} />
      <Points {...layer} />
      <Annotations {...layer} zoom={zoom} left={x} top={y} quiet={tool !== undefined} />
    </>
  );
}

interface PointedProps {
  readonly drawing: Drawing;
  readonly screen: Screen;
  readonly aim: Aim;
  readonly over: boolean;
}

/** What follows the pointer, over the rest and by itself: what lies under it need not be painted anew with every move. */
function Pointed({ drawing, screen, aim, over }: PointedProps) {
  const places = useApp((s) => s.drawing.places);
  return (
    <svg
      className="pointer-events-none absolute inset-0 size-full will-change-transform select-none"
      aria-hidden="true"
    >
      {aim.preview && <Preview before={drawing.now} after={aim.preview} screen={screen} />}
      <Rubber places={places} aimed={aim.aimed} screen={screen} />
      {over && <Hint aim={aim} screen={screen} />}
    </svg>
  );
}

/** Dragging what is free: it moves as what is asked for allows, and stays there when it is let go. */
function useHold(drawing: Drawing, at: (e: PointerEvent) => XY) {
  const [moved, setMoved] = useState<Outline>();
  const held = useRef<{ drag: OutlineDrag; last: XY; from: XY; far: boolean } | undefined>(undefined);
  const pressed = useRef<string | undefined>(undefined);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another outline lets go of what was held
  useEffect(() => setMoved(undefined), [drawing.outline]);
  return {
    moved,
    /** What was pressed and let go without a move: with the pointer captured an event no longer says so. */
    pressed: () => pressed.current,
    begin: (e: PointerEvent, tool: string | undefined): boolean => {
      const thing = (e.target as Element).closest<SVGElement>("[data-grab]")?.dataset.grab;
      if (tool !== undefined || e.button !== 0 || !thing || e.shiftKey) return false;
      const drag = takeHold(drawing, thing);
      if (!drag) return false;
      held.current = { drag, last: at(e), from: [e.clientX, e.clientY], far: false };
      pressed.current = thing;
      e.currentTarget.setPointerCapture(e.pointerId);
      return true;
    },
    move: (e: PointerEvent): boolean => {
      const h = held.current;
      if (!h) return false;
      if (!h.far && Math.hypot(e.clientX - h.from[0], e.clientY - h.from[1]) < 4) return true;
      h.far = true;
      pressed.current = undefined;
      const [x, y] = at(e);
      h.drag.by(x - h.last[0], y - h.last[1]);
      h.last = [x, y];
      setMoved(drawn(drawing.now, h.drag));
      return true;
    },
    end: (): boolean => {
      const h = held.current;
      held.current = undefined;
      if (!h) return false;
      if (h.far) putOutline(drawing.key, drawn(drawing.now, h.drag));
      return true;
    },
  };
}

const drawn = (now: Outline, { points, radii }: OutlineDrag): Outline => ({
  ...now,
  points,
  curves: now.curves.map((c) => (c.kind === "circle" ? { ...c, r: radii[c.id] } : c)),
});
