import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import {
  asCircle,
  bendAllowance,
  bendsOf,
  buildPart,
  createPartBuilder,
  evenState,
  examinePart,
  findSite,
  foldedBox,
  foldPoint,
  foldSheet,
  jogFromAngle,
  joggleFromRun,
  leastOffset,
  measureBetween,
  newPart,
  type PartBuild,
  type PartDocument,
  pasteSteps,
  pieceIndex,
  platesOf,
  regionArea,
  renameVariable,
  type StepDocument,
  sheetCorners,
  teardropHem,
  toDegrees,
  toRadians,
  type Vector,
} from "../src/index.ts";
import { part } from "./plain-parts.ts";

const cases = JSON.parse(readFileSync(new URL("./cases/worked-numbers.json", import.meta.url), "utf8"));

// t 1.5, r 1.5, K 0.42: at 90° the setback is 3.
const [T, R, K, SETBACK] = [1.5, 1.5, 0.42, 3];
const allowance = (degrees: number, r = R) => bendAllowance({ t: T, r, angle: toRadians(degrees) }, K);
const plate: StepDocument = { id: "s1", kind: "plate", width: "120", depth: "80" };
const at = (...names: string[]) => names.map((n, i) => ({ key: String.fromCharCode(97 + i), at: n }));
const step = (id: string, kind: string, values: object): StepDocument => ({ id, kind, ...values });

function build(...steps: StepDocument[]): PartBuild {
  const made = examinePart(part(...steps));
  expect(made.findings).toEqual([]);
  return made;
}
const stops = (...steps: StepDocument[]) =>
  examinePart(part(...steps))
    .findings.filter((f) => f.level === "stop")
    .map((f) => f.message);
/** The worked numbers are rounded to six places. */
const worked = (got: number, want: number) =>
  expect(Math.abs(got - want), `${got} should be ${want}`).toBeLessThanOrEqual(1e-6);
const folded = (b: PartBuild) => foldSheet(b.sheet!, evenState(b.sheet!, 1));
const area = (b: PartBuild, plateId: string) =>
  platesOf(b.sheet!)
    .find((p) => p.id === plateId)!
    .regions.reduce((sum, r) => sum + regionArea(r), 0);
const size = (b: PartBuild) => {
  const box = foldedBox(b.sheet!, folded(b));
  return box.max.map((v, k) => v - box.min[k]);
};
const apart = (p: Vector, q: Vector) => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
/** Where an edge's left end stands in space, on a side of the sheet. */
const inSpace = (b: PartBuild, name: string, end: "left" | "right", w: number): Vector => {
  const { plate: p, edge } = findSite(b.sheet!, name)!;
  return foldPoint(folded(b), b.sheet!.pieces.indexOf(p), [edge[end].x, edge[end].y, w]);
};

describe("jogs and joggles", () => {
  test.each(
    cases.jogs as {
      t: number;
      r: number;
      angle: number;
      offset: number;
      middleLeg: number;
      run: number;
      leastOffset: number;
    }[],
  )("worked: t $t, r $r, $angle°, offset $offset", (c) => {
    const made = jogFromAngle(c.t, c.r, toRadians(c.angle), c.offset);
    if (!made.ok) throw new Error("too small");
    worked(made.value.middle, c.middleLeg);
    worked(made.value.run, c.run);
    worked(leastOffset(c.t, c.r, toRadians(c.angle)), c.leastOffset);
  });

  test.each(
    cases.joggles as { t: number; r: number; depth: number; run: number; angle: number; middleLeg: number }[],
  )("worked: joggle $depth deep over $run", (c) => {
    const made = joggleFromRun(c.t, c.r, c.depth, c.run);
    if (!made.ok) throw new Error("too short");
    worked(toDegrees(made.value.angle), c.angle);
    worked(made.value.middle, c.middleLeg);
  });

  const jog = (values: object) =>
    step("s2", "jog", { from: at("s1.south"), distance: "30", offset: "9", angle: "70", ...values });

  test.each([
    ["like", 9],
    ["outer", 9 - T],
    ["inner", 9 + T],
  ])("stands off as far as was asked, measured between %s faces", (between, like) => {
    const b = build(plate, jog({ between }));
    expect(inSpace(b, "s2.north", "left", 0)[2]).toBeCloseTo(like, 9);
  });

  test("keeps the folded length, and the blank grows; or keeps the blank, and the folded part shortens", () => {
    const long = build(plate, jog({ keep: "folded" }));
    expect(size(long)[1]).toBeCloseTo(80, 9);
    const numbers = jogFromAngle(T, R, toRadians(70), 9);
    if (!numbers.ok) throw new Error("too small");
    const grown = 2 * allowance(70) + numbers.value.middle - numbers.value.run;
    expect(long.blank!.height).toBeCloseTo(80 + grown, 9);
    const same = build(plate, jog({ keep: "blank" }));
    expect(same.blank!.height).toBeCloseTo(80, 9);
    expect(size(same)[1]).toBeCloseTo(80 - grown, 9);
  });

  test("goes down and back over a thing with its clearance all round", () => {
    const over = {
      form: "over",
      thingWidth: "20",
      thingHeight: "7",
      clearance: "1",
      distance: "40",
      angle: "60",
    };
    const b = build(plate, jog(over));
    expect(b.bends.length).toBe(4);
    expect(size(b)[1]).toBeCloseTo(80, 9);
    expect(inSpace(b, "s2.north", "left", 0)[2]).toBeCloseTo(0, 9);
    const top = pieceIndex(b.sheet!, "plate", "s2o");
    const ys = platesOf(b.sheet!)[top].regions[0].outer.map((c) =>
      foldPoint(folded(b), top, [c.a.x, c.a.y, 0]),
    );
    // The thing stands on the far side of the plate's middle line, 20 wide with 1 on either side.
    expect(Math.max(...ys.map((p) => p[1])) - Math.min(...ys.map((p) => p[1]))).toBeCloseTo(22, 9);
    expect((Math.max(...ys.map((p) => p[1])) + Math.min(...ys.map((p) => p[1]))) / 2).toBeCloseTo(0, 9);
    expect(ys[0][2]).toBeCloseTo(8, 9);
  });

  test("one that is smaller than it can be says the least", () => {
    expect(stops(plate, jog({ offset: "2", angle: "90" }))[0]).toContain("it must be at least 4.5 mm");
    expect(stops(plate, jog({ offset: "4.5", angle: "90" }))).toEqual([]);
  });
});

