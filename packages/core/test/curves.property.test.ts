import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { arcCovers, type Curve, curveBounds, line, pointAt, reversed, withEnds } from "../src/plane/curve.ts";
import { loopArea } from "../src/plane/loop.ts";
import { hypotenuse, point } from "../src/plane/point.ts";
import { stitchLoops } from "../src/plane/stitch.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(211);

const TURN = 2 * Math.PI;
/** Where arcs begin: anywhere, or where their circle is rightmost, highest, leftmost and lowest. */
const begin = fc.oneof(
  spread(-Math.PI, Math.PI),
  fc.integer({ min: -2, max: 2 }).map((k) => (k * Math.PI) / 2),
);
const swept = fc.oneof(
  spread(0.01, TURN - 0.01),
  fc.integer({ min: 1, max: 3 }).map((k) => (k * Math.PI) / 2),
);
const arcs = fc
  .record({ x: spread(-50, 50), y: spread(-50, 50), r: spread(0.1, 80), begin, swept, ccw: fc.boolean() })
  .map(({ x, y, r, begin, swept, ccw }): Curve => {
    const at = (angle: number) => point(x + r * Math.cos(angle), y + r * Math.sin(angle));
    const end = begin + (ccw ? swept : -swept);
    return { kind: "arc", a: at(begin), b: at(end), c: point(x, y), r, ccw, name: "north" };
  });

describe("curves", () => {
  test("the box of an arc holds all of it and no more", () => {
    fc.assert(
      fc.property(arcs, (arc) => {
        const box = curveBounds(arc);
        const along = Array.from({ length: 2001 }, (_, i) => pointAt(arc, i / 2000));
        const [xs, ys] = [along.map((p) => p.x), along.map((p) => p.y)];
        const r = arc.kind === "arc" ? arc.r : 0;
        // Between two of so many points an arc rises by no more than this.
        const hair = 1e-9 + r * (1 - Math.cos(TURN / 4000));
        for (const [found, looked] of [
          [box.minX, Math.min(...xs)],
          [box.minY, Math.min(...ys)],
          [-box.maxX, -Math.max(...xs)],
          [-box.maxY, -Math.max(...ys)],
        ]) {
          expect(found).toBeLessThanOrEqual(looked + 1e-9);
          expect(found).toBeGreaterThanOrEqual(looked - hair);
        }
      }),
      { numRuns: casesOf(300) },
    );
  });

  test("an arc covers what lies between its ends, whichever way it goes, and nothing else", () => {
    fc.assert(
      fc.property(arcs, spread(0.001, 0.999), (arc, share) => {
        if (arc.kind === "line") return;
        const angleTo = (p: { x: number; y: number }) => Math.atan2(p.y - arc.c.y, p.x - arc.c.x);
        const rest: Curve = { ...arc, a: arc.b, b: arc.a };
        expect(arcCovers(arc, angleTo(pointAt(arc, share)))).toBe(true);
        expect(arcCovers(arc, angleTo(pointAt(rest, share)))).toBe(false);
      }),
      { numRuns: casesOf(300) },
    );
  });

  test("gone the other way a curve passes the same places, and twice round it is itself", () => {
    fc.assert(
      fc.property(arcs, spread(0, 1), (arc, share) => {
        for (const c of [arc, line(arc.a, arc.b, "east")]) {
          const [p, q] = [pointAt(c, share), pointAt(reversed(c), 1 - share)];
          expect(hypotenuse(p.x - q.x, p.y - q.y)).toBeLessThan(1e-9);
          expect(reversed(reversed(c))).toEqual(c);
        }
      }),
      { numRuns: casesOf(200) },
    );
  });

  test("between other ends a curve keeps its name, and an arc its circle and its way", () => {
    const arc: Curve = {
      kind: "arc",
      a: point(5, 0),
      b: point(0, 5),
      c: point(0, 0),
      r: 5,
      ccw: true,
      name: "round",
    };
    const cut = withEnds(arc, arc.a, point(3, 4));
    expect(cut).toEqual({ ...arc, b: { x: 3, y: 4 } });
    expect(pointAt(cut, 1).x).toBeCloseTo(3, 12);
    expect(withEnds(line(point(0, 0), point(9, 0), "south"), point(2, 0), point(7, 0))).toEqual(
      line(point(2, 0), point(7, 0), "south"),
    );
  });

  test("the length of a vector is as the standard has it, to the last but one place", () => {
    fc.assert(
      fc.property(spread(-1e5, 1e5), spread(-1e-3, 1e-3), fc.boolean(), (x, y, small) => {
        const [u, v] = small ? [x * 1e-9, y] : [x, y];
        expect(Math.abs(hypotenuse(u, v) - Math.hypot(u, v))).toBeLessThanOrEqual(4e-16 * Math.hypot(u, v));
      }),
    );
  });
});

describe("curves that are chained to loops", () => {
  /** A square on its corner, metal outside it or inside. */
  const square = (x: number, y: number, isHole: boolean): Curve[] => {
    const corners = [point(x + 5, y), point(x, y + 5), point(x - 5, y), point(x, y - 5)];
    if (isHole) corners.reverse();
    return corners.map((p, i) => line(p, corners[(i + 1) % 4]));
  };
  const kept = (curves: readonly Curve[]) =>
    stitchLoops(curves)
      .loops.map((loop) => loopArea(loop).toFixed(6))
      .sort();

  test("are the same loops whichever comes first: openings that touch in points are one, metal stays apart", () => {
    const order = fc.shuffledSubarray([0, 1, 2, 3, 4, 5], { minLength: 6 });
    fc.assert(
      fc.property(order, fc.nat(23), fc.boolean(), fc.boolean(), (places, first, isHole, upright) => {
        const curves = places.flatMap((k) =>
          upright ? square(0, 10 * k, isHole) : square(10 * k, 0, isHole),
        );
        const turned = [...curves.slice(first), ...curves.slice(0, first)];
        expect(kept(turned)).toEqual(isHole ? ["-300.000000"] : Array(6).fill("50.000000"));
      }),
      { numRuns: casesOf(200) },
    );
  });

  test("that close nothing are told", () => {
    const [a, b, c] = [point(0, 0), point(1, 0), point(2, 1)];
    const chain = [line(b, c), line(a, b)];
    expect(stitchLoops(chain)).toEqual({ loops: [], open: chain });
  });
});
