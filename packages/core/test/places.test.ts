import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  asCircle,
  choicesOf,
  createPartBuilder,
  evenState,
  examinePart,
  findEdge,
  foldPoint,
  foldSheet,
  measureBetween,
  nearestEdges,
  openingLoops,
  type PartBuild,
  pickables,
  platesOf,
  type StepDocument,
  sheetCorners,
  shownFields,
  stepKind,
} from "../src/index.ts";
import { part } from "./plain-parts.ts";
import { casesOf } from "./random-cases.ts";
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
    // Near to the bend as it is, it stands where it was put.
    expect(messages(b).filter((m) => !m.includes("to keep its shape"))).toEqual([]);
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
      { numRuns: casesOf(40) },
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
  test("is exact from what is curved: the border of a hole, and the side of a bend in space", () => {
    const holed = build(plate(), hole({ diameter: "20" }));
    const flat = foldSheet(holed.sheet!, evenState(holed.sheet!, 1));
    const centre = { kind: "hole", name: "s1 cut:s2" } as const;
    // The border of the hole is everywhere as near to its centre.
    const round = measureBetween(holed.sheet!, flat, { kind: "plate", name: "s1" }, centre)!;
    expect(round.distance).toBeCloseTo(10, 9);
    const { sheet } = build(
      plate(),
      step("s2", "flange", { edges: at("s1.east"), length: "30" }),
      step("s3", "flange", { edges: at("s2a.end"), length: "40", angle: "120", turn: "down" }),
      hole({ plate: at("s3a"), diameter: "6" }, "s4"),
    );
    const folding = foldSheet(sheet!, evenState(sheet!, 0.8));
    const point = { kind: "hole", name: "s3a cut:s4", face: "A" } as const;
    const [from] = [measureBetween(sheet!, folding, point, point)!.from];
    const { piece, edge } = findEdge(sheet!, "s2a.bend-left")!;
    const [side] = edge.curves;
    let least = Infinity;
    for (let i = 0; i <= 20_000; i++) {
      const [x, y] = [
        side.a.x + ((side.b.x - side.a.x) * i) / 20_000,
        side.a.y + ((side.b.y - side.a.y) * i) / 20_000,
      ];
      const p = foldPoint(folding, sheet!.pieces.indexOf(piece), [x, y, 0]);
      least = Math.min(least, Math.hypot(p[0] - from[0], p[1] - from[1], p[2] - from[2]));
    }
    const bend = { kind: "edge", name: "s2a.bend-left", face: "A" } as const;
    expect(measureBetween(sheet!, folding, point, bend)!.distance).toBeCloseTo(least, 6);
  });

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
      { numRuns: casesOf(25) },
    );
  });
});

