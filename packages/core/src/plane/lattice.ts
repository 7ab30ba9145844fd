import { arcCovers, type Curve, curveBounds, curvesBounds, distanceToCurve } from "./curve.ts";
import { gapBetween } from "./curve-gap.ts";
import { intersectCurves } from "./intersect.ts";
import { moveLoop, translation } from "./isometry.ts";
import { asCircle, type Loop } from "./loop.ts";
import { NearCurves } from "./near-curves.ts";
import { add, cross, hypotenuse, type Point, point, SAME, subtract } from "./point.ts";
import { type Region, regionLoops } from "./region.ts";
import { spansInside } from "./span.ts";
import { insideLoop } from "./stitch.ts";

/** Places in rows: `u` leads along a row from one place to the next, `v` from a row to the next but for the stagger. */
export interface Lattice {
  readonly origin: Point;
  readonly u: Point;
  readonly v: Point;
  /** By which share of `u` every second row is moved on. */
  readonly shift: number;
}

/** A place of a lattice, by its number in the row and the number of the row. */
export interface LatticePlace {
  readonly i: number;
  readonly j: number;
  readonly at: Point;
}

export function latticePlace({ origin, u, v, shift }: Lattice, i: number, j: number): Point {
  const s = i + (Math.abs(j) % 2) * shift;
  return point(origin.x + u.x * s + v.x * j, origin.y + u.y * s + v.y * j);
}

/** Lattice places beyond so many in an area's box are not looked at. */
export const MOST_TRIED = 2_000_000;

/** How many places of a lattice lie in the box of some regions, about. */
export function placesTried({ u, v }: Lattice, regions: readonly Region[]): number {
  const { width, height } = extent(regions.flatMap(regionLoops).flat(), u, v);
  return (width + 1) * (height + 1);
}

/** The range of curves in lattice coordinates. */
function extent(curves: readonly Curve[], u: Point, v: Point, origin = point(0, 0)) {
  const det = cross(u, v);
  let [i0, i1, j0, j1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const c of curves) {
    const b = curveBounds(c);
    for (const x of [b.minX, b.maxX])
      for (const y of [b.minY, b.maxY]) {
        const d = subtract(point(x, y), origin);
        const [i, j] = [cross(d, v) / det, cross(u, d) / det];
        [i0, i1, j0, j1] = [Math.min(i0, i), Math.max(i1, i), Math.min(j0, j), Math.max(j1, j)];
      }
  }
  return { i0, i1, j0, j1, width: i1 - i0, height: j1 - j0 };
}

/** How far a loop reaches from a point at most. */
export function reachFrom(loop: Loop, from: Point): number {
  return loop.reduce((most, c) => {
    const ends = Math.max(
      hypotenuse(c.a.x - from.x, c.a.y - from.y),
      hypotenuse(c.b.x - from.x, c.b.y - from.y),
    );
    if (c.kind === "line") return Math.max(most, ends);
    const d = subtract(c.c, from);
    const far = hypotenuse(d.x, d.y);
    // The farthest place of a whole circle lies beyond its middle; where the arc is not there, an end is farthest.
    const beyond = far < 1e-12 || arcCovers(c, Math.atan2(d.y, d.x));
    return Math.max(most, beyond ? far + c.r : ends);
  }, 0);
}

/** Off a margin by less still keeps it, mm. */
const KEPT = 1e-7;

/**
 * Which places of a lattice an opening can stand at, so that it lies within some regions as a whole and keeps a margin
 * to all of their borders. Exact: a round opening by its distance, others by the gap between their curves and the
 * borders'. Row by row, in each from its beginning.
 *
 * @param opening Its loops about the place where it stands, counter-clockwise: one, or several areas of a drawn one.
 * @param most At most so many; with more nothing is returned.
 */
