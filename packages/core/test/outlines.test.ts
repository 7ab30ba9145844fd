import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { type Outline, readOutline, readOutlinesText, solveOutline } from "../src/index.ts";

const base = { format: "hillcrest-outline", version: 1, name: "Outline" } as const;
const outline = (more: Partial<Outline>): Outline => ({
  ...base,
  points: {},
  curves: [],
  relations: [],
  dimensions: [],
  ...more,
});
/** The example that the documentation of the format gives. */
const bracket = (() => {
  const text = readFileSync(new URL("../../../docs/format/outline.md", import.meta.url), "utf8");
  const read = readOutlinesText(/```json\n([\s\S]*?)```/.exec(text)![1]);
  if (!read.ok) throw new Error(JSON.stringify(read.error));
  return read.value[0];
})();

describe("the bracket of the documentation", () => {
  test("comes out as its numbers say, the arc on both sides without a kink", () => {
    const { state, free, conflicts, repeats, points, values } = solveOutline(bracket);
    expect({ state, free, conflicts, repeats }).toEqual({
      state: "fixed",
      free: 0,
      conflicts: [],
      repeats: [],
    });
    const close = (id: string, at: readonly [number, number]) => {
      expect(points[id][0]).toBeCloseTo(at[0], 9);
      expect(points[id][1]).toBeCloseTo(at[1], 9);
    };
    close("a", [0, 0]);
    close("b", [60, 0]);
    close("c", [60, 28]);
    close("d", [48, 40]);
    close("e", [0, 40]);
    close("m", [48, 28]);
    expect(values).toEqual({
      d1: expect.closeTo(60, 9),
      d2: expect.closeTo(40, 9),
      d3: expect.closeTo(12, 9),
      d4: expect.closeTo(6 * Math.PI, 9),
    });
  });

  test("follows its value, and says what is free when something is taken away", () => {
    const wider = solveOutline({ ...bracket, values: [{ name: "width", value: 90 }] });
    expect(wider.points.d[0]).toBeCloseTo(78, 9);
    expect(wider.points.e[1]).toBeCloseTo(60, 9);
    const looser = solveOutline({ ...bracket, dimensions: bracket.dimensions.filter((d) => d.id !== "d3") });
    expect(looser).toMatchObject({ state: "free", free: 1, freePoints: ["c", "d", "m"] });
  });

  test("names what disagrees, and what only repeats", () => {
    const more = (kind: "length" | "toLine", value: number): Outline => ({
      ...bracket,
      dimensions: [
        ...bracket.dimensions,
        { id: "d9", kind, of: kind === "length" ? ["south"] : ["e", "south"], value },
      ],
    });
    expect([...solveOutline(more("length", 61)).conflicts].sort()).toEqual(["d1", "d9"]);
    expect(solveOutline(more("toLine", 40))).toMatchObject({ state: "fixed", conflicts: [] });
    const [repeat] = solveOutline(more("toLine", 40)).repeats;
    expect(repeat).toContain("d2");
    expect(repeat).toContain("d9");
    expect(solveOutline(more("toLine", 41)).state).toBe("conflict");
  });
});

test("a relation of which one half repeats what is there is needed, and not told as a repeat", () => {
  const eye = outline({
    points: { p: [-17, 76], q: [17, 75], m: [0, 70], o: [0, 0] },
    curves: [
      { id: "top", kind: "arc", a: "q", b: "p", c: "m", ccw: true },
      { id: "axis", kind: "line", a: "o", b: "m", construction: true },
    ],
    relations: [
      { id: "r1", kind: "fixed", of: ["o"] },
      { id: "r2", kind: "upright", of: ["axis"] },
      { id: "r3", kind: "symmetric", of: ["p", "q", "axis"] },
    ],
  });
  const made = solveOutline(eye);
  expect(made.repeats).toEqual([]);
  expect(made.free).toBe(3);
  expect(made.points.p[0]).toBeCloseTo(-made.points.q[0], 9);
  const again = {
    ...eye,
    relations: [...eye.relations, { id: "r4", kind: "symmetric" as const, of: ["q", "p", "axis"] }],
  };
  const [repeat, ...others] = solveOutline(again).repeats;
  expect(others).toEqual([]);
  expect(repeat[repeat.length - 1]).toBe("r4");
  expect(repeat).toContain("r3");
});

