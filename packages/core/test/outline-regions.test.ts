import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  closeChains,
  holdAsItIs,
  type Outline,
  outlineProblems,
  outlineRegions,
  regionArea,
  removeFrom,
  solveOutline,
} from "../src/index.ts";
import { casesOf, sameCases } from "./random-cases.ts";
import { anyKnownOutline, numbersFrom } from "./random-outlines.ts";

sameCases(20261202);
const RUNS = casesOf(100);

type Place = readonly [number, number];

/** Chains of straight lines through places, each closed, or left open where its last place is null. */
function drawn(...chains: readonly (readonly (Place | null)[])[]): Outline {
  const points: Record<string, Place> = {};
  const curves: Outline["curves"][number][] = [];
  chains.forEach((chain, c) => {
    const closed = chain.at(-1) !== null;
    const places = chain.filter((p) => p !== null);
    places.forEach((p, i) => {
      points[`p${c}-${i}`] = p;
    });
    for (let i = 0; i < places.length - (closed ? 0 : 1); i++) {
      const [a, b] = [`p${c}-${i}`, `p${c}-${(i + 1) % places.length}`];
      // Drawn this way and that: a chain does not ask in which direction.
      curves.push({ id: `l${c}-${i}`, kind: "line", ...(i % 2 ? { a: b, b: a } : { a, b }) });
    }
  });
  return { format: "hillcrest-outline", version: 1, name: "", points, curves, relations: [], dimensions: [] };
}

const square = (x: number, y: number, side: number): Place[] => [
  [x, y],
  [x + side, y],
  [x + side, y + side],
  [x, y + side],
];
const found = (outline: Outline) => outlineRegions(outline, solveOutline(outline));
const areas = (outline: Outline) => found(outline).regions.map(regionArea);

describe("the areas within an outline's chains", () => {
  test("are metal, openings within it, and metal within those", () => {
    expect(areas(drawn(square(0, 0, 100)))).toEqual([expect.closeTo(10_000, 9)]);
    const nested = drawn(square(0, 0, 100), square(10, 10, 60), square(20, 20, 20), square(80, 80, 10));
    expect(areas(nested)).toEqual([expect.closeTo(10_000 - 3600 - 100, 9), expect.closeTo(400, 9)]);
    expect(found(nested).regions[0].holes.length).toBe(2);
    expect(areas(drawn(square(0, 0, 10), square(20, 0, 10)))).toEqual([
      expect.closeTo(100, 9),
      expect.closeTo(100, 9),
    ]);
  });

  test("keep arcs and circles as they are, whichever way round they are drawn", () => {
    for (const ccw of [true, false]) {
      const outline: Outline = {
        ...drawn(),
        points: { a: [0, 0], b: [0, 20], m: [0, 10], c: [3, 10] },
        curves: [
          { id: "k", kind: "arc", a: ccw ? "a" : "b", b: ccw ? "b" : "a", c: "m", ccw },
          { id: "l", kind: "line", a: "a", b: "b" },
          { id: "o", kind: "circle", c: "c", r: 2 },
        ],
      };
      const { regions, problems } = found(outline);
      expect(problems).toEqual([]);
      expect(regions.map(regionArea)).toEqual([expect.closeTo(50 * Math.PI - 4 * Math.PI, 9)]);
      const arc = regions[0].outer.find((c) => c.kind === "arc");
      expect(arc).toMatchObject({ c: { x: 0, y: 10 }, r: expect.closeTo(10, 12), name: "k" });
    }
  });

  test("a small chain close behind a large round is within it, to a thousandth", () => {
    const outline: Outline = {
      ...drawn(square(99.2, -0.1, 0.2)),
      curves: [...drawn(square(99.2, -0.1, 0.2)).curves, { id: "o", kind: "circle", c: "m", r: 100 }],
      points: { ...drawn(square(99.2, -0.1, 0.2)).points, m: [0, 0] },
    };
    expect(found(outline).regions.map((r) => r.holes.length)).toEqual([1]);
  });

  test("construction bounds nothing", () => {
    const outline = drawn(square(0, 0, 100), square(10, 10, 20));
    const curves = outline.curves.map((c) => (c.id.startsWith("l1") ? { ...c, construction: true } : c));
    expect(areas({ ...outline, curves })).toEqual([expect.closeTo(10_000, 9)]);
  });
});

