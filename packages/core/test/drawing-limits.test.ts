import { describe, expect, test } from "vitest";
import {
  type Backdrop,
  closeChains,
  DRAW_TOOLS,
  type DrawTool,
  dimensionOffers,
  drawInto,
  drawTool,
  examinePart,
  type Outline,
  outlineChanges,
  outlineProblems,
  type Place,
  relationOffers,
  removeFrom,
  type StepDocument,
  snapPlace,
  solveOutline,
  type TypedNumbers,
  withDistinctIds,
  withOffer,
  withoutSaying,
  type XY,
} from "../src/index.ts";
import { expectGrowth } from "./growth.ts";
import { part, spentOn } from "./plain-parts.ts";
import { nothingDrawn } from "./random-outlines.ts";

const at = (x: number, y: number): Place => ({ at: [x, y] });
const tool = (kind: string): DrawTool => drawTool(kind)!;
const typed = (numbers: Record<string, number>): TypedNumbers =>
  Object.fromEntries(Object.entries(numbers).map(([key, value]) => [key, { text: value, value }]));
/** Two lines that cross, a circle, an arc that leads on: something for every tool to work on. */
const drawn: Outline = {
  ...nothingDrawn,
  points: {
    a: [0, 0],
    b: [60, 0],
    c: [60, 40],
    d: [30, -20],
    e: [30, 20],
    m: [10, 30],
    n: [60, 60],
    f: [40, 60],
  },
  curves: [
    { id: "l1", kind: "line", a: "a", b: "b" },
    { id: "l2", kind: "line", a: "b", b: "c" },
    { id: "l3", kind: "line", a: "d", b: "e" },
    { id: "o", kind: "circle", c: "m", r: 5 },
    { id: "w", kind: "arc", a: "c", b: "f", c: "n", ccw: false },
  ],
};
const circles = (count: number): Outline => ({
  ...nothingDrawn,
  points: Object.fromEntries(
    Array.from({ length: count }, (_, i) => [`p${i}`, [(i % 70) * 10, Math.floor(i / 70) * 10] as XY]),
  ),
  curves: Array.from({ length: count }, (_, i) => ({
    id: `c${i}`,
    kind: "circle" as const,
    c: `p${i}`,
    r: 3,
  })),
});
describe("any tool, given an absurd number", () => {
  const numbers = [0, -1, 1e-300, 1e-7, 0.5, 7.25, 1e6, 1e16, 1e308, Number.NaN, Number.POSITIVE_INFINITY];
  const cases = DRAW_TOOLS.flatMap((t) => t.values.map((v) => [t.kind, v.key] as const));
  test.each(cases)("%s, its %s: draws what can be kept or says why not, in a moment", (kind, key) => {
    const { stages } = tool(kind);
    const places = [at(20, 5), at(33, 11), at(35, 25)].slice(0, stages.length);
    const start = performance.now();
    for (const value of numbers) {
      const aimed: Place[] = [];
      const task = { typed: typed({ [key]: value }), picks: ["l1", "l2", "o", "w"] };
      for (const place of places)
        aimed.push(tool(kind).aim?.(place, { ...task, places: [...aimed] }, drawn) ?? place);
      const result = drawInto(drawn, tool(kind), { ...task, places: aimed });
      if ("problem" in result) expect(result.problem).toMatch(/^[A-Z].*\.$/s);
      else {
        const kept = JSON.parse(JSON.stringify(result.outline));
        // What is typed is written as it was typed; only the numbers of the drawing itself are held to.
        expect(outlineProblems({ ...kept, dimensions: [] })).toEqual([]);
      }
      // Nor does the preview come to anything but numbers, or nothing.
      for (const v of Object.values(tool(kind).reads?.(aimed[0], { ...task, places: [] }, drawn) ?? {}))
        expect(v === undefined || typeof v === "number").toBe(true);
    }
    expect(performance.now() - start).toBeLessThan(2000);
  });

  test("of copies draws no more curves than an outline can have", () => {
    const many = circles(2000);
    const picks = many.curves.map((c) => c.id);
    const row = drawInto(many, tool("row"), {
      places: [at(0, 0), at(0, 900)],
      typed: typed({ count: 400 }),
      picks,
    });
    expect(row).toEqual({ problem: "That would be 800000 curves; an outline can have 10000." });
    const ring = drawInto(many, tool("ring"), { places: [at(-500, 0)], typed: typed({ count: 6 }), picks });
    expect(ring).toEqual({ problem: "That would be 12000 curves; an outline can have 10000." });
    expect(
      drawInto(many, tool("row"), { places: [at(0, 0), at(0, 900)], typed: typed({ count: 3 }), picks }),
    ).toHaveProperty("outline");
  });
});

