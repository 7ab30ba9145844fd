import { outerSetback } from "../bend/allowance.ts";
import { arcCovers, type Curve, curvesBounds, pointAt } from "../plane/curve.ts";
import { intoAxes, moveCurve } from "../plane/isometry.ts";
import { along, dot, type Point, SAME, scale, subtract } from "../plane/point.ts";
import type { Region } from "../plane/region.ts";
import { type Bend, bendsOf, type Plate, platesOf, type Sheet } from "./sheet.ts";

const RIGHT = Math.PI / 2 + 1e-9;

/**
 * From a bend's tangent line to where a caliper stops: up to a right angle at the outer mould point, where the outer faces
 * meet; beyond it at the outside of the bend, r + t.
 */
export function caliperSetback({ radius: r, angle }: Bend, t: number): number {
  return angle > RIGHT ? r + t : (outerSetback({ t, r, angle }) ?? r + t);
}

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

const farthest = (
  regions: readonly Region[],
  origin: Point,
  axis: Point,
  out: Point,
  width: number,
): number => {
  const into = intoAxes(origin, axis, out);
  return regions
    .flatMap((r) => r.outer)
    .reduce((m, c) => Math.max(m, reachWithin(moveCurve(into, c), width)), -Infinity);
};

/** Where a bend begins on a plate, and which way it leads away from it. */
function startOn(bend: Bend, plate: string): { readonly origin: Point; readonly away: Point } | undefined {
  if (bend.parent === plate) return { origin: bend.origin, away: bend.out };
  if (bend.child === plate)
    return { origin: along(bend.origin, bend.out, bend.allowance), away: scale(bend.out, -1) };
  return undefined;
}

function legOn(sheet: Sheet, bend: Bend, plate: Plate, bends: readonly Bend[]): number | undefined {
  const start = startOn(bend, plate.id);
  if (!start) return undefined;
  const out = scale(start.away, -1);
  const flat = farthest(plate.regions, start.origin, bend.axis, out, bend.width);
  if (!(flat > SAME)) return undefined;
  // At the far end another bend may turn away: then the caliper goes on to the outside of that one.
  const beyond = bends.flatMap((other) => {
    const there = other === bend ? undefined : startOn(other, plate.id);
    if (!there || dot(there.away, out) < 1 - 1e-9) return [];
    if (Math.abs(dot(subtract(there.origin, start.origin), out) - flat) > SAME * 20) return [];
    const from = dot(subtract(there.origin, start.origin), bend.axis);
    const to = from + dot(other.axis, bend.axis) * other.width;
    const apart = Math.max(from, to) <= SAME || Math.min(from, to) >= bend.width - SAME;
    return apart ? [] : [caliperSetback(other, sheet.t)];
  });
  return caliperSetback(bend, sheet.t) + flat + Math.max(0, ...beyond);
}

/**
 * The finished outside size of the two legs of each bend as a caliper finds it, mm: across each of its plates, square to
 * the bend, from outside of bend to free edge or to the outside of the next bend. Nothing where a leg has no length.
 */
export function outsideSizes(sheet: Sheet): Map<string, readonly [number | undefined, number | undefined]> {
  const plates = new Map(platesOf(sheet).map((p) => [p.id, p]));
  const bends = bendsOf(sheet);
  const onPlate = new Map<string, Bend[]>();
  for (const b of bends)
    for (const id of [b.parent, b.child]) onPlate.set(id, [...(onPlate.get(id) ?? []), b]);
  const leg = (b: Bend, id: string) => {
    const plate = plates.get(id);
    return plate && legOn(sheet, b, plate, onPlate.get(id)!);
  };
  return new Map(bends.map((b) => [b.id, [leg(b, b.parent), leg(b, b.child)] as const]));
}
