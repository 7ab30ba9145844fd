import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { subtractLoops } from "../src/plane/boolean.ts";
import { directionAt, distanceToCurve, pointAt } from "../src/plane/curve.ts";
import { moveLoop, rotation, translation } from "../src/plane/isometry.ts";
import { fillRegions, type Lattice, latticePlace, reachFrom, spreadAlong } from "../src/plane/lattice.ts";
import { circleLoop, flattenLoop, type Loop, loopArea } from "../src/plane/loop.ts";
import { keyholeLoop, polygonCorners, rectangleCorners, roundedPolygon } from "../src/plane/opening-loops.ts";
import { type Point, point } from "../src/plane/point.ts";
import { type Region, regionLoops } from "../src/plane/region.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(91);

/** Plates with corners that are round or not, turned, with openings in them or over their edges. */
const regions = fc
  .record({
    width: spread(20, 90),
    height: spread(15, 70),
    rounding: spread(0, 7),
    turned: spread(0, 3),
    sides: fc.integer({ min: 3, max: 9 }),
    rectangle: fc.boolean(),
    cuts: fc.array(fc.record({ x: spread(-40, 40), y: spread(-30, 30), r: spread(1, 12) }), { maxLength: 5 }),
  })
  .map(({ width, height, rounding, turned, sides, rectangle, cuts }): readonly Region[] => {
    const corners = rectangle ? rectangleCorners(width, height) : polygonCorners(sides, width);
    const outer = moveLoop(rotation(point(0, 0), turned), roundedPolygon(corners, rounding, [], "r"));
    return cuts.reduce<Region[]>(
      (left, { x, y, r }) =>
        left.flatMap((region) => subtractLoops(regionLoops(region), [circleLoop(point(x, y), r)])),
      [{ outer, holes: [] }],
    );
  });

const openings = fc.oneof(
  spread(0.6, 4).map((r): Loop => circleLoop(point(0, 0), r)),
  fc
    .record({ w: spread(1, 9), h: spread(1, 6), turned: spread(0, 3) })
    .map(({ w, h, turned }) =>
      moveLoop(rotation(point(0, 0), turned), roundedPolygon(rectangleCorners(w, h), 0.3, [], "r")),
    ),
  spread(2, 5).map((head): Loop => keyholeLoop(head, head / 3, head * 1.2, (side) => side)),
);

const lattices = fc
  .record({
    angle: spread(0, 3),
    pitch: spread(3, 14),
    rows: spread(3, 14),
    shift: fc.constantFrom(0, 0.5, 0.3, -0.4),
    x: spread(-5, 5),
    y: spread(-5, 5),
  })
  .map(({ angle, pitch, rows, shift, x, y }): Lattice => {
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    return {
      origin: point(x, y),
      u: point(c * pitch, s * pitch),
      v: point(-s * rows, c * rows),
      shift,
    };
  });

/** How often fine chords of loops wind round a point. */
function inside(loops: readonly (readonly Point[])[], p: Point): boolean {
  let within = false;
  for (const points of loops)
    points.forEach((a, i) => {
      const b = points[(i + 1) % points.length];
      if (a.y > p.y !== b.y > p.y && p.x < a.x + ((p.y - a.y) / (b.y - a.y)) * (b.x - a.x)) within = !within;
    });
  return within;
}

/** The least distance from an opening's border to any border, by very many places on it; minus where some lie outside. */
function room(area: readonly Region[], opening: Loop): number {
  const borders = area.flatMap(regionLoops);
  const chords = borders.map((loop) => flattenLoop(loop, 1e-3));
  const own = flattenLoop(opening, 1e-3);
  let least = Infinity;
  for (const c of opening)
    for (let k = 0; k < 48; k++) {
      const p = pointAt(c, k / 48);
      if (!inside(chords, p)) return -1;
      for (const b of borders.flat()) least = Math.min(least, distanceToCurve(b, p));
    }
  for (const b of borders.flat())
    for (let k = 0; k < 48; k++) {
      const p = pointAt(b, k / 48);
      if (inside([own], p)) return -1;
      for (const c of opening) least = Math.min(least, distanceToCurve(c, p));
    }
  return least;
}

