import { booleanOpD, ClipType, FillRule } from "clipper2-ts";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  asCircle,
  circleLoop,
  combine,
  flattenLoop,
  type Loop,
  loopArea,
  point,
  rectangleLoop,
} from "../src/index.ts";
import { casesOf } from "./random-cases.ts";

const coordinate = fc.integer({ min: -40, max: 40 });
const size = fc.integer({ min: 1, max: 40 });
const rectangle = fc
  .tuple(coordinate, coordinate, size, size)
  .map(([x, y, w, h]): Loop => rectangleLoop(x, y, x + w, y + h));
const circle = fc
  .tuple(coordinate, coordinate, size)
  .map(([x, y, d]): Loop => circleLoop(point(x, y), d / 2));
// Whole numbers on purpose: edges that coincide, corners on edges and circles that just touch come up all the time.
const shapes = fc.array(fc.oneof(rectangle, circle), { minLength: 1, maxLength: 6 });

const CHORD = 1e-4;
const area = (loops: readonly Loop[]) => loops.reduce((sum, l) => sum + loopArea(l), 0);

/** The same operation by a library, on chords. */
function byChords(type: ClipType, a: readonly Loop[], b: readonly Loop[]): number {
  const paths = (loops: readonly Loop[]) =>
    loops.map((l) => flattenLoop(l, CHORD).map(({ x, y }) => ({ x, y })));
  const result = booleanOpD(type, paths(a), paths(b), FillRule.NonZero, 8);
  return result.reduce((sum, path) => {
    const twice = path.reduce((s, p, i) => {
      const q = path[(i + 1) % path.length];
      return s + p.x * q.y - q.x * p.y;
    }, 0);
    return sum + twice / 2;
  }, 0);
}

describe("combining areas of lines and arcs agrees with a clipping library on fine chords", () => {
  const operations: [string, ClipType, (w: readonly number[]) => boolean][] = [
    ["union", ClipType.Union, ([p, q]) => p > 0 || q > 0],
    ["intersection", ClipType.Intersection, ([p, q]) => p > 0 && q > 0],
    ["difference", ClipType.Difference, ([p, q]) => p > 0 && q === 0],
  ];
  for (const [name, type, keep] of operations) {
    test(name, () => {
      fc.assert(
        fc.property(shapes, shapes, (a, b) => {
          const exact = area(combine([a, b], keep));
          expect(Math.abs(exact - byChords(type, a, b))).toBeLessThan(0.05);
        }),
        { numRuns: casesOf(400) },
      );
    });
  }

  test("what is cut from an area and what is left make the area", () => {
    fc.assert(
      fc.property(shapes, shapes, (a, b) => {
        const whole = area(combine([a], ([p]) => p > 0));
        const left = area(combine([a, b], ([p, q]) => p > 0 && q === 0));
        const cut = area(combine([a, b], ([p, q]) => p > 0 && q > 0));
        expect(left + cut).toBeCloseTo(whole, 5);
      }),
      { numRuns: casesOf(400) },
    );
  });
});

test("a hole stays one circle through a difference, never a chain of chords", () => {
  const loops = combine(
    [[rectangleLoop(0, 0, 50, 30)], [circleLoop(point(20, 15), 4)]],
    ([p, q]) => p > 0 && q === 0,
  );
  const hole = loops.find((l) => loopArea(l) < 0)!;
  expect(asCircle(hole)).toEqual({ c: point(20, 15), r: 4 });
  expect(area(loops)).toBeCloseTo(50 * 30 - Math.PI * 16, 9);
});

test("a hole over an edge leaves an arc with its own centre and radius", () => {
  const [loop] = combine(
    [[rectangleLoop(0, 0, 50, 30)], [circleLoop(point(50, 15), 4)]],
    ([p, q]) => p > 0 && q === 0,
  );
  const arcs = loop.filter((c) => c.kind === "arc");
  expect(arcs.length).toBe(1);
  expect(arcs[0]).toMatchObject({ c: { x: 50, y: 15 }, r: 4, ccw: false });
});
