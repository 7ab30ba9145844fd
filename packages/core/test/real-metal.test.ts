import { describe, expect, test } from "vitest";
import {
  bendsOf,
  evenState,
  examinePart,
  newPart,
  type PartBuild,
  type PartDocument,
  partStl,
  platesOf,
  regionArea,
  type StepDocument,
  whyBend,
} from "../src/index.ts";
import { byPoints } from "./by-points.ts";
import { flawsOfStl } from "./manifold.ts";

const at = (...names: string[]) => names.map((n, i) => ({ key: "abcdef"[i], at: n }));
const step = (id: string, kind: string, values: object): StepDocument => ({ id, kind, ...values });
const part = (stock: object, ...steps: StepDocument[]): PartDocument => {
  const fresh = newPart("Part");
  return byPoints({ ...fresh, stock: { ...fresh.stock, ...stock }, steps });
};
const messages = (b: PartBuild) =>
  b.findings.flatMap((f) => (f.rule === "deep-channel" ? [] : [`${f.level}: ${f.message}`]));
const points = (...list: readonly (readonly [number, number])[]) =>
  list.map(([x, y], i) => ({ key: `p${i}`, x: String(x), y: String(y) }));

// t 1.5, r 1.5, K 0.42: at 90° BA is 3.345796, the setback 3.
const BA = (Math.PI / 2) * (1.5 + 0.42 * 1.5);
const plate = step("s1", "plate", { width: "120", depth: "80" });

/** A plate 90 wide with a tongue 50 wide and 30 long in the middle of its far end. */
const tongued = step("s1", "plate", {
  form: "outline",
  points: points([-45, -50], [45, -50], [45, 50], [25, 50], [25, 80], [-25, 80], [-25, 50], [-45, 50]),
});
const fold = (values: object) =>
  step("s2", "fold", { from: at("s1.side-p0"), distance: "100", angle: "90", ...values });

describe("a tongue folded at its root", () => {
  test.each([
    ["the far side", { moves: "far" }],
    ["the near side", { moves: "near" }],
    ["further out", { distance: "101" }],
    ["further in", { distance: "98.5" }],
    ["slightly", { angle: "30" }],
    ["down", { turn: "down" }],
  ])("bends as wide as it is and leaves its shoulders where they hang: %s", (_how, values) => {
    const b = examinePart(part({}, tongued, fold(values)));
    expect(messages(b)).toEqual([]);
    expect(b.bends[0].length).toBeCloseTo(50, 9);
    expect(b.blank!.outlines.length).toBe(1);
    expect(b.blank!.joined).toEqual([{ root: expect.closeTo(1, 9), leg: expect.closeTo(1, 9) }]);
    // Shoulders stay edges of the plate they belong to.
    const plates = Object.fromEntries(platesOf(b.sheet!).map((p) => [p.id, p.edges.map((e) => e.role)]));
    const body = "moves" in values && values.moves === "near" ? plates.s2 : plates.s1;
    expect(body).toEqual(expect.arrayContaining(["side-p2", "side-p6"]));
    expect(flawsOfStl(partStl(b.sheet!, evenState(b.sheet!, 1), undefined, 0.05))).toEqual([]);
  });

  test("is relieved as the stock says: by its size, torn, or told that it is not", () => {
    const whole = 90 * 100 + 50 * 30;
    const area = (stock: object) => examinePart(part(stock, tongued, fold({}))).blank!.area;
    // The notch is 2.25 wide, runs 1.5 behind the tangent line and along the shoulder, half of BA here.
    expect(area({ relief: "square" })).toBeCloseTo(whole - 2 * 2.25 * (1.5 + BA / 2), 6);
    expect(area({ relief: "torn" })).toBeCloseTo(whole, 6);
    expect(messages(examinePart(part({ relief: "none" }, tongued, fold({}))))).toEqual([
      expect.stringContaining("Bend 1 has metal beside its left end and no relief there"),
      expect.stringContaining("Bend 1 has metal beside its right end and no relief there"),
    ]);
    const torn = examinePart(part({ relief: "torn" }, tongued, fold({})));
    expect(torn.blank!.slits.length).toBeGreaterThanOrEqual(2);
    expect(flawsOfStl(partStl(torn.sheet!, evenState(torn.sheet!, 1), undefined, 0.05))).toEqual([]);
  });

  test("between two slots is as wide as its line says", () => {
    const slot = (id: string, x: string) =>
      step(id, "cut", { plate: at("s1"), form: "rectangle", width: "4", height: "40", x, y: "20" });
    for (const moves of ["far", "near"]) {
      const b = examinePart(
        part(
          {},
          plate,
          slot("s2", "-22"),
          slot("s3", "22"),
          step("s4", "fold", {
            from: at("s1.south"),
            distance: "41",
            angle: "60",
            reach: "part",
            startAt: "38",
            endAt: "82",
            moves,
          }),
        ),
      );
      expect(messages(b)).toEqual([]);
      expect(b.bends[0].length).toBeCloseTo(40, 6);
      const [line] = b.blank!.centreLines[0].pieces;
      expect([line.a.x, line.b.x].sort((p, q) => p - q)).toEqual([
        expect.closeTo(-20, 6),
        expect.closeTo(20, 6),
      ]);
    }
  });

  test("sides that only slant are no shoulders: the bend slants with them", () => {
    const slanted = step("s1", "plate", {
      form: "outline",
      points: points([-45, -50], [45, -50], [25, 50], [-25, 50]),
    });
    const b = examinePart(part({}, slanted, fold({ distance: "50" })));
    expect(messages(b)).toEqual([]);
    expect(b.bends[0].length).toBeCloseTo(70, 6);
    expect(b.blank!.area).toBeCloseTo(140 * 50, 6);
  });
});