export function fillRegions(
  regions: readonly Region[],
  opening: readonly Loop[],
  lattice: Lattice,
  margin: number,
  most: number,
): LatticePlace[] | undefined {
  const borders = regions.flatMap(regionLoops);
  const { u, v, origin, shift } = lattice;
  const near = new NearCurves(borders.flat().map((curve) => ({ curve, box: curveBounds(curve) })));
  const reach = Math.max(...opening.map((loop) => reachFrom(loop, point(0, 0))));
  const circle = opening.length === 1 ? asCircle(opening[0]) : undefined;
  const round = circle !== undefined && hypotenuse(circle.c.x, circle.c.y) < SAME;
  const far = reach + margin;
  const fits = (at: Point): boolean => {
    const box = { minX: at.x - far, minY: at.y - far, maxX: at.x + far, maxY: at.y + far };
    const about = near
      .near(box)
      .filter(({ curve }) => distanceToCurve(curve, at) < far - KEPT)
      .map(({ curve }) => curve);
    if (round && about.length > 0) return false;
    const there =
      about.length === 0 && opening.length === 1 ? [] : opening.map((l) => moveLoop(translation(at), l));
    // The first lies in the metal: of the others each has to be seen.
    if (others.some((p) => !near.covers(add(at, p), (b) => b.curve))) return false;
    return there.every((l) => clearOf(l, about, margin));
  };
  const { j0, j1 } = extent(borders.flat(), u, v, origin);
  const length = hypotenuse(u.x, u.y);
  const axis = point(u.x / length, u.y / length);
  const out: LatticePlace[] = [];
  // A place well within the opening: where it is no metal the opening as a whole is none. One on its border would not do,
  // for an opening that touches the metal from outside has that in common with one that touches from inside.
  const [own, ...others] = opening.map(placeWithin);
  for (let j = Math.floor(j0) - 1; j <= Math.ceil(j1) + 1; j++) {
    const start = add(latticePlace(lattice, 0, j), own);
    for (const [from, to] of spansInside(borders, start, axis))
      for (let i = Math.ceil(from / length - 1e-9) + 0; i <= to / length + 1e-9; i++) {
        const at = latticePlace({ origin, u, v, shift }, i, j);
        if (!fits(at)) continue;
        if (out.length === most) return undefined;
        out.push({ i, j, at });
      }
  }
  return out;
}

/** A place inside a loop and clear of it: the middle of the widest stretch that is inside, half way up. */
function placeWithin(loop: Loop): Point {
  const { minX, minY, maxX, maxY } = curvesBounds(loop);
  // Half way up there may be corners; a little off there are none of any even number.
  const start = point(minX, minY + (maxY - minY) * 0.4871);
  const spans = spansInside([loop], start, point(1, 0));
  const widest = spans.reduce((w, s) => (s[1] - s[0] > w[1] - w[0] ? s : w), spans[0] ?? [0, maxX - minX]);
  return point(start.x + (widest[0] + widest[1]) / 2, start.y);
}

/** Whether a loop, of which a point lies in the metal, meets no border, holds none, and keeps a margin to each. */
function clearOf(loop: Loop, borders: readonly Curve[], margin: number): boolean {
  return borders.every(
    (border) =>
      !insideLoop(loop, border.a) &&
      loop.every(
        (c) => intersectCurves(c, border).length === 0 && gapBetween(c, border).gap >= margin - KEPT,
      ),
  );
}

/** Distances along a length at which things stand; what is left over is shared at its ends. */
export function spreadAlong(
  length: number,
  by:
    | { readonly count: number }
    | { readonly pitch: number }
    | { readonly count: number; readonly pitch: number },
): number[] {
  const count =
    "count" in by ? by.count : length < -1e-9 ? 0 : Math.floor(Math.max(0, length) / by.pitch + 1e-9) + 1;
  const pitch = "pitch" in by ? by.pitch : count > 1 ? length / (count - 1) : 0;
  const start = (length - pitch * (count - 1)) / 2;
  return Array.from({ length: count }, (_, k) => start + pitch * k);
}

/** The point and the heading at a distance along a chain of curves, from its beginning. */
export function placeAlong(
  chain: readonly Curve[],
  lengths: readonly number[],
  s: number,
): { readonly curve: Curve; readonly share: number } {
  let left = s;
  for (let k = 0; k < chain.length - 1; k++) {
    if (left <= lengths[k]) return { curve: chain[k], share: lengths[k] === 0 ? 0 : left / lengths[k] };
    left -= lengths[k];
  }
  const last = chain.length - 1;
  return { curve: chain[last], share: Math.min(1, left / (lengths[last] || 1)) };
}