describe("folds along a drawn line", () => {
  const fold = (values: object) => step("s2", "fold", { from: at("s1.south"), distance: "30", ...values });

  test.each([
    ["start", 0],
    ["middle", -0.5],
    ["end", -1],
  ])("the %s of the bend lies on the line, and the blank stays the plate", (meaning, share) => {
    const b = build(plate, fold({ meaning }));
    expect([b.blank!.width, b.blank!.height, b.blank!.area]).toEqual([120, 80, expect.closeTo(9600, 9)]);
    expect(bendsOf(b.sheet!)[0].origin.y).toBeCloseTo(-40 + 30 + share * allowance(90), 12);
  });

  test("with the outer mould line on the line the leg measures as drawn, outside", () => {
    const b = build(plate, fold({ meaning: "outer-mould" }));
    expect(size(b)[1]).toBeCloseTo(30, 9);
    const inner = build(plate, fold({ meaning: "inner-mould" }));
    expect(size(inner)[1]).toBeCloseTo(30 + T, 9);
  });

  test("takes flanges, edges and holes of the side that moves along", () => {
    const b = build(
      plate,
      step("s3", "flange", { edges: at("s1.north"), length: "20" }),
      fold({ angle: "30" }),
    );
    expect(b.bends.map((r) => r.between)).toEqual([
      ["C", "B"],
      ["A", "C"],
    ]);
    expect(findSite(b.sheet!, "s2.east")!.length).toBeCloseTo(50 - allowance(30) / 2, 9);
    expect(findSite(b.sheet!, "s1.east")!.length).toBeCloseTo(30 - allowance(30) / 2, 9);
  });

  test("a line shorter than the plate folds only what cuts part from the rest", () => {
    const slot = (id: string, x: string) =>
      step(id, "cut", { plate: at("s1"), width: "2", height: "60", x, y: "20" });
    const tongue = fold({ reach: "part", startAt: "30", endAt: "90", moves: "far", distance: "50" });
    const whole = [plate, slot("s3", "-30"), slot("s4", "30")];
    const b = build(...whole, { ...tongue });
    expect(b.bends[0].length).toBeCloseTo(58, 9);
    expect(area(b, "s2")).toBeCloseTo(58 * (30 - allowance(90) / 2), 6);
    const low = { ...slot("s4", "30"), height: "30", y: "10" };
    const short = stops(plate, slot("s3", "-30"), low, tongue);
    expect(short[0]).toContain("its two sides are still joined around its end");
  });

  test("a line outside the plate, or across another bend, is told", () => {
    expect(stops(plate, fold({ distance: "90" }))[0]).toContain("lies outside plate A, which reaches 80 mm");
    const across = [plate, step("s3", "flange", { edges: at("s1.east"), length: "20" }), fold({})];
    expect(stops(...across)[0]).toContain("The line runs across bend 1, which stands on plate A");
  });
});

describe("hems", () => {
  const hem = (values: object) => step("s2", "hem", { edges: at("s1.north"), length: "8", ...values });

  test.each(
    cases.teardropHems as { t: number; r: number; length: number; angle: number; lip: number }[],
  )("worked: a teardrop $length long at radius $r", (c) => {
    const made = teardropHem(c.t, c.r, c.length);
    if (!made.ok) throw new Error("too short");
    worked(toDegrees(made.value.angle), c.angle);
    worked(made.value.lip, c.lip);
  });

  test("a closed one is two thicknesses high and keeps the plate's depth with its material inside", () => {
    const b = build(plate, hem({ form: "closed" }));
    expect(size(b)[1]).toBeCloseTo(80, 9);
    expect(size(b)[2]).toBeCloseTo(2 * T, 9);
    expect(size(build(plate, hem({ form: "closed", place: "outside" })))[1]).toBeCloseTo(80 + T, 9);
  });

  test("an open one leaves its gap", () => {
    const b = build(plate, hem({ form: "open", gap: "2" }));
    expect(inSpace(b, "s2a.end", "left", T)[2]).toBeCloseTo(T + 2, 9);
  });

  test("a teardrop's lip comes back to its plate, and no further", () => {
    const b = build(plate, hem({ form: "teardrop", radius: "1.5" }));
    expect(inSpace(b, "s2a.end", "left", T)[2]).toBeCloseTo(T, 9);
  });

  test("where two meet they are mitred, a gap apart, and lie nowhere over each other", () => {
    const b = build(plate, hem({ edges: at("s1.north", "s1.east"), cornerGap: "0.4" }));
    const [p, q] = [inSpace(b, "s2a.end", "right", T), inSpace(b, "s2b.end", "left", T)];
    // The mitre's sides are parallel; their distance is that of the ends, seen along the diagonal.
    const across = Math.abs((p[0] - q[0] - (p[1] - q[1])) / Math.SQRT2);
    expect(across).toBeCloseTo(0.4, 6);
  });

  test("what cannot be is told with what can", () => {
    expect(stops(plate, hem({ length: "1" }))[0]).toContain("the hem must be at least 1.5 mm");
    expect(stops(plate, hem({ form: "rolled", angle: "300", radius: "2", lip: "9" }))[0]).toMatch(
      /can be at most 1\.15\d mm/,
    );
    const round = step("s2", "round", { corners: at("s1.north+east"), radius: "20" });
    const curved = step("s3", "hem", { edges: at("s1.round:s2-0") });
    expect(stops(plate, round, { ...curved, edges: [{ key: "a", at: "s1.round:s2-0" }] })[0]).toContain(
      "is curved: a hem needs a straight edge",
    );
  });
});