describe("what touches", () => {
  const touching = (relation: readonly string[], more: Partial<Outline> = {}): Outline =>
    outline({
      points: { a: [0, 0], b: [50, 0], m: [20, 13], n: [45, 12] },
      curves: [
        { id: "l", kind: "line", a: "a", b: "b" },
        { id: "c", kind: "circle", c: "m", r: 10 },
        { id: "d", kind: "circle", c: "n", r: 9 },
      ],
      relations: [
        { id: "r1", kind: "fixed", of: ["a"] },
        { id: "r2", kind: "fixed", of: ["b"] },
        { id: "r3", kind: "tangent", of: relation },
      ],
      ...more,
    });

  test("is a circle at a line, on its side, with the radius that is asked for", () => {
    const made = solveOutline(
      touching(["l", "c"], { dimensions: [{ id: "d1", kind: "radius", of: ["c"], value: 12 }] }),
    );
    expect(made.points.m[1]).toBeCloseTo(12, 9);
    expect(made.radii.c).toBeCloseTo(12, 9);
  });

  test("is two circles from outside, or one in the other, whichever is nearer", () => {
    const apart = ({ points: { m, n } }: ReturnType<typeof solveOutline>) =>
      Math.hypot(m[0] - n[0], m[1] - n[1]);
    const outside = solveOutline(touching(["c", "d"]));
    expect(apart(outside)).toBeCloseTo(outside.radii.c + outside.radii.d, 9);
    const within = touching(["c", "d"]);
    const inside = solveOutline({
      ...within,
      points: { ...within.points, n: [22, 14] },
      curves: [
        within.curves[0],
        { id: "c", kind: "circle", c: "m", r: 14 },
        { id: "d", kind: "circle", c: "n", r: 9 },
      ],
    });
    expect(apart(inside)).toBeCloseTo(inside.radii.c - inside.radii.d, 9);
  });
});

describe("what is too small, turned round, or nothing", () => {
  const triangle = (sides: readonly [number, number, number], height = 20): Outline =>
    outline({
      points: { a: [0, 0], b: [40, 0], c: [20, height] },
      curves: [
        { id: "ab", kind: "line", a: "a", b: "b" },
        { id: "bc", kind: "line", a: "b", b: "c" },
        { id: "ca", kind: "line", a: "c", b: "a" },
      ],
      dimensions: sides.map((value, i) => ({
        id: `d${i}`,
        kind: "length",
        of: [["ab", "bc", "ca"][i]],
        value,
      })),
    });

  test("a triangle stays on the side on which it is drawn", () => {
    for (const height of [20, -20, 3, -3]) {
      const { points, state } = solveOutline(triangle([40, 30, 35], height));
      expect(state).toBe("free");
      const [[ax, ay], [bx, by], [cx, cy]] = [points.a, points.b, points.c];
      expect(Math.sign((bx - ax) * (cy - ay) - (by - ay) * (cx - ax))).toBe(Math.sign(height));
    }
  });

  test("a triangle that cannot close names its three sides", () => {
    expect([...solveOutline(triangle([40, 10, 12])).conflicts].sort()).toEqual(["d0", "d1", "d2"]);
  });

  test("a line that is level and upright would be nothing: the two disagree", () => {
    const line = outline({
      points: { a: [0, 0], b: [30, 2] },
      curves: [{ id: "l", kind: "line", a: "a", b: "b" }],
      relations: [
        { id: "r1", kind: "level", of: ["l"] },
        { id: "r2", kind: "upright", of: ["l"] },
      ],
    });
    expect(solveOutline(line)).toMatchObject({ state: "conflict", conflicts: ["r1", "r2"] });
  });

  test("points in one place part where a distance asks for it", () => {
    const { points, state } = solveOutline(
      outline({
        points: { a: [5, 5], b: [5, 5] },
        dimensions: [{ id: "d", kind: "distance", of: ["a", "b"], value: 8 }],
      }),
    );
    expect(state).toBe("free");
    expect(Math.hypot(points.b[0] - points.a[0], points.b[1] - points.a[1])).toBeCloseTo(8, 9);
  });

  test("an arc of nearly half a turn and one of nearly a whole are what they are", () => {
    const arc = (degrees: number) => {
      const end = (degrees * Math.PI) / 180;
      return outline({
        points: { m: [0, 0], a: [10, 0], b: [10 * Math.cos(end), 10 * Math.sin(end)] },
        curves: [{ id: "k", kind: "arc", a: "a", b: "b", c: "m", ccw: true }],
        relations: [{ id: "r", kind: "fixed", of: ["m"] }],
        dimensions: [
          { id: "d", kind: "arcLength", of: ["k"], value: 0, showing: true },
          { id: "e", kind: "radius", of: ["k"], value: 10 },
        ],
      });
    };
    for (const degrees of [179.999, 180, 359.9, 0.05])
      expect(solveOutline(arc(degrees)).values.d).toBeCloseTo((degrees * Math.PI) / 18, 7);
  });

  test.each<[string, string | number, string]>([
    ["length", 0, "it must be above 0"],
    ["length", -4, "it must be above 0"],
    ["length", "1/0", ""],
    ["length", 1e16, "it is larger than a kilometre"],
    ["length", "w +", ""],
    ["length", "depth", "depth"],
    ["angle", 0, "above 0° and below 180°"],
    ["angle", 180, "above 0° and below 180°"],
  ])("a %s of %j is told at its dimension, and nothing moves", (kind, value, says) => {
    const drawn = outline({
      ...triangle([40, 30, 35]),
      dimensions: [
        { id: "d", kind: kind as "length" | "angle", of: kind === "angle" ? ["ab", "bc"] : ["ab"], value },
      ],
    });
    const made = solveOutline(drawn);
    expect(made.state).toBe("conflict");
    expect(made.problems[0]).toMatchObject({ of: "d", message: expect.stringContaining(says) });
    expect(made.points).toEqual(drawn.points);
  });

  test("names that lead back to themselves are told by the circle", () => {
    const made = solveOutline(
      outline({
        ...triangle([40, 30, 35]),
        dimensions: [
          { id: "d1", kind: "length", of: ["ab"], value: "2*v", name: "u" },
          { id: "d2", kind: "length", of: ["bc"], value: "u", name: "v" },
        ],
      }),
    );
    expect(made.problems.map((p) => p.message).join("\n")).toMatch(/it goes in a circle: u → v → u/);
  });
});

