import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  drawInto,
  type Outline,
  outlineProblems,
  outlineRegions,
  putTool,
  regionArea,
  solveOutline,
} from "../src/index.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { anyKnownOutline, nothingDrawn } from "./random-outlines.ts";

sameCases(20261128);
const RUNS = casesOf(60);
/** A foot: level, upright, fixed, driven along X and Y and by a value of its own. */
const foot: Outline = {
  ...nothingDrawn,
  name: "Foot",
  points: { a: [0, 0], b: [40, 0], c: [40, 15], d: [0, 15], m: [12, 7] },
  curves: [
    { id: "s", kind: "line", a: "a", b: "b" },
    { id: "e", kind: "line", a: "b", b: "c" },
    { id: "n", kind: "line", a: "c", b: "d" },
    { id: "w", kind: "line", a: "d", b: "a" },
    { id: "o", kind: "circle", c: "m", r: 3 },
  ],
  relations: [
    { id: "r1", kind: "fixed", of: ["a"] },
    { id: "r2", kind: "level", of: ["s"] },
    { id: "r3", kind: "upright", of: ["e"] },
    { id: "r4", kind: "level", of: ["d", "c"] },
    { id: "r5", kind: "upright", of: ["w"] },
  ],
  dimensions: [
    { id: "d1", kind: "length", of: ["s"], value: "long", name: "wide" },
    { id: "d2", kind: "length", of: ["e"], value: "wide*3/8" },
    { id: "d3", kind: "distanceX", of: ["a", "m"], value: 12 },
    { id: "d4", kind: "distanceY", of: ["a", "m"], value: 7 },
    { id: "d5", kind: "radius", of: ["o"], value: 3 },
  ],
  values: [{ name: "long", value: 40 }],
};
const put = (
  into: Outline,
  what: Outline,
  from: readonly [number, number],
  angle: number,
  mirrored = false,
) => {
  const to = [from[0] + 20 * Math.cos(angle), from[1] + 20 * Math.sin(angle)] as const;
  const drawn = drawInto(into, putTool("put", what, mirrored), {
    places: [{ at: from }, { at: to }],
    typed: {},
    picks: [],
  });
  if ("problem" in drawn) throw new Error(drawn.problem);
  return drawn.outline;
};
/** With the two places of the put fixed, as what they were caught by would hold them. */
const held = (outline: Outline): Outline => ({
  ...outline,
  relations: [
    ...outline.relations,
    { id: "z1", kind: "fixed", of: ["p1"] },
    { id: "z2", kind: "fixed", of: ["p2"] },
  ],
});

describe("an outline that is put into another", () => {
  test("stands at two places, turned and mirrored, and all of it is driven there as it was", () => {
    fc.assert(
      fc.property(
        fc.tuple(spread(-50, 50), spread(-50, 50)),
        spread(-3, 3),
        fc.boolean(),
        ([x, y], angle, mirrored) => {
          const outline = put(nothingDrawn, foot, [x, y], angle, mirrored);
          expect(outlineProblems(outline)).toEqual([]);
          const solved = solveOutline(held(outline));
          // What is fixed and driven in its own frame is so in this one, but for helping lines, which may be as long as they like.
          expect(solved.state).not.toBe("conflict");
          const circle = outline.curves.find((c) => c.kind === "circle")!;
          const [cx, cy] = solved.points[circle.kind === "circle" ? circle.c : ""];
          const [dx, dy] = [cx - x, cy - y];
          const side = mirrored ? -1 : 1;
          expect(dx * Math.cos(angle) + dy * Math.sin(angle)).toBeCloseTo(12, 6);
          expect((-dx * Math.sin(angle) + dy * Math.cos(angle)) * side).toBeCloseTo(7, 6);
          const longer = { ...held(outline), values: outline.values!.map((v) => ({ ...v, value: 64 })) };
          const after = solveOutline(longer);
          expect(after.state).not.toBe("conflict");
          const { regions } = outlineRegions(longer, after);
          expect(regionArea(regions[0])).toBeCloseTo(64 * 24 - 9 * Math.PI, 4);
        },
      ),
      { numRuns: RUNS },
    );
  });

  test("keeps its names, and where the drawing has them takes others and follows them", () => {
    const twice = put(put(nothingDrawn, foot, [0, 0], 0), foot, [100, 0], 0.5);
    expect(twice.dimensions.flatMap((d) => d.name ?? [])).toEqual(["wide", "wide_2"]);
    expect(twice.values!.map((v) => v.name)).toEqual(["long", "long_2"]);
    expect(twice.dimensions.filter((d) => typeof d.value === "string").map((d) => d.value)).toEqual([
      "long",
      "wide*3/8",
      "long_2",
      "wide_2*3/8",
    ]);
    const other = solveOutline({
      ...twice,
      values: twice.values!.map((v) => (v.name === "long_2" ? { ...v, value: 56 } : v)),
    });
    const [first, second] = twice.dimensions
      .filter((d) => d.kind === "length" && d.name)
      .map((d) => other.values[d.id]);
    expect([first, second]).toEqual([expect.closeTo(40, 6), expect.closeTo(56, 6)]);
  });

  test("of any kind holds where it is put", () => {
    fc.assert(
      fc.property(anyKnownOutline, spread(-3, 3), fc.boolean(), ({ drawn }, angle, mirrored) => {
        const before = solveOutline(drawn);
        if (before.state === "conflict") return;
        const there: Outline = {
          ...drawn,
          points: before.points,
          curves: drawn.curves.map((c) => (c.kind === "circle" ? { ...c, r: before.radii[c.id] } : c)),
        };
        const outline = put(nothingDrawn, there, [7, -4], angle, mirrored);
        expect(outlineProblems(outline)).toEqual([]);
        expect(solveOutline(outline).state).not.toBe("conflict");
      }),
      { numRuns: RUNS },
    );
  }, 60_000);

  test("needs a direction", () => {
    const drawn = drawInto(nothingDrawn, putTool("put", foot, false), {
      places: [{ at: [3, 3] }, { at: [3, 3] }],
      typed: {},
      picks: [],
    });
    expect(drawn).toEqual({ problem: expect.stringContaining("a second place") });
  });
});
