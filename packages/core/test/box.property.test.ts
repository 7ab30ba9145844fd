import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { boxGap, boxIn, cornersOf } from "../src/collision/box.ts";
import { convexOf, nearest, overlapDepth } from "../src/collision/convex.ts";
import { crossV, scaleV, type Vector } from "../src/space/vector.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(20261126);
const RUNS = casesOf(500);

const unit = (v: Vector): Vector => scaleV(v, 1 / Math.hypot(...v));
const vector = (most: number) =>
  fc.tuple(spread(-most, most), spread(-most, most), spread(-most, most)).map((v): Vector => v);

/** Boxes that stand anyhow, some of them along the axes of space. */
const box = fc
  .record({
    at: vector(12),
    half: fc.tuple(spread(0.1, 8), spread(0.1, 8), spread(0.1, 8)),
    turned: fc.boolean(),
    x: vector(1).filter((v) => Math.hypot(...v) > 0.1),
    other: vector(1).filter((v) => Math.hypot(...v) > 0.1),
  })
  .filter(({ x, other }) => Math.hypot(...crossV(unit(x), unit(other))) > 0.05)
  .map(({ at, half, turned, x, other }) => {
    const a = turned ? unit(x) : ([1, 0, 0] as Vector);
    const c = turned ? unit(crossV(x, other)) : ([0, 0, 1] as Vector);
    const b = crossV(c, a);
    return boxIn([a, b, c], at, scaleV(half, -1), half);
  });

describe("two boxes that stand askew", () => {
  test("are apart by what the fifteen directions of their bodies say, and overlap as deep", () => {
    fc.assert(
      fc.property(box, box, (p, q) => {
        const [a, b] = [p, q].map((one) => convexOf(cornersOf(one)));
        const gap = boxGap(p, q, Number.POSITIVE_INFINITY);
        const depth = overlapDepth(a, b, Number.NEGATIVE_INFINITY);
        if (gap < 0) expect(gap).toBeCloseTo(-depth, 7);
        else {
          // Their distance is no less, and is all of it where a face looks at the other.
          const far = nearest(a, b);
          expect(far.distance).toBeGreaterThanOrEqual(gap - 1e-7);
          expect(depth).toBeLessThanOrEqual(1e-9);
          const [low, high] = [far.from, far.to].map((v) => Math.hypot(...v));
          expect(Math.abs(high - low)).toBeLessThanOrEqual(far.distance + 1e-9);
        }
        expect(boxGap(q, p, Number.POSITIVE_INFINITY)).toBeCloseTo(gap, 9);
        expect(boxGap(p, q) >= 0).toBe(gap >= 0);
      }),
      { numRuns: RUNS },
    );
  });
});