describe("lips, cuts and corners of the outline", () => {
  test("a 25 × 10 lug in the middle of an edge is one pick and two numbers", () => {
    const b = build(plate, step("s2", "lug", { edges: at("s1.north"), width: "25", length: "10" }));
    expect(area(b, "s1")).toBeCloseTo(9600 + 250, 9);
    const end = findSite(b.sheet!, "s1.s2a-end")!;
    expect([end.edge.left.x, end.edge.right.x, end.edge.left.y]).toEqual([-12.5, 12.5, 50]);
    // The edge goes on to both sides of it, and a flange can stand on either.
    const beside = step("s3", "flange", { edges: at("s1.north"), length: "12" });
    expect(build(plate, step("s2", "lug", { edges: at("s1.north") }), beside).bends[0].length).toBeCloseTo(
      47.5,
      9,
    );
  });

  test("roundings and chamfers take exactly their share of every outside corner", () => {
    const round = build(plate, step("s2", "round", { which: "all", radius: "6" }));
    expect(area(round, "s1")).toBeCloseTo(9600 - (4 - Math.PI) * 36, 9);
    const chamfer = build(
      plate,
      step("s2", "round", { form: "chamfer", which: "plates", plates: at("s1"), size: "5", second: "3" }),
    );
    expect(area(chamfer, "s1")).toBeCloseTo(9600 - 4 * 7.5, 9);
    const inside = build(
      plate,
      step("s2", "cut", { plate: at("s1"), width: "20", height: "10" }),
      step("s3", "round", { which: "inside", radius: "2" }),
    );
    expect(area(inside, "s1")).toBeCloseTo(9600 - 200 + (4 - Math.PI) * 4, 9);
  });

  test("a flange grows from what is left of a rounded edge", () => {
    const steps = [
      plate,
      step("s2", "round", { corners: at("s1.north+east", "s1.west+north"), radius: "10" }),
    ];
    const b = build(
      ...steps,
      step("s3", "flange", { edges: at("s1.north"), length: "20", place: "bend-from-edge" }),
    );
    expect(b.bends[0].length).toBeCloseTo(100, 9);
  });

  test("a rounding without room is told", () => {
    expect(stops(plate, step("s2", "round", { corners: at("s1.north+east"), radius: "90" }))[0]).toContain(
      "has no room",
    );
  });

  test("a tongue is bent from the edge of an opening inside a plate", () => {
    const lance = [
      plate,
      step("s2", "cut", { plate: at("s1"), width: "30", height: "25" }),
      step("s3", "flange", {
        edges: at("s1.s2-south"),
        length: "18",
        place: "bend-from-edge",
        span: "inset",
        leftInset: "1",
        rightInset: "1",
      }),
    ];
    const b = build(...lance);
    expect(b.bends[0].length).toBeCloseTo(28, 9);
    expect(size(b)[2]).toBeCloseTo(18, 9);
    expect(b.blank!.overlaps).toEqual([]);
  });

  test("a cut across a bend that is held flat folds with the metal; without holding it stays on its plate", () => {
    const wall = step("s2", "flange", { edges: at("s1.north"), length: "30" });
    const cut = step("s4", "cut", { plate: at("s1"), width: "20", height: "24", y: "38" });
    const held = build(plate, wall, step("s3", "hold", { which: "picked", bends: at("s2a") }), cut);
    expect(held.blank!.area).toBeCloseTo(80 * 120 - 120 * SETBACK + 120 * (allowance(90) + 27) - 480, 6);
    expect(held.blank!.openings.length).toBe(1);
    expect(held.heldBySteps).toEqual(["s2a"]);
    const again = build(plate, wall, step("s3", "hold", {}), cut, step("s5", "hold", { does: "fold" }));
    expect(again.heldBySteps).toEqual([]);
    expect(again.blank!.area).toBeCloseTo(held.blank!.area, 9);
    const alone = examinePart(part(plate, wall, cut));
    expect(alone.blank!.area).toBeGreaterThan(held.blank!.area + 100);
  });
});

