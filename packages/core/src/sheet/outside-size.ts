import { outermostSetback } from "../bend/allowance.ts";
import { Kept } from "../kept.ts";
import { arcCovers, type Curve, curveBounds, curvesBounds, pointAt } from "../plane/curve.ts";
import { intoAxes, moveCurve } from "../plane/isometry.ts";
import { NearCurves } from "../plane/near-curves.ts";
import { along, dot, type Point, SAME, scale, subtract } from "../plane/point.ts";
import type { Region } from "../plane/region.ts";
import type { Bend, Plate } from "./pieces/flat-pieces.ts";
import { bendsOf, platesOf, type Sheet } from "./sheet.ts";

/** From a bend's tangent line to where a caliper stops: at its outermost tangent. */
export const caliperSetback = ({ radius: r, angle }: Bend, t: number): number =>
  outermostSetback({ t, r, angle });

/** How far a curve reaches up within the strip 0 ≤ x ≤ width; nothing where it does not come into it. */
function reachWithin(c: Curve, width: number): number {
  const inside = (x: number) => x > SAME && x < width - SAME;
  const found: number[] = [c.a, c.b].filter((p) => inside(p.x)).map((p) => p.y);
  const { minX, maxX } = curvesBounds([c]);
  if (maxX <= SAME || minX >= width - SAME) return -Infinity;
  for (const x of [2 * SAME, width - 2 * SAME]) {
    if (x < minX || x > maxX) continue;
    if (c.kind === "line") {
      const f = (x - c.a.x) / (c.b.x - c.a.x || 1);
      if (f >= 0 && f <= 1) found.push(pointAt(c, f).y);
      continue;
    }
    const half = Math.sqrt(Math.max(0, c.r * c.r - (x - c.c.x) ** 2));
    for (const y of [c.c.y + half, c.c.y - half])
      if (arcCovers(c, Math.atan2(y - c.c.y, x - c.c.x))) found.push(y);
  }
  if (c.kind === "arc" && inside(c.c.x) && arcCovers(c, Math.PI / 2)) found.push(c.c.y + c.r);
  return Math.max(-Infinity, ...found);
}

const borders = new Kept((regions: readonly Region[]) => {
  const curves = regions.flatMap((r) => r.outer);
  return {
    near: new NearCurves(curves.map((curve) => ({ curve, box: curveBounds(curve) }))),
    bounds: curvesBounds(curves),
  };
});

/** How far metal reaches along `out` in the band that a width along `axis` from `origin` makes. */
function farthest(regions: readonly Region[], origin: Point, axis: Point, out: Point, width: number): number {
  const into = intoAxes(origin, axis, out);
  const { near, bounds } = borders.of(regions);
  // The band reaches at most to the far corner of what is there.
  const far = [bounds.minX, bounds.maxX].flatMap((x) =>
    [bounds.minY, bounds.maxY].map((y) => Math.max(0, dot(subtract({ x, y }, origin), out))),
  );
  const ends = [origin, along(origin, axis, width)];
  const band = [...ends, ...ends.map((p) => along(p, out, Math.max(...far)))];
  const box = {
    minX: Math.min(...band.map((p) => p.x)),
    minY: Math.min(...band.map((p) => p.y)),
    maxX: Math.max(...band.map((p) => p.x)),
    maxY: Math.max(...band.map((p) => p.y)),
  };
  return near
    .near(box)
    .reduce((m, { curve }) => Math.max(m, reachWithin(moveCurve(into, curve), width)), -Infinity);
}

/** Where a bend begins on a plate, and which way it leads away from it. */
interface Start {
  readonly bend: Bend;
  readonly origin: Point;
  readonly away: Point;
}

function startsOn(bends: readonly Bend[]): ReadonlyMap<string, readonly Start[]> {
  const found = new Map<string, Start[]>();
  const put = (plate: string, start: Start) => {
    const list = found.get(plate);
    if (list) list.push(start);
    else found.set(plate, [start]);
  };
  for (const bend of bends) {
    put(bend.parent, { bend, origin: bend.origin, away: bend.out });
    const far = along(bend.origin, bend.out, bend.allowance);
    put(bend.child, { bend, origin: far, away: scale(bend.out, -1) });
  }
  return found;
}

function legOn(sheet: Sheet, { bend, origin, away }: Start, plate: Plate, starts: readonly Start[]) {
  const out = scale(away, -1);
  const flat = farthest(plate.regions, origin, bend.axis, out, bend.width);
  if (!(flat > SAME)) return undefined;
  // At the far end another bend may turn away: then the caliper goes on to the outside of that one.
  let beyond = 0;
  for (const there of starts) {
    if (there.bend === bend || dot(there.away, out) < 1 - 1e-9) continue;
    if (Math.abs(dot(subtract(there.origin, origin), out) - flat) > SAME * 20) continue;
    const from = dot(subtract(there.origin, origin), bend.axis);
    const to = from + dot(there.bend.axis, bend.axis) * there.bend.width;
    const apart = Math.max(from, to) <= SAME || Math.min(from, to) >= bend.width - SAME;
    if (!apart) beyond = Math.max(beyond, caliperSetback(there.bend, sheet.t));
  }
  return caliperSetback(bend, sheet.t) + flat + beyond;
}

/**
 * The finished outside size of the two legs of each bend as a caliper finds it, mm: across each of its plates, square to
 * the bend, from outside of bend to free edge or to the outside of the next bend. Nothing where a leg has no length.
 */
export function outsideSizes(sheet: Sheet): Map<string, readonly [number | undefined, number | undefined]> {
  const plates = new Map(platesOf(sheet).map((p) => [p.id, p]));
  const bends = bendsOf(sheet);
  const starts = startsOn(bends);
  const legs = new Map<Bend, Map<string, number | undefined>>(bends.map((b) => [b, new Map()]));
  for (const [id, list] of starts) {
    const plate = plates.get(id);
    if (plate) for (const start of list) legs.get(start.bend)!.set(id, legOn(sheet, start, plate, list));
  }
  return new Map(bends.map((b) => [b.id, [legs.get(b)!.get(b.parent), legs.get(b)!.get(b.child)] as const]));
}
