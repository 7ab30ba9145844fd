import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  asCircle,
  bendsOf,
  buildPart,
  evenState,
  foldPoint,
  foldSheet,
  newPart,
  type PartBuild,
  platesOf,
  regionArea,
  type StepDocument,
} from "../src/index.ts";

// t 1.5, r 1.5, K 0.42: at 90° the setback is 3, the allowance 3.345796.
const SETBACK = 3;
const ALLOWANCE = (Math.PI / 2) * (1.5 + 0.42 * 1.5);
const plate: StepDocument = { id: "s1", kind: "plate", width: "120", depth: "80" };

function build(...steps: StepDocument[]): PartBuild {
  const made = buildPart({ ...newPart("Part"), steps: [plate, ...steps] });
  expect(made.findings).toEqual([]);
  return made;
}

const flange = (at: string, values: object = {}, id = "s2"): StepDocument => ({
  id,
  kind: "flange",
  edges: [{ key: "a", at }],
  length: "25",
  ...values,
});

const plateArea = (b: PartBuild, i = 0) =>
  platesOf(b.sheet!)[i].regions.reduce((sum, r) => sum + regionArea(r), 0);

describe("where a flange of a width stands along its edge", () => {
  // North runs from the left at x = -60 to the right at x = 60.
  test.each([
    ["left", "0", -60],
    ["left", "7", -53],
    ["centre", "0", -15],
    ["centre", "7", -8],
    ["right", "0", 30],
    ["right", "7", 23],
  ])("from the %s, moved %s", (at, shift, start) => {
    const { sheet } = build(flange("s1.north", { span: "width", width: "30", at, shift }));
    expect(bendsOf(sheet!)[0].origin.x).toBeCloseTo(start, 12);
    expect(bendsOf(sheet!)[0].origin.y).toBeCloseTo(40 - SETBACK, 12);
    expect(bendsOf(sheet!)[0].width).toBeCloseTo(30, 12);
  });

  test("left and right are the same on every edge for an eye outside, with side B towards it", () => {
    const starts = ["north", "east", "south", "west"].map((role) => {
      const { sheet } = build(flange(`s1.${role}`, { span: "width", width: "10", at: "left" }));
      const { x, y } = bendsOf(sheet!)[0].origin;
      return [x, y].map((v) => Math.round(v));
    });
    expect(starts).toEqual([
      [-60, 37],
      [57, 40],
      [60, -37],
      [-57, -40],
    ]);
  });

  test("a bend that starts beyond the edge lengthens the plate under it, and only there", () => {
    const b = build(flange("s1.north", { place: "offset", offset: "-4", span: "width", width: "30" }));
    expect(plateArea(b)).toBeCloseTo(120 * 80 + 4 * 30, 9);
  });
});

describe("reliefs cut exactly what they say", () => {
  const partial = { span: "width", width: "30" };
  const both = (shape: string, width: number, depth: number) => ({
    ...partial,
    leftRelief: shape,
    leftReliefWidth: width,
    leftReliefDepth: depth,
    rightRelief: shape,
    rightReliefWidth: width,
    rightReliefDepth: depth,
  });
  const bare = 120 * 80 - 30 * SETBACK;

  test("square: width by setback and depth", () => {
    expect(plateArea(build(flange("s1.north", both("square", 2, 1.5))))).toBeCloseTo(
      bare - 2 * 2 * (SETBACK + 1.5),
      9,
    );
  });

  test("round-ended: the same depth to the end of a half circle", () => {
    const cut = 4 * (SETBACK + 2.5 - 2) + (Math.PI * 2 * 2) / 2;
    const b = build(flange("s1.north", both("round", 4, 2.5)));
    expect(plateArea(b)).toBeCloseTo(bare - 2 * cut, 9);
    const arcs = b.blank!.outlines[0].filter((c) => c.kind === "arc");
    expect(arcs.map((c) => c.kind === "arc" && c.r)).toEqual([2, 2]);
  });

  test("torn: no metal at all, but a cut from the edge to its depth", () => {
    const b = build(flange("s1.north", both("torn", 1, 2)));
    expect(plateArea(b)).toBeCloseTo(bare, 9);
    const lengths = b.blank!.slits.map((s) => Math.abs(s.a.y - s.b.y)).sort();
    expect(lengths[0] + lengths[lengths.length - 1]).toBeCloseTo(SETBACK + 2, 9);
  });

  test("none where nothing stands beside the bend: a whole edge is not touched", () => {
    const b = build(flange("s1.north", { leftRelief: "square", leftReliefWidth: 5, leftReliefDepth: 5 }));
    expect(plateArea(b)).toBeCloseTo(120 * (80 - SETBACK), 9);
  });

  test("multiples of the thickness follow it", () => {
    const thick = { ...newPart("Part"), stock: { ...newPart("").stock, thickness: "2", radius: "1" } };
    const steps = [plate, flange("s1.north", both("square", 0, 0))].map((s) =>
      s.kind === "flange"
        ? {
            ...s,
            leftReliefWidth: "2*t",
            rightReliefWidth: "t",
            leftReliefDepth: "t/2",
            rightReliefDepth: "0",
          }
        : s,
    );
    const b = buildPart({ ...thick, steps });
    expect(plateArea(b)).toBeCloseTo(120 * 80 - 30 * 3 - 4 * (3 + 1) - 2 * 3, 9);
  });
});