describe("corners where flanges meet", () => {
  const walls = (values: object = {}) =>
    step("s2", "flange", {
      edges: at("s1.north", "s1.east", "s1.south", "s1.west"),
      length: "30",
      ...values,
    });
  const ends = (b: PartBuild, w: number) =>
    [inSpace(b, "s2a.end", "right", w), inSpace(b, "s2b.end", "left", w)] as const;

  test.each([
    [90, 0.3],
    [60, 0.5],
    [110, 0.2],
  ])("mitred at %s°: the inner edges stand a gap of %s apart", (angle, gap) => {
    const b = build(plate, walls({ angle }), step("s3", "corner", { close: "mitre", gap }));
    const [p, q] = ends(b, T);
    expect(apart(p, q)).toBeCloseTo(gap, 6);
  });

  test("mitred with unequal angles, the two sides still meet along one line, as far apart as was said", () => {
    const steps = [
      plate,
      step("s2", "flange", {
        edges: [
          { key: "a", at: "s1.north" },
          { key: "b", at: "s1.east", own: { angle: "70", length: "36" } },
        ],
        length: "30",
      }),
    ];
    const b = build(...steps, step("s3", "corner", { close: "mitre", gap: "0.3" }));
    const { sheet } = b;
    const side = (name: string) => findSite(sheet!, name)!;
    const f = folded(b);
    const on = (name: string, share: number) => {
      const { plate: p, edge } = side(name);
      return foldPoint(f, sheet!.pieces.indexOf(p), [
        edge.left.x + (edge.right.x - edge.left.x) * share,
        edge.left.y + (edge.right.y - edge.left.y) * share,
        T,
      ]);
    };
    // Every point of the one side is as near to the other side's line as any other.
    const [a0, a1] = [on("s2b.left", 0), on("s2b.left", 1)];
    const toLine = (p: Vector) => {
      const d = [a1[0] - a0[0], a1[1] - a0[1], a1[2] - a0[2]];
      const v = [p[0] - a0[0], p[1] - a0[1], p[2] - a0[2]];
      const s = (v[0] * d[0] + v[1] * d[1] + v[2] * d[2]) / (d[0] ** 2 + d[1] ** 2 + d[2] ** 2);
      return Math.hypot(v[0] - s * d[0], v[1] - s * d[1], v[2] - s * d[2]);
    };
    for (const share of [0.1, 0.5, 0.9]) expect(toLine(on("s2a.right", share))).toBeCloseTo(0.3, 6);
  });

  test("butted: one covers the other by its share, the other keeps the gap", () => {
    for (const share of [0, 0.5, 1]) {
      const b = build(
        plate,
        walls(),
        step("s3", "corner", { close: "butt", over: "first", share, gap: "0.25" }),
      );
      const [p, q] = ends(b, T);
      // North goes over east: its end stands that share of east's thickness before east's inner face.
      expect(p[0]).toBeCloseTo(60 - T + share * T, 9);
      expect(40 - T - q[1]).toBeCloseTo(0.25, 9);
    }
  });

  test("reliefs open the corner, one may differ from the others, and bends are not told to be cut", () => {
    const square = build(plate, walls(), step("s3", "corner", { close: "open", relief: "round", size: "6" }));
    const plain = build(plate, walls());
    expect(square.blank!.area).toBeLessThan(plain.blank!.area - 4 * 9);
    const one = [{ key: "a", at: "s1.north+east", own: { relief: "none" } }];
    const three = build(
      plate,
      walls(),
      step("s3", "corner", { close: "open", relief: "round", size: "6", corners: one }),
    );
    expect(plain.blank!.area - three.blank!.area).toBeCloseTo(
      (plain.blank!.area - square.blank!.area) * 0.75,
      6,
    );
    expect(
      sheetCorners(plain.sheet!)
        .filter((c) => c.of === "flanges")
        .map((c) => c.name),
    ).toEqual(["s1.north+east", "s1.east+south", "s1.south+west", "s1.west+north"]);
  });

  test("rims on walls that meet are brought together with them, in their own plane", () => {
    const rims = step("s3", "flange", {
      edges: at("s2a.end", "s2b.end", "s2c.end", "s2d.end"),
      length: "9",
      turn: "up",
    });
    const b = build(plate, walls(), rims, step("s4", "corner", { close: "mitre", gap: "0.4" }));
    const [p, q] = [inSpace(b, "s3a.end", "right", T), inSpace(b, "s3b.end", "left", T)];
    // Both mitres run along the diagonal of the corner; square to it they stand the gap apart.
    expect(Math.abs(p[0] - q[0] - (p[1] - q[1])) / Math.SQRT2).toBeCloseTo(0.4, 6);
    expect(p[2]).toBeCloseTo(q[2], 9);
    const names = sheetCorners(b.sheet!).map((c) => c.name);
    expect(names).toContain("s2a.end+s2b");
  });

  test("flanges that never meet are told, and the rest of the part stands", () => {
    const ways = step("s2", "flange", {
      edges: [...at("s1.north"), { key: "b", at: "s1.east", own: { turn: "down" } }],
      length: "30",
    });
    const made = examinePart(
      part(plate, ways, step("s3", "corner", { which: "picked", corners: at("s1.north+east") })),
    );
    expect(made.findings[0].message).toContain("One of its flanges goes up and the other down");
    expect(made.bends.length).toBe(2);
  });
});

describe("profiles", () => {
  const profile = (legs: object[], values: object = {}) =>
    step("s1", "profile", {
      width: "50",
      legs: legs.map((l, i) => ({ key: String.fromCharCode(97 + i), ...l })),
      ...values,
    });
  const channel = [{ length: "25", turn: "90" }, { length: "40", turn: "90" }, { length: "25" }];

  test.each([
    ["outer", 90 - 4 * SETBACK],
    ["inner", 90 - 4 * R],
    ["tangent", 90],
    ["middle", 90 - 4 * (R + T / 2)],
    ["A", 90 - 4 * SETBACK],
    ["B", 90 - 4 * R],
  ])("legs to the %s: the developed length follows in closed form", (on, straight) => {
    const b = build(profile(channel, { on }));
    expect(b.blank!.height).toBeCloseTo(straight + 2 * allowance(90), 9);
    if (on === "outer") expect(size(b).map((v) => Math.round(v * 1e6) / 1e6)).toEqual([50, 25, 40]);
    if (on === "middle") expect(size(b)[1]).toBeCloseTo(25 + T / 2, 9);
  });

  test("a round tube flattens to the length of its neutral axis less its seam", () => {
    const b = build(profile([{ form: "arc", turn: "360", radius: "20" }], { on: "outer", gap: "1" }));
    const angle = 2 * Math.PI - 1 / 20;
    expect(b.blank!.height).toBeCloseTo(angle * (20 - T + K * T), 9);
    expect(stops(profile([{ form: "arc", turn: "360", radius: "20" }]))[0]).toContain("Give it a seam gap");
  });

  test("a turn that goes the other way bends down, sharp corners take their own radius or the stock's", () => {
    const b = build(
      profile([{ length: "25", turn: "90", radius: "4" }, { length: "30", turn: "-45" }, { length: "20" }]),
    );
    expect(b.bends.map((r) => [r.up, r.radius, Math.round(toDegrees(r.angle))])).toEqual([
      [true, 4, 90],
      [false, 1.5, 45],
    ]);
  });

  test("a leg too short for its bends says the least", () => {
    expect(
      stops(profile([{ length: "25", turn: "90" }, { length: "4", turn: "90" }, { length: "20" }]))[0],
    ).toContain("It must be at least 6 mm");
  });
});

