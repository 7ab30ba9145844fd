import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  type Backdrop,
  DRAW_TOOLS,
  type DrawTool,
  drawInto,
  drawTool,
  type Outline,
  outlineProblems,
  type Place,
  snapPlace,
  solveOutline,
  standForTool,
  standing,
  type TypedNumbers,
  type XY,
} from "../src/index.ts";
import { casesOf, sameCases } from "./random-cases.ts";
import { nothingDrawn } from "./random-outlines.ts";

sameCases(20261126);
const RUNS = casesOf(60);

const edge: Backdrop = {
  name: "s1.south",
  label: "A south",
  curve: { kind: "line", a: [-60, -40], b: [60, -40] },
};
const hole: Backdrop = { name: "hole:s1:h1", label: "opening", curve: { kind: "circle", c: [35, 20], r: 6 } };

const coordinate = fc.integer({ min: -500, max: 500 }).map((v) => v / 8);
const pointer = fc.tuple(coordinate, coordinate);
const size = fc.integer({ min: 1, max: 400 }).map((v) => v / 10);

/** What a person did: a tool, where the pointer was at each click, and whether a number was typed. */
const stroke = fc.record({
  tool: fc.constantFrom(...DRAW_TOOLS),
  at: fc.array(pointer, { minLength: 3, maxLength: 3 }),
  typed: fc.option(size, { nil: undefined }),
  picks: fc.nat(),
});

/** Does a stroke as the Bench does it: each place is caught, then aimed. Nothing where it cannot be drawn. */
function drawn(
  outline: Outline,
  { tool, at, typed, picks }: typeof stroke extends fc.Arbitrary<infer T> ? T : never,
) {
  const places: Place[] = [];
  const chosen = outline.curves.filter((_, i) => (picks >> (i % 16)) & 1).map((c) => c.id);
  for (const [i, stage] of tool.stages.entries()) {
    const key = stage.values?.find((k) => tool.values.find((v) => v.key === k)?.dimension === "length");
    const numbers: TypedNumbers = key && typed ? { [key]: { text: typed, value: typed } } : {};
    const task = { places, typed: numbers, picks: chosen };
    const caught = snapPlace(outline, at[i], {
      within: 3,
      from: places[places.length - 1],
      backdrops: [edge, hole],
    });
    const place = tool.aim?.(caught, task, outline) ?? caught;
    places.push(place);
    if (places.length === tool.stages.length) return drawInto(outline, tool, { ...task, places });
  }
  throw new Error("a tool without stages");
}

describe("whatever is drawn, by any tool, on anything", () => {
  test("is an outline that holds where it was drawn, and that a file can keep", () => {
    const seen = new Map<string, number>();
    fc.assert(
      fc.property(fc.array(stroke, { minLength: 3, maxLength: 9 }), (strokes) => {
        let outline = nothingDrawn;
        for (const s of strokes) {
          const result = drawn(outline, s);
          if ("problem" in result) {
            expect(result.problem).toMatch(/^[A-Z].*[.]$/s);
            continue;
          }
          expect(outlineProblems(JSON.parse(JSON.stringify(result.outline)))).toEqual([]);
          const solved = solveOutline(result.outline);
          // Moving or turning what is held elsewhere asks for what cannot be, or is taken back by what holds it.
          // An arc between arcs is drawn near, and solved to where it belongs.
          const asks = ["move", "turn", "round"].includes(s.tool.kind);
          if (solved.state === "conflict") {
            const told = solved.conflicts.length > 0 || solved.problems.length > 0;
            expect(told, `${s.tool.kind}: a conflict without a word`).toBe(true);
            expect(["move", "turn"], "what is drawn disagrees with nothing").toContain(s.tool.kind);
            continue;
          }
          // Where two touch at a double place a residual of nothing is a way of a hundredth of a millimetre.
          const reach = Math.max(...Object.values(result.outline.points).flat().map(Math.abs));
          for (const [id, [x, y]] of Object.entries(result.outline.points))
            if (!asks)
              expect(
                Math.hypot(solved.points[id][0] - x, solved.points[id][1] - y),
                `${s.tool.kind} drew ${id} where it does not stay`,
              ).toBeLessThan(1e-4 * Math.max(1, reach));
          seen.set(s.tool.kind, (seen.get(s.tool.kind) ?? 0) + 1);
          outline = standing(result.outline, solved);
        }
      }),
      { numRuns: RUNS * 10 },
    );
    // A tool that never draws anything in so many tries would not be tested here.
    expect(seen.size).toBeGreaterThanOrEqual(DRAW_TOOLS.length - 3);
  }, 120_000);
});