describe("a leg that stands on less than its edge", () => {
  const wall = (values: object) => step("s2", "flange", { edges: at("s1.north"), length: "40", ...values });
  const drawn = (...list: readonly (readonly [number, number])[]) =>
    wall({ shape: "outline", points: points(...list) });

  test.each([
    [
      "in the middle",
      [
        [-20, 0],
        [20, 0],
        [40, 30],
        [-40, 30],
      ],
      40,
      0,
    ],
    [
      "beside it",
      [
        [-50, 0],
        [-10, 0],
        [0, 30],
        [-40, 30],
      ],
      40,
      -30,
    ],
  ] as const)("drawn %s: its bend is as wide as its foot, in its place", (_where, outline, width, middle) => {
    const b = examinePart(part({}, plate, drawn(...outline)));
    expect(messages(b)).toEqual([]);
    expect(b.bends[0].length).toBeCloseTo(width, 9);
    const leg = platesOf(b.sheet!).find((p) => p.id === "s2a")!;
    expect(leg.regions.reduce((sum, r) => sum + regionArea(r), 0)).toBeCloseTo(
      ((outline[1][0] - outline[0][0] + outline[2][0] - outline[3][0]) / 2) * 30,
      9,
    );
    const bend = bendsOf(b.sheet!)[0];
    expect(bend.origin.x * bend.axis.x + bend.width / 2).toBeCloseTo(middle * bend.axis.x, 9);
    // Reliefs of the stock stand at both its ends, for there the plate goes on.
    expect(b.blank!.area).toBeCloseTo(
      120 * 80 -
        width * 3 -
        2 * 2.25 * 4.5 +
        width * BA +
        (30 * (width + (outline[2][0] - outline[3][0]))) / 2,
      6,
    );
  });

  test("stepped from the bend on is that much narrower there", () => {
    const b = examinePart(
      part({}, plate, wall({ shape: "step", stepHeight: "0", leftStep: "10", rightStep: "20" })),
    );
    expect(messages(b)).toEqual([]);
    expect(b.bends[0].length).toBeCloseTo(90, 9);
  });

  test("as wide as its edge is left alone", () => {
    const b = examinePart(part({}, plate, drawn([-60, 0], [60, 0], [40, 30], [-40, 30])));
    expect(b.bends[0].length).toBeCloseTo(120, 9);
    expect(messages(b)).toEqual([]);
  });
});

describe("length and force in the bend list are of the metal on the bend line", () => {
  const wall = step("s2", "flange", { edges: at("s1.north"), length: "40" });
  const across = (x: string, width: string) => [
    step("s3", "hold", {}),
    step("s4", "cut", { plate: at("s2a"), form: "rectangle", width, height: "30", x, y: "0" }),
    step("s5", "hold", { does: "fold" }),
  ];
  const strong = { tensile: "400" };

  test("an opening across it parts it in two, each told", () => {
    const b = examinePart(part(strong, plate, wall, ...across("10", "40")));
    const [row] = b.bends;
    expect(row.length).toBeCloseTo(80, 9);
    expect([...row.pieces].sort((p, q) => p - q)).toEqual([expect.closeTo(30, 9), expect.closeTo(50, 9)]);
    const whole = examinePart(part(strong, plate, wall)).bends[0];
    expect(row.force!.total).toBeCloseTo((whole.force!.total * 80) / 120, 9);
    const document = part(strong, plate, wall, ...across("10", "40"));
    const why = whyBend(document, b, row, "length");
    expect(why.result).toBe("80 mm");
    expect(why.lines.map((l) => l.text)).toContain("less openings and reliefs across the bend line = 40");
  });

  test("whole bends stay as long as they were", () => {
    expect(examinePart(part({}, plate, wall)).bends[0].pieces).toEqual([expect.closeTo(120, 9)]);
  });

  test("a relief that runs into another bend is told, and a shallower one is not", () => {
    const narrow = step("s1", "plate", { width: "120", depth: "14" });
    const both = (depth: string) =>
      examinePart(
        part(
          {},
          narrow,
          step("s2", "flange", { edges: at("s1.south"), length: "20" }),
          step("s3", "flange", {
            edges: at("s1.north"),
            length: "20",
            span: "width",
            width: "40",
            leftRelief: "square",
            leftReliefWidth: "3",
            leftReliefDepth: depth,
          }),
        ),
      );
    expect(messages(both("2"))).toEqual([]);
    expect(messages(both("10"))).toContainEqual(
      "warn: The left relief of bend 2 runs into bend 1. Make it shallower or narrower, or set the two bends further apart.",
    );
    expect(both("10").findings.find((f) => f.message.includes("runs into"))?.step).toBe("s3");
  });
});

describe("what a flange comes to, told beside it", () => {
  const wall = step("s2", "flange", { edges: at("s1.north"), length: "40" });
  const section = (...more: StepDocument[]) => {
    const { setback, leg, shape } = examinePart(part({}, plate, wall, ...more)).steps[1].section!;
    return [shape.r, setback, leg];
  };

  test("is what was built, a later change of its bend included", () => {
    expect(section()).toEqual([1.5, 3, 37].map((v) => expect.closeTo(v, 9)));
    const change = step("s3", "bend", { bends: at("s2a"), radius: "6" });
    expect(section(change)).toEqual([6, 7.5, 32.5].map((v) => expect.closeTo(v, 9)));
  });
});
