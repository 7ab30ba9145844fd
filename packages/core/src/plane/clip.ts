import { splitAt } from "./boolean.ts";
import { type Curve, curveBounds, pointAt } from "./curve.ts";
import { intersectCurves } from "./intersect.ts";
import { NearCurves } from "./near-curves.ts";
import { type Region, regionLoops } from "./region.ts";
import { spansInside } from "./span.ts";

/** What of some curves lies within an area, cut off where they leave it. */
export function curvesWithin(curves: readonly Curve[], regions: readonly Region[]): Curve[] {
  const loops = regions.flatMap(regionLoops);
  const borders = new NearCurves(loops.flat().map((curve) => ({ curve, box: curveBounds(curve) })));
  return curves.flatMap((c) => {
    const near = borders.near(curveBounds(c));
    const pieces = splitAt(
      c,
      near.flatMap(({ curve }) => intersectCurves(c, curve)),
    );
    return pieces.filter((piece) => {
      const middle = pointAt(piece, 0.5);
      return spansInside(loops, middle, { x: 1, y: 0 }).some(([a, b]) => a <= 0 && b >= 0);
    });
  });
}
