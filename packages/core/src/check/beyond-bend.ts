import { Kept } from "../kept.ts";
import { type Arc, arcCovers, type Curve, curveBounds } from "../plane/curve.ts";
import { moveCurve } from "../plane/isometry.ts";
import type { Loop } from "../plane/loop.ts";
import { along, type Bounds, boundsMeet, cross, type Point, scale } from "../plane/point.ts";
import type { Bend, Plate } from "../sheet/sheet.ts";

/** A border of a plate nearest to the line where a bend begins or ends. */
export interface Nearest {
  /** How far it lies from the line, straight out, mm. */
  readonly away: number;
  readonly at: Point;
  readonly curve: Curve;
}

/** Closer than this to the line a border is the line's own, mm. */
const ON_LINE = 1e-6;

/** The frame of a bend's line on one of its plates: x along the line from its left end, y out over the plate. */
function lineFrame(bend: Bend, side: "parent" | "child") {
  const { axis } = bend;
  const out = side === "child" ? bend.out : scale(bend.out, -1);
  const origin = side === "child" ? along(bend.origin, bend.out, bend.allowance) : bend.origin;
  return {
    xx: axis.x,
    xy: axis.y,
    yx: out.x,
    yy: out.y,
    ox: -(axis.x * origin.x + axis.y * origin.y),
    oy: -(out.x * origin.x + out.y * origin.y),
    flips: cross(axis, out) < 0,
    back: ({ x, y }: Point): Point => along(along(origin, axis, x), out, y),
  };
}

/** The points of a curve between which lies the one that is nearest to the line, over a stretch of it. */
function* lowest(c: Curve, from: number, to: number): Generator<Point> {
  for (const p of [c.a, c.b]) if (p.x >= from && p.x <= to) yield p;
  for (const x of [from, to]) {
    if (c.kind === "line") {
      const f = (x - c.a.x) / (c.b.x - c.a.x);
      if (f > 0 && f < 1) yield { x, y: c.a.y + f * (c.b.y - c.a.y) };
    } else yield* onArc(c, x);
  }
  if (c.kind === "arc" && c.c.x >= from && c.c.x <= to && arcCovers(c, -Math.PI / 2))
    yield { x: c.c.x, y: c.c.y - c.r };
}

function* onArc(c: Arc, x: number): Generator<Point> {
  const half = Math.sqrt(c.r * c.r - (x - c.c.x) ** 2);
  if (Number.isNaN(half)) return;
  for (const y of [c.c.y - half, c.c.y + half])
    if (arcCovers(c, Math.atan2(y - c.c.y, x - c.c.x))) yield { x, y };
}

/** Whether metal ends where a border is come to straight out from the line, and does not begin: it keeps metal on its left. */
function endsMetal(c: Curve, p: Point, flipped: boolean): boolean {
  const on = c.kind === "line" ? c.b.x - c.a.x : (c.c.y - p.y) * (c.ccw ? 1 : -1);
  return flipped ? on > ON_LINE : on < -ON_LINE;
}

interface Border {
  readonly curve: Curve;
  readonly box: Bounds;
  /** The opening that it bounds; none for an outline. */
  readonly opening?: Loop;
}

/** The borders of a plate with their boxes: asked for by every bend of it. */
const borders = new Kept((plate: Plate): readonly Border[] =>
  plate.regions.flatMap(({ outer, holes }) => [
    ...outer.map((curve) => ({ curve, box: curveBounds(curve) })),
    ...holes.flatMap((opening) => opening.map((curve) => ({ curve, box: curveBounds(curve), opening }))),
  ]),
);

/** The box about all that lies straight out from a line, no farther than `within` mm. */
function boxBeyond(back: (p: Point) => Point, width: number, within: number): Bounds {
  const corners = [0, width].flatMap((x) => [0, within].map((y) => back({ x, y })));
  const [xs, ys] = [corners.map((c) => c.x), corners.map((c) => c.y)];
  return { minX: Math.min(...xs), maxX: Math.max(...xs), minY: Math.min(...ys), maxY: Math.max(...ys) };
}

/**
 * The borders of a plate that lie straight out from a bend's line, no farther than `within` mm: for each opening, and
 * for the outlines together, where it comes nearest. Sides that begin at the line itself are left out: they bound the
 * leg, and are not its end.
 */
export function bordersBeyond(
  bend: Bend,
  side: "parent" | "child",
  plate: Plate,
  within: number,
): Map<Loop | undefined, Nearest> {
  const found = new Map<Loop | undefined, Nearest>();
  if (!(within > 0)) return found;
  const frame = lineFrame(bend, side);
  const zone = boxBeyond(frame.back, bend.width, within);
  for (const { curve, box, opening } of borders.of(plate)) {
    if (!boundsMeet(box, zone)) continue;
    const c = moveCurve(frame, curve);
    if (Math.abs(c.a.y) < ON_LINE || Math.abs(c.b.y) < ON_LINE) continue;
    for (const p of lowest(c, ON_LINE, bend.width - ON_LINE)) {
      if (p.y <= ON_LINE || p.y > within || !endsMetal(c, p, frame.flips)) continue;
      const before = found.get(opening);
      if (!before || p.y < before.away) found.set(opening, { away: p.y, at: frame.back(p), curve });
    }
  }
  return found;
}

/** How long a loop is along a bend's line, mm. */
export function lengthAlong(bend: Bend, loop: readonly Curve[]): number {
  const frame = lineFrame(bend, "parent");
  let [least, most] = [Infinity, -Infinity];
  for (const curve of loop) {
    const c = moveCurve(frame, curve);
    const ends = [c.a.x, c.b.x];
    if (c.kind === "arc") {
      if (arcCovers(c, 0)) ends.push(c.c.x + c.r);
      if (arcCovers(c, Math.PI)) ends.push(c.c.x - c.r);
    }
    least = Math.min(least, ...ends);
    most = Math.max(most, ...ends);
  }
  return most - least;
}

/** Whether a straight border is where another bend of the plate begins or ends. */
export function bendAlong(bends: readonly Bend[], plate: string, { a, b }: Curve): Bend | undefined {
  const onLine = (bend: Bend, side: "parent" | "child") => {
    const { yx, yy, oy } = lineFrame(bend, side);
    return [a, b].every((p) => Math.abs(yx * p.x + yy * p.y + oy) < ON_LINE);
  };
  return bends.find(
    (o) => (o.parent === plate && onLine(o, "parent")) || (o.child === plate && onLine(o, "child")),
  );
}