const at = (...xy: XY): Place => ({ at: xy });
const tool = (kind: string): DrawTool => drawTool(kind)!;
const draw = (
  outline: Outline,
  kind: string,
  places: Place[],
  typed: TypedNumbers = {},
  picks: string[] = [],
) => {
  const result = drawInto(outline, tool(kind), { places, typed, picks });
  if ("problem" in result) throw new Error(result.problem);
  return result;
};
const typed = (key: string, value: number, text: string | number = value): TypedNumbers => ({
  [key]: { text, value },
});

describe("numbers typed while drawing", () => {
  test.each<[string, Place[], string, number, string]>([
    ["line", [at(0, 0), at(30, 4)], "length", 42, "length"],
    ["circle", [at(5, 5), at(9, 5)], "diameter", 12, "diameter"],
    ["rectangle", [at(0, 0), at(20, 10)], "width", 50, "length"],
    ["rectangle-about", [at(0, 0), at(20, 10)], "height", 33, "length"],
    ["arc", [at(0, 0), at(10, 0), at(5, 3)], "radius", 8, "radius"],
    ["arc-about", [at(0, 0), at(10, 0), at(0, 3)], "radius", 8, "radius"],
    ["slot", [at(0, 0), at(30, 0), at(30, 5)], "width", 9, "diameter"],
    ["polygon", [at(0, 0), at(10, 3)], "diameter", 40, "diameter"],
  ])("of a %s become what drives it", (kind, places, key, value, measures) => {
    const aimed: Place[] = [];
    for (const [i, place] of places.entries()) {
      const own = tool(kind).stages[i].values?.includes(key) ? typed(key, value) : {};
      aimed.push(
        tool(kind).aim?.(place, { places: aimed.slice(), typed: own, picks: [] }, nothingDrawn) ?? place,
      );
    }
    const { outline } = draw(nothingDrawn, kind, aimed, typed(key, value, `${value} + 0`));
    expect(outline.dimensions).toEqual([expect.objectContaining({ kind: measures, value: `${value} + 0` })]);
    const solved = solveOutline(outline);
    expect(solved.values[outline.dimensions[0].id]).toBeCloseTo(value, 9);
  });

  test("keep a line's angle from the line before it; a right one makes it level or upright", () => {
    const first = draw(nothingDrawn, "line", [at(0, 0), { at: [40, 0], way: { kind: "level" } }]);
    const steep = draw(first.outline, "line", [first.next!, at(60, 20)], typed("angle", Math.PI / 4));
    expect(steep.outline.dimensions).toEqual([expect.objectContaining({ kind: "angle", value: 45 })]);
    const up = draw(first.outline, "line", [first.next!, at(40, 20)], typed("angle", Math.PI / 2));
    expect(up.outline.relations.map((r) => r.kind)).toEqual(["level", "upright"]);
  });

  test.each([0, -3, Number.NaN, Number.POSITIVE_INFINITY, 1e16])("of %s are refused in words", (value) => {
    const result = drawInto(nothingDrawn, tool("circle"), {
      places: [at(0, 0), at(4, 0)],
      typed: typed("diameter", value),
      picks: [],
    });
    expect(result).toEqual({ problem: expect.stringMatching(/^Diameter: /) });
  });
});

