import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Curve, circleLoop, extentAlong, line, polygonLoop, smallestRectangle } from "../src/index.ts";
import { expectGrowth } from "./growth.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(41);

const areaAt = (curves: readonly Curve[], angle: number) =>
  extentAlong(curves, { x: Math.cos(angle), y: Math.sin(angle) }) *
  extentAlong(curves, { x: -Math.sin(angle), y: Math.cos(angle) });

/** The least area over all directions: a fine sweep, then each hollow of it closed in on by thirds. */
function bruteForce(curves: readonly Curve[]): number {
  const steps = 2000;
  const at = (i: number) => ((Math.PI / 2) * i) / steps;
  const areas = Array.from({ length: steps + 2 }, (_, i) => areaAt(curves, at(i - 1)));
  let least = Math.min(...areas);
  for (let i = 1; i <= steps; i++) {
    if (areas[i] > areas[i - 1] || areas[i] > areas[i + 1]) continue;
    if (areas[i] > least * 1.01) continue;
    let [a, b] = [at(i - 2), at(i)];
    for (let n = 0; n < 120; n++) {
      const [p, q] = [a + (b - a) / 3, b - (b - a) / 3];
      if (areaAt(curves, p) < areaAt(curves, q)) b = q;
      else a = p;
    }
    least = Math.min(least, areaAt(curves, (a + b) / 2), areaAt(curves, a), areaAt(curves, b));
  }
  return least;
}

const place = fc.record({ x: spread(-200, 200), y: spread(-200, 200) });
const arc = fc
  .record({
    c: place,
    r: spread(0.5, 150),
    start: spread(0, 6.28),
    sweep: spread(0.05, 6.2),
    ccw: fc.boolean(),
  })
  .map(({ c, r, start, sweep, ccw }): Curve => {
    const on = (angle: number) => ({ x: c.x + r * Math.cos(angle), y: c.y + r * Math.sin(angle) });
    return { kind: "arc", a: on(start), b: on(start + (ccw ? sweep : -sweep)), c, r, ccw };
  });
const straight = fc.tuple(place, place).map(([a, b]) => line(a, b));
const shape = fc.array(fc.oneof(arc, straight), { minLength: 1, maxLength: 12 });

describe("the smallest rectangle", () => {
  it("is as small as any that a search over all directions finds, arcs included", () => {
    fc.assert(
      fc.property(shape, (curves) => {
        const found = smallestRectangle(curves)!;
        const least = bruteForce(curves);
        expect(found.along * found.across).toBeLessThanOrEqual(least * (1 + 1e-9) + 1e-9);
        // And it is a rectangle about the shape: at its direction the shape reaches as far as it says.
        const [c, s] = [Math.cos(found.angle), Math.sin(found.angle)];
        expect(Math.abs(extentAlong(curves, { x: c, y: s }) - found.along)).toBeLessThan(1e-9);
        expect(Math.abs(extentAlong(curves, { x: -s, y: c }) - found.across)).toBeLessThan(1e-9);
        expect(found.along).toBeGreaterThanOrEqual(found.across * (1 - 1e-9));
      }),
      { numRuns: casesOf(120) },
    );
  });

  it("of a rectangle turned by any angle is that rectangle", () => {
    fc.assert(
      fc.property(spread(5, 300), spread(5, 300), spread(-3, 3), (w, h, angle) => {
        const [c, s] = [Math.cos(angle), Math.sin(angle)];
        const turned = [
          [0, 0],
          [w, 0],
          [w, h],
          [0, h],
        ].map(([x, y]) => ({ x: x * c - y * s, y: x * s + y * c }));
        const found = smallestRectangle(polygonLoop(turned))!;
        expect(found.along).toBeCloseTo(Math.max(w, h), 8);
        expect(found.across).toBeCloseTo(Math.min(w, h), 8);
      }),
    );
  });

  it("does not turn what lies straight already, nor a disc", () => {
    expect(
      smallestRectangle(
        polygonLoop([
          { x: 0, y: 0 },
          { x: 80, y: 0 },
          { x: 80, y: 30 },
          { x: 0, y: 30 },
        ]),
      ),
    ).toEqual({
      angle: 0,
      along: 80,
      across: 30,
    });
    const disc = smallestRectangle(circleLoop({ x: 10, y: 20 }, 15))!;
    expect(disc.angle).toBe(0);
    expect(disc.along).toBeCloseTo(30, 12);
    expect(smallestRectangle([])).toBeUndefined();
  });

  it("leans a half disc on its arc where that is smaller: 2r by r", () => {
    const half: Curve[] = [
      { kind: "arc", a: { x: 10, y: 0 }, b: { x: -10, y: 0 }, c: { x: 0, y: 0 }, r: 10, ccw: true },
      line({ x: -10, y: 0 }, { x: 10, y: 0 }),
    ];
    const found = smallestRectangle(half)!;
    expect(found.along * found.across).toBeCloseTo(200, 9);
  });

  it("takes time that grows with the number of curves and no faster", () => {
    const ring = (n: number): Curve[] =>
      Array.from({ length: n }, (_, i): Curve => {
        const angle = (i / n) * 2 * Math.PI;
        const c = { x: 500 * Math.cos(angle), y: 500 * Math.sin(angle) };
        return circleLoop(c, 3)[0];
      });
    const sizes = [1000, 2000, 4000, 8000];
    expectGrowth(1.6, sizes, (n) => {
      const curves = ring(n);
      return () => smallestRectangle(curves);
    });
  });
});
