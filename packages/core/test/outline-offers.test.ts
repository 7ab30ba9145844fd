import { describe, expect, test } from "vitest";
import {
  dimensionOffers,
  isTooMuch,
  type Outline,
  relationOffers,
  removeFrom,
  solveOutline,
  withOffer,
} from "../src/index.ts";

/** Two lines that nearly make a corner, a circle, an arc, a point. */
const drawn: Outline = {
  format: "hillcrest-outline",
  version: 1,
  name: "Drawn",
  points: {
    a: [0, 0],
    b: [40, 2],
    c: [41, 30],
    m: [20, 15],
    n: [60, 15],
    s: [64, 15],
    e: [60, 19],
    q: [5, 25],
  },
  curves: [
    { id: "l1", kind: "line", a: "a", b: "b" },
    { id: "l2", kind: "line", a: "b", b: "c" },
    { id: "o", kind: "circle", c: "m", r: 4 },
    { id: "w", kind: "arc", a: "s", b: "e", c: "n", ccw: true },
  ],
  relations: [],
  dimensions: [],
};
const relations = (...picks: string[]) =>
  relationOffers(drawn, picks).map((o) => ("relation" in o[0] ? o[0].relation : ""));
const dimensions = (...picks: string[]) =>
  dimensionOffers(drawn, picks).map((o) => ("dimension" in o ? o.dimension : ""));

describe("what is offered for what is picked", () => {
  test.each<[string[], string[], string[]]>([
    [["l1"], ["level", "upright"], ["length"]],
    [["a"], ["fixed"], []],
    [["o"], [], ["diameter", "radius", "arcLength"]],
    [["w"], [], ["radius", "diameter", "arcLength"]],
    [["l1", "l2"], ["parallel", "square", "inLine", "equal"], ["angle"]],
    [["o", "w"], ["tangent", "concentric", "equal"], []],
    [["l1", "o"], ["tangent"], []],
    [["o", "l1"], ["tangent"], []],
    [
      ["a", "c"],
      ["coincident", "level", "upright", "fixed"],
      ["distance", "distanceX", "distanceY"],
    ],
    [["q", "l1"], ["middle", "on"], ["toLine"]],
    [["l1", "q"], ["middle", "on"], ["toLine"]],
    [["q", "o"], ["concentric", "on"], []],
    [["a", "q", "l2"], ["symmetric"], []],
    [["a", "b", "q"], ["coincident", "middle", "fixed"], []],
  ])("%j: %j and %j", (picks, holds, measures) => {
    expect(relations(...picks).sort()).toEqual([...holds].sort());
    expect(dimensions(...picks)).toEqual(measures);
  });

  test("is not what holds already, and what is taken holds", () => {
    for (const offers of relationOffers(drawn, ["l1", "l2"])) {
      const { outline, id } = withOffer(drawn, offers);
      expect(solveOutline(outline).state).toBe("free");
      const kind = outline.relations[0].kind;
      expect(
        relationOffers(outline, ["l1", "l2"]).some((o) => "relation" in o[0] && o[0].relation === kind),
      ).toBe(false);
      expect(removeFrom(outline, [id])).toEqual(drawn);
    }
  });

  test("of several lines is for each with the next", () => {
    const three = {
      ...drawn,
      curves: [...drawn.curves, { id: "l3", kind: "line", a: "c", b: "q" } as const],
    };
    const [equal] = relationOffers(three, ["l1", "l2", "l3"]).filter(
      (o) => "relation" in o[0] && o[0].relation === "equal",
    );
    expect(equal.map((o) => o.of)).toEqual([
      ["l1", "l2"],
      ["l2", "l3"],
    ]);
  });

  test("as a dimension begins as what is there, and is too much where the rest says it", () => {
    const { outline, id } = withOffer(drawn, [dimensionOffers(drawn, ["l1"])[0]]);
    expect(outline.dimensions[0].value).toBeCloseTo(Math.hypot(40, 2), 6);
    expect(isTooMuch(outline, id)).toBe(false);
    const again = withOffer(outline, [{ dimension: "distance", of: ["a", "b"] }]);
    expect(isTooMuch(again.outline, again.id)).toBe(true);
  });

  test("between lines that run alike is their distance, as they have no angle", () => {
    const alike = { ...drawn, points: { ...drawn.points, c: [80, 4] as const } };
    expect(dimensionOffers(alike, ["l1", "l2"])).toEqual([{ dimension: "toLine", of: ["a", "l2"] }]);
  });
});

test("what is taken out of an outline takes with it what was said of it, and leaves the rest", () => {
  const said: Outline = {
    ...drawn,
    relations: [
      { id: "r1", kind: "level", of: ["l1"] },
      { id: "r2", kind: "square", of: ["l1", "l2"] },
      { id: "r3", kind: "fixed", of: ["b"] },
      { id: "r4", kind: "on", of: ["q", "l2"] },
    ],
    dimensions: [{ id: "d1", kind: "length", of: ["l1"], value: 40 }],
  };
  const left = removeFrom(said, ["l1"]);
  expect(left.curves.map((c) => c.id)).toEqual(["l2", "o", "w"]);
  // The end that both had stays; the other's goes with it.
  expect(Object.keys(left.points).sort()).toEqual(["b", "c", "e", "m", "n", "q", "s"]);
  expect(left.relations.map((r) => r.id)).toEqual(["r3", "r4"]);
  expect(left.dimensions).toEqual([]);
});
