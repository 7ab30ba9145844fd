import {
  type BlankSettings,
  type Comparison,
  formatFixed,
  joinBounds,
  type MeasureEnd,
  type PartBuild,
  type PartDocument,
  type Point,
} from "@hillcrest/core";
import { type PointerEvent, type RefObject, useEffect, useMemo, useRef, useState } from "react";
import { blankSettings, partPreset } from "../../state/exporting.ts";
import { useApp } from "../../state/store.ts";
import { useUnits } from "../../state/units.ts";
import { useTheme } from "../../ui/theme.ts";
import { MANY_OPENINGS, MetalCanvas, type MetalCanvasProps } from "../../views/blank/metal-canvas.tsx";
import { type Framed, useSize, useWindow, type Window } from "../../views/blank/use-window.ts";
import { dimensionBounds } from "./blank-dimensions.tsx";
import { BlankDrawing } from "./blank-drawing.tsx";
import type { DimensionUse } from "./blank-drawing-props.ts";
import { openingTargets, type SheetDrawn, type Target, targetsOf } from "./sheet-geometry.ts";

interface BlankCanvasProps {
  readonly document: PartDocument;
  readonly build: PartBuild;
  readonly drawn: SheetDrawn;
  /** Whether things are pointed at: while they are picked for a dimension, a datum, or to lie level. */
  readonly picking: boolean;
  /** What may be picked; all that can be measured if nothing is said. */
  readonly only?: MeasureEnd["kind"];
  readonly first?: MeasureEnd;
  readonly onPick: (end: MeasureEnd) => void;
  readonly dimensions: DimensionUse;
  readonly onNothing: () => void;
  readonly comparison?: Comparison;
}

/** The blank, large: zoomed with the wheel to the pointer, moved with a drag. */
export function BlankCanvas(props: BlankCanvasProps) {
  const { document, build, drawn, picking, onPick, onNothing, dimensions, comparison } = props;
  const host = useRef<SVGSVGElement>(null);
  const size = useSize(host);
  const { blank } = drawn.placed;
  const many = blank.openings.length > MANY_OPENINGS;
  const { looked, endUnder, clicked } = useEnds(props, many, host);
  const settings = useApp(blankSettings);
  const framed = useMemo(() => framedWith(settings, build, drawn), [settings, build, drawn]);
  const ordinates = settings.shows?.includes("ordinates") ?? false;
  const { x, y, zoom, drag } = useWindow(
    host,
    framed,
    size,
    (e, seen) => {
      const end = endUnder(e, seen);
      if (end) onPick(JSON.parse(end) as MeasureEnd);
      else onNothing();
    },
    { left: ordinates ? 84 : 44, right: 62, top: 48, bottom: ordinates ? 112 : 56 },
  );
  const { preset } = useApp(partPreset);
  const units = useUnits();
  const transform = `translate(${size.width / 2 - x * zoom} ${size.height / 2 + y * zoom}) scale(${zoom})`;
  const place = (p: Point): Point => ({
    x: (p.x - x) * zoom + size.width / 2,
    y: (y - p.y) * zoom + size.height / 2,
  });
  const drawing = {
    document,
    build,
    drawn,
    settings,
    preset,
    units,
    zoom,
    place,
    transform,
    dimensions,
    comparison,
    beneath: many,
  };
  const seen = useMemo(() => ({ x, y, zoom }), [x, y, zoom]);
  const pointed = usePointed(looked, host, seen, drag.onPointerMove);
  return (
    <>
      {many && <Beneath blank={blank} seen={seen} size={size} />}
      <svg
        ref={host}
        data-view="blank"
        className={`absolute inset-0 size-full touch-none select-none ${picking ? "cursor-crosshair" : ""}`}
        role="img"
        aria-label={`Blank ${formatFixed(blank.width)} by ${formatFixed(blank.height)} millimetres`}
        onContextMenu={(e) => e.preventDefault()}
        {...drag}
        onPointerMove={pointed.onMove}
      >
        {size.width > 0 && (
          <>
            <BlankDrawing {...drawing} />
            {picking && (
              <Targets {...props} {...{ place, transform, many, clicked }} pointed={pointed.found} />
            )}
          </>
        )}
      </svg>
    </>
  );
}

const NOTHING_LIT: readonly never[] = [];

/** The metal with its many openings, once there is room for it. */
function Beneath(props: Pick<MetalCanvasProps, "blank" | "seen" | "size">) {
  const theme = useTheme();
  return props.size.width > 0 && <MetalCanvas {...props} lit={NOTHING_LIT} theme={theme} />;
}

/** How near the pointer has to be to what is no element of the page, pixels. */
const REACH_PX = 6.5;

type Named = Target & { readonly id: string };
type LookedUp = (p: Point, within: number) => Target | undefined;

/** Where there are many openings, what lies at a place; nothing where each is an element, or nothing is picked. */
function useLookedUp({ build, drawn, only, picking }: BlankCanvasProps, many: boolean): LookedUp | undefined {
  return useMemo(() => {
    if (!many || !picking) return undefined;
    const at = openingTargets(build.sheet!, drawn.placed);
    return (p, within) => {
      const found = at(p, within);
      return found && (!only || found.end.kind === only) ? found : undefined;
    };
  }, [build, drawn, only, picking, many]);
}

