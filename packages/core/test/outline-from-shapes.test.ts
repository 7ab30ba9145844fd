import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  foundRelations,
  outlineFromShapes,
  outlineRegions,
  regionArea,
  type Shape,
  solveOutline,
} from "../src/index.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(20261203);
const RUNS = casesOf(100);

const read = (shapes: readonly Shape[], options = {}) => {
  const made = outlineFromShapes("Read", shapes, options);
  if (!made.ok) throw new Error(made.error);
  return made.value;
};
const corner = (x: number, y: number, bulge = 0) => ({ at: [x, y] as const, bulge });
/** A rectangle of 60 by 40 with round corners of 5, as a chain with bulges, so far from the origin. */
const plate = (x = 0, y = 0): Shape => {
  const b = Math.tan(Math.PI / 8);
  return {
    kind: "chain",
    closed: true,
    corners: [
      corner(x + 5, y),
      corner(x + 55, y, b),
      corner(x + 60, y + 5),
      corner(x + 60, y + 35, b),
      corner(x + 55, y + 40),
      corner(x + 5, y + 40, b),
      corner(x, y + 35),
      corner(x, y + 5, b),
    ],
  };
};
const AREA = 2400 - (100 - 25 * Math.PI);
const areas = (shapes: readonly Shape[], options = {}) => {
  const { outline } = read(shapes, options);
  return outlineRegions(outline, solveOutline(outline)).regions.map(regionArea);
};

describe("shapes of a drawing file", () => {
  test("become an outline whose arcs are arcs, its lower left at 0, 0", () => {
    const { outline, notes } = read([plate(1e7, -3e6), { kind: "circle", c: [1e7 + 30, -3e6 + 20], r: 8 }]);
    expect(notes).toEqual([]);
    expect(outline.curves.map((c) => c.kind).sort()).toEqual(
      ["arc", "arc", "arc", "arc", "circle", "line", "line", "line", "line"].sort(),
    );
    expect(areas([plate(1e7, -3e6), { kind: "circle", c: [1e7 + 30, -3e6 + 20], r: 8 }])).toEqual([
      expect.closeTo(AREA - 64 * Math.PI, 5),
    ]);
    const xs = Object.values(outline.points).map(([x]) => x);
    expect(Math.min(...xs)).toBeCloseTo(0, 8);
  });

  test("are the same from separate lines and arcs as from a chain, in inches too", () => {
    const arc = (x: number, y: number, from: number): Shape => ({
      ...{ kind: "arc", c: [x, y], r: 5, from, to: from + Math.PI / 2 },
    });
    const loose: Shape[] = [
      { kind: "line", a: [55, 0], b: [5, 0] },
      { kind: "line", a: [60, 5], b: [60, 35] },
      { kind: "line", a: [5, 40], b: [55, 40] },
      { kind: "line", a: [0, 5], b: [0, 35] },
      arc(55, 5, -Math.PI / 2),
      arc(55, 35, 0),
      arc(5, 35, Math.PI / 2),
      arc(5, 5, Math.PI),
    ];
    expect(areas(loose)).toEqual([expect.closeTo(AREA, 6)]);
    expect(areas(loose, { scale: 25.4 })).toEqual([expect.closeTo(AREA * 25.4 ** 2, 3)]);
  });

  test("are joined where they nearly meet, and what is drawn twice or is a hair is left out, all told", () => {
    const gappy: Shape[] = [
      { kind: "line", a: [0, 0], b: [50, 0] },
      { kind: "line", a: [50.004, 0.002], b: [50, 30] },
      { kind: "line", a: [50, 30], b: [0, 30] },
      { kind: "line", a: [0, 30.003], b: [0, 0] },
      { kind: "line", a: [50, 0], b: [0, 0] },
      { kind: "line", a: [10, 10], b: [10, 10.001] },
    ];
    const { outline, notes } = read(gappy);
    expect(outline.curves.length).toBe(4);
    expect(notes).toEqual([
      "3 gaps were joined, the widest 0.0045 mm.",
      "1 curve was drawn twice.",
      "1 piece was too short to be a curve, and left out.",
    ]);
    expect(areas(gappy)[0]).toBeCloseTo(1500, 0);
    // A wider gap stays open, and is told by the areas.
    const { outline: open } = read(gappy, { join: 0.001 });
    expect(outlineRegions(open, solveOutline(open)).problems.length).toBeGreaterThan(0);
  });

  test.each<[string, Shape[], RegExp]>([
    ["nothing", [], /no lines, arcs or circles/],
    ["no numbers", [{ kind: "circle", c: [Number.NaN, 0], r: 3 }], /no numbers, or far too large/],
    ["1e16", [{ kind: "line", a: [0, 0], b: [1e16, 0] }], /far too large/],
    ["kilometres", [{ kind: "line", a: [0, 0], b: [2e6, 0] }], /Is it in other units/],
    [
      "20,000 curves",
      Array.from({ length: 20_000 }, (_, i): Shape => ({ kind: "circle", c: [i, 0], r: 0.3 })),
      /an outline can have 10000/,
    ],
  ])("of %s are refused in words", (_, shapes, says) => {
    const made = outlineFromShapes("Read", shapes);
    expect(made.ok ? "" : made.error).toMatch(says);
  });
});

