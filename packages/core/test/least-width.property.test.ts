import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { leastWidth } from "../src/check/small-opening.ts";
import { extentAlong, line, type Point, polygonLoop } from "../src/index.ts";
import { expectGrowth } from "./growth.ts";
import { sameCases, spread } from "./random-cases.ts";

sameCases(59);

const corners = fc.array(fc.record({ x: spread(-50, 50), y: spread(-50, 50) }), {
  minLength: 3,
  maxLength: 14,
});

/** Between two lines square to the way from each corner to each other one: the least of them is the least there is. */
function overAllPairs(points: readonly Point[]): number {
  const curves = points.map((p) => line(p, p));
  let least = Infinity;
  for (const p of points)
    for (const q of points) {
      const length = Math.hypot(q.x - p.x, q.y - p.y);
      if (length > 1e-9)
        least = Math.min(least, extentAlong(curves, { x: -(q.y - p.y) / length, y: (q.x - p.x) / length }));
    }
  return least;
}

describe("the least width of an opening", () => {
  test("is the least over the ways between any two of its corners", () => {
    fc.assert(
      fc.property(corners, (points) => {
        const found = leastWidth(polygonLoop(points));
        expect(Math.abs(found - overAllPairs(points))).toBeLessThan(1e-9);
      }),
      { numRuns: 500 },
    );
  });

  test("of whole numbers, where sides are parallel and corners in line, too", () => {
    const whole = fc.record({ x: fc.integer({ min: -6, max: 6 }), y: fc.integer({ min: -6, max: 6 }) });
    fc.assert(
      fc.property(fc.array(whole, { minLength: 3, maxLength: 20 }), (points) => {
        const [a, b] = points;
        fc.pre(points.some((p) => (b.x - a.x) * (p.y - a.y) !== (b.y - a.y) * (p.x - a.x)));
        expect(Math.abs(leastWidth(polygonLoop(points)) - overAllPairs(points))).toBeLessThan(1e-9);
      }),
      { numRuns: 500 },
    );
  });

  test("is found in a time that grows with its corners and hardly faster", () => {
    expectGrowth(1.6, [4000, 8000, 16_000, 32_000], (n) => {
      const points = Array.from({ length: n }, (_, i) => {
        const angle = (2 * Math.PI * i) / n;
        return { x: 300 * Math.cos(angle), y: 200 * Math.sin(angle) };
      });
      const loop = polygonLoop(points);
      return () => {
        if (Math.abs(leastWidth(loop) - 400) > 0.01) throw new Error("It is as wide as its short axis.");
      };
    });
  });
});