describe("reading an outline", () => {
  const wrong = (more: object): string[] => {
    const read = readOutline({ ...bracket, ...more });
    return read.ok ? [] : read.error.map((p) => `${p.path} ${p.message}`);
  };

  test.each<[object, string]>([
    [{ version: 2 }, "/version Version 2 is not one that this program reads (1)"],
    [{ format: "x" }, '/format This is no outline: "format" must be "hillcrest-outline".'],
    [{ points: { a: [0] } }, "/points/a A point is two numbers"],
    [{ points: { a: [0, 1e16] } }, "/points/a A point is two numbers"],
    [{ points: [] }, '/points "points" must be an object'],
    [
      { curves: [{ id: "k", kind: "line", a: "a", b: "a" }] },
      "/curves/0/b A line that begins and ends at one point",
    ],
    [{ curves: [{ id: "k", kind: "line", a: "a", b: "z" }] }, '/curves/0/b There is no point called "z".'],
    [
      { curves: [{ id: "a", kind: "circle", c: "a", r: 1 }] },
      '/curves/0/id There is another thing called "a".',
    ],
    [{ curves: [{ id: "k", kind: "circle", c: "a", r: 0 }] }, "/curves/0/r A radius is a number above 0"],
    [{ curves: [{ id: "k", kind: "spline" }] }, '/curves/0/kind "spline" is not one of line, arc, circle.'],
    [
      { relations: [{ id: "r", kind: "parallel", of: ["south", "a"] }] },
      "/relations/0/of Parallel: it takes a line, a line.",
    ],
    [
      { relations: [{ id: "r", kind: "level", of: ["nowhere"] }] },
      '/relations/0/of Level: there is no point or curve called "nowhere".',
    ],
    [
      { relations: [{ id: "r", kind: "near", of: [] }] },
      '/relations/0/kind "near" is not one of coincident,',
    ],
    [
      { relations: [{ id: "r", kind: "equal", of: ["south", "south"] }] },
      "/relations/0/of This is about one thing twice.",
    ],
    [
      { dimensions: [{ id: "d", kind: "length", of: ["south"] }] },
      "/dimensions/0/value A dimension that drives has a value",
    ],
    [
      { dimensions: [{ id: "r1", kind: "length", of: ["south"], value: 4 }] },
      '/dimensions/0/id There is another thing called "r1".',
    ],
    [{ values: [{ name: "2x", value: 1 }] }, '/values/0/name "2x" cannot be a name'],
    [{ colour: "red" }, "/colour This is nothing that stands here."],
  ])("%j is refused with its place and what would work", (more, says) => {
    expect(
      wrong(more).some((line) => line.startsWith(says)),
      wrong(more).join("\n"),
    ).toBe(true);
  });

  test("takes 5,000 curves that have nothing to do with one another, in a moment", () => {
    const points: Record<string, [number, number]> = {};
    const curves = Array.from({ length: 5000 }, (_, i) => {
      points[`a${i}`] = [i, 0];
      points[`b${i}`] = [i, 10];
      return { id: `l${i}`, kind: "line" as const, a: `a${i}`, b: `b${i}` };
    });
    const read = readOutline({ ...base, points, curves });
    expect(read.ok).toBe(true);
    const start = performance.now();
    const made = solveOutline(read.ok ? read.value : bracket);
    expect(made.free).toBe(20_000);
    expect(performance.now() - start).toBeLessThan(3000);
  });
});
