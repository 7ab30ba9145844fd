import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { NearPlaces, NumberedPlaces } from "../src/plane/near-places.ts";
import { distance, type Point } from "../src/plane/point.ts";
import { expectGrowth } from "./growth.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(61);

const place = fc.record({ x: spread(-3, 3), y: spread(-3, 3) });
/** Beyond 2^53 a cell and its neighbour have one number. */
const far = fc.constantFrom(0, 1e6, -1e9, 1e16, -1e300);

describe("places in the plane", () => {
  test("are found when they are near enough, each once, wherever in the plane they are", () => {
    fc.assert(
      fc.property(fc.array(place, { maxLength: 60 }), place, spread(0, 1), far, (all, p, within, off) => {
        const moved = ({ x, y }: Point) => ({ x: x + off, y: y - off });
        const places = new NearPlaces<number>(1);
        for (const [i, at] of all.map(moved).entries()) places.add(at, i);
        const found = places.near(moved(p), within).map((f) => f.thing);
        const wanted = all.flatMap((at, i) => (distance(moved(at), moved(p)) <= within ? [i] : []));
        expect(found.sort((a, b) => a - b)).toEqual(wanted);
      }),
      { numRuns: casesOf(500) },
    );
  });

  test("are found over the border of a cell, also where the quotient of the border is rounded", () => {
    const cells = fc.constantFrom(0.05, 0.1, 0.3, 0.7);
    const hair = fc.constantFrom(0, 1e-9, -1e-9, 1e-12, -1e-12);
    fc.assert(
      fc.property(cells, fc.integer({ min: -9000, max: 9000 }), hair, hair, (cell, k, u, v) => {
        const places = new NearPlaces<string>(cell);
        const border = k * cell;
        places.add({ x: border + u, y: 7 }, "here");
        expect(places.near({ x: border + v, y: 7 }, cell).length).toBe(1);
        expect(places.near({ x: border + v, y: 7 }, 1e-8).length).toBe(1);
        expect(places.near({ x: border + v + cell * 0.99, y: 7 }, cell).length).toBe(1);
        expect(places.near({ x: border + v - cell * 0.99, y: 7 }, cell).length).toBe(1);
        expect(places.near({ x: border + cell * 1.01, y: 7 }, cell).length).toBe(0);
      }),
      { numRuns: casesOf(2000) },
    );
  });

  test("by number are one where they are within the distance, and keep the first one's coordinates", () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 1, maxLength: 40 }), (all) => {
        const numbered = new NumberedPlaces(0.25);
        for (const p of all) {
          const before = numbered.at.length;
          const id = numbered.of(p);
          expect(distance(numbered.at[id], p)).toBeLessThanOrEqual(0.25);
          if (id === before) {
            expect(numbered.at[id]).toBe(p);
            for (const q of numbered.at.slice(0, before)) expect(distance(p, q)).toBeGreaterThan(0.25);
          }
        }
        for (const [id, p] of numbered.at.entries()) expect(numbered.of(p)).toBe(id);
      }),
      { numRuns: casesOf(300) },
    );
  });

  test("of thousands those at a place are found without looking at the others", () => {
    expectGrowth(1.6, [4000, 8000, 16_000, 32_000], (n) => () => {
      const side = Math.ceil(Math.sqrt(n));
      const numbered = new NumberedPlaces(0.1);
      for (let k = 0; k < 2; k++)
        for (let i = 0; i < n; i++) numbered.of({ x: i % side, y: Math.floor(i / side) });
      if (numbered.at.length !== n) throw new Error("Each stands for itself.");
    });
  });
});
