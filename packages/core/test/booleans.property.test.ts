import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { examinePart, type StepDocument } from "../src/index.ts";
import { combine, overlapOf } from "../src/plane/boolean.ts";
import { moveLoop, rotation, translation } from "../src/plane/isometry.ts";
import { circleLoop, type Loop, loopArea, loopLength } from "../src/plane/loop.ts";
import {
  flattenedCircle,
  keyholeLoop,
  mostRounding,
  polygonCorners,
  rectangleCorners,
  roundedPolygon,
  slotLoop,
} from "../src/plane/opening-loops.ts";
import { point } from "../src/plane/point.ts";
import { part, plate, told } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(101);

const plain = (side: string) => side;
/** Every form that an opening can have, of sizes from tiny to large, about the origin. */
const forms = fc.oneof(
  spread(0.2, 20).map((r): Loop => circleLoop(point(0, 0), r)),
  fc.record({ w: spread(0.5, 40), h: spread(0.5, 40), share: spread(0, 1) }).map(({ w, h, share }) => {
    const corners = rectangleCorners(w, h);
    return roundedPolygon(corners, mostRounding(corners) * share, [], "r");
  }),
  fc
    .record({ n: fc.integer({ min: 3, max: 12 }), across: spread(1, 40), share: spread(0, 1) })
    .map(({ n, across, share }) => roundedPolygon(polygonCorners(n, across), (across / 2) * share, [], "r")),
  fc.record({ w: spread(1, 40), h: spread(1, 20) }).map(({ w, h }) => slotLoop(w, h, plain)),
  fc
    .record({ head: spread(2, 20), neck: spread(0.1, 0.9), more: spread(0.1, 20) })
    .map(({ head, neck, more }) => keyholeLoop(head, head * neck, head / 2 + more, plain)),
  fc
    .record({ d: spread(1, 30), share: spread(0.1, 0.95) })
    .map(({ d, share }) => flattenedCircle(d, d * share, plain)),
);
/** Anywhere near, or on whole numbers and not turned, where borders lie on one another again and again. */
const loops = fc
  .record({
    form: forms,
    x: spread(-25, 25),
    y: spread(-25, 25),
    turned: spread(0, 6.3),
    whole: fc.boolean(),
  })
  .map(({ form, x, y, turned, whole }) =>
    whole
      ? moveLoop(translation(point(Math.round(x), Math.round(y))), form)
      : moveLoop(translation(point(x, y)), moveLoop(rotation(point(0, 0), turned), form)),
  );

const area = (list: readonly Loop[]) => list.reduce((sum, l) => sum + loopArea(l), 0);
const isClosed = (loop: Loop) =>
  loop.every((c, i) => {
    const next = loop[(i + 1) % loop.length];
    return Math.hypot(c.b.x - next.a.x, c.b.y - next.a.y) < 1e-6;
  });

describe("two openings with arcs", () => {
  test("have together what both have less what they share, and every border is closed", () => {
    fc.assert(
      fc.property(loops, loops, (a, b) => {
        const both = combine([[a], [b]], ([p, q]) => p > 0 && q > 0);
        const any = combine([[a], [b]], ([p, q]) => p > 0 || q > 0);
        const first = combine([[a], [b]], ([p, q]) => p > 0 && q === 0);
        const second = combine([[a], [b]], ([p, q]) => q > 0 && p === 0);
        const size = Math.max(1, loopArea(a) + loopArea(b));
        const same = (x: number, y: number) => expect(Math.abs(x - y)).toBeLessThan(1e-6 * size);
        same(area(any), loopArea(a) + loopArea(b) - area(both));
        same(area(first), loopArea(a) - area(both));
        same(area(second), loopArea(b) - area(both));
        same(area(overlapOf([a, b]).flatMap((r) => [r.outer, ...r.holes])), area(both));
        for (const loop of [...both, ...any, ...first, ...second]) expect(isClosed(loop)).toBe(true);
      }),
      { numRuns: casesOf(600) },
    );
  });

  test("come out as they were when one is taken off and put on again", () => {
    fc.assert(
      fc.property(loops, loops, (a, b) => {
        const rest = combine([[a], [b]], ([p, q]) => p > 0 && q === 0);
        const shared = combine([[a], [b]], ([p, q]) => p > 0 && q > 0);
        const again = combine([[...rest, ...shared]], ([p]) => p > 0);
        expect(Math.abs(area(again) - loopArea(a))).toBeLessThan(1e-6 * Math.max(1, loopArea(a)));
      }),
      { numRuns: casesOf(300) },
    );
  });
});