describe("mirror, pattern and split", () => {
  const tab = step("s2", "flange", {
    edges: at("s1.north"),
    length: "20",
    span: "width",
    width: "10",
    at: "left",
    shift: "5",
  });

  test("a pattern repeats bends, legs and reliefs along an edge, each under its own name", () => {
    const b = build(
      plate,
      tab,
      step("s3", "pattern", { steps: at("s2"), form: "row", count: "4", pitch: "25" }),
    );
    expect(b.bends.map((r) => r.length)).toEqual([10, 10, 10, 10]);
    const one = build(plate, tab);
    expect(b.blank!.area - 9600).toBeCloseTo(4 * (one.blank!.area - 9600), 6);
    expect(bendsOf(b.sheet!)[3].origin.x - bendsOf(b.sheet!)[0].origin.x).toBeCloseTo(75, 9);
  });

  test("a mirrored flange stands on the edge opposite, and the part is symmetrical", () => {
    const b = build(
      plate,
      tab,
      step("s3", "mirror", { what: "steps", steps: at("s2"), about: "along", plate: at("s1") }),
    );
    expect(b.bends.length).toBe(2);
    expect(b.blank!.bounds.minY).toBeCloseTo(-b.blank!.bounds.maxY, 9);
    expect(bendsOf(b.sheet!)[1].edge).toBe("south");
  });

  test("the other hand is the mirror image with the same numbers", () => {
    const b = build(plate, tab);
    const other = build(plate, tab, step("s3", "mirror", { what: "hand", about: "across", plate: at("s1") }));
    expect(other.blank!.area).toBeCloseTo(b.blank!.area, 9);
    expect(other.bends[0].up).toBe(true);
    expect(bendsOf(other.sheet!)[0].origin.x).toBeCloseTo(-(bendsOf(b.sheet!)[0].origin.x + 10), 9);
  });

  test("joined to itself about an edge the part doubles, holes and flanges with it", () => {
    const holed = { ...plate, holes: [{ key: "a", x: "20", y: "10", d: "8" }] };
    const b = build(
      holed,
      step("s2", "flange", { edges: at("s1.north"), length: "20" }),
      step("s3", "mirror", { what: "joined", edge: at("s1.south") }),
    );
    expect(b.blank!.outlines.length).toBe(1);
    const centres = b.blank!.openings.map((o) => asCircle(o)!.c.y).sort((p, q) => p - q);
    expect(centres).toEqual([-90, 10]);
    expect(b.bends.length).toBe(2);
    expect(b.blank!.height).toBeCloseTo(2 * (80 - SETBACK + allowance(90) + 17), 9);
  });

  test("a split makes two pieces, each with its own outline, and folded nothing moves", () => {
    const wall = step("s2", "flange", { edges: at("s1.north"), length: "20" });
    const b = build(plate, wall, step("s3", "split", { from: at("s1.south"), distance: "30", gap: "0.5" }));
    expect(b.blank!.outlines.length).toBe(2);
    expect(size(b)).toEqual(size(build(plate, wall)).map((v) => expect.closeTo(v, 9)));
    expect(area(b, "s1") + area(b, "s3")).toBeCloseTo(120 * (77 - 0.5), 6);
  });

  test("too many, nothing, or beside the edge: each is told", () => {
    expect(stops(plate, tab, step("s3", "pattern", { steps: at("s2"), count: "1000000" }))[0]).toContain(
      "a pattern of what has bends can have at most 5000",
    );
    expect(stops(plate, tab, step("s3", "pattern", { steps: at("s2"), count: "5001" }))[0]).toContain(
      "a pattern of what has bends can have at most 5000",
    );
    for (const wrong of [
      { form: "row", count: "5", pitch: "1e-7" },
      { form: "grid", count: "1", rows: "4", rowPitch: "0" },
    ])
      expect(stops(plate, tab, step("s3", "pattern", { steps: at("s2"), ...wrong }))[0]).toContain(
        "at least 0.01 mm apart",
      );
    const nowhere = { form: "round", count: "5", sweep: "0" };
    expect(stops(plate, tab, step("s3", "pattern", { steps: at("s2"), ...nowhere }))[0]).toContain(
      "Turn further",
    );
    expect(stops(plate, step("s3", "mirror", {}))[0]).toContain("nothing to mirror yet");
    expect(
      stops(plate, tab, step("s3", "pattern", { steps: at("s2"), count: "3", pitch: "500" }))[0],
    ).toContain("It would stand beside the edge");
    expect(
      stops(plate, tab, step("s3", "pattern", { steps: at("s2"), count: "3", pitch: "8" }))[0],
    ).toContain("Set the copies further apart");
  });
});