describe("how a place was found", () => {
  const cut = (values: object) => hole({ ...values });
  const markOf = (...steps: StepDocument[]) => build(...steps).steps.at(-1)!.marks![0];
  const line = (a: readonly [number, number], b: readonly [number, number]) => [close(...a), close(...b)];
  // Each is told by the field that says it, to be typed where it is shown.
  const dim = (a: readonly [number, number], b: readonly [number, number], field: string) => ({
    from: close(...a),
    to: close(...b),
    field,
  });

  test("is shown by the plate's axes, out along one and then the other", () => {
    expect(markOf(plate(), cut({ x: "10", y: "-5" }))).toEqual({
      plate: "s1",
      origin: close(0, 0),
      axes: true,
      datums: [],
      dims: [dim([0, 0], [10, 0], "x"), dim([10, 0], [10, -5], "y")],
    });
    // The middle of what is there of the plate: it lies off its zero here.
    const off = step("s1", "plate", { width: "120", depth: "80", at: "corner", x: "10", y: "4" });
    expect(markOf(off, cut({ placed: "middle", x: "2", y: "3" }))).toEqual({
      plate: "s1",
      origin: close(70, 44),
      axes: true,
      datums: [],
      dims: [dim([70, 44], [72, 44], "x"), dim([72, 44], [72, 47], "y")],
    });
  });

  test.each([
    ["middle", 15, [0, 40], [-15, 40]],
    ["left", 15, [60, 40], [45, 40]],
    ["right", 15, [-60, 40], [-45, 40]],
  ] as const)("is shown from the %s of an edge along it, and then into the plate", (alongFrom, by, zero, foot) => {
    const mark = markOf(
      plate(),
      cut({ placed: "edge", edge1: at("s1.north"), off1: "12", alongFrom, along: String(by) }),
    );
    // Seen from outside, the north edge runs from the right of the plate to its left, or the other way: either way
    // both ends are told as they are on the sheet.
    const way = mark.datums[0][0].x > 0 ? 1 : -1;
    const turn = ([x, y]: readonly [number, number]) => [x * way, y] as const;
    expect(mark).toEqual({
      plate: "s1",
      origin: close(...turn(zero)),
      datums: [line(turn([60, 40]), turn([-60, 40]))],
      dims: [dim(turn(zero), turn(foot), "along"), dim(turn(foot), turn([foot[0], 28]), "off1")],
    });
  });

  test("is shown from both edges, square to each, with their corner as its zero", () => {
    const two = { placed: "edges", edge1: at("s1.north"), off1: "30", edge2: at("s1.west"), off2: "12" };
    const mark = markOf(plate(), cut(two));
    expect(mark.origin).toEqual(close(-60, 40));
    expect(mark.datums.map((d) => d.map((p) => [Math.abs(p.x), Math.abs(p.y)]))).toEqual([
      [
        [60, 40],
        [60, 40],
      ],
      [
        [60, 40],
        [60, 40],
      ],
    ]);
    expect(mark.datums[0].every((p) => p.y === 40)).toBe(true);
    expect(mark.datums[1].every((p) => p.x === -60)).toBe(true);
    expect(mark.dims).toEqual([dim([-48, 40], [-48, 10], "off1"), dim([-60, 10], [-48, 10], "off2")]);
  });

  test("from two edges that lie askew stays square to each", () => {
    // A plate drawn as a kite: none of its edges is along an axis.
    const corners = [
      ["a", 0, 0],
      ["b", 100, 20],
      ["c", 90, 90],
      ["d", -10, 70],
    ] as const;
    const kite = step("s1", "plate", {
      form: "outline",
      points: corners.map(([key, x, y]) => ({ key, x, y })),
    });
    const b = build(
      kite,
      hole({ placed: "edges", edge1: at("s1.side-a"), off1: "22", edge2: at("s1.side-d"), off2: "31" }),
    );
    expect(messages(b)).toEqual([]);
    const [c] = centres(b);
    const from = ([, ax, ay]: (typeof corners)[number], [, bx, by]: (typeof corners)[number]) =>
      Math.abs((bx - ax) * (c.y - ay) - (by - ay) * (c.x - ax)) / Math.hypot(bx - ax, by - ay);
    expect(from(corners[0], corners[1])).toBeCloseTo(22, 9);
    expect(from(corners[3], corners[0])).toBeCloseTo(31, 9);
    const near = nearestEdges(platesOf(b.sheet)[0], c);
    expect(near[0]).toMatchObject({ role: "side-a", distance: expect.closeTo(22, 9) });
    expect(near[1]).toMatchObject({ role: "side-d", distance: expect.closeTo(31, 9) });
    const dims = b.steps[1].marks![0].dims;
    expect(dims.map((d) => Math.hypot(d.to.x - d.from.x, d.to.y - d.from.y))).toEqual([
      expect.closeTo(22, 9),
      expect.closeTo(31, 9),
    ]);
  });

  test("the nearest edges are those that it stands before, and lie across each other", () => {
    const [p] = platesOf(build(plate()).sheet);
    const of = (x: number, y: number) => nearestEdges(p, { x, y }).map((e) => e.role);
    expect(of(0, 35)).toEqual(["north", expect.stringMatching(/east|west/)]);
    expect(of(50, 0)[0]).toBe("east");
    expect(of(-58, -39)).toEqual(["south", "west"]);
    const [north] = nearestEdges(p, { x: 20, y: 35 });
    expect(north.distance).toBeCloseTo(5, 9);
    expect(Math.abs(north.along)).toBeCloseTo(20, 9);
    // Of what lies outside a plate only the edges that it is still before count.
    expect(of(100, 0)).not.toContain("east");
    expect(of(100, 39)[0]).not.toBe("east");
  });

  test.each<[object, string, RegExp]>([
    [{ placed: "edge" }, "edge1", /Pick the edge of plate A that the distance is measured from\./],
    [
      { placed: "edges", edge1: at("s1.north") },
      "edge2",
      /Pick the edge of plate A that the distance is measured from\./,
    ],
    [
      { placed: "edge", datum1: "outer" },
      "bend1",
      /Pick the bend of plate A that the distance is measured from\./,
    ],
    [{ placed: "edge", edge1: at("s1.up") }, "edge1", /has no edge called up any more/],
    [{ placed: "edge", datum1: "inner", bend1: at("s9a") }, "bend1", /is gone/],
    [
      { placed: "edge", edge1: at("s2a.end") },
      "edge1",
      /Edge B end is not on plate A\. Pick an edge of plate A\./,
    ],
    [
      { placed: "edge", datum1: "tangent", bend1: at("s3a") },
      "bend1",
      /Bend 2 is not at plate A\. Pick one that plate A hangs on or carries\./,
    ],
    [
      { placed: "edge", datum1: "outer", bend1: at("s4a") },
      "datum1",
      /Bend 3 turns by 180° or more and has no mould line\. Measure from its tangent line\./,
    ],
    [
      { placed: "edges", edge1: at("s1.north"), edge2: at("s1.south") },
      "edge2",
      /The two edges are parallel, so they fix no place\./,
    ],
    [
      { placed: "edges", edge1: at("s1.south"), datum2: "tangent", bend2: at("s2a") },
      "bend2",
      /The two edges are parallel, so they fix no place\./,
    ],
  ])("%j is refused at the field that is wrong", (values, field, message) => {
    const b = build(
      plate(),
      step("s2", "flange", { edges: at("s1.north"), length: "30" }),
      step("s3", "flange", { edges: at("s2a.end"), length: "20" }),
      step("s4", "hem", { edges: at("s1.south"), length: "10" }),
      hole(values, "s5"),
    );
    const told = b.findings.filter((f) => f.step === "s5" && f.level === "stop");
    expect(told.map((f) => f.field)).toEqual([field]);
    expect(told[0].message).toMatch(message);
  });

  test.each([
    [{}, ["placed", "x", "y"]],
    [{ placed: "middle" }, ["x", "y", "placed"]],
    [{ placed: "edge" }, ["placed", "off1", "edge1", "along", "alongFrom"]],
    [{ placed: "edge", datum1: "outer" }, ["placed", "off1", "datum1", "bend1", "along", "alongFrom"]],
    [{ placed: "edges" }, ["placed", "off1", "edge1", "off2", "edge2"]],
    [{ placed: "edges", datum2: "tangent" }, ["placed", "off1", "edge1", "off2", "datum2", "bend2"]],
  ])("%j is said by these fields, and by no others", (values, fields) => {
    const { sentence, fields: all } = stepKind("cut")!;
    const said = sentence({ plate: at("s1"), ...values }).flatMap((p) =>
      typeof p === "string" ? [] : [p.field],
    );
    expect(said.slice(-fields.length)).toEqual(fields);
    const shown = shownFields(all, choicesOf(all, values)).map((f) => f.key);
    for (const key of [
      "x",
      "y",
      "along",
      "alongFrom",
      "off1",
      "off2",
      "edge1",
      "edge2",
      "bend1",
      "bend2",
      "datum2",
    ])
      expect([key, shown.includes(key)]).toEqual([
        key,
        fields.includes(key) || (key === "datum2" && fields.includes("off2")),
      ]);
  });
});

