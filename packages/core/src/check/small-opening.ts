import { Kept } from "../kept.ts";
import { stepOfOpening } from "../part/set-in.ts";
import { flattenCurve } from "../plane/curve.ts";
import { convexHull } from "../plane/hull.ts";
import { asCircle, type Loop, loopBounds, loopMeasures } from "../plane/loop.ts";
import { cross, distance, hypotenuse, scale, subtract } from "../plane/point.ts";
import type { Plate } from "../sheet/pieces/flat-pieces.ts";
import { platesOf } from "../sheet/sheet.ts";
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

/**
 * No less than so wide is a loop in any direction, mm: no area is larger than its least width times how long it is.
 * Most openings are told so, without their widths.
 */
export function surelyWide(loop: Loop): number {
  const circle = asCircle(loop);
  if (circle) return 2 * circle.r;
  const { minX, minY, maxX, maxY } = loopBounds(loop);
  return Math.abs(loopMeasures(loop).area) / (hypotenuse(maxX - minX, maxY - minY) || 1);
}

const leastWidths = new Kept(leastWidth);

/** The openings of a plate that may be narrower than wanted, each with its least width. */
const narrow = new Kept((plate: Plate, wanted: number) =>
  plate.regions.flatMap(({ holes }) =>
    holes.flatMap((loop) => (surelyWide(loop) > wanted ? [] : [{ loop, found: leastWidths.of(loop) }])),
  ),
);

/** What is narrower than the sheet is thick cannot be cut clean. */
export const smallOpeningRule: CheckRule = (build, { values }) => {
  const wanted = values.leastOpening * build.sheet!.t;
  return platesOf(build.sheet).flatMap((plate) =>
    narrow.of(plate, wanted).flatMap(({ loop, found }) => {
      if (found >= wanted - AS_GOOD) return [];
      return [
        {
          level: "warn" as const,
          rule: "small-opening",
          message: `${calledOpening(build.sheet, loop)} on plate ${plate.letter} is ${mm(found)} wide; the shop cuts nothing under ${mm(wanted)}. Make it at least so wide, or drill it.`,
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