describe("changing what is drawn", () => {
  const box = () =>
    draw(nothingDrawn, "rectangle", [at(0, 0), at(60, 40)], { ...typed("width", 60), ...typed("height", 40) })
      .outline;
  const corner = (outline: Outline, x: number, y: number): Place => {
    const [id] = Object.entries(outline.points).find(([, p]) => Math.hypot(p[0] - x, p[1] - y) < 1e-9)!;
    return { at: [x, y], caught: { by: "point", id } };
  };
  const lines = (o: Outline) => o.curves.filter((c) => c.kind === "line").length;

  test("rounds a corner and keeps the sizes of the rectangle", () => {
    const rounded = draw(box(), "round", [corner(box(), 60, 40)], typed("size", 8)).outline;
    const solved = solveOutline(rounded);
    const arc = rounded.curves.find((c) => c.kind === "arc")!;
    expect(arc.kind === "arc" && solved.points[arc.c]).toEqual([
      expect.closeTo(52, 8),
      expect.closeTo(32, 8),
    ]);
    const places = Object.values(solved.points);
    expect(Math.max(...places.map((p) => p[0]))).toBeCloseTo(60, 8);
    // Rounded more, it is as large as before.
    const more = {
      ...rounded,
      dimensions: rounded.dimensions.map((d) => (d.kind === "radius" ? { ...d, value: 15 } : d)),
    };
    const again = solveOutline(more);
    expect(again.state).not.toBe("conflict");
    const ys = Object.values(again.points).map((p) => p[1]);
    expect(Math.max(...ys) - Math.min(...ys)).toBeCloseTo(40, 8);
    expect(again.values[more.dimensions.find((d) => d.kind === "radius")!.id]).toBeCloseTo(15, 8);
  });

  test("says why a corner cannot be rounded", () => {
    const result = (value: number, place: Place) =>
      drawInto(box(), tool("round"), { places: [place], typed: typed("size", value), picks: [] });
    expect(result(45, corner(box(), 60, 40))).toEqual({
      problem: expect.stringContaining("takes more than there is"),
    });
    const alone = draw(nothingDrawn, "line", [at(0, 0), at(10, 0)]).outline;
    expect(drawInto(alone, tool("round"), { places: [at(0, 0)], typed: {}, picks: [] })).toEqual({
      problem: expect.stringContaining("no corner"),
    });
  });

  test("chamfers a corner by two lengths that stay", () => {
    const cut = draw(box(), "chamfer", [corner(box(), 0, 0)], typed("size", 6)).outline;
    expect(lines(cut)).toBe(5);
    const solved = solveOutline(cut);
    const ends = Object.values(solved.points).map(([x, y]) =>
      `${x.toFixed(6)} ${y.toFixed(6)}`.replaceAll("-0.0", "0.0"),
    );
    expect(ends).toEqual(expect.arrayContaining(["6.000000 0.000000", "0.000000 6.000000"]));
  });

  test("trims what lies between two crossings, of a line and of a circle", () => {
    const crossed = draw(box(), "circle", [at(60, 20), at(70, 20)], typed("diameter", 20)).outline;
    const east = crossed.curves.find(
      (c) => c.kind === "line" && crossed.points[c.a][0] === 60 && crossed.points[c.b][0] === 60,
    )!;
    const open = draw(crossed, "trim", [{ at: [60, 20], caught: { by: "curve", curve: east.id } }]).outline;
    expect(lines(open)).toBe(5);
    const circle = open.curves.find((c) => c.kind === "circle")!;
    const bitten = draw(open, "trim", [{ at: [70, 20], caught: { by: "curve", curve: circle.id } }]).outline;
    const arc = bitten.curves.find((c) => c.id === circle.id)!;
    expect(arc.kind).toBe("arc");
    // What is left is one closed chain: each of its ends belongs to two.
    const ends = new Map<string, number>();
    for (const c of bitten.curves)
      if (c.kind !== "circle") for (const p of [c.a, c.b]) ends.set(p, (ends.get(p) ?? 0) + 1);
    expect([...ends.values()].every((n) => n === 2)).toBe(true);
    expect(solveOutline(bitten).state).not.toBe("conflict");
    // The diameter that was typed still drives it.
    expect(bitten.dimensions.some((d) => d.kind === "diameter" && d.of[0] === circle.id)).toBe(true);
  });

  test("leads a line on to the next curve, and splits one that stays in line", () => {
    const wall = draw(nothingDrawn, "line", [at(50, -10), at(50, 30)]).outline;
    const short = draw(wall, "line", [at(0, 5), at(20, 5)]).outline;
    const id = short.curves[1].id;
    const led = draw(short, "extend", [{ at: [18, 5], caught: { by: "curve", curve: id } }]).outline;
    const now = led.curves.find((c) => c.id === id)!;
    expect(now.kind === "line" && led.points[now.b]).toEqual([expect.closeTo(50, 9), expect.closeTo(5, 9)]);
    const cut = draw(led, "split", [{ at: [25, 5], caught: { by: "curve", curve: id } }]).outline;
    expect(cut.relations.filter((r) => r.kind === "inLine").length).toBe(1);
    expect(lines(cut)).toBe(3);
  });

  test("mirrors about a line, and what is mirrored follows", () => {
    const axis = draw(nothingDrawn, "line", [at(0, -10), { at: [0, 50], way: { kind: "upright" } }]).outline;
    const first = draw(axis, "circle", [at(20, 10), at(24, 10)]).outline;
    const circle = first.curves.find((c) => c.kind === "circle")!;
    const mirrored = draw(
      first,
      "mirror",
      [{ at: [0, 5], caught: { by: "curve", curve: axis.curves[0].id } }],
      {},
      [circle.id],
    );
    const copy = mirrored.outline.curves.find((c) => c.id === mirrored.added[0])!;
    const driven: Outline = {
      ...mirrored.outline,
      dimensions: [{ id: "dd", kind: "diameter", of: [circle.id], value: 14 }],
      relations: [
        ...mirrored.outline.relations,
        { id: "ff", kind: "fixed", of: [circle.kind === "circle" ? circle.c : ""], at: [33, 12] },
        { id: "fa", kind: "fixed", of: [axis.curves[0].kind === "line" ? axis.curves[0].a : ""] },
      ],
    };
    const solved = solveOutline(driven);
    expect(copy.kind === "circle" && solved.points[copy.c]).toEqual([
      expect.closeTo(-33, 8),
      expect.closeTo(12, 8),
    ]);
    expect(solved.radii[copy.id]).toBeCloseTo(7, 8);
  });

  test("repeats in a row whose pitch drives all, and in a ring on one circle", () => {
    const one = draw(nothingDrawn, "circle", [at(0, 0), at(2, 0)], typed("diameter", 4)).outline;
    const id = one.curves[0].id;
    const row = draw(
      one,
      "row",
      [at(0, 0), { at: [10, 0], way: { kind: "level" } }],
      { ...typed("count", 6), ...typed("length", 10) },
      [id],
    );
    const circles = row.outline.curves.filter((c) => c.kind === "circle");
    expect(circles.length).toBe(6);
    const wider = {
      ...row.outline,
      dimensions: row.outline.dimensions.map((d) =>
        d.kind === "distance" ? { ...d, value: 12 } : { ...d, value: 5 },
      ),
    };
    const solved = solveOutline(wider);
    const centres = circles.map((c) => solved.points[c.c]);
    for (let i = 1; i < 6; i++)
      expect(Math.hypot(centres[i][0] - centres[i - 1][0], centres[i][1] - centres[i - 1][1])).toBeCloseTo(
        12,
        8,
      );
    for (const c of circles) expect(solved.radii[c.id]).toBeCloseTo(2.5, 8);
    const ring = draw(
      draw(nothingDrawn, "circle", [at(30, 0), at(33, 0)]).outline,
      "ring",
      [at(0, 0)],
      typed("count", 5),
      ["c1"],
    ).outline;
    const middles = ring.curves
      .filter((c) => c.kind === "circle" && !c.construction)
      .map((c) => (c.kind === "circle" ? ring.points[c.c] : [0, 0]));
    expect(middles.length).toBe(5);
    for (const [x, y] of middles) expect(Math.hypot(x, y)).toBeCloseTo(30, 9);
  });

  test("draws a rectangle's walls beside it, inward and outward, driven by the distance", () => {
    const outline = box();
    const picks = outline.curves.map((c) => c.id);
    for (const [place, far, width] of [
      [at(30, 5), 5, 50],
      [at(30, -4), 4, 68],
    ] as const) {
      const beside = draw(outline, "offset", [place], typed("distance", far, "gap"), picks).outline;
      const added = beside.curves.slice(4);
      const xs = added.flatMap((c) =>
        c.kind === "line" ? [beside.points[c.a][0], beside.points[c.b][0]] : [],
      );
      expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(width, 9);
      expect(beside.dimensions.filter((d) => d.value === "gap").length).toBe(4);
    }
  });
});

