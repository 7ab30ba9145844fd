import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { leastWidth, surelyWide } from "../src/check/small-opening.ts";
import { extentAlong, line, type Point, point, polygonLoop } from "../src/index.ts";
import { moveLoop, rotation } from "../src/plane/isometry.ts";
import { slotLoop } from "../src/plane/opening-loops.ts";
import { expectGrowth } from "./growth.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

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
      { numRuns: casesOf(500) },
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
      { numRuns: casesOf(500) },
    );
  });

  test("is never less than what is said without looking for it", () => {
    const radii = fc.array(spread(0.2, 40), { minLength: 3, maxLength: 12 });
    fc.assert(
      fc.property(radii, fc.boolean(), corners, (rays, clockwise, [{ x, y }]) => {
        const star = rays.map((r, i) => {
          const angle = (2 * Math.PI * i) / rays.length;
          return { x: x + r * Math.cos(angle), y: y + r * Math.sin(angle) };
        });
        const loop = polygonLoop(clockwise ? star.reverse() : star);
        expect(surelyWide(loop)).toBeLessThanOrEqual(leastWidth(loop) + 1e-9);
      }),
      { numRuns: casesOf(500) },
    );
  });

  test("of openings with arcs neither, and it is most of the width of long ones", () => {
    for (const [width, height] of [
      [20, 3],
      [3, 20],
      [8, 8],
      [200, 0.5],
    ]) {
      // Turned, it is longer than its box is wide or high.
      for (const turned of [0, 0.3, Math.PI / 4]) {
        const slot = moveLoop(
          rotation(point(0, 0), turned),
          slotLoop(width, height, (side) => side),
        );
        const said = surelyWide(slot);
        expect(said).toBeLessThanOrEqual(leastWidth(slot) + 1e-9);
        expect(said).toBeGreaterThan(0.6 * Math.min(width, height));
      }
    }
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