describe("a tool that works on what is picked", () => {
  test.each(
    DRAW_TOOLS.filter((t) => t.onPicks).map((t) => [t.kind]),
  )("%s: says that something is to be picked first", (kind) => {
    const places = [at(1, 1), at(9, 9)].slice(0, tool(kind).stages.length);
    expect(drawInto(drawn, tool(kind), { places, typed: {}, picks: [] })).toEqual({
      problem: expect.stringMatching(/^Pick what /),
    });
  });

  const edge: Backdrop = {
    name: "s1.east",
    label: "A east",
    curve: { kind: "line", a: [100, -50], b: [100, 50] },
  };

  test("mirrors about an edge of the part where that is pointed at, not about what is drawn nearest", () => {
    const place: Place = { at: [100, 1], caught: { by: "part", backdrop: edge, at: "on" } };
    const result = drawInto(drawn, tool("mirror"), { places: [place], typed: {}, picks: ["o"] });
    if ("problem" in result) throw new Error(result.problem);
    expect(result.outline.references).toEqual([{ id: expect.any(String), to: "s1.east" }]);
    const copy = result.outline.curves.findLast((c) => c.kind === "circle")!;
    expect(copy.kind === "circle" && result.outline.points[copy.c]).toEqual([
      expect.closeTo(190, 9),
      expect.closeTo(30, 9),
    ]);
    const [symmetric] = result.outline.relations.filter((r) => r.kind === "symmetric");
    expect(symmetric.of[2]).toBe(result.outline.references![0].id);
  });

  test("does not move, turn or copy what stands for the part", () => {
    const line = drawInto(drawn, tool("line"), {
      places: [{ at: [100, 0], caught: { by: "part", backdrop: edge, at: "middle" } }, at(80, 10)],
      typed: {},
      picks: [],
    });
    if ("problem" in line) throw new Error(line.problem);
    const { outline } = line;
    const [{ id }] = outline.references!;
    const ref = outline.curves.find((c) => c.id === id)!;
    const ends = ref.kind === "line" ? [ref.a, ref.b] : [];
    for (const kind of ["move", "turn"]) {
      const picks = [id, outline.curves[outline.curves.length - 1].id];
      const places = [at(0, 0), at(5, 9)].slice(0, tool(kind).stages.length);
      const moved = drawInto(outline, tool(kind), { places, typed: {}, picks });
      if ("problem" in moved) throw new Error(moved.problem);
      for (const p of ends) expect(moved.outline.points[p]).toEqual(outline.points[p]);
    }
  });
});

describe("drawing costs in proportion to what is drawn", () => {
  const SIZES = [500, 1000, 2000, 4000];

  test("finding a place, drawing a circle and taking one out", () => {
    const once = (outline: Outline) => {
      for (let i = 0; i < 6; i++) {
        const place = snapPlace(outline, [13.3 + i, 27.7], { within: 1.5, from: at(3, 3) });
        drawInto(outline, tool("circle"), { places: [at(4.5, 4.5), place], typed: {}, picks: [] });
        removeFrom(outline, [`c${i}`]);
      }
    };
    expectGrowth(1.5, SIZES, (n) => {
      const outline = circles(n);
      return () => once(outline);
    });
  }, 60_000);

  test("repeating in a row, each copy related to its neighbours", () => {
    expectGrowth(1.5, [60, 120, 240, 480], (count) => {
      const outline = circles(12);
      const picks = outline.curves.map((c) => c.id);
      return () =>
        drawInto(outline, tool("row"), { places: [at(0, 0), at(0, 40)], typed: typed({ count }), picks });
    });
  }, 60_000);

  test("closing open chains, and saying what is offered for all that is picked", () => {
    const chains = (n: number): Outline => ({
      ...nothingDrawn,
      points: Object.fromEntries(
        Array.from({ length: n }, (_, i) => [
          [`a${i}`, [i * 10, 0]],
          [`b${i}`, [i * 10 + 8, 0]],
          [`c${i}`, [i * 10 + 8, 5]],
        ]).flat(),
      ),
      curves: Array.from({ length: n }, (_, i) => [
        { id: `l${i}`, kind: "line" as const, a: `a${i}`, b: `b${i}` },
        { id: `m${i}`, kind: "line" as const, a: `b${i}`, b: `c${i}` },
      ]).flat(),
    });
    expectGrowth(1.6, SIZES, (n) => {
      const outline = chains(n / 2);
      const picks = outline.curves.map((c) => c.id);
      return () => {
        expect(closeChains(outline).closed).toBe(n / 2);
        expect(relationOffers(outline, picks).length).toBeGreaterThan(0);
        expect(dimensionOffers(outline, picks)).toEqual([]);
        expect(outlineChanges(outline, { ...outline })).toEqual([]);
      };
    });
  }, 60_000);

  test("standing on a plate with very many openings, of which it sees a readable number", () => {
    const plateWith = (n: number): StepDocument => ({
      id: "s1",
      kind: "plate",
      width: "2000",
      depth: "2000",
      holes: Array.from({ length: n }, (_, i) => ({
        key: `h${i}`,
        x: String((i % 64) * 30 - 950),
        y: String(Math.floor(i / 64) * 30 - 950),
        d: "8",
      })),
    });
    const cut: StepDocument = {
      id: "s2",
      kind: "cut",
      plate: [{ key: "a", at: "s1" }],
      form: "drawn",
      drawn: "a",
      x: "0",
      y: "0",
    };
    const outline = { ...circles(1), points: { p0: [-985, -985] as XY } };
    const seen = [250, 500, 1000, 2000].map((n) => {
      const document = { ...part(plateWith(n), cut), outlines: [{ key: "a", outline }] };
      const build = examinePart(document);
      expect(build.steps.map((s) => s.state)).toEqual(["built", "built"]);
      return build.outlines![0].behind!.length;
    });
    expect(seen).toEqual([254, 504, 1004, 1500]);
  }, 60_000);
});