describe("a chain that bounds nothing", () => {
  test("that is open says where, and leaves the others", () => {
    const { regions, problems } = found(drawn(square(0, 0, 10), [[20, 0], [30, 0], [30, 10], null]));
    expect(regions.length).toBe(1);
    expect(problems.map((p) => p.message)).toEqual([
      "l1-0 ends at 20, 0, and nothing goes on from there. Close the chain, or make it construction.",
      "l1-1 ends at 30, 10, and nothing goes on from there. Close the chain, or make it construction.",
    ]);
  });

  test("that crosses itself says where", () => {
    const bow = drawn([
      [0, 0],
      [20, 20],
      [20, 0],
      [0, 20],
    ]);
    const { regions, problems } = found(bow);
    expect(regions).toEqual([]);
    expect(problems[0].message).toBe("l0-0 and l0-2 cross at 10, 10. Trim them there, or draw them apart.");
  });

  test("where three lines meet says which", () => {
    const outline = drawn(square(0, 0, 10));
    const more: Outline = {
      ...outline,
      points: { ...outline.points, q: [20, 20] },
      curves: [...outline.curves, { id: "spur", kind: "line", a: "p0-2", b: "q" }],
    };
    const { problems } = found(more);
    expect(problems.map((p) => p.message).join("\n")).toMatch(/spur meet at 10, 10: more than two/);
  });

  test("of 4,000 loose lines is told in a few sentences, and in a moment", () => {
    const random = numbersFrom(7);
    const loose = drawn(
      ...Array.from({ length: 4000 }, (): (Place | null)[] => [
        [random() * 1e4, random() * 1e4],
        [random() * 1e4, random() * 1e4],
        null,
      ]),
    );
    const start = performance.now();
    const { problems } = found(loose);
    expect(problems.length).toBe(9);
    expect(problems[8].message).toBe("And 7992 more places like these.");
    expect(performance.now() - start).toBeLessThan(3000);
  });
});

test("an outline that is held as it is cannot move, and has not moved", () => {
  fc.assert(
    fc.property(anyKnownOutline, ({ drawn: outline }) => {
      const before = solveOutline(outline);
      if (before.state === "conflict") return;
      const there: Outline = {
        ...outline,
        points: before.points,
        curves: outline.curves.map((c) => (c.kind === "circle" ? { ...c, r: before.radii[c.id] } : c)),
      };
      const held = solveOutline(holdAsItIs(there));
      expect([held.state, held.free]).toEqual(["fixed", 0]);
      for (const [id, [x, y]] of Object.entries(before.points))
        expect(Math.hypot(held.points[id][0] - x, held.points[id][1] - y)).toBeLessThan(1e-6);
    }),
    { numRuns: Math.ceil(RUNS / 2) },
  );
}, 300_000);

describe("holding as it is", () => {
  const plain = (points: Outline["points"], curves: Outline["curves"]): Outline => ({
    format: "hillcrest-outline",
    version: 1,
    name: "Held",
    points,
    curves,
    relations: [],
    dimensions: [],
  });
  /** A toothed chain, four lines a tooth. */
  const comb = (teeth: number): Outline => {
    const at = Array.from({ length: teeth }, (_, i) => [
      [i * 10, 0],
      [i * 10 + 5, 0],
      [i * 10 + 5, 7],
      [i * 10 + 10, 7],
    ]).flat() as [number, number][];
    return plain(
      Object.fromEntries(at.map((p, i) => [`p${i}`, p])),
      at.map((_, i) => ({ id: `c${i}`, kind: "line", a: `p${i}`, b: `p${(i + 1) % at.length}` })),
    );
  };

  test("counts dimensions that use the part's own values", () => {
    const part = (name: string) =>
      name === "width" ? ({ ok: true, value: { value: 42, dimension: "length" } } as const) : undefined;
    const outline: Outline = {
      ...plain({ a: [0, 0], b: [40, 0] }, [{ id: "c", kind: "line", a: "a", b: "b" }]),
      dimensions: [{ id: "d", kind: "length", of: ["c"], value: "width" }],
    };
    const held = holdAsItIs(outline, part as Parameters<typeof holdAsItIs>[1]);
    expect(held.dimensions).toEqual(outline.dimensions);
    const solved = solveOutline(held, part as Parameters<typeof solveOutline>[1]);
    expect([solved.state, solved.values.d]).toEqual(["fixed", expect.closeTo(42, 9)]);
  });

  test("fixes no point that the others already say", () => {
    const outline: Outline = {
      ...plain({ a: [0, 0], b: [30, 0], m: [15, 0] }, [{ id: "c", kind: "line", a: "a", b: "b" }]),
      relations: [{ id: "r1", kind: "middle", of: ["m", "c"] }],
    };
    const held = holdAsItIs(outline);
    expect(held.relations.map((r) => r.of)).toEqual([["m", "c"], ["a"], ["b"]]);
    expect(new Set(held.relations.map((r) => r.id)).size).toBe(3);
  });

  test("of 600 teeth takes a moment", () => {
    const outline = comb(600);
    const start = performance.now();
    const held = solveOutline(holdAsItIs(outline));
    expect(held.state).toBe("fixed");
    expect(performance.now() - start).toBeLessThan(5000);
  });
});