describe("flanges that follow the rest of the part", () => {
  const wall = step("s2", "flange", { edges: at("s1.north"), length: "32" });

  test("end level with an edge elsewhere, at any angle, and follow it", () => {
    for (const angle of ["90", "60"]) {
      const level = (height: string) =>
        build(
          plate,
          { ...wall, length: height },
          step("s3", "flange", {
            edges: at("s1.south"),
            lengthTo: "level",
            levelWith: at("s2a.end"),
            angle: "90",
            turn: "up",
          }),
          step("s4", "flange", {
            edges: at("s1.east"),
            lengthTo: "level",
            levelWith: at("s2a.end"),
            angle,
            beyond: "1",
          }),
        );
      for (const height of ["32", "41"]) {
        const b = level(height);
        expect(inSpace(b, "s3a.end", "left", 0)[2]).toBeCloseTo(Number(height), 9);
        if (angle === "90") expect(inSpace(b, "s4a.end", "left", 0)[2]).toBeCloseTo(Number(height) + 1, 9);
      }
    }
    for (const to of [{ levelPlate: at("s2a") }, { levelCorner: at("s2a.end+right") }]) {
      const b = build(plate, wall, step("s3", "flange", { edges: at("s1.south"), lengthTo: "level", ...to }));
      expect(inSpace(b, "s3a.end", "left", 0)[2]).toBeCloseTo(32, 9);
    }
    expect(stops(plate, step("s2", "flange", { edges: at("s1.north"), lengthTo: "level" }))[0]).toContain(
      "Pick the edge, the plate or the corner",
    );
  });

  test("made together they close their own corners to a gap", () => {
    const b = build(
      plate,
      step("s2", "flange", { edges: at("s1.north", "s1.east"), length: "30", meet: "closed", gap: "0.4" }),
    );
    expect(apart(inSpace(b, "s2a.end", "right", T), inSpace(b, "s2b.end", "left", T))).toBeCloseTo(0.4, 6);
  });

  test("reach past their edge where an inset is less than nothing", () => {
    const b = build(plate, {
      ...wall,
      span: "inset",
      leftInset: "-6",
      rightInset: "0",
      place: "bend-from-edge",
    });
    expect(b.bends[0].length).toBeCloseTo(126, 9);
    expect(bendsOf(b.sheet!)[0].overhang).toEqual({ left: 6, right: 0 });
  });

  test("with angles and steps in their sides have the area of that outline", () => {
    const leg = 32 - SETBACK;
    const lean = build(plate, { ...wall, shape: "angles", leftLean: "20", rightLean: "-10" });
    const change = (Math.tan(toRadians(20)) - Math.tan(toRadians(10))) * leg * leg * 0.5;
    expect(area(lean, "s2a")).toBeCloseTo(120 * leg - change, 9);
    const stepped = build(plate, {
      ...wall,
      shape: "step",
      stepHeight: "10",
      leftStep: "15",
      rightStep: "5",
    });
    expect(area(stepped, "s2a")).toBeCloseTo(120 * leg - 20 * (leg - 10), 9);
  });

  test("take a drawn outline, as does a lip; what does not stand on the bend is told", () => {
    const rows = (...points: [number, number][]) =>
      points.map(([x, y], i) => ({ key: String.fromCharCode(97 + i), x, y }));
    const ear = rows([-20, 0], [20, 0], [20, 10], [0, 30], [-20, 10]);
    const drawn = { shape: "outline", points: ear, span: "width", width: "40" };
    const b = build(plate, { ...wall, ...drawn });
    expect(area(b, "s2a")).toBeCloseTo(40 * 10 + 40 * 10, 9);
    expect(findSite(b.sheet!, "s2a.side-b")!.length).toBeCloseTo(10, 9);
    const lip = build(
      plate,
      step("s2", "lug", { edges: at("s1.north"), shape: "outline", points: ear, width: "40" }),
    );
    expect(area(lip, "s1")).toBeCloseTo(9600 + 800, 9);
    const behind = { ...wall, ...drawn, points: rows([-20, -2], [20, 0], [0, 9]) };
    expect(stops(plate, behind)[0]).toContain("reaches 2 mm behind the line");
    const crossed = { ...wall, ...drawn, points: rows([0, 0], [10, 0], [0, 9], [10, 9]) };
    expect(stops(plate, crossed)[0]).toContain("cross at 5, 4.5");
    const outline = {
      id: "s1",
      kind: "plate",
      form: "outline",
      points: rows([0, 0], [60, 0], [60, 20], [0, 50]),
    };
    const skew = build(
      outline,
      step("s2", "flange", { edges: at("s1.side-c"), length: "15", place: "bend-from-edge" }),
    );
    expect(skew.bends[0].length).toBeCloseTo(Math.hypot(60, 30), 9);
  });

  test("of no angle lengthen the plate, and beyond half a turn may not run through it", () => {
    expect(build(plate, { ...wall, angle: "0", length: "12" }).blank!.height).toBeCloseTo(92, 9);
    const curled = step("s3", "bend", { bends: at("s2a"), angle: "250" });
    expect(stops(plate, { ...wall, lengthTo: "tangent" }, curled)[0]).toContain(
      "would run through its own plate A",
    );
  });

  test("a wall's outer face is a mirror for what lies on its plate", () => {
    const cut = step("s3", "cut", { plate: at("s1"), form: "round", diameter: "6", y: "35" });
    const about = { what: "steps", steps: at("s3"), about: "face", plate: at("s2a") };
    const mirrored = examinePart(part(plate, wall, cut, step("s4", "mirror", about)));
    // The mirror stands on the plate's edge, 40 from its middle: the image lies 5 beyond, off the plate.
    expect(mirrored.blank!.openings.length).toBe(1);
    const slanted = { ...wall, angle: "80" };
    expect(stops(plate, slanted, cut, step("s4", "mirror", about))[0]).toContain("does not stand square");
  });

  test("several sheets stand in one part, each with its own blank", () => {
    const b = build(
      plate,
      wall,
      step("s3", "plate", { width: "50", depth: "30", stands: "front", z: "10", y: "25" }),
    );
    expect(b.sheet!.roots.length).toBe(2);
    expect(b.blank!.outlines.length).toBe(2);
    expect(b.blank!.overlaps).toEqual([]);
    const [x, y, z] = inSpace(b, "s3.north", "left", 0);
    expect([x, y, z]).toEqual([-25, expect.closeTo(0, 9), 10 + 25 + 15]);
  });
});

