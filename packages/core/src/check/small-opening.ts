import { Kept } from "../kept.ts";
import { stepOfOpening } from "../part/set-in.ts";
import { flattenCurve } from "../plane/curve.ts";
import { convexHull } from "../plane/hull.ts";
import { asCircle, type Loop } from "../plane/loop.ts";
import { cross, distance, scale, subtract } from "../plane/point.ts";
import { type Plate, platesOf } from "../sheet/sheet.ts";
import { mm } from "../units/spoken-length.ts";
import { AS_GOOD, calledOpening } from "./opening-names.ts";
import type { CheckRule } from "./rule.ts";

/**
 * The least width of a loop between two parallel lines, mm: over the sides of its convex hull. The corner
 * that is farthest from a side moves on round the hull as the side does (rotating calipers, M. I. Shamos 1978).
 */
export function leastWidth(loop: Loop): number {
  const circle = asCircle(loop);
  if (circle) return 2 * circle.r;
  const hull = convexHull(loop.flatMap((c) => flattenCurve(c, 1e-4)));
  const n = hull.length;
  let least = Infinity;
  let far = 1;
  hull.forEach((a, i) => {
    const b = hull[(i + 1) % n];
    const u = scale(subtract(b, a), 1 / (distance(a, b) || 1));
    const from = (k: number) => cross(u, subtract(hull[k % n], a));
    far = Math.max(far, i + 1);
    while (far < i + n && from(far + 1) > from(far)) far++;
    least = Math.min(least, from(far));
  });
  return least;
}

const widths = new Kept((plate: Plate) =>
  plate.regions.flatMap(({ holes }) => holes.map((loop) => ({ loop, found: leastWidth(loop) }))),
);

/** What is narrower than the sheet is thick cannot be cut clean. */
export const smallOpeningRule: CheckRule = (build, { values }) => {
  const wanted = values.leastOpening * build.sheet!.t;
  return platesOf(build.sheet).flatMap((plate) =>
    widths.of(plate).flatMap(({ loop, found }) => {
      if (found >= wanted - AS_GOOD) return [];
      return [
        {
          level: "warn" as const,
          rule: "small-opening",
          message: `${calledOpening(loop)} on plate ${plate.letter} is ${mm(found)} wide; the shop cuts nothing under ${mm(wanted)}. Make it at least so wide, or drill it.`,
          step: stepOfOpening(build, loop, plate.step),
          pieces: [{ kind: "plate" as const, id: plate.id }],
          at: loop[0].a,
          found,
          wanted,
        },
      ];
    }),
  );
};