test("a flange that ends in the round bottom of its neighbour's relief is one piece with its plate", () => {
  const stock = { ...newPart("").stock, thickness: "0.5", radius: "1", k: "0.25" };
  const narrow = flange("s1.north", {
    length: "5",
    angle: "100",
    place: "inner-face",
    span: "width",
    width: "4",
    leftRelief: "torn",
    leftReliefDepth: "0",
    rightRelief: "round",
    rightReliefWidth: "1",
    rightReliefDepth: "1.6",
  });
  const beside = flange(
    "s1.north",
    {
      ...narrow,
      edges: [{ key: "a", at: "s1.north" }],
      angle: "58",
      width: "17.4",
      at: "right",
      radius: "5",
      rightRelief: "torn",
      rightReliefDepth: "0",
      id: "s3",
    },
    "s3",
  );
  const b = buildPart({
    ...newPart("Part"),
    stock,
    steps: [{ ...plate, width: "40", depth: "40" }, narrow, beside],
  });
  const parts = [...platesOf(b.sheet!), ...bendsOf(b.sheet!)].flatMap((p) => p.regions);
  expect(b.blank!.outlines.length).toBe(1);
  expect(b.blank!.area).toBeCloseTo(
    parts.reduce((sum, r) => sum + regionArea(r), 0),
    6,
  );
});

describe("where walls meet at a corner", () => {
  const walls = ["north", "east", "south", "west"];

  test("the order in which they were made makes no difference to the metal", () => {
    const area = (order: readonly string[]) =>
      build(
        ...order.map((role, i) => flange(`s1.${role}`, { length: String(20 + role.length) }, `s${i + 2}`)),
      ).blank!.area;
    const first = area(walls);
    fc.assert(
      fc.property(fc.shuffledSubarray(walls, { minLength: 4 }), (order) => {
        expect(area(order)).toBeCloseTo(first, 9);
      }),
    );
  });

  test("each ends at the other's first tangent line, whatever their radii", () => {
    const b = build(flange("s1.north", { radius: "4" }), flange("s1.east", {}, "s3"));
    const [north, east] = b.bends;
    expect(north.length).toBeCloseTo(120 - 3, 12);
    expect(east.length).toBeCloseTo(80 - 5.5, 12);
  });

  test("one that keeps clear of the corner by an inset is not shortened further", () => {
    const b = build(
      flange("s1.north"),
      flange("s1.east", { span: "inset", leftInset: "10", rightInset: "5" }, "s3"),
    );
    expect(b.bends[0].length).toBeCloseTo(120, 12);
    expect(b.bends[1].length).toBeCloseTo(80 - 15, 12);
  });

  test("a bend that starts at the edge takes nothing from its neighbour", () => {
    const b = build(
      flange("s1.north", { place: "bend-from-edge" }),
      flange("s1.east", { place: "bend-from-edge" }, "s3"),
    );
    expect(b.bends.map((r) => r.length)).toEqual([120, 80]);
    expect(b.blank!.width).toBeCloseTo(120 + ALLOWANCE + 22, 9);
  });

  test("a later wall shortens an earlier one, and what hangs on that follows", () => {
    const b = build(
      flange("s1.north"),
      flange("s2a.end", { length: "10" }, "s3"),
      flange("s1.west", {}, "s4"),
    );
    expect(b.bends.map((r) => r.length)).toEqual([117, 117, 77]);
  });
});

test("a hole on a flange stands as high above the parent's outer face as was typed", () => {
  for (const turn of ["up", "down"]) {
    const b = build(
      flange("s1.east", { turn, length: "40", holes: [{ key: "a", x: "5", y: "22", d: "6" }] }),
    );
    const folding = foldSheet(b.sheet!, evenState(b.sheet!, 1));
    const circle = asCircle(platesOf(b.sheet!)[1].regions[0].holes[0])!;
    const [x, y, z] = foldPoint(folding, 1, [circle.c.x, circle.c.y, turn === "up" ? 0 : 1.5]);
    expect(x).toBeCloseTo(60, 9);
    // East's x runs from north to south.
    expect(y).toBeCloseTo(-5, 9);
    expect(z).toBeCloseTo(turn === "up" ? 22 : 1.5 - 22, 9);
  }
});

test("letters and numbers stay with their plates when an earlier step is paused", () => {
  const steps = [flange("s1.north"), flange("s1.south", {}, "s3"), flange("s3a.end", {}, "s4")];
  const all = build(...steps);
  const paused = build({ ...steps[0], paused: true }, steps[1], steps[2]);
  expect(all.bends.map((b) => [b.number, ...b.between])).toEqual([
    [1, "A", "B"],
    [2, "A", "C"],
    [3, "C", "D"],
  ]);
  expect(paused.bends.map((b) => [b.number, ...b.between])).toEqual([
    [2, "A", "C"],
    [3, "C", "D"],
  ]);
});