describe("relations that hold in what was read", () => {
  test("are told once each, none of them only repeating others", () => {
    const { outline } = read([
      plate(),
      { kind: "circle", c: [20, 20], r: 4 },
      { kind: "circle", c: [40, 20], r: 4 },
    ]);
    const found = foundRelations(outline);
    const kinds = (kind: string) => found.filter((r) => r.kind === kind).length;
    expect([kinds("level"), kinds("upright"), kinds("square")]).toEqual([2, 2, 0]);
    expect(kinds("tangent")).toBe(8);
    expect(kinds("equal")).toBeGreaterThanOrEqual(2);
    const solved = solveOutline({ ...outline, relations: found });
    expect(solved.state).toBe("free");
    expect(solved.repeats).toEqual([]);
    for (const [id, [x, y]] of Object.entries(outline.points))
      expect(Math.hypot(solved.points[id][0] - x, solved.points[id][1] - y)).toBeLessThan(1e-6);
  });

  test("hold in any staircase, however long, and leave it where it is", () => {
    fc.assert(
      fc.property(fc.array(spread(1, 20), { minLength: 4, maxLength: 60 }), (steps) => {
        let [x, y] = [0, 0];
        const corners = steps.map((s, i) => {
          if (i % 2) x += s;
          else y += s;
          return corner(x, y);
        });
        const { outline } = read([{ kind: "chain", closed: false, corners }]);
        const found = foundRelations(outline);
        expect(found.filter((r) => r.kind === "level" || r.kind === "upright").length).toBe(steps.length - 1);
        const solved = solveOutline({ ...outline, relations: found });
        expect(solved.state).toBe("free");
        expect(solved.repeats).toEqual([]);
      }),
      { numRuns: RUNS },
    );
  });

  test("of 2,000 curves in one chain are found and solved without a wait", () => {
    const corners = Array.from({ length: 2000 }, (_, i) => corner(((i + 1) >> 1) * 10, (i >> 1) * 7));
    const { outline } = read([{ kind: "chain", closed: false, corners }]);
    const start = performance.now();
    const found = foundRelations(outline);
    expect(found.length).toBe(1999);
    const solved = solveOutline({ ...outline, relations: found });
    // Two thousand points, less a relation for each line between them.
    expect(solved.free).toBe(4000 - 1999);
    expect(performance.now() - start).toBeLessThan(6000);
  });

  test("of 3,000 equal circles relate each to the one before, in a moment", () => {
    const { outline } = read(
      Array.from(
        { length: 3000 },
        (_, i): Shape => ({ kind: "circle", c: [(i % 60) * 10, i - (i % 60)], r: 2 }),
      ),
    );
    const start = performance.now();
    const equal = foundRelations(outline).filter((r) => r.kind === "equal");
    expect(equal.length).toBe(2999);
    const solved = solveOutline({ ...outline, relations: equal });
    expect([solved.repeats, solved.free]).toEqual([[], 3000 * 3 - 2999]);
    expect(performance.now() - start).toBeLessThan(8000);
  });
});
