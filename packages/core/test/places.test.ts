import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  asCircle,
  createPartBuilder,
  evenState,
  examinePart,
  foldSheet,
  measureBetween,
  nearestEdges,
  openingLoops,
  type PartBuild,
  pickables,
  platesOf,
  type StepDocument,
  sheetCorners,
} from "../src/index.ts";
import { part } from "./plain-parts.ts";
import { randomChain } from "./random-chains.ts";

const at = (...names: string[]) => names.map((n, i) => ({ key: "abcdef"[i], at: n }));
const step = (id: string, kind: string, values: object): StepDocument => ({ id, kind, ...values });
const build = (...steps: StepDocument[]): PartBuild => examinePart(part(...steps));
const messages = (b: PartBuild) => b.findings.map((f) => f.message);
const plate = (width = "120", depth = "80") => step("s1", "plate", { width, depth });
const hole = (values: object, id = "s2") =>
  step(id, "cut", { plate: at("s1"), form: "round", diameter: "6", ...values });
/** Where the round openings of the blank have their centres. */
const centres = (b: PartBuild) => b.blank!.openings.map((o) => asCircle(o)!.c);
const close = (x: number, y: number) => ({ x: expect.closeTo(x, 9), y: expect.closeTo(y, 9) });

describe("a cut is placed", () => {
  test.each([
    ["at x and y from the plate's zero", { x: "10", y: "-5" }, 10, -5],
    ["from the middle of the plate", { placed: "middle", x: "7", y: "3" }, 7, 3],
    [
      "from two edges",
      { placed: "edges", edge1: at("s1.north"), off1: "30", edge2: at("s1.west"), off2: "12" },
      -48,
      10,
    ],
    [
      "from two edges, said the other way round",
      { placed: "edges", edge1: at("s1.west"), off1: "12", edge2: at("s1.north"), off2: "30" },
      -48,
      10,
    ],
    [
      "from one edge and along it from its middle",
      { placed: "edge", edge1: at("s1.north"), off1: "10", along: "0" },
      0,
      30,
    ],
    [
      "along it from its left end",
      { placed: "edge", edge1: at("s1.north"), off1: "10", alongFrom: "left", along: "15" },
      -45,
      30,
    ],
    [
      "along it from its right end",
      { placed: "edge", edge1: at("s1.north"), off1: "10", alongFrom: "right", along: "15" },
      45,
      30,
    ],
  ])("%s", (_how, values, x, y) => {
    const b = build(plate(), hole(values));
    expect(messages(b)).toEqual([]);
    expect(centres(b)).toEqual([close(x, y)]);
  });

  test("and keeps its distance from the edge when the part changes", () => {
    const top = { placed: "edges", edge1: at("s1.north"), off1: "30", edge2: at("s1.east"), off2: "20" };
    for (const [width, depth] of [
      ["120", "80"],
      ["200", "150"],
      ["90", "61"],
    ]) {
      const [c] = centres(build(plate(width, depth), hole(top)));
      expect(Number(depth) / 2 - c.y).toBeCloseTo(30, 9);
      expect(Number(width) / 2 - c.x).toBeCloseTo(20, 9);
    }
  });

  test.each([
    ["tangent", 3],
    ["outer", 0],
    ["inner", 1.5],
  ])("from the %s line of a bend that the plate carries", (datum, back) => {
    // At 90°, r 1.5, t 1.5 the outer mould line of a flange with its outer face on the edge is the edge.
    const wall = step("s2", "flange", { edges: at("s1.north"), length: "30" });
    const b = build(
      plate(),
      wall,
      hole({ placed: "edge", datum1: datum, bend1: at("s2a"), off1: "10", along: "0" }, "s3"),
    );
    expect(messages(b)).toEqual([]);
    expect(centres(b)).toEqual([close(0, 40 - back - 10)]);
  });

  test("from the outer mould line of the bend that a wall hangs on: 12 from the outside of the floor", () => {
    const wall = step("s2", "flange", { edges: at("s1.north"), length: "30" });
    const cut = step("s3", "cut", {
      plate: at("s2a"),
      form: "round",
      diameter: "4",
      placed: "edge",
      datum1: "outer",
      bend1: at("s2a"),
      off1: "12",
      along: "5",
    });
    const b = build(plate(), wall, cut);
    const folding = foldSheet(b.sheet!, evenState(b.sheet!, 1));
    const found = measureBetween(
      b.sheet!,
      folding,
      { kind: "hole", name: "s2a cut:s3", face: "A" },
      { kind: "plate", name: "s1", face: "A" },
    )!;
    // Side A of the floor is its outside, and z 0.
    expect(found.from[2]).toBeCloseTo(12, 9);
  });

  test("and says what is missing: an edge, one of its own plate, one that is no parallel", () => {
    expect(messages(build(plate(), hole({ placed: "edges" })))[0]).toContain("Pick the edge of plate A");
    const other = step("s3", "plate", { width: "20", depth: "20" });
    const foreign = build(plate(), other, hole({ placed: "edge", edge1: at("s3.north") }, "s4"));
    expect(messages(foreign)[0]).toContain("is not on plate A. Pick an edge of plate A");
    const parallel = { placed: "edges", edge1: at("s1.north"), off1: "5", edge2: at("s1.south"), off2: "5" };
    expect(messages(build(plate(), hole(parallel)))[0]).toContain("are parallel, so they fix no place");
  });

  test("any place is found again by the edges nearest to it", () => {
    fc.assert(
      fc.property(fc.integer({ min: -59, max: 59 }), fc.integer({ min: -39, max: 39 }), (x, y) => {
        const { sheet } = build(plate());
        const [first, second] = nearestEdges(platesOf(sheet!)[0], { x, y });
        const b = build(
          plate(),
          hole({
            placed: "edges",
            edge1: at(`s1.${first.role}`),
            off1: String(first.distance),
            edge2: at(`s1.${second.role}`),
            off2: String(second.distance),
            diameter: "0.5",
          }),
        );
        expect(centres(b)).toEqual([close(x, y)]);
      }),
      { numRuns: 40 },
    );
  });

  test("its axes, datums and distances are told, for the views to draw", () => {
    const xy = build(plate(), hole({ x: "10", y: "-5" })).steps[1].marks!;
    expect(xy[0]).toMatchObject({ plate: "s1", axes: true, origin: { x: 0, y: 0 } });
    expect(xy[0].dims.map((d) => Math.hypot(d.to.x - d.from.x, d.to.y - d.from.y))).toEqual([10, 5]);
    const edges = { placed: "edges", edge1: at("s1.north"), off1: "30", edge2: at("s1.west"), off2: "12" };
    const [mark] = build(plate(), hole(edges)).steps[1].marks!;
    expect(mark.datums.length).toBe(2);
    expect(mark.dims.map((d) => Math.hypot(d.to.x - d.from.x, d.to.y - d.from.y))).toEqual([
      expect.closeTo(30, 9),
      expect.closeTo(12, 9),
    ]);
  });
});