describe("openings that meet as nobody means it", () => {
  const union = (...list: Loop[]) => combine([list], ([p]) => p > 0);
  const less = (a: Loop, ...list: Loop[]) => combine([[a], list], ([p, q]) => p > 0 && q === 0);
  const base = roundedPolygon(rectangleCorners(60, 40), 0, [], "");
  const hole = (x: number, y: number, r: number) => circleLoop(point(x, y), r);

  test("circles that touch from outside are two, and two that touch from inside are the larger", () => {
    expect(area(union(hole(0, 0, 5), hole(10, 0, 5)))).toBeCloseTo(50 * Math.PI, 7);
    expect(area(union(hole(0, 0, 5), hole(3, 0, 2)))).toBeCloseTo(25 * Math.PI, 7);
    expect(area(less(hole(0, 0, 5), hole(3, 0, 2)))).toBeCloseTo(21 * Math.PI, 7);
  });

  test("the same circle twice is one, and less itself nothing", () => {
    expect(area(union(hole(1, 2, 5), hole(1, 2, 5)))).toBeCloseTo(25 * Math.PI, 9);
    expect(less(hole(1, 2, 5), hole(1, 2, 5))).toEqual([]);
    expect(area(union(...Array.from({ length: 40 }, () => hole(1, 2, 5))))).toBeCloseTo(25 * Math.PI, 9);
  });

  test("a circle that is tangent to an edge leaves all but itself, from within and from without", () => {
    expect(area(less(base, hole(0, 15, 5)))).toBeCloseTo(2400 - 25 * Math.PI, 7);
    expect(area(less(base, hole(0, 25, 5)))).toBeCloseTo(2400, 7);
    for (const off of [1e-9, -1e-9, 1e-7, -1e-7, 1e-5, -1e-5])
      expect(Math.abs(area(less(base, hole(0, 15 + off, 5))) - (2400 - 25 * Math.PI))).toBeLessThan(1e-3);
  });

  test("arcs that lie on one another are one border", () => {
    const corners = rectangleCorners(60, 40);
    const round = roundedPolygon(corners, 8, [], "");
    // A circle whose quarter is the corner of the plate, and a ring cut to its middle line.
    expect(area(less(round, hole(22, 12, 8)))).toBeCloseTo(loopArea(round) - 64 * Math.PI, 7);
    expect(area(union(round, hole(22, 12, 8)))).toBeCloseTo(loopArea(round), 7);
    expect(area(less(hole(0, 0, 9), hole(0, 0, 6)))).toBeCloseTo(45 * Math.PI, 9);
    const slot = slotLoop(20, 8, plain);
    expect(area(less(slot, hole(6, 0, 4)))).toBeCloseTo(loopArea(slot) - 16 * Math.PI, 7);
  });

  test("a pattern at a pitch that is its diameter opens as much as all of its openings", () => {
    const row = (pitch: string, rowsStand: string): StepDocument => ({
      ...{ id: "s2", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round", diameter: "6" },
      ...{ arranged: "grid", count: "9", pitch, rows: "7", rowPitch: pitch, rowsStand },
    });
    for (const rowsStand of ["square", "triangle"]) {
      const build = examinePart(part(plate("90", "80"), row("6", rowsStand)));
      expect(7200 - build.blank!.area).toBeCloseTo(63 * 9 * Math.PI, 5);
      // What is left between four, or three, that touch hangs on nothing: that is told, and nobody cuts it unawares.
      expect(told(build).join()).toMatch(/The blank falls into \d+ pieces/);
      const over = examinePart(part(plate("90", "80"), row("5.5", rowsStand)));
      expect(7200 - over.blank!.area).toBeLessThan(63 * 9 * Math.PI - 10);
      expect(Number.isFinite(over.blank!.area)).toBe(true);
    }
  });

  test("keep their lengths: what is cut along is not counted twice", () => {
    const two = less(base, hole(-10, 0, 4), hole(10, 0, 4));
    expect(two.reduce((sum, l) => sum + loopLength(l), 0)).toBeCloseTo(200 + 16 * Math.PI, 9);
  });
});

describe("areas that stand apart by less than counts", () => {
  // Half of what is the same place: their borders meet within rounding only.
  const hair = 0.6e-7;
  const block = (x0: number, y0: number, x1: number, y1: number): Loop =>
    [point(x0, y0), point(x1, y0), point(x1, y1), point(x0, y1)].map((p, i, all) => ({
      ...{ kind: "line", a: p, b: all[(i + 1) % 4] },
    }));
  const turned = (loop: Loop) => moveLoop(rotation(point(0, 0), Math.PI / 2), loop);

  test.each([
    ["beside one another", (l: Loop) => l],
    ["over one another", turned],
  ] as const)("become one, %s", (_, lie) => {
    const large = lie(block(0, 0, 10, 10));
    for (const small of [block(10 + hair, 2, 20, 8), block(-10, 2, -hair, 8)].map(lie))
      for (const both of [
        [large, small],
        [small, large],
      ]) {
        const one = combine([both], ([n]) => n > 0);
        expect(one).toHaveLength(1);
        expect(loopArea(one[0])).toBeCloseTo(160, 5);
      }
  });
});