describe("single bends changed afterwards", () => {
  const wall = step("s2", "flange", { edges: at("s1.north", "s1.south"), length: "25" });

  test("take their plate and leg along as if they had been made so", () => {
    const b = build(plate, wall, step("s3", "bend", { bends: at("s2a"), radius: "5", angle: "60" }));
    const own = {
      ...wall,
      edges: [
        { key: "a", at: "s1.north", own: { radius: "5", angle: "60" } },
        { key: "b", at: "s1.south" },
      ],
    };
    expect(b.blank!.area).toBeCloseTo(build(plate, own).blank!.area, 9);
    expect(b.bends.map((r) => r.radius)).toEqual([5, 1.5]);
  });

  test("are flipped, and get a K of their own that says where it comes from", () => {
    const b = build(
      plate,
      wall,
      step("s3", "bend", { bends: at("s2b"), flip: "flipped", k: "0.3", angle: "80" }),
    );
    expect(b.bends.map((r) => [r.up, r.k, r.kSource.label])).toEqual([
      [true, 0.42, "stock"],
      [false, 0.3, "a bend change"],
    ]);
  });
});

describe("named values", () => {
  const named = (variables: object[], steps: StepDocument[]) =>
    ({ ...part(...steps), variables }) as PartDocument;

  test("stand in any field, lean on each other, and follow a new name everywhere", () => {
    const doc = named(
      [
        { key: "a", name: "height", value: "2*base" },
        { key: "b", name: "base", value: "15" },
        { key: "c", name: "lean", value: "90 - 30", measures: "angle" },
      ],
      [plate, step("s2", "flange", { edges: at("s1.north"), length: "height + t", angle: "lean" })],
    );
    const before = buildPart(doc);
    expect(before.findings).toEqual([]);
    expect(toDegrees(before.bends[0].angle)).toBeCloseTo(60, 12);
    const after = renameVariable(renameVariable(doc, "b", "foot"), "a", "tall");
    expect(after.steps[1].length).toBe("tall + t");
    expect(after.variables?.map((v) => v.value)).toEqual(["2*foot", "15", "90 - 30"]);
    expect(buildPart(after).blank!.area).toBe(before.blank!.area);
  });

  test("that go in a circle are told by name", () => {
    const doc = named(
      [
        { key: "a", name: "one", value: "two + 1" },
        { key: "b", name: "two", value: "one" },
      ],
      [plate],
    );
    const { findings } = buildPart(doc);
    expect(findings.map((f) => f.field)).toEqual(["variables.a", "variables.b"]);
    expect(findings[0].message).toContain("it goes in a circle: one → two → one");
  });
});

describe("what is lost, measured and carried over", () => {
  test("a pick that is gone offers what it may have meant, and the rest of the step is built", () => {
    const b = examinePart(
      part(plate, step("s2", "flange", { edges: at("s9.north", "s1.south"), length: "20" })),
    );
    expect(b.bends.length).toBe(1);
    expect(b.findings[0]).toMatchObject({ rule: "edge-gone", offers: { field: "edges", key: "a" } });
    expect(b.findings[0].offers!.names[0]).toBe("s1.north");
  });

  test("distances are between the faces that are asked for, folded and along the sheet", () => {
    const b = build(plate, step("s2", "flange", { edges: at("s1.north", "s1.south"), length: "25" }));
    const between = (face?: "A" | "B") =>
      measureBetween(
        b.sheet!,
        folded(b),
        { kind: "plate", name: "s2a", face },
        { kind: "plate", name: "s2b", face },
      )!;
    expect(between("A").distance).toBeCloseTo(80, 9);
    expect(between("B").distance).toBeCloseTo(80 - 2 * T, 9);
    expect(between().angle).toBeCloseTo(0, 9);
    const ends = measureBetween(
      b.sheet!,
      folded(b),
      { kind: "edge", name: "s2a.end" },
      { kind: "edge", name: "s2b.end" },
    )!;
    expect(ends.alongSheet).toBeCloseTo(80 - 2 * SETBACK + 2 * allowance(90) + 2 * 22, 9);
    expect(
      measureBetween(b.sheet!, folded(b), { kind: "bend", name: "s2a" }, { kind: "corner", name: "gone" }),
    ).toBeUndefined();
  });

  test("steps are carried to another part with what they stand on, by new names", () => {
    const wall = step("s2", "flange", { edges: at("s1.north"), length: "20" });
    const lip = step("s3", "flange", { edges: at("s2a.end"), length: "8" });
    const target = part(plate, step("s7", "flange", { edges: at("s1.south"), length: "30" }));
    const pasted = pasteSteps(target, [wall, lip]);
    expect(pasted.steps.map((s) => s.id)).toEqual(["s1", "s7", "s8", "s9"]);
    expect(pasted.steps[3].edges).toEqual(at("s8a.end"));
    expect(examinePart(pasted).findings).toEqual([]);
  });

  test("a change of the last step leaves everything before it the very same", () => {
    const builder = createPartBuilder();
    const steps = [
      plate,
      step("s2", "flange", { edges: at("s1.north"), length: "20" }),
      step("s3", "flange", { edges: at("s1.south"), length: "20" }),
    ];
    const a = builder(part(...steps));
    const b = builder(part(...steps.slice(0, 2), { ...steps[2], length: "26" }));
    expect(platesOf(b.sheet!)[1]).toBe(platesOf(a.sheet!)[1]);
    expect(platesOf(b.sheet!)[2]).not.toBe(platesOf(a.sheet!)[2]);
  });
});