describe("measuring", () => {
  const box = () => build(plate(), step("s2", "flange", { edges: at("s1.east", "s1.west"), length: "30" }));
  const walls = (b: PartBuild, faces: "inner" | "outer" | "middle") =>
    measureBetween(
      b.sheet!,
      foldSheet(b.sheet!, evenState(b.sheet!, 1)),
      { kind: "plate", name: "s2a" },
      { kind: "plate", name: "s2b" },
      faces,
    )!;

  test("between two walls says which faces: inner, outer, or middle to middle", () => {
    const b = box();
    expect(walls(b, "inner")).toMatchObject({ distance: expect.closeTo(117, 9), faces: ["B", "B"] });
    expect(walls(b, "outer")).toMatchObject({ distance: expect.closeTo(120, 9), faces: ["A", "A"] });
    expect(walls(b, "middle")).toMatchObject({
      distance: expect.closeTo(118.5, 9),
      faces: ["middle", "middle"],
    });
  });

  test("takes the centre of every kind of opening, copies included", () => {
    const round = hole({ x: "-40", y: "0" });
    const b = build(
      plate(),
      round,
      step("s3", "cut", { plate: at("s1"), form: "rectangle", width: "10", height: "6", x: "10", y: "20" }),
      step("s4", "cut", {
        plate: at("s1"),
        form: "slot",
        width: "16",
        height: "6",
        x: "30",
        y: "-20",
        turned: "30",
      }),
      step("s5", "pattern", { steps: at("s2"), count: "3", pitch: "15" }),
    );
    expect(messages(b)).toEqual([]);
    const folding = foldSheet(b.sheet!, evenState(b.sheet!, 1));
    const from = (key: string) =>
      measureBetween(
        b.sheet!,
        folding,
        { kind: "hole", name: `s1 ${key}`, face: "A" },
        { kind: "hole", name: "s1 cut:s2", face: "A" },
      );
    const keys = openingLoops(platesOf(b.sheet!)[0].regions).map((o) => o.key);
    expect(keys.sort()).toEqual(["opening:s3-east", "opening:s4-north"]);
    expect(from("opening:s3-east")?.from).toEqual([10, 20, 0].map((v) => expect.closeTo(v, 6)));
    expect(from("opening:s4-north")?.from).toEqual([30, -20, 0].map((v) => expect.closeTo(v, 4)));
    // A copy of a round cut is another opening than the one it was copied from.
    const roles = pickables(b.sheet!)
      .map((p) => p.role)
      .filter((r) => r.startsWith("cut:"));
    expect(new Set(roles).size).toBe(3);
    expect(from(roles.find((r) => r.endsWith("-2"))!)!.distance).toBeCloseTo(30, 9);
  });
});

describe("corners that are offered", () => {
  test("for a lost corner are corners, the likeliest first", () => {
    const rounded = step("s2", "round", { corners: at("s1.north+east", "s1.gone+east"), radius: "4" });
    const { findings } = build(plate(), rounded);
    expect(findings[0].offers?.names.length).toBeGreaterThan(0);
    for (const name of findings[0].offers!.names) expect(name).toMatch(/^s1\.[a-z]+\+[a-z]+$/);
    expect(findings[0].offers!.names[0]).toContain("east");
  });

  test("are there when a step asks for them: every outline corner of a sheet is one of its draft", () => {
    fc.assert(
      fc.property(randomChain, (document) => {
        const builder = createPartBuilder();
        const { sheet } = builder(document);
        if (!sheet) return;
        for (const corner of sheetCorners(sheet).filter((c) => c.of === "outline")) {
          const round = {
            id: "zz1",
            kind: "round",
            which: "picked",
            corners: [{ key: "a", at: corner.name }],
            radius: "0.01",
          };
          const again = builder({ ...document, steps: [...document.steps, round] });
          const lost = again.findings.find((f) => f.step === "zz1" && f.rule === "edge-gone");
          expect(lost?.message, corner.name).toBeUndefined();
        }
      }),
      { numRuns: 25 },
    );
  });
});
