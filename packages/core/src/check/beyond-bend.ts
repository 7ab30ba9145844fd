import { Kept } from "../kept.ts";
import { type Arc, arcCovers, type Curve, curveBounds, curvesBounds } from "../plane/curve.ts";
import { backOf, type Isometry, intoAxes, moveCurve, moveLoop, movePoint } from "../plane/isometry.ts";
import { type Loop, rectangleLoop } from "../plane/loop.ts";
import { NearCurves } from "../plane/near-curves.ts";
import { type Bounds, type Point, subtract } from "../plane/point.ts";
import { type BendSide, lineOf } from "../sheet/leg-reach.ts";
import type { Bend, Plate } from "../sheet/pieces/flat-pieces.ts";

/** A border of a plate nearest to the line where a bend begins or ends. */
export interface Nearest {
  /** How far it lies from the line, straight out, mm. */
  readonly away: number;
  readonly at: Point;
  readonly curve: Curve;
}

/** Closer than this to the line a border is the line's own, mm. */
const ON_LINE = 1e-6;

/** Into the frame of a bend's line on one of its plates: x along the line from its left end, y out over the plate. */
export function intoLine(bend: Bend, side: BendSide): Isometry {
  const { origin, over } = lineOf(bend, side);
  return intoAxes(origin, bend.axis, over);
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

/** Whether a border runs along the line at a point of it, rather than across: within a sixth of a right angle. */
function runsAlong(c: Curve, p: Point): boolean {
  const d = c.kind === "line" ? subtract(c.b, c.a) : { x: c.c.y - p.y, y: p.x - c.c.x };
  return Math.abs(d.y) < Math.abs(d.x) * Math.tan(Math.PI / 12);
}

interface Border {
  readonly curve: Curve;
  readonly box: Bounds;
  /** The opening that it bounds; none for an outline. */
  readonly opening?: Loop;
}

/** The borders of a plate, found by where they lie: asked for by every bend of it. */
export const bordersOf = (plate: Plate): NearCurves<Border> => borders.of(plate);

const borders = new Kept((plate: Plate) => {
  const of = (loop: Loop, opening?: Loop): Border[] =>
    loop.map((curve) => ({ curve, box: curveBounds(curve), ...(opening ? { opening } : {}) }));
  return new NearCurves(
    plate.regions.flatMap(({ outer, holes }) => [...of(outer), ...holes.flatMap((hole) => of(hole, hole))]),
  );
});

/**
 * The borders of a plate that lie straight out from a bend's line, no farther than `within` mm: for each opening, and
 * for the outlines together, where it comes nearest. Sides that begin at the line itself are left out: they bound the
 * leg, and are not its end.
 */
export const bordersBeyond = (
  bend: Bend,
  side: BendSide,
  plate: Plate,
  within: number,
): ReadonlyMap<Loop | undefined, Nearest> => beyond[side].of(bend, { plate, within, reach: 0 });

/** What is looked for about the line of a bend: on which plate, how far out, and how far along beyond its ends (mm). */
interface Looked {
  readonly plate: Plate;
  readonly within: number;
  readonly reach: number;
}

/** Found once for a bend and its plate at each side, while both are the records that they were. */
const atSides = <T>(find: (bend: Bend, side: BendSide, looked: Looked) => T) => {
  const kept = (side: BendSide) =>
    new Kept(
      (bend: Bend, looked: Looked) => find(bend, side, looked),
      (p, q) => p.plate === q.plate && p.within === q.within && p.reach === q.reach,
    );
  return { parent: kept("parent"), child: kept("child") };
};

const beyond = atSides((bend, side, { plate, within }) => {
  const found = new Map<Loop | undefined, Nearest>();
  if (!(within > 0)) return found;
  const frame = intoLine(bend, side);
  const back = backOf(frame);
  const zone = curvesBounds(moveLoop(back, rectangleLoop(0, 0, bend.width, within)));
  for (const { curve, opening } of bordersOf(plate).near(zone)) {
    const c = moveCurve(frame, curve);
    if (Math.abs(c.a.y) < ON_LINE || Math.abs(c.b.y) < ON_LINE) continue;
    for (const p of lowest(c, ON_LINE, bend.width - ON_LINE)) {
      if (p.y <= ON_LINE || p.y > within || !endsMetal(c, p, frame.flips)) continue;
      const before = found.get(opening);
      if (!before || p.y < before.away) found.set(opening, { away: p.y, at: movePoint(back, p), curve });
    }
  }
  return found;
});

/** An edge of a plate beside one end of a bend, that ends metal straight out from the bend's line. */
export interface EdgeBeside {
  readonly end: "left" | "right";
  /** How far behind the line it lies at its nearest, mm. */
  readonly away: number;
  readonly at: Point;
}

/**
 * The outlines of a plate beside the ends of a bend, behind its line by no more than `within` and along it within
 * `reach` of the end (mm): the nearest at either end. Flush with the line is not behind it.
 */
export const edgesBeside = (
  bend: Bend,
  side: BendSide,
  plate: Plate,
  { within, reach }: Omit<Looked, "plate">,
): readonly EdgeBeside[] => beside[side].of(bend, { plate, within, reach });

const beside = atSides((bend, side, { plate, within, reach }) => {
  const frame = intoLine(bend, side);
  const back = backOf(frame);
  return (["left", "right"] as const).flatMap((end): EdgeBeside[] => {
    const [from, to] = end === "left" ? [-reach, -ON_LINE] : [bend.width + ON_LINE, bend.width + reach];
    const zone = curvesBounds(moveLoop(back, rectangleLoop(from, 0, to, within)));
    let nearest: EdgeBeside | undefined;
    for (const { curve, opening } of bordersOf(plate).near(zone)) {
      if (opening) continue;
      const c = moveCurve(frame, curve);
      if (Math.abs(c.a.y) < ON_LINE || Math.abs(c.b.y) < ON_LINE) continue;
      for (const p of lowest(c, from, to)) {
        // It faces the bend's own way: metal lies behind it, not before it.
        if (p.y <= ON_LINE || p.y > within || !endsMetal(c, p, !frame.flips) || !runsAlong(c, p)) continue;
        if (!nearest || p.y < nearest.away) nearest = { end, away: p.y, at: movePoint(back, p) };
      }
    }
    return nearest ? [nearest] : [];
  });
});

/** How long a loop is along a bend's line, mm. */
export function lengthAlong(bend: Bend, loop: Loop): number {
  const { minX, maxX } = curvesBounds(moveLoop(intoLine(bend, "parent"), loop));
  return maxX - minX;
}

/** Whether a straight border is where another bend of the plate begins or ends. */
export function bendAlong(bends: readonly Bend[], plate: string, { a, b }: Curve): Bend | undefined {
  const onLine = (bend: Bend, side: BendSide) => {
    const frame = intoLine(bend, side);
    return [a, b].every((p) => Math.abs(movePoint(frame, p).y) < ON_LINE);
  };
  return bends.find(
    (o) => (o.parent === plate && onLine(o, "parent")) || (o.child === plate && onLine(o, "child")),
  );
}