describe("a place is caught", () => {
  const outline = draw(nothingDrawn, "line", [at(0, 0), at(40, 0)]).outline;
  const [line] = outline.curves;
  const caught = (x: number, y: number, from?: Place) =>
    snapPlace(outline, [x, y], { within: 2, from, backdrops: [edge, hole] });

  test.each<[string, XY, string]>([
    ["an end", [39, 1], "point"],
    ["the middle of a line", [20.8, 1], "middle"],
    ["a line", [30, 1.5], "curve"],
    ["an edge of the part", [11, -39], "part"],
    ["the middle of an opening of the part", [35.5, 19], "part"],
  ])("by %s", (_, pointer, by) => {
    expect(caught(...pointer).caught?.by).toBe(by);
  });

  test("by nothing where nothing is near, and on the grid if there is one", () => {
    expect(caught(10, 30)).toEqual({ at: [10, 30] });
    expect(snapPlace(outline, [11.3, 28.9], { within: 2, grid: 5 })).toEqual({
      at: [10, 30],
      caught: { by: "grid" },
    });
    expect(snapPlace(outline, [39, 1], { within: 2, free: true })).toEqual({ at: [39, 1] });
  });

  test("by rays of 15°, level and square before the others", () => {
    const from: Place = { at: [40, 0], after: line.id, caught: { by: "point", id: "p2" } };
    expect(caught(40.5, 45, from)).toMatchObject({
      at: [expect.closeTo(40, 9), 45],
      way: { kind: "upright" },
    });
    const steep = caught(40 + 25.2, 25 - 0.1, from);
    expect(Math.atan2(steep.at[1], steep.at[0] - 40)).toBeCloseTo(Math.PI / 4, 9);
    expect(steep.way).toBeUndefined();
  });

  test("where the piece touches a round, or stands square on a line, and holds so", () => {
    const round = draw(outline, "circle", [at(80, 30), at(90, 30)]).outline;
    const from = at(0, 20);
    // From (0, 20) the tangent at the upper side of the circle about (80, 30).
    const touch = snapPlace(round, [78.5, 39.5], { within: 2, from });
    expect(touch.way).toEqual({ kind: "tangent", round: "c1" });
    const line = draw(round, "line", [from, touch]);
    const solved = solveOutline(line.outline);
    expect(solved.state).toBe("free");
    expect(line.outline.relations.map((r) => r.kind).sort()).toEqual(["on", "tangent"]);
    const [cx, cy, tx, ty] = [80, 30, ...touch.at];
    expect((tx - cx) * (tx - 0) + (ty - cy) * (ty - 20)).toBeCloseTo(0, 6);
    const slope = draw(nothingDrawn, "line", [at(0, 0), at(40, 30)]).outline;
    // From (0, 25) the foot on the slope 3 in 4 is at (12, 9).
    const foot = snapPlace(slope, [12.6, 8.5], { within: 2, from: at(0, 25) });
    expect(foot).toMatchObject({
      at: [expect.closeTo(12, 9), expect.closeTo(9, 9)],
      way: { kind: "square", line: "l1" },
    });
  });

  test("by something else of the part, when what it stood for is gone", () => {
    const drawnOn = draw(outline, "line", [caught(-20, -39.5), caught(30, -40.5)]).outline;
    const [{ id }] = drawnOn.references!;
    const other: Backdrop = {
      name: "s1.north",
      label: "A north",
      curve: { kind: "line", a: [-60, 44], b: [60, 44] },
    };
    const stand = (place: Place, what = drawnOn) =>
      drawInto(what, standForTool("stand", id), { places: [place], typed: {}, picks: [] });
    const on = (backdrop: Backdrop): Place => ({ at: [0, 44], caught: { by: "part", backdrop, at: "on" } });
    const moved = stand(on(other));
    if ("problem" in moved) throw new Error(moved.problem);
    expect(moved.outline.references).toEqual([{ id, to: "s1.north" }]);
    // What is drawn on it comes along.
    const solved = solveOutline(moved.outline);
    const line2 = moved.outline.curves[moved.outline.curves.length - 1];
    expect(line2.kind === "line" && [solved.points[line2.a][1], solved.points[line2.b][1]]).toEqual([
      expect.closeTo(44, 6),
      expect.closeTo(44, 6),
    ]);
    expect(stand(on(hole))).toEqual({ problem: expect.stringContaining("opening is no line") });
    expect(stand(at(3, 3))).toEqual({ problem: expect.stringContaining("Point at something of the part") });
    const both = draw(drawnOn, "line", [
      { at: [0, 44], caught: { by: "part", backdrop: other, at: "a" } },
      at(0, 60),
    ]).outline;
    expect(stand(on(other), both)).toEqual({ problem: expect.stringContaining("already") });
  });

  test("on what the part has, once however often it is drawn on", () => {
    const a = caught(-20, -39.5);
    const b = caught(30, -40.5);
    const drawnOn = draw(outline, "line", [a, b]).outline;
    expect(drawnOn.references).toEqual([{ id: expect.any(String), to: "s1.south" }]);
    const solved = solveOutline(drawnOn);
    expect(solved.state).toBe("free");
    // The part's edge stands where the part has it: only along it can the new line's ends move.
    const edgeLine = drawnOn.curves.find((c) => c.id === drawnOn.references![0].id)!;
    expect(edgeLine.construction).toBe(true);
    expect(solved.freePoints).not.toContain(edgeLine.kind === "line" ? edgeLine.a : "");
  });
});
