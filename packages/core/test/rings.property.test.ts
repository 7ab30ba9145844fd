import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { directionAt, flattenCurve, line } from "../src/plane/curve.ts";
import { moveLoop, rotation, translation } from "../src/plane/isometry.ts";
import { circleLoop, type Loop } from "../src/plane/loop.ts";
import { keyholeLoop, rectangleCorners, roundedPolygon, slotLoop } from "../src/plane/opening-loops.ts";
import { hypotenuse, point } from "../src/plane/point.ts";
import {
  BORDER_GOES_ON,
  GOES_ON,
  pointsOf,
  type Ring,
  ringOf,
  STARTS,
  STRAIGHT,
} from "../src/plane/rings.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(227);

const plain = (side: string) => side;
const loops = fc
  .record({
    form: fc.oneof(
      spread(0.3, 30).map((r): Loop => circleLoop(point(0, 0), r)),
      fc.record({ w: spread(1, 40), h: spread(1, 40) }).map(({ w, h }) => slotLoop(w, h, plain)),
      spread(4, 20).map((d) => keyholeLoop(d, d / 2, d, plain)),
      spread(0, 4).map((r) => roundedPolygon(rectangleCorners(30, 12), r, [], "r")),
    ),
    x: spread(-500, 500),
    turned: spread(0, 6),
  })
  .map(({ form, x, turned }) =>
    moveLoop(translation(point(x, -x)), moveLoop(rotation(point(0, 0), turned), form)),
  );

const edgesWith = (ring: Ring, what: number) => ring.edges.filter((e) => (e & what) !== 0).length;

describe("a loop as a ring of points", () => {
  test("has the points of its curves, one after the other, and says which are straight and where each begins", () => {
    fc.assert(
      fc.property(loops, spread(0.01, 0.5), (loop, chord) => {
        const ring = ringOf(loop, chord);
        expect(pointsOf(ring)).toEqual(loop.flatMap((c) => flattenCurve(c, chord)));
        expect(ring.xy.length).toBe(2 * ring.edges.length);
        expect(ring.normals.length).toBe(4 * ring.edges.length);
        expect(edgesWith(ring, STARTS)).toBe(loop.length);
        expect(edgesWith(ring, STRAIGHT)).toBe(loop.filter((c) => c.kind === "line").length);
        expect(edgesWith(ring, GOES_ON)).toBe(0);
        expect(ring.round).toBe(edgesWith(ring, STRAIGHT) === 0);
      }),
      { numRuns: casesOf(200) },
    );
  });

  test("looks outwards along each of its edges, at both its ends, square to its curve", () => {
    fc.assert(
      fc.property(loops, (loop) => {
        const ring = ringOf(loop, 0.05);
        const points = pointsOf(ring);
        let curve = -1;
        for (let i = 0; i < ring.edges.length; i++) {
          if ((ring.edges[i] & STARTS) !== 0) curve++;
          const c = loop[curve];
          const [p, q] = [points[i], points[(i + 1) % ring.edges.length]];
          for (const [k, at] of [p, q].entries()) {
            const [x, y] = ring.normals.slice(4 * i + 2 * k, 4 * i + 2 * k + 2);
            expect(hypotenuse(x, y)).toBeCloseTo(1, 6);
            // The metal is at the left of the way.
            expect((q.x - p.x) * y - (q.y - p.y) * x).toBeLessThan(0);
            const way =
              c.kind === "line" ? directionAt(c, 0) : { x: (at.y - c.c.y) / c.r, y: (c.c.x - at.x) / c.r };
            expect(Math.abs(x * way.x + y * way.y)).toBeLessThan(1e-6);
          }
        }
      }),
      { numRuns: casesOf(100) },
    );
  });

  test("keeps in mind beyond which edges the metal goes on", () => {
    const corners = [point(0, 0), point(10, 0), point(10, 5)];
    const loop = corners.map((p, i) => line(p, corners[(i + 1) % 3], i === 1 ? BORDER_GOES_ON : undefined));
    expect(ringOf(loop, 0.1).edges.map((e) => (e & GOES_ON) !== 0)).toEqual([false, true, false]);
  });
});
