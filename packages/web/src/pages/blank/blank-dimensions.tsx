import {
  type BlankDimension,
  type BlankSettings,
  type Bounds,
  curvesBounds,
  EMPTY_BOUNDS,
  type FlatDimension,
  flatDimension,
  flatPlace,
  formatShort,
  joinBounds,
  lengthText,
  line,
  movePlace,
  type PartBuild,
  type Point,
  readable,
  toDegrees,
  type Units,
} from "@hillcrest/core";
import { type PointerEvent, useMemo, useRef } from "react";
import type { BlankDrawingProps, DimensionUse } from "./blank-drawing-props.ts";
import type { SheetDrawn } from "./sheet-geometry.ts";

/** A dimension as it comes out on a blank as it lies; nothing where what it measured is gone. */
export function measured(
  { from, to, along }: Pick<BlankDimension, "from" | "to" | "along">,
  build: PartBuild,
  { placed }: SheetDrawn,
): FlatDimension | undefined {
  const { sheet } = build;
  const place = (end: BlankDimension["from"]) => {
    const found = sheet && flatPlace(sheet, end);
    return found && movePlace(placed.motion, found);
  };
  const [a, b] = [place(from), to && place(to)];
  return a && (!to || b) ? flatDimension(a, b, along) : undefined;
}

export const saidDimension = (d: FlatDimension, units: Units): string =>
  d.says === "angle"
    ? `${formatShort(toDegrees(d.value), 3)}°`
    : `${d.says === "diameter" ? "⌀" : ""}${lengthText(d.value, units)}`;

/** All dimensions of a blank: those that can still be measured. */
export function Dimensions(props: BlankDrawingProps) {
  const { settings, build, drawn, dimensions: use } = props;
  const list = useMemo(
    () =>
      (settings.dimensions ?? []).flatMap((d) => {
        const found = measured(d, build, drawn);
        return found ? [{ d, found }] : [];
      }),
    [settings.dimensions, build, drawn],
  );
  return list.map(({ d, found }) => (
    <DimensionLine key={d.key} {...props} dimension={d} found={found} lit={use?.selected === d.key} />
  ));
}

/** How far the dimensions of a blank reach, mm. */
export function dimensionBounds(settings: BlankSettings, build: PartBuild, drawn: SheetDrawn): Bounds {
  return (settings.dimensions ?? []).reduce((box, d) => {
    const found = measured(d, build, drawn);
    if (!found) return box;
    const { a, b } = runOf(found, d.beside);
    return joinBounds(box, curvesBounds([line(a, b)]));
  }, EMPTY_BOUNDS);
}

interface DimensionLineProps extends BlankDrawingProps {
  readonly dimension: BlankDimension;
  readonly found: FlatDimension;
  readonly lit: boolean;
}

const GAP = 3;
const BEYOND = 5;

/** Where a dimension's line runs: as far beside what is measured as it was put, with a line to each end. */
function runOf({ from, to, way }: FlatDimension, beside: number): { a: Point; b: Point; normal: Point } {
  const normal = { x: -way.y, y: way.x };
  const side = (p: Point) => p.x * normal.x + p.y * normal.y;
  const base = (beside >= 0 ? Math.max(side(from), side(to)) : Math.min(side(from), side(to))) + beside;
  const onto = (p: Point) => ({
    x: p.x + normal.x * (base - side(p)),
    y: p.y + normal.y * (base - side(p)),
  });
  return { a: onto(from), b: onto(to), normal };
}

function DimensionLine({ dimension, found, lit, place, zoom, units, dimensions: use }: DimensionLineProps) {
  const { a, b, normal } = runOf(found, dimension.beside);
  const [p, q, from, to] = [a, b, found.from, found.to].map(place);
  const drag = useDimensionDrag(dimension, normal, zoom, use);
  const ink = lit ? "var(--amber)" : "var(--quiet)";
  const text = saidDimension(found, units);
  const middle = { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 };
  const turn = (-readable(Math.atan2(b.y - a.y, b.x - a.x)) * 180) / Math.PI;
  const w = text.length * 7.2 + 8;
  const narrow = Math.hypot(q.x - p.x, q.y - p.y) < w + 8;
  return (
    <g data-dimension={dimension.key} className={use ? "cursor-move" : ""} {...drag}>
      <path d={extension(from, p) + extension(to, q)} stroke={ink} strokeWidth={0.8} fill="none" />
      <path
        d={`M${p.x} ${p.y}L${q.x} ${q.y}${tick(p, q)}${tick(q, p)}`}
        stroke={ink}
        strokeWidth={lit ? 2 : 1.1}
        fill="none"
      />
      {use && <path d={`M${p.x} ${p.y}L${q.x} ${q.y}`} stroke="transparent" strokeWidth={12} />}
      <g transform={`translate(${middle.x} ${middle.y}) rotate(${turn}) translate(0 ${narrow ? -13 : 0})`}>
        <rect x={-w / 2} y={-9} width={w} height={18} fill="var(--ground)" opacity={0.92} rx={3} />
        <text textAnchor="middle" y={4} className="num" fontSize={12} fill="var(--ink)">
          {text}
        </text>
      </g>
    </g>
  );
}

function extension(from: Point, to: Point): string {
  const far = Math.hypot(to.x - from.x, to.y - from.y);
  if (far < GAP + 1) return "";
  const [dx, dy] = [(to.x - from.x) / far, (to.y - from.y) / far];
  return `M${from.x + dx * GAP} ${from.y + dy * GAP}L${to.x + dx * BEYOND} ${to.y + dy * BEYOND}`;
}

/** A stroke across the end of a dimension's line. */
function tick(p: Point, q: Point): string {
  const far = Math.hypot(q.x - p.x, q.y - p.y) || 1;
  const [x, y] = [(-(q.y - p.y) / far) * 5, ((q.x - p.x) / far) * 5];
  return `M${p.x - x} ${p.y - y}L${p.x + x} ${p.y + y}`;
}

/** Draws a dimension to another place beside what it measures; a press that does not move picks it. */
function useDimensionDrag(
  { key, beside }: BlankDimension,
  normal: Point,
  zoom: number,
  use: DimensionUse | undefined,
) {
  const pressed = useRef<{ x: number; y: number; beside: number; mark: string } | undefined>(undefined);
  if (!use) return {};
  return {
    onPointerDown: (e: PointerEvent<SVGGElement>) => {
      e.stopPropagation();
      e.currentTarget.setPointerCapture(e.pointerId);
      pressed.current = { x: e.clientX, y: e.clientY, beside, mark: `dimension:${key}:${e.timeStamp}` };
      use.onSelect(key);
    },
    onPointerMove: (e: PointerEvent<SVGGElement>) => {
      const d = pressed.current;
      if (!d) return;
      const off = ((e.clientX - d.x) * normal.x - (e.clientY - d.y) * normal.y) / zoom;
      if (Math.abs(off) * zoom < 3) return;
      use.onMove(key, Math.round((d.beside + off) * 10) / 10, d.mark);
    },
    onPointerUp: (e: PointerEvent<SVGGElement>) => {
      e.stopPropagation();
      pressed.current = undefined;
    },
  };
}