describe("bend lines", () => {
  const folded = step("s2", "fold", { from: at("s1.south"), distance: "40", angle: "90" });
  const holed = (x: string, y: string, d: string, axis: "south" | "west") => [
    { ...plate, holes: [{ key: "a", x, y, d }] },
    { ...folded, from: at(`s1.${axis}`), distance: axis === "south" ? "40" : "60" },
  ];
  const lengths = (b: PartBuild) =>
    b.blank!.centreLines[0].pieces.map((p) => Math.hypot(p.b.x - p.a.x, p.b.y - p.a.y));

  test.each([
    ["0", "20"],
    ["10", "20"],
    ["-25.5", "6"],
    ["15", "40"],
    ["0", "3.3"],
    ["-30", "12"],
    ["12.25", "25.4"],
    ["7", "1"],
  ])("stop at a round hole centred on the line at %s, ⌀ %s", (place, d) => {
    for (const axis of ["south", "west"] as const) {
      // What reaches into the bend is told; here the line alone is looked at.
      const b = examinePart(
        part(...holed(axis === "south" ? place : "0", axis === "south" ? "0" : place, d, axis)),
      );
      const half = axis === "south" ? 60 : 40;
      const got = lengths(b).sort((p, q) => p - q);
      const want = [half + Number(place) - Number(d) / 2, half - Number(place) - Number(d) / 2].sort(
        (p, q) => p - q,
      );
      expect(got).toEqual(want.map((v) => expect.closeTo(v, 9)));
    }
  });

  test("pass a hole that only comes near", () => {
    const b = examinePart(part(...holed("0", "12", "20", "south")));
    expect(lengths(b)).toEqual([expect.closeTo(120, 9)]);
  });
});

describe("jogs that lean back", () => {
  // t 1, r 1.5, K 0.4: offset 14 at 120° leaves a middle of 9.2376 and ends 1.1547 behind its line.
  const lean = (...steps: StepDocument[]) => {
    const stock = { ...newPart("x").stock, thickness: "1", k: "0.4", radius: "1.5" };
    return examinePart({ ...part({ ...plate, width: "30", depth: "90" }, ...steps), stock });
  };
  const jog = (values: object) =>
    step("s2", "jog", { from: at("s1.south"), distance: "40", offset: "14", angle: "120", ...values });

  test.each([
    {},
    { moves: "near" },
    { turn: "down" },
  ])("keep the folded length and all their metal: %o", (values) => {
    const b = lean(jog(values));
    expect(b.findings).toEqual([]);
    worked(b.blank!.area, 3250.530187);
    expect(b.blank!.outlines.length).toBe(1);
    expect(size(b)).toEqual([30, 90, 15].map((v) => expect.closeTo(v, 6)));
    // Both plates carry their sides on, so that flanges can stand on them.
    const far = platesOf(b.sheet!).find((p) => p.id === "s2")!;
    const end = "moves" in values ? "south" : "north";
    expect(far.edges.map((e) => e.role).sort()).toEqual(["east", "west", end].sort());
  });

  test("step over something, both ways", () => {
    const b = examinePart({
      ...part(
        { ...plate, width: "30", depth: "190" },
        step("s2", "jog", {
          form: "over",
          from: at("s1.south"),
          distance: "90",
          thingWidth: "30",
          thingHeight: "13",
          clearance: "1",
          angle: "120",
        }),
      ),
      stock: { ...newPart("x").stock, thickness: "1", k: "0.4", radius: "1.5" },
    });
    expect(b.findings).toEqual([]);
    worked(b.blank!.area, 30 * 190 + 2 * (3250.530187 - 2700));
    expect(size(b)).toEqual([30, 190, 15].map((v) => expect.closeTo(v, 6)));
  });

  test("move on with what is built on them", () => {
    const b = lean(jog({}), step("s3", "flange", { edges: at("s2.north"), length: "20" }));
    expect(b.findings).toEqual([]);
    expect(size(b)[2]).toBeCloseTo(14 + 20, 6);
  });
});

describe("flanges that turn by 180° and more", () => {
  const wall = (values: object) =>
    examinePart(part(plate, step("s2", "flange", { edges: at("s1.north"), radius: "3", ...values })));

  test("measure to the tangent or the outermost face, where there is no mould point", () => {
    const told = wall({ angle: "180", length: "30" }).findings.map((f) => f.message);
    expect(told[0]).toContain(
      "At 180° and beyond a bend has no mould point: measure to the tangent or the outermost face",
    );
  });

  test.each([
    ["180", "tangent", 30],
    ["180", "outermost", 30 - 4.5],
    ["200", "outermost", 10 - 4.5],
    ["330", "tangent", 0.5],
  ])("%s°, to the %s: the straight leg is %d", (angle, lengthTo, leg) => {
    const length = String(lengthTo === "tangent" ? leg : leg + 4.5);
    const b = wall({ angle, lengthTo, length });
    expect(b.findings).toEqual([]);
    // Outer face on the edge: from 180° on the bend begins r + t behind it.
    worked(b.blank!.height, 80 - 4.5 + allowance(Number(angle), 3) + leg);
  });

  test("is stopped where its leg would run through its own plate", () => {
    expect(wall({ angle: "330", lengthTo: "tangent", length: "20" }).findings[0].message).toContain(
      "would run through its own plate A",
    );
  });
});

test("a tube's seam gap is measured on the side that the chain names, whatever it is called", () => {
  const tube = (on: string, radius: string) =>
    build(
      step("s1", "profile", {
        legs: [{ key: "a", form: "arc", turn: "360", radius, length: "0" }],
        width: "60",
        on,
        gap: "2",
      }),
    ).blank!;
  const along = (inside: number, gapAt: number) => (2 * Math.PI - 2 / gapAt) * (inside + K * T);
  for (const [on, radius, at] of [
    ["outer", "20", 20],
    ["A", "20", 20],
    ["inner", "18.5", 18.5],
    ["B", "18.5", 18.5],
    ["tangent", "18.5", 18.5],
    ["middle", "19.25", 19.25],
  ] as const)
    worked(tube(on, radius).height, along(18.5, at));
});