describe("openings that touch the border", () => {
  /** How many round openings lie within a field about the origin, by the formula of its own border. */
  const byFormula = (r: number, lattice: Lattice, within: (p: Point) => boolean) => {
    let count = 0;
    for (let j = -60; j <= 60; j++)
      for (let i = -60; i <= 60; i++) if (within(latticePlace(lattice, i, j))) count++;
    return [count, r];
  };
  const filled = (area: Loop, opening: readonly Loop[], lattice: Lattice, margin = 0) =>
    fillRegions([{ outer: area, holes: [] }], opening, lattice, margin, 1e6)!;
  const field = (w: number, h: number) => roundedPolygon(rectangleCorners(w, h), 0, [], "f");
  const square = (pitch: number, x = 0, y = 0): Lattice => ({
    origin: point(x, y),
    u: point(pitch, 0),
    v: point(0, pitch),
    shift: 0,
  });

  test.each([
    [80, 50, 4, 6, -36, -21],
    [40, 40, 5, 7.5, -17.5, -17.5],
    [60, 40, 3, 4.5, -28.5, -18.5],
  ])("from outside are none of a field %d × %d of holes %d, %d apart", (w, h, d, pitch, x, y) => {
    for (const [dx, dy] of [
      [0, 0],
      [d, 0],
      [0, d],
      [-d, -d],
    ]) {
      const lattice = square(pitch, x + dx, y + dy);
      const fits = (p: Point) => Math.abs(p.x) <= (w - d) / 2 + 1e-9 && Math.abs(p.y) <= (h - d) / 2 + 1e-9;
      const found = filled(field(w, h), [circleLoop(point(0, 0), d / 2)], lattice);
      expect([found.length, d / 2]).toEqual(byFormula(d / 2, lattice, fits));
      for (const { at } of found) expect(fits(at)).toBe(true);
    }
  });

  test.each([
    40, 60, 80,
  ])("from outside are none of a round field of %d, whichever way its rows run", (size) => {
    fc.assert(
      fc.property(fc.constantFrom(0, 15, 30, 45, 90, 137), fc.constantFrom(3, 4, 5), (degrees, d) => {
        const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
        const pitch = 1.5 * d;
        // The row through the middle has one that touches from outside, and one that does from inside.
        for (const start of [size / 2 + d / 2, size / 2 - d / 2]) {
          const lattice = {
            origin: point(c * start, s * start),
            u: point(c * pitch, s * pitch),
            v: point(-s * pitch, c * pitch),
            shift: 0,
          };
          const fits = (p: Point) => Math.hypot(p.x, p.y) <= (size - d) / 2 + 1e-9;
          const found = filled(circleLoop(point(0, 0), size / 2), [circleLoop(point(0, 0), d / 2)], lattice);
          expect([found.length, d / 2]).toEqual(byFormula(d / 2, lattice, fits));
        }
      }),
      { numRuns: casesOf(18) },
    );
  });

  test("from outside are none though they are drawn, in one area or in two", () => {
    const box = roundedPolygon(rectangleCorners(4, 4), 0, [], "b");
    const two = [-3, 3].map((x) => moveLoop(translation(point(x, 0)), box));
    for (const [opening, half] of [
      [[box], 2],
      [two, 5],
    ] as const) {
      const lattice = square(1, 0.5, 0.5);
      const found = filled(field(61, 41), opening, lattice);
      // A side that lies on the border would be one with it: such a place is none either.
      const fits = (p: Point) => Math.abs(p.x) < 30.5 - half - 1e-9 && Math.abs(p.y) < 20.5 - 2 - 1e-9;
      expect([found.length, 0]).toEqual(byFormula(0, lattice, fits));
    }
  });
});