describe("ids that a file from elsewhere shares between what is drawn and what is said of it", () => {
  const shared: Outline = {
    ...drawn,
    relations: [
      { id: "l1", kind: "level", of: ["l1"] },
      { id: "r1", kind: "upright", of: ["l2"] },
    ],
    dimensions: [{ id: "a", kind: "length", of: ["l1"], value: 60, name: "wide" }],
  };

  test("are made distinct, and nothing else is changed", () => {
    expect(outlineProblems(shared)).toEqual([]);
    const own = withDistinctIds(shared);
    const ids = [
      ...Object.keys(own.points),
      ...[...own.curves, ...own.relations, ...own.dimensions].map((t) => t.id),
    ];
    expect(new Set(ids).size).toBe(ids.length);
    expect(own.relations.map(({ kind, of }) => [kind, of])).toEqual(
      shared.relations.map(({ kind, of }) => [kind, of]),
    );
    expect(own.dimensions[0]).toMatchObject({ kind: "length", of: ["l1"], value: 60, name: "wide" });
    expect(solveOutline(own).points).toEqual(solveOutline(shared).points);
    // Where nothing is shared it is the very same.
    expect(withDistinctIds(own)).toBe(own);
    // Now what is said can be taken away, and what is drawn stays.
    expect(removeFrom(own, [own.relations[0].id]).curves.length).toBe(5);
  });

  test("do not take a curve along when what is said of it is dropped", () => {
    const left = withoutSaying(shared, "l1");
    expect(left.curves).toBe(shared.curves);
    expect(left.relations.map((r) => r.id)).toEqual(["r1"]);
    expect(withoutSaying(shared, "a").dimensions).toEqual([]);
  });
});

test("a dimension that is offered begins as what is there, whatever else does not go together", () => {
  const broken: Outline = {
    ...drawn,
    dimensions: [
      { id: "d1", kind: "length", of: ["l2"], value: 40 },
      { id: "d2", kind: "length", of: ["l2"], value: 41 },
    ],
  };
  expect(solveOutline(broken).state).toBe("conflict");
  const { outline, id } = withOffer(broken, [{ dimension: "length", of: ["l1"] }]);
  expect(outline.dimensions.find((d) => d.id === id)!.value).toBe(60);
});

test("a chain of very many pieces is refused as a profile, at once and in words", () => {
  const long: Outline = {
    ...nothingDrawn,
    points: Object.fromEntries(Array.from({ length: 5001 }, (_, i) => [`p${i}`, [i * 5, (i % 2) * 5] as XY])),
    curves: Array.from({ length: 5000 }, (_, i) => ({
      id: `l${i}`,
      kind: "line" as const,
      a: `p${i}`,
      b: `p${i + 1}`,
    })),
  };
  const document = {
    ...part({ id: "s1", kind: "profile", by: "drawn", drawn: "a", width: "50" }),
    outlines: [{ key: "a", outline: long }],
  };
  const { result: build, took } = spentOn(() => examinePart(document));
  expect(build.findings[0]).toMatchObject({
    field: "drawn",
    message: expect.stringContaining("at most 300 pieces; this one has 5000"),
  });
  expect(took).toBeLessThan(8000);
});
