import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { outlineFromShapes, outlineRegions, type Shape, solveOutline } from "../src/index.ts";
import { arcsAlong, type Smooth } from "../src/outline/fit-arcs.ts";
import { casesOf, sameCases } from "./random-cases.ts";

sameCases(20261127);
const RUNS = casesOf(100);
const ellipse = (a: number, b: number, turn = 2 * Math.PI): Smooth => ({
  at: (t) => [a * Math.cos(turn * t), b * Math.sin(turn * t)],
  way: (t) => [-a * Math.sin(turn * t), b * Math.cos(turn * t)],
});
const cubic = (p: readonly (readonly [number, number])[]): Smooth => {
  const [x, y] = [0, 1].map((k) => p.map((q) => q[k]));
  const at = (v: number[], t: number) =>
    (1 - t) ** 3 * v[0] + 3 * (1 - t) ** 2 * t * v[1] + 3 * (1 - t) * t * t * v[2] + t ** 3 * v[3];
  const way = (v: number[], t: number) =>
    3 * (1 - t) ** 2 * (v[1] - v[0]) + 6 * (1 - t) * t * (v[2] - v[1]) + 3 * t * t * (v[3] - v[2]);
  return { at: (t) => [at(x, t), at(y, t)], way: (t) => [way(x, t), way(y, t)] };
};
/** Middles, radii and ends of a chain's pieces. */
const pieces = (corners: ReturnType<typeof arcsAlong>) =>
  corners.slice(0, -1).map(({ at: a, bulge }, i) => {
    const b = corners[i + 1].at;
    const f = (1 - bulge * bulge) / (4 * bulge);
    const c = [(a[0] + b[0]) / 2 - f * (b[1] - a[1]), (a[1] + b[1]) / 2 + f * (b[0] - a[0])] as const;
    return { a, b, bulge, c, r: Math.hypot(a[0] - c[0], a[1] - c[1]), half: 2 * Math.atan(bulge) };
  });
/** How far a place is from the nearest of many sampled along the pieces. */
const sampled = (all: ReturnType<typeof pieces>) =>
  all.flatMap(({ a, b, c, r, bulge, half }) =>
    Array.from({ length: 41 }, (_, i): readonly [number, number] => {
      const t = i / 40;
      if (bulge === 0) return [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
      const angle = Math.atan2(a[1] - c[1], a[0] - c[0]) + 2 * half * t;
      return [c[0] + r * Math.cos(angle), c[1] + r * Math.sin(angle)];
    }),
  );

describe("arcs along a curve", () => {
  test("stay within the tolerance of any cubic, and lead on into one another", () => {
    const place = fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 }));
    fc.assert(
      fc.property(fc.tuple(place, place, place, place), (p) => {
        const [lead, end] = [
          Math.hypot(p[1][0] - p[0][0], p[1][1] - p[0][1]),
          Math.hypot(p[3][0] - p[2][0], p[3][1] - p[2][1]),
        ];
        fc.pre(lead > 5 && end > 5);
        const curve = cubic(p);
        // One that comes to a stand on its way has a corner there, which arcs do not follow.
        const slowest = Math.min(...Array.from({ length: 101 }, (_, i) => Math.hypot(...curve.way(i / 100))));
        fc.pre(slowest > 3);
        const tolerance = 0.05;
        const all = pieces(arcsAlong(curve, tolerance));
        const there = sampled(all);
        for (let i = 0; i <= 60; i++) {
          const [x, y] = curve.at(i / 60);
          const off = Math.min(...there.map((q) => Math.hypot(q[0] - x, q[1] - y)));
          const coarse = Math.max(...all.map((s) => Math.hypot(s.b[0] - s.a[0], s.b[1] - s.a[1]))) / 40;
          expect(off).toBeLessThan(tolerance + coarse);
        }
        for (let i = 1; i < all.length; i++) {
          const [before, after] = [all[i - 1], all[i]];
          const way = ({ a, b, half }: typeof before, atEnd: boolean) =>
            Math.atan2(b[1] - a[1], b[0] - a[0]) + (atEnd ? half : -half);
          const kink = way(before, true) - way(after, false);
          expect(Math.abs(Math.sin(kink / 2))).toBeLessThan(1e-6);
        }
      }),
      { numRuns: RUNS },
    );
  });

  test("of an ellipse are few, and fewer the more they may be off", () => {
    const count = (tolerance: number) => pieces(arcsAlong(ellipse(40, 20), tolerance)).length;
    expect(count(0.01)).toBeLessThanOrEqual(64);
    expect(count(0.2)).toBeLessThan(count(0.01));
    const circle = pieces(arcsAlong(ellipse(25, 25), 0.01));
    for (const { r } of circle) expect(r).toBeCloseTo(25, 9);
  });

  test("make of a drawn ellipse a closed area of its size, and say how many they are and how near", () => {
    const whole: Shape = { kind: "smooth", ...ellipse(40, 20) };
    const read = outlineFromShapes("Egg", [whole]);
    if (!read.ok) throw new Error(read.error);
    expect(read.value.notes.join()).toMatch(
      /^1 curve that is no line or arc was drawn as \d+ arcs, within 0\.01 mm\.$/,
    );
    const { regions, problems } = outlineRegions(read.value.outline, solveOutline(read.value.outline));
    expect(problems).toEqual([]);
    expect(regions.length).toBe(1);
    const xs = Object.values(read.value.outline.points).map((p) => p[0]);
    expect(Math.max(...xs)).toBeGreaterThan(79.9);
    // In inches the tolerance is still of millimetres.
    const inches = outlineFromShapes("Egg", [{ kind: "smooth", ...ellipse(40 / 25.4, 20 / 25.4) }], {
      scale: 25.4,
    });
    expect(inches.ok && inches.value.outline.curves.length).toBe(read.value.outline.curves.length);
  });

  test("end even where the curve stands still, or is nothing", () => {
    const cusp = cubic([
      [0, 0],
      [50, 50],
      [0, 50],
      [50, 0],
    ]);
    expect(arcsAlong(cusp, 0.01).length).toBeGreaterThan(4);
    const nothing: Smooth = { at: () => [3, 3], way: () => [0, 0] };
    expect(
      arcsAlong(nothing, 0.01).every((c) => c.at.every(Number.isFinite) && Number.isFinite(c.bulge)),
    ).toBe(true);
    const made = outlineFromShapes("Nothing", [{ kind: "smooth", ...nothing }]);
    expect(made.ok ? "" : made.error).toMatch(/no lines, arcs or circles/);
  });
});
