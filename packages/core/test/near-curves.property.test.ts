import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { NearCurves } from "../src/plane/near-curves.ts";
import { type Bounds, boundsMeet } from "../src/plane/point.ts";
import { expectGrowth } from "./growth.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(417);

interface Thing {
  readonly box: Bounds;
}
const boxOf = (x: number, y: number, w: number, h: number): Bounds => ({
  minX: x,
  minY: y,
  maxX: x + w,
  maxY: y + h,
});
/** Mostly small, some as long as all that there is, some of no size at all. */
const size = fc.oneof(
  { weight: 8, arbitrary: spread(0, 3) },
  { weight: 1, arbitrary: spread(20, 120) },
  { weight: 1, arbitrary: fc.constant(0) },
);
const box = fc.tuple(spread(-50, 50), spread(-30, 30), size, size).map((v) => boxOf(...v));

describe("things by where they lie", () => {
  test("are each found once by any box that meets theirs, and no others", () => {
    fc.assert(
      fc.property(
        fc.array(box, { minLength: 1, maxLength: 400 }),
        fc.array(box, { minLength: 1, maxLength: 12 }),
        (boxes, asked) => {
          const things: Thing[] = boxes.map((b) => ({ box: b }));
          const near = new NearCurves(things);
          for (const b of asked) {
            const found = near.near(b);
            expect(new Set(found).size).toBe(found.length);
            expect(new Set(found)).toEqual(new Set(things.filter((t) => boundsMeet(t.box, b))));
            const some = found.at(-1);
            expect(near.some(b, (t) => t === some)).toBe(some !== undefined);
          }
        },
      ),
      { numRuns: casesOf(200) },
    );
  });

  test("are found without end to either side, where there is only one, and where all are alike", () => {
    const one = { box: boxOf(3, 4, 1, 1) };
    const everywhere = boxOf(-Infinity, -Infinity, Infinity, Infinity);
    expect(new NearCurves([one]).near({ ...everywhere, maxX: Infinity, maxY: Infinity })).toEqual([one]);
    expect(new NearCurves<Thing>([]).near(boxOf(0, 0, 1, 1))).toEqual([]);
    const alike = Array.from({ length: 300 }, () => ({ box: boxOf(1, 1, 0, 0) }));
    expect(new NearCurves(alike).near(boxOf(0, 0, 1, 1)).length).toBe(300);
    expect(new NearCurves(alike).near(boxOf(2, 2, 1, 1))).toEqual([]);
  });

  test("of a square field are all asked for their neighbours in a time that grows with their number", () => {
    expectGrowth(1.3, [1600, 3600, 8100, 16900], (n) => {
      const side = Math.sqrt(n);
      const things = Array.from({ length: n }, (_, i) => ({
        box: boxOf((i % side) * 10, Math.floor(i / side) * 10, 5, 5),
      }));
      return () => {
        const near = new NearCurves(things);
        let met = 0;
        for (const t of things) met += near.near(boxOf(t.box.minX - 6, t.box.minY - 6, 17, 17)).length;
        expect(met).toBe(9 * n - 12 * side + 4);
      };
    });
  });
});