describe("an area that is filled with openings", () => {
  test("holds just those that stand within it with their margin, as trying every place finds", () => {
    let held = 0;
    fc.assert(
      fc.property(regions, openings, lattices, spread(0, 4), (area, opening, lattice, margin) => {
        const found = fillRegions(area, [opening], lattice, margin, 1e6)!;
        const names = new Set(found.map(({ i, j }) => `${i} ${j}`));
        expect(names.size).toBe(found.length);
        held += found.length;
        for (let j = -30; j <= 30; j++)
          for (let i = -30; i <= 30; i++) {
            const at = latticePlace(lattice, i, j);
            if (Math.hypot(at.x, at.y) > 110) continue;
            const name = `${i} ${j}`;
            const there = names.delete(name);
            // Far from anything that could take it in or keep it out nothing needs to be tried.
            const left = room(area, moveLoop(translation(at), opening)) - margin;
            if (Math.abs(left) < 2e-2) continue;
            expect(there, `${name}: ${left} mm more than its margin`).toBe(left > 0);
          }
        expect([...names]).toEqual([]);
      }),
      { numRuns: casesOf(30) },
    );
    expect(held).toBeGreaterThan(100);
  }, 900_000);

  test("has exactly as many as fit: touching the margin counts, a hair beyond does not", () => {
    const square: Region = { outer: roundedPolygon(rectangleCorners(100, 60), 0, [], "r"), holes: [] };
    const lattice = { origin: point(-45, -25), u: point(10, 0), v: point(0, 10), shift: 0 };
    const count = (margin: number) =>
      fillRegions([square], [circleLoop(point(0, 0), 3)], lattice, margin, 1e6)!.length;
    expect(count(2)).toBe(60);
    expect(count(2 + 1e-5)).toBe(32);
    expect(fillRegions([square], [circleLoop(point(0, 0), 3)], lattice, 2, 59)).toBeUndefined();
    expect(fillRegions([square], [circleLoop(point(0, 0), 40)], lattice, 0, 10)).toEqual([]);
  });

  test("looks at every area of an opening that has several", () => {
    const square: Region = { outer: roundedPolygon(rectangleCorners(100, 60), 0, [], "r"), holes: [] };
    const lattice = { origin: point(-45, 0), u: point(10, 0), v: point(0, 200), shift: 0 };
    const pair = [circleLoop(point(0, 0), 2), circleLoop(point(22, 0), 2)];
    const places = fillRegions([square], pair, lattice, 1, 100)!.map(({ i }) => i);
    // The second stands 22 to the right: from -45 to 25 both are within.
    expect(places).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
    const [holed] = subtractLoops([square.outer], [circleLoop(point(-3, 0), 3)]);
    // Where the second would stand in the opening, or touch its margin, or the first does.
    expect(fillRegions([holed], pair, lattice, 1, 100)!.map(({ i }) => i)).toEqual([0, 1, 3, 5, 6, 7]);
  });

  test("takes no place that holds an opening of the area within itself", () => {
    const outer = roundedPolygon(rectangleCorners(100, 60), 0, [], "r");
    const [holed] = subtractLoops([outer], [circleLoop(point(0, 0), 1)]);
    const once = { origin: point(0, 0), u: point(200, 0), v: point(0, 200), shift: 0 };
    const ring = roundedPolygon(rectangleCorners(10, 10), 1, [], "r");
    expect(fillRegions([holed], [ring], once, 0, 10)).toEqual([]);
    expect(fillRegions([{ outer, holes: [] }], [ring], once, 0, 10)!.length).toBe(1);
  });
});

describe("what is spread along a length", () => {
  test("keeps its pitch, shares the rest at its ends, and one more would not fit", () => {
    fc.assert(
      fc.property(spread(0, 500), spread(0.5, 60), (length, pitch) => {
        const at = spreadAlong(length, { pitch });
        const last = at[at.length - 1];
        expect(at[0]).toBeCloseTo(length - last, 7);
        expect(at[0]).toBeGreaterThanOrEqual(-1e-7);
        expect(2 * at[0]).toBeLessThan(pitch + 1e-7);
        at.slice(1).forEach((s, k) => {
          expect(s - at[k]).toBeCloseTo(pitch, 7);
        });
      }),
    );
  });

  test("is spread evenly from end to end, one alone in the middle", () => {
    expect(spreadAlong(90, { count: 4 })).toEqual([0, 30, 60, 90]);
    expect(spreadAlong(90, { count: 1 })).toEqual([45]);
    expect(spreadAlong(-1, { pitch: 5 })).toEqual([]);
  });
});

test("a loop reaches as far from a point as the farthest place on it", () => {
  fc.assert(
    fc.property(openings, spread(-9, 9), spread(-9, 9), (loop, x, y) => {
      const from = point(x, y);
      const far = Math.max(
        ...loop.flatMap((c) =>
          Array.from({ length: 400 }, (_, k) => {
            const p = pointAt(c, k / 400);
            return Math.hypot(p.x - x, p.y - y);
          }),
        ),
      );
      expect(reachFrom(loop, from)).toBeGreaterThanOrEqual(far - 1e-9);
      expect(reachFrom(loop, from)).toBeLessThan(far + 1e-3);
    }),
    { numRuns: casesOf(200) },
  );
});

test("rounded polygons are closed, smooth where they are round, and lose what closed forms say", () => {
  fc.assert(
    fc.property(fc.integer({ min: 3, max: 24 }), spread(2, 60), spread(0, 1), (sides, across, share) => {
      const r = (across / 2) * share;
      const loop = roundedPolygon(polygonCorners(sides, across), r, [], "round");
      loop.forEach((c, i) => {
        const next = loop[(i + 1) % loop.length];
        expect(c.b).toEqual(next.a);
        if (r < 1e-6) return;
        const [d, e] = [directionAt(c, 1), directionAt(next, 0)];
        expect(Math.abs(d.x * e.y - d.y * e.x)).toBeLessThan(1e-6);
      });
      const k = sides * Math.tan(Math.PI / sides);
      expect(loopArea(loop)).toBeCloseTo((k * across * across) / 4 - (k - Math.PI) * r * r, 6);
    }),
    { numRuns: casesOf(300) },
  );
});