/** What can be measured under the pointer: an element that says so, or what is looked up where it is. */
function useEnds(props: BlankCanvasProps, many: boolean, host: RefObject<SVGSVGElement | null>) {
  const looked = useLookedUp(props, many);
  const [clicked, setClicked] = useState<Named>();
  const endUnder = (e: PointerEvent, seen: Window): string | undefined => {
    const found = looked && foundAt(looked, e, host.current!, seen);
    setClicked(found);
    return (e.target as SVGElement).closest<SVGElement>("[data-end]")?.dataset.end ?? found?.id;
  };
  return { looked, endUnder, clicked };
}

function foundAt(
  looked: LookedUp,
  e: { readonly clientX: number; readonly clientY: number },
  host: SVGSVGElement,
  { x, y, zoom }: Window,
): Named | undefined {
  const frame = host.getBoundingClientRect();
  const p = {
    x: (e.clientX - frame.left - frame.width / 2) / zoom + x,
    y: y - (e.clientY - frame.top - frame.height / 2) / zoom,
  };
  const found = looked(p, REACH_PX / zoom);
  return found && { ...found, id: JSON.stringify(found.end) };
}

/** What of many openings the pointer is over, looked up once a frame. */
function usePointed(
  looked: LookedUp | undefined,
  host: RefObject<SVGSVGElement | null>,
  seen: Window,
  onMove: (e: PointerEvent) => void,
) {
  const [found, setFound] = useState<Named>();
  const queued = useRef(0);
  useEffect(() => () => cancelAnimationFrame(queued.current), []);
  return {
    found: looked && found,
    onMove: (e: PointerEvent) => {
      onMove(e);
      if (!looked || e.buttons !== 0) return;
      const at = { clientX: e.clientX, clientY: e.clientY };
      cancelAnimationFrame(queued.current);
      queued.current = requestAnimationFrame(() => {
        const now = host.current ? foundAt(looked, at, host.current, seen) : undefined;
        setFound((before) => (before?.id === now?.id ? before : now));
      });
    },
  };
}

/** What is to be seen: the blank with all its dimensions. */
function framedWith(settings: BlankSettings, build: PartBuild, drawn: SheetDrawn): Framed {
  const bounds = joinBounds(drawn.placed.blank.bounds, dimensionBounds(settings, build, drawn));
  return { bounds, width: bounds.maxX - bounds.minX, height: bounds.maxY - bounds.minY };
}

/** What can be pointed at while something is picked: it lights up under the pointer. */
function Targets({
  build,
  drawn,
  only,
  first,
  place,
  transform,
  many,
  pointed,
  clicked,
}: BlankCanvasProps & {
  place: (p: Point) => Point;
  transform: string;
  /** Whether openings and edges are no elements of the page, and what of them the pointer is over or was clicked. */
  many: boolean;
  pointed?: Named;
  clicked?: Named;
}) {
  const [over, setOver] = useState<string>();
  const elements = useMemo(
    () =>
      targetsOf(build.sheet!, drawn.placed, many)
        .filter((t) => !only || t.end.kind === only)
        .map((t) => ({ ...t, id: JSON.stringify(t.end) })),
    [build, drawn, only, many],
  );
  const chosen = first && JSON.stringify(first);
  // What was clicked first stays lit while the other is looked for.
  const alsoLit = clicked?.id === chosen && clicked?.id !== pointed?.id ? clicked : undefined;
  const shown = [...elements, ...[pointed, alsoLit].flatMap((t) => t ?? [])];
  const ink = (t: Named) =>
    t.id === over || t.id === chosen || t.id === pointed?.id ? "var(--amber)" : "transparent";
  const mark = (id: string) => ({
    "data-end": id,
    onPointerEnter: () => setOver(id),
    onPointerLeave: () => setOver(undefined),
  });
  return (
    <>
      <g transform={transform}>
        {shown.map(
          (t) =>
            t.path && (
              <g key={t.id} {...mark(t.id)}>
                <path
                  d={t.path}
                  fill="none"
                  stroke="transparent"
                  strokeWidth={12}
                  pointerEvents="stroke"
                  vectorEffect="non-scaling-stroke"
                />
                <path
                  d={t.path}
                  fill="none"
                  stroke={ink(t)}
                  strokeWidth={3.4}
                  vectorEffect="non-scaling-stroke"
                  pointerEvents="none"
                />
              </g>
            ),
        )}
      </g>
      {shown.map((t) => {
        if (!t.at) return null;
        const { x, y } = place(t.at);
        return (
          <g key={t.id} {...mark(t.id)}>
            <circle cx={x} cy={y} r={7} fill="transparent" />
            <circle
              cx={x}
              cy={y}
              r={3}
              fill={ink(t)}
              stroke="var(--quiet)"
              strokeWidth={0.8}
              pointerEvents="none"
            />
          </g>
        );
      })}
    </>
  );
}