describe("chains that are open", () => {
  const chain = (...places: [number, number][]): Outline => ({
    format: "hillcrest-outline",
    version: 1,
    name: "Open",
    points: Object.fromEntries(places.map((p, i) => [`p${i}`, p])),
    curves: places.slice(1).map((_, i) => ({ id: `l${i}`, kind: "line", a: `p${i}`, b: `p${i + 1}` })),
    relations: [],
    dimensions: [],
  });
  const areaOf = (outline: Outline) =>
    outlineRegions(outline, solveOutline(outline)).regions.reduce((s, r) => s + regionArea(r), 0);

  test("are closed by a line, or by bringing ends together that nearly meet", () => {
    const far = closeChains(chain([0, 0], [40, 0], [40, 30]));
    expect([far.closed, far.outline.curves.length]).toEqual([1, 3]);
    expect(areaOf(far.outline)).toBeCloseTo(600, 9);
    const near = closeChains(chain([0, 0], [40, 0], [40, 30], [0.2, 0.1]));
    expect([near.closed, near.outline.curves.length]).toEqual([1, 3]);
    expect(near.outline.relations).toEqual([{ id: "r1", kind: "coincident", of: ["p0", "p3"] }]);
    expect(areaOf(near.outline)).toBeGreaterThan(590);
  });

  test("stay as they are where they branch, are one line alone, or construction", () => {
    const y = chain([0, 0], [40, 0], [40, 30]);
    const branched: Outline = {
      ...y,
      points: { ...y.points, q: [80, 0] },
      curves: [...y.curves, { id: "q", kind: "line", a: "p1", b: "q" }],
    };
    expect(closeChains(branched).closed).toBe(0);
    expect(closeChains(chain([0, 0], [40, 0])).closed).toBe(0);
    expect(closeChains({ ...y, curves: y.curves.map((c) => ({ ...c, construction: true })) }).closed).toBe(0);
    expect(closeChains(chain()).closed).toBe(0);
  });
});

describe("areas that are left out", () => {
  const square = (x: number, name: string): [string, [number, number]][] =>
    (
      [
        [x, 0],
        [x + 10, 0],
        [x + 10, 10],
        [x, 10],
      ] as [number, number][]
    ).map((p, i) => [`${name}${i}`, p]);
  const two: Outline = {
    format: "hillcrest-outline",
    version: 1,
    name: "Two",
    points: Object.fromEntries([...square(0, "p"), ...square(20, "q")]),
    curves: ["p", "q"].flatMap((n) =>
      [0, 1, 2, 3].map((i) => ({
        id: `${n}l${i}`,
        kind: "line" as const,
        a: `${n}${i}`,
        b: `${n}${(i + 1) % 4}`,
      })),
    ),
    relations: [],
    dimensions: [],
  };
  const regions = (outline: Outline) => outlineRegions(outline, solveOutline(outline));

  test("are told apart by a curve of their border, and do not count", () => {
    expect(regions(two).regions.length).toBe(2);
    const one = regions({ ...two, leftOut: ["ql2"] });
    expect([one.regions.length, one.leftOut.length]).toEqual([1, 1]);
    expect(one.regions[0].outer.map((c) => c.name)).toContain("pl0");
  });

  test("must be of curves that there are", () => {
    expect(outlineProblems({ ...two, leftOut: ["ql2"] })).toEqual([]);
    expect(outlineProblems({ ...two, leftOut: ["nothing"] })).toEqual([
      { path: "/leftOut/0", message: 'There is no curve called "nothing".' },
    ]);
    // What is taken out of the drawing is no longer left out of it.
    expect(removeFrom({ ...two, leftOut: ["ql2"] }, ["ql2"]).leftOut).toBeUndefined();
  });
});
