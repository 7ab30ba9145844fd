import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { along, cross, dot, type Point, point, subtract } from "../src/plane/point.ts";
import { type Stretch, Stretches } from "../src/plane/stretches.ts";
import { expectGrowth } from "./growth.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(43);

// Few directions and whole offsets on purpose: most of them share a line with others.
const axes: Point[] = [0, 1, 2, 3, 7].map((k) =>
  point(Math.cos((k * Math.PI) / 6), Math.sin((k * Math.PI) / 6)),
);
const stretch = fc
  .record({
    axis: fc.constantFrom(...axes),
    back: fc.boolean(),
    off: fc.integer({ min: -3, max: 3 }),
    from: spread(-200, 200),
    width: spread(0, 120),
  })
  .map(({ axis, back, off, from, width }): Stretch => {
    const origin = along(along(point(0, 0), axis, from), point(-axis.y, axis.x), off * 25);
    return { origin, axis: back ? point(-axis.x, -axis.y) : axis, width };
  });

const OFF = 1e-6;
const reaches = ({ origin, axis, width }: Stretch, p: Point) => {
  const s = dot(subtract(p, origin), axis);
  return Math.abs(cross(axis, subtract(p, origin))) <= OFF && s >= -OFF && s <= width + OFF;
};
/** Whether a border lies on a stretch's line and has something of it. */
const runsAlong = ({ origin, axis, width }: Stretch, p: Point, q: Point) => {
  if ([p, q].some((at) => Math.abs(cross(axis, subtract(at, origin))) > OFF)) return false;
  const [a, b] = [p, q].map((at) => dot(subtract(at, origin), axis));
  return Math.max(a, b) >= 0 && Math.min(a, b) <= width;
};

describe("stretches of lines", () => {
  test("are found where they are: all that reach a place or lie under a border, in their order, and few others", () => {
    fc.assert(
      fc.property(
        fc.array(stretch, { minLength: 1, maxLength: 60 }),
        fc.nat(),
        spread(-0.3, 1.3),
        spread(-0.3, 1.3),
        fc.constantFrom(0, 9e-7, -9e-7, 2e-3),
        (items, which, f, g, off) => {
          const found = new Stretches(items);
          const { origin, axis, width } = items[which % items.length];
          const aside = point(-axis.y * off, axis.x * off);
          const [p, q] = [f, g].map((share) => {
            const at = along(origin, axis, width * share);
            return point(at.x + aside.x, at.y + aside.y);
          });
          const [at, under] = [found.reaching(p), found.reaching(p, q)];
          for (const item of items) {
            if (reaches(item, p)) expect(at).toContain(item);
            if (runsAlong(item, p, q)) expect(under).toContain(item);
          }
          for (const list of [at, under]) {
            const order = list.map((item) => items.indexOf(item));
            expect(order).toEqual([...order].sort((a, b) => a - b));
          }
          // What is a hundredth of a millimetre off is never looked at.
          for (const item of at)
            expect(Math.abs(cross(item.axis, subtract(p, item.origin)))).toBeLessThan(1e-5);
        },
      ),
      { numRuns: casesOf(600) },
    );
  });

  test("farther out than numbers can tell one line from the next it is an answer still", () => {
    const far = { origin: point(1e25, 1e25), axis: point(1, 0), width: 10 };
    const found = new Stretches([far, { ...far, axis: point(0, 1) }]);
    expect(found.reaching(point(1e25, 1e25))).toContain(far);
    expect(found.reaching(point(1e25, 7), point(1e25, -7))).toEqual([]);
    expect(found.reaching(point(Number.NaN, 0))).toEqual([]);
  });

  test("of thousands on one line those at a place are found without looking at the others", () => {
    expectGrowth(1.6, [4000, 8000, 16_000, 32_000], (n) => {
      const items = Array.from({ length: n }, (_, i) => ({
        origin: point(i * 2, 7),
        axis: point(1, 0),
        width: 1,
      }));
      return () => {
        const found = new Stretches(items);
        for (let i = 0; i < n; i++)
          if (found.reaching(point(i * 2 + 0.5, 7)).length !== 1) throw new Error("One lies there.");
      };
    });
  });
});