describe("a place at a point of an outline", () => {
  const outline = {
    ...{ format: "hillcrest-outline", version: 1, name: "Pattern", relations: [], dimensions: [] },
    points: { a: [-20, 5], b: [12, -8], c: [30, 20] },
    curves: [
      { id: "l1", kind: "line", a: "a", b: "b" },
      { id: "l2", kind: "line", a: "b", b: "c" },
    ],
  };
  const placed = (values: object) =>
    examinePart({
      ...part(plate(), hole({ placed: "point", pointOf: "o", ...values })),
      outlines: [{ key: "o", outline }],
    } as never);

  test.each([
    ["1", -20, 5],
    ["2", 12, -8],
    ["3", 30, 20],
  ])("is that with the number %s", (nth, x, y) => {
    const b = placed({ nth });
    expect(messages(b)).toEqual([]);
    expect(centres(b)).toEqual([close(x, y)]);
  });

  test("follows the outline, and serves what is formed as well", () => {
    const form = step("s2", "form", {
      plate: at("s1"),
      placed: "point",
      pointOf: "o",
      nth: "2",
      dimple_d: "6",
      dimple_h: "1",
    });
    const b = examinePart({ ...part(plate(), form), outlines: [{ key: "o", outline }] } as never);
    expect(
      b.sheet!.pieces.filter((p) => p.kind === "formed").map((p) => p.kind === "formed" && p.frame.origin),
    ).toEqual([close(12, -8)]);
  });

  test.each([
    [{ nth: "4" }, "nth", /has 3 points; there is none with the number 4/],
    [{ nth: "0" }, "nth", /at least 1/],
    [{ pointOf: "" }, "pointOf", /Choose the outline/],
    [{ pointOf: "gone" }, "pointOf", /not in this part any more/],
  ])("with %o is refused at its field", (values, field, why) => {
    expect(placed(values).findings[0]).toMatchObject({ field, message: expect.stringMatching(why) });
  });
});
