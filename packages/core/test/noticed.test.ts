import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  type Curve,
  curveLength,
  dieFor,
  examinePart,
  flattenLoop,
  type Loop,
  loopArea,
  platesOf,
  regionArea,
  type StepDocument,
} from "../src/index.ts";
import { dot, subtract } from "../src/plane/point.ts";
import { insideLoop } from "../src/plane/stitch.ts";
import { cornerReliefLoops } from "../src/sheet/corners/meeting-legs.ts";
import { bendsAmong, carriersFrom, type SheetDraft } from "../src/sheet/draft.ts";
import { edgeFrame, edgeLength } from "../src/sheet/edges.ts";
import { shapeMetal } from "../src/sheet/shaping/metal.ts";
import { draftOf } from "./draft-of.ts";
import { part, told } from "./plain-parts.ts";
import { casesOf, sameCases } from "./random-cases.ts";
import { randomChain } from "./random-chains.ts";

// Small changes of the program that no test noticed once: each is held here by what it would make wrong.
const RUNS = casesOf(150);
sameCases(20261126);

const plate: StepDocument = { id: "s1", kind: "plate", width: "120", depth: "80" };
const at = (name: string) => [{ key: "a", at: name }];
const tab = (where: string, shift = "0"): StepDocument => ({
  id: "s2",
  kind: "flange",
  edges: at("s1.north"),
  length: "20",
  span: "width",
  width: "30",
  at: where,
  shift,
});

/** How far each bend stands from where its record says that it stands on its edge, in mm. */
function astray(draft: SheetDraft): { bend: string; by: number }[] {
  const out: { bend: string; by: number }[] = [];
  for (const plate of draft.pieces.plates())
    for (const bend of carriersFrom(draft, plate.id)) {
      const edge = plate.edges.find((e) => e.role === bend.grownOn?.role);
      if (!edge || !bend.grownOn) continue;
      const from = dot(subtract(bend.origin, edge.left), edgeFrame(edge).x);
      const by = Math.max(Math.abs(from - bend.grownOn.from), Math.abs(from + bend.width - bend.grownOn.to));
      if (by > 1e-6) out.push({ bend: bend.id, by });
    }
  return out;
}

describe("where a bend stands on its edge", () => {
  test.each(["left", "centre", "right"])("is counted anew when a fold parts the edge: %s", (where) => {
    for (const moves of ["near", "far"])
      for (const from of ["s1.east", "s1.west"]) {
        const fold: StepDocument = { id: "s3", kind: "fold", from: at(from), distance: "40", moves };
        const draft = draftOf(part(plate, tab(where), fold))!;
        // A line through the flange itself is refused: then nothing was parted.
        expect(astray(draft)).toEqual([]);
        if (where !== "centre") {
          expect(draft.pieces.plates().length).toBe(3);
          const [bend] = draft.pieces.carriers().filter((b) => b.id === "s2a");
          const edge = draft.pieces.plate(bend.parent)!.edges.find((e) => e.role === bend.grownOn!.role)!;
          expect(bend.grownOn!.to).toBeLessThanOrEqual(edgeLength(edge) + 1e-9);
        }
      }
  });

  test("is so in any part", () => {
    fc.assert(
      fc.property(randomChain, (document) => {
        const draft = draftOf(document);
        expect(draft ? astray(draft) : []).toEqual([]);
      }),
      { numRuns: RUNS },
    );
  });
});

/** Where loops of a corner's opening stand when its two flanges go out in two directions. */
const opening = (relief: Parameters<typeof cornerReliefLoops>[1], first = 0, second = 0) => {
  const out = (degrees: number) => ({
    out: { x: Math.cos((degrees * Math.PI) / 180), y: Math.sin((degrees * Math.PI) / 180) },
  });
  const corner = { at: { x: 10, y: 20 }, first: out(first), second: out(second) };
  return cornerReliefLoops(corner as Parameters<typeof cornerReliefLoops>[0], relief);
};

/** How far a loop reaches from the corner along a direction, least and most, in mm. */
const reach = (loop: Loop, degrees: number): number[] => {
  const d = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  const all = flattenLoop(loop, 1e-5).map((p) => (p.x - 10) * d[0] + (p.y - 20) * d[1]);
  return [Math.min(...all), Math.max(...all)].map((v) => Math.round(v * 1e4) / 1e4);
};

describe("the opening at a corner", () => {
  test("is none where none is asked for", () => {
    expect(opening({ shape: "none" })).toEqual([]);
  });

  test.each([
    [0, 90, 45],
    [90, 180, 135],
    [180, 270, 225],
    [-90, 0, -45],
    [0, 60, 30],
  ])("lies along the middle of flanges at %d° and %d°", (first, second, middle) => {
    const [square] = opening({ shape: "square", size: 6 }, first, second);
    expect(loopArea(square)).toBeCloseTo(36, 9);
    expect(reach(square, middle)).toEqual([-3, 3]);
    expect(reach(square, middle + 90)).toEqual([-3, 3]);
    const [round] = opening({ shape: "round", size: 5 }, first, second);
    expect(loopArea(round)).toBeCloseTo((Math.PI * 25) / 4, 9);
    expect(reach(round, middle)).toEqual([-2.5, 2.5]);
    // A slot goes into the plate by its length, and out of it by its width.
    const [slot] = opening({ shape: "slot", size: 4, length: 11 }, first, second);
    expect(loopArea(slot)).toBeCloseTo(4 * 11 + Math.PI * 4, 4);
    expect(reach(slot, middle + 90)).toEqual([-2, 2]);
    expect(reach(slot, middle)).toEqual([-11, 4]);
  });

  test.each([
    [4, 6],
    [6, 6],
    [3, 12],
  ])("that is a drop of %f and %f is a disc and the two tangents from its tip", (size, length) => {
    const [loop] = opening({ shape: "teardrop", size, length });
    const h = size / 2;
    const tangent = Math.sqrt(length * length - h * h);
    const area = h * tangent + h * h * (Math.PI - Math.acos(h / length));
    expect(loopArea(loop)).toBeCloseTo(area, 4);
    // Its tip stands outside the corner, its round end in the plate; the curves follow each other.
    expect(Math.max(...loop.map((c) => c.a.x))).toBeCloseTo(10 + length, 9);
    for (const [i, c] of loop.entries()) {
      const next = loop[(i + 1) % loop.length];
      expect([c.b.x, c.b.y]).toEqual([next.a.x, next.a.y]);
    }
  });
});

describe("a leg that a wide corner shortens", () => {
  const [T, GAP] = [1.5, 4];
  const back = { mitre: GAP / Math.SQRT2 - T, butt: GAP - T };
  const spans = {
    whole: {},
    left: { span: "width", width: "30", at: "left" },
    right: { span: "width", width: "30", at: "right" },
    middle: { span: "width", width: "30", at: "centre" },
  } as const;
  const cases = (["mitre", "butt"] as const).flatMap((close) =>
    (["first", "second"] as const).flatMap((over) =>
      Object.keys(spans).flatMap((span) =>
        ["s2a", "s2b"].map((leg) => [close, over, span as keyof typeof spans, leg] as const),
      ),
    ),
  );

  test.each(
    cases,
  )("%s, %s over, with a lip on its %s (%s): all of it is where its record says", (close, over, span, leg) => {
    const document = part(
      plate,
      {
        id: "s2",
        kind: "flange",
        edges: ["north", "east", "south", "west"].map((e, i) => ({ key: "abcd"[i], at: `s1.${e}` })),
        length: "25",
      },
      { id: "s3", kind: "flange", edges: at(`${leg}.end`), length: "10", ...spans[span] },
      { id: "s4", kind: "corner", close, over, gap: String(GAP) },
    );
    const draft = draftOf(document)!;
    expect(astray(draft)).toEqual([]);
    // Mitred, each leg gives at both ends; butted, one of the two at each corner.
    const whole = { s2a: 114, s2b: 74, s2c: 114, s2d: 74 };
    const width = (id: string) => draft.pieces.carrier(id)!.width;
    const given = (id: keyof typeof whole) => whole[id] - width(id);
    for (const id of Object.keys(whole) as (keyof typeof whole)[])
      expect(given(id)).toBeCloseTo(close === "mitre" ? 2 * back.mitre : back.butt, 9);
    const bend = draft.pieces.carrier(leg)!;
    const edges = draft.pieces.plate(bend.child)!.edges;
    expect(edgeLength(edges.find((e) => e.role === "end")!)).toBeCloseTo(bend.width, 9);
    expect(edges.map((e) => e.role).sort()).toEqual(["end", "left", "right"]);
    // The lip gives only where it reaches into what its leg has given.
    const lip = draft.pieces.carrier("s3a")!;
    const on = lip.grownOn!;
    expect(on.from).toBeGreaterThanOrEqual(-1e-9);
    expect(on.to).toBeLessThanOrEqual(bend.width + 1e-9);
    if (span === "whole") expect(lip.width).toBeCloseTo(bend.width, 9);
    if (span === "middle") expect(lip.width).toBe(30);
    if (span === "left" || span === "right") {
      const gives = close === "mitre" ? [back.mitre] : [0, back.butt];
      expect(gives.some((g) => Math.abs(30 - g - lip.width) < 1e-9)).toBe(true);
      expect(span === "left" ? on.from : bend.width - on.to).toBeCloseTo(0, 9);
    }
    // Folded flat it is one piece, and every bend's metal is as long as the bend is said to be.
    const build = examinePart(document);
    expect(build.blank!.outlines.length).toBe(1);
    for (const b of build.bends) expect(b.length).toBeCloseTo(draft.pieces.carrier(b.id)!.width, 9);
  });
});

describe("the die of a bend", () => {
  const die = (name: string, v: number, angle = 88) => ({
    id: name,
    name,
    v,
    radius: 1,
    angle,
    length: 1000,
    mostForce: 600,
  });
  const bend = (r: number, degrees = 90) => ({ t: 1.5, r, angle: (degrees * Math.PI) / 180 });
  // At a sixth of the V, dies of 12 and 18 make radii of 2 and 3.
  const dies = [die("narrow", 12), die("wide", 18)];
  const found = (r: number, degrees?: number) => dieFor(dies, bend(r, degrees), 1 / 6)?.name;

  test("is the one whose radius is nearest, within a quarter of the bend's", () => {
    expect(found(2)).toBe("narrow");
    expect(found(2.4)).toBe("narrow");
    expect(found(2.6)).toBe("wide");
    expect(found(1.61)).toBe("narrow");
    expect(found(1.59)).toBeUndefined();
    expect(found(3.9)).toBe("wide");
    expect(found(4.01)).toBeUndefined();
    expect(dieFor([...dies].reverse(), bend(2.4), 1 / 6)?.name).toBe("narrow");
  });

  test("is none whose V is more acute than the bend", () => {
    expect(found(2, 92)).toBe("narrow");
    expect(found(2, 92.1)).toBeUndefined();
    expect(dieFor([die("sharp", 12, 30), ...dies], bend(2, 140), 1 / 6)?.name).toBe("sharp");
  });
});

/** Slits whose middle is not in their owner's metal, with its border. */
function strayed(draft: SheetDraft): string[] {
  return draft.slits.flatMap(({ owner, line }) => {
    const plate = draft.pieces.plate(owner);
    const { regions } = shapeMetal(plate?.metal ?? []);
    const middle = { x: (line.a.x + line.b.x) / 2, y: (line.a.y + line.b.y) / 2 };
    const near = [0, 1, 2, 3].map((k) => ({
      x: middle.x + 1e-3 * Math.cos(k * 1.6 + 0.4),
      y: middle.y + 1e-3 * Math.sin(k * 1.6 + 0.4),
    }));
    const inside = (p: { x: number; y: number }) => regions.some((r) => insideLoop(r.outer, p));
    return near.some(inside) ? [] : [`${owner} at ${middle.x}, ${middle.y}`];
  });
}

describe("a cut of no width", () => {
  const reliefs = {
    leftRelief: "torn",
    rightRelief: "torn",
    leftReliefDepth: "2",
    rightReliefDepth: "2",
  };
  const torn: StepDocument = { ...tab("centre"), ...reliefs };
  const fold = (from: string, distance: string, moves: string): StepDocument => ({
    id: "s3",
    kind: "fold",
    from: at(from),
    distance,
    moves,
  });

  test.each([
    ["s1.south", "20", "far"],
    ["s1.south", "20", "near"],
    ["s1.east", "30", "far"],
    ["s1.east", "30", "near"],
    ["s1.west", "25", "far"],
    ["s1.west", "25", "near"],
  ])("stays with its flange when the plate is folded at %s %s, the %s side moving", (from, distance, moves) => {
    const draft = draftOf(part(plate, torn, fold(from, distance, moves)))!;
    expect(draft.slits.length).toBe(2);
    expect(strayed(draft)).toEqual([]);
    const flange = draft.pieces.carrier("s2a")!;
    expect(draft.slits.map((s) => s.owner)).toEqual([flange.parent, flange.parent]);
    const build = examinePart(part(plate, torn, fold(from, distance, moves)));
    // They go 2 into the plate behind the bend, at the flange's two sides, which stand 30 apart.
    const deep = build.blank!.slits.filter((c) => Math.abs(curveLength(c) - 2) < 1e-9);
    expect(deep.length).toBe(2);
    expect(Math.abs(deep[0].a.x - deep[1].a.x)).toBeCloseTo(30, 6);
  });

  test.each([
    ["s1.west", "s1.west", "25", "far", "s1"],
    ["s1.west", "s1.west", "25", "near", "s3"],
    ["s1.south", "s1.south", "25", "far", "s1"],
    ["s1.south", "s1.south", "25", "near", "s3"],
    ["s1.east", "s1.west", "60", "far", "s3"],
    ["s1.east", "s1.west", "60", "near", "s1"],
  ])("at %s goes with the side that it is in: folded from %s at %s, the %s side moving", (edge, from, distance, moves, owner) => {
    const draft = draftOf(part(plate, { ...torn, edges: at(edge) }, fold(from, distance, moves)))!;
    expect(draft.slits.map((s) => s.owner)).toEqual([owner, owner]);
    expect(strayed(draft)).toEqual([]);
  });

  test.each(["right", "left"])("is mirrored with the whole part, at the %s of its edge", (where) => {
    const torn: StepDocument = { ...tab(where, "5"), ...reliefs };
    const other: StepDocument = { id: "s3", kind: "mirror", what: "hand" };
    const [plain, hand] = [part(plate, torn), part(plate, torn, other)].map(
      (d) => examinePart(d).blank!.slits,
    );
    const ends = (slits: readonly Curve[], flip: number) =>
      slits
        .flatMap((c) => [c.a, c.b])
        .map((p) => `${(flip * p.x).toFixed(6)} ${p.y.toFixed(6)}`)
        .sort();
    expect(hand.length).toBe(4);
    expect(ends(hand, -1)).toEqual(ends(plain, 1));
    expect(strayed(draftOf(part(plate, torn, other))!)).toEqual([]);
  });
});

describe("the edges of a plate that is folded", () => {
  const edgesOf = (draft: SheetDraft) =>
    Object.fromEntries(
      draft.pieces
        .plates()
        .flatMap((p) =>
          p.edges.map((e) => [`${p.id}.${e.role}`, Math.round(edgeLength(e) * 1e6) / 1e6] as const),
        ),
    );
  const fold = (more: object): StepDocument => ({ id: "s2", kind: "fold", from: at("s1.south"), ...more });

  test("are shared between its two sides, without what the bend takes", () => {
    const draft = draftOf(part(plate, fold({ distance: "30", moves: "far" })))!;
    const [bend] = bendsAmong(draft.pieces.carriers());
    const away = 80 - 30 - bend.allowance / 2;
    const edges = edgesOf(draft);
    const moved = bend.child;
    const sides = Object.entries(edges).filter(([name]) => /east|west/.test(name));
    const near = sides.filter(([name]) => name.startsWith("s1.")).map(([, length]) => length);
    const far = sides.filter(([name]) => name.startsWith(`${moved}.`)).map(([, length]) => length);
    expect(near.length).toBe(2);
    expect(far.length).toBe(2);
    for (const length of [...near, ...far]) expect(length).toBeGreaterThan(0);
    for (const i of [0, 1]) expect(near[i] + far[i] + bend.allowance).toBeCloseTo(80, 6);
    expect(near[0]).toBeCloseTo(near[1], 6);
    expect(Math.abs(far[0] - away)).toBeLessThanOrEqual(bend.allowance / 2 + 1e-6);
    expect(edges["s1.south"]).toBe(120);
    expect(edges[`${moved}.north`]).toBe(120);
    expect(Object.keys(edges).length).toBe(6);
  });

  test("are shared aslant, each as far as the line goes", () => {
    const draft = draftOf(part(plate, fold({ distance: "40", tilt: "10", moves: "far" })))!;
    const [bend] = bendsAmong(draft.pieces.carriers());
    const edges = edgesOf(draft);
    const across = bend.allowance / Math.cos(Math.PI / 18);
    for (const side of ["east", "west"])
      expect(edges[`s1.${side}`] + edges[`${bend.child}.${side}`] + across).toBeCloseTo(80, 5);
    expect(Math.abs(edges["s1.east"] - edges["s1.west"])).toBeCloseTo(120 * Math.tan(Math.PI / 18), 5);
  });

  test("that a bend crosses twice come in pieces, each under a name of its own", () => {
    // A plate in the form of a U, folded across both its legs: the bottom stays whole, each leg has its own end.
    const u: StepDocument = {
      id: "s1",
      kind: "plate",
      form: "outline",
      points: [
        [0, 0],
        [100, 0],
        [100, 80],
        [70, 80],
        [70, 30],
        [30, 30],
        [30, 80],
        [0, 80],
      ].map(([x, y], i) => ({ key: `p${i}`, x: String(x), y: String(y) })),
    };
    const flat = draftOf(part(u))!;
    const names = flat.pieces.plate("s1")!.edges.map((e) => e.role);
    expect(names.length).toBe(8);
    const build = examinePart(
      part(u, { id: "s2", kind: "fold", from: at(`s1.${names[0]}`), distance: "55", moves: "far" }),
    );
    expect(build.blank?.outlines.length).toBe(1);
    const whole = build.blank!.outlines[0].reduce((sum, c) => sum + curveLength(c), 0);
    expect(whole).toBeCloseTo(100 + 80 * 2 + 30 * 2 + 50 * 2 + 40, 6);
    for (const plate of platesOf(build.sheet!)) {
      const roles = plate.edges.map((e) => e.role);
      expect(new Set(roles).size).toBe(roles.length);
    }
  });
});

describe("a plate of which only a tongue is folded", () => {
  const slit = (id: string, x: string): StepDocument => ({
    id,
    kind: "cut",
    plate: at("s1"),
    form: "rectangle",
    width: "2",
    height: "30",
    x,
    y: "25",
  });
  const tongue: StepDocument = {
    id: "s4",
    kind: "fold",
    from: at("s1.north"),
    distance: "28",
    reach: "part",
    startAt: "41",
    endAt: "79",
    moves: "near",
  };

  test("keeps the edges beside it whole, and each edge of the tongue is its own", () => {
    const document = part(plate, slit("s2", "-20"), slit("s3", "20"), tongue);
    const build = examinePart(document);
    expect(told(build).filter((f) => f.startsWith("stop"))).toEqual([]);
    const draft = draftOf(document)!;
    const body = draft.pieces.plate("s1")!;
    const lengths = (role: string) =>
      draft.pieces
        .plates()
        .flatMap((p) =>
          p.edges
            .filter((e) => e.role.split("@")[0] === role)
            .map((e) => Math.round(edgeLength(e) * 1e6) / 1e6),
        );
    expect(lengths("east")).toEqual([80]);
    expect(lengths("west")).toEqual([80]);
    expect(lengths("south")).toEqual([120]);
    // The far edge is in three: beside the tongue twice, and its end.
    expect(lengths("north").sort((a, b) => a - b)).toEqual([38, 39, 39]);
    expect(body.edges.map((e) => e.role).length).toBe(new Set(body.edges.map((e) => e.role)).size);
    expect(build.bends[0].length).toBeCloseTo(38, 6);
  });
});

describe("an edge that is led on by a lug at its end", () => {
  test.each([
    ["left", "west"],
    ["right", "east"],
  ])("keeps its name, and carries a flange on its whole length: %s", (where, edge) => {
    const lug: StepDocument = {
      id: "s2",
      kind: "lug",
      edges: at("s1.north"),
      span: "width",
      width: "10",
      at: where,
      length: "8",
    };
    const flange: StepDocument = { id: "s3", kind: "flange", edges: at(`s1.${edge}`), length: "20" };
    const build = examinePart(part(plate, lug, flange));
    expect(told(build)).toEqual([]);
    expect(build.bends.map((b) => b.length)).toEqual([88]);
    const edges = draftOf(part(plate, lug))!.pieces.plate("s1")!.edges;
    expect(edges.map((e) => e.role)).toContain(edge);
    expect(new Set(edges.map((e) => e.role)).size).toBe(edges.length);
  });
});

describe("lugs repeated after a fold", () => {
  const lug: StepDocument = {
    id: "s2",
    kind: "lug",
    edges: at("s1.north"),
    span: "width",
    width: "10",
    at: "left",
    length: "8",
  };
  const fold: StepDocument = { id: "s3", kind: "fold", from: at("s1.west"), distance: "60", moves: "far" };
  const row = (id: string): StepDocument => ({
    id,
    kind: "pattern",
    steps: at("s2"),
    form: "row",
    direction: "0",
    count: "3",
    pitch: "45",
  });

  test("stand on both sides of it, as they do when they were there before", () => {
    const after = examinePart(part(plate, lug, fold, row("s4")));
    const before = examinePart(part(plate, lug, row("s3"), { ...fold, id: "s4" }));
    for (const build of [after, before]) {
      expect(told(build).filter((f) => f.startsWith("stop"))).toEqual([]);
      expect(build.blank!.outlines.length).toBe(1);
      expect(build.blank!.area).toBeCloseTo(120 * 80 + 3 * 80, 6);
      expect(platesOf(build.sheet!).length).toBe(2);
    }
    const areas = (build: typeof after) =>
      platesOf(build.sheet!)
        .map((p) => p.regions.reduce((sum, r) => sum + regionArea(r), 0))
        .sort((a, b) => a - b);
    for (const [i, area] of areas(after).entries()) expect(area).toBeCloseTo(areas(before)[i], 6);
  });
});

describe("corners closed between legs that lean", () => {
  const flanges = (more: object): StepDocument => ({
    id: "s2",
    kind: "flange",
    edges: ["north", "east", "south", "west"].map((e, i) => ({ key: "abcd"[i], at: `s1.${e}` })),
    length: "25",
    ...more,
  });
  const closed = (more: object, values: object) =>
    examinePart(part(plate, flanges(more), { id: "s3", kind: "corner", gap: "0.2", ...values })).blank!;

  test.each([
    { close: "mitre" },
    { close: "butt", over: "first" },
    { close: "butt", over: "second", gap: "1" },
  ])("come to the same border as between straight ones: %o", (values) => {
    const straight = closed({}, values);
    for (const [left, right] of [
      ["10", "10"],
      ["20", "5"],
      ["0", "15"],
    ]) {
      const leaning = closed({ shape: "angles", leftLean: left, rightLean: right }, values);
      expect(leaning.outlines.length).toBe(1);
      expect(leaning.area).toBeCloseTo(straight.area, 5);
      expect(leaning.width).toBeCloseTo(straight.width, 6);
    }
  });
});

describe("copies of a flange", () => {
  const steps = (pitch: string, count: string): StepDocument => ({
    id: "s3",
    kind: "pattern",
    steps: at("s2"),
    form: "edge",
    edge: at("s1.north"),
    count,
    pitch,
  });

  test.each(["left", "centre", "right"])("stand where their records say, from the %s", (where) => {
    const small: StepDocument = { ...tab(where), width: "12" };
    for (const pitch of ["15", "-15", "20"]) {
      const draft = draftOf(part(plate, small, steps(pitch, "3")))!;
      expect(astray(draft)).toEqual([]);
      for (const bend of draft.pieces.carriers()) expect(bend.grownOn?.role).toBe("north");
    }
  });

  test("on an edge in steps stand on the step that is theirs", () => {
    // Three edges look the same way, the middle one deeper; a copy that finds no edge under it says so.
    const stepped: StepDocument = {
      id: "s1",
      kind: "plate",
      form: "outline",
      points: [
        [0, 0],
        [150, 0],
        [150, 60],
        [100, 60],
        [100, 40],
        [50, 40],
        [50, 60],
        [0, 60],
      ].map(([x, y], i) => ({ key: `p${i}`, x: String(x), y: String(y) })),
    };
    const edges = draftOf(part(stepped))!.pieces.plate("s1")!.edges;
    const high = edges.filter((e) => e.out.y > 0.9 && e.left.y > 59);
    expect(high.length).toBe(2);
    const first = high.sort((a, b) => a.left.x - b.left.x)[0];
    const grown: StepDocument = {
      id: "s2",
      kind: "flange",
      edges: at(`s1.${first.role}`),
      length: "15",
      span: "width",
      width: "20",
      at: "centre",
    };
    const row = (pitch: string): StepDocument => ({
      id: "s3",
      kind: "pattern",
      steps: at("s2"),
      form: "row",
      direction: "0",
      count: "2",
      pitch,
    });
    for (const pitch of ["100", "-100"]) {
      const build = examinePart(part(stepped, grown, row(pitch)));
      const draft = draftOf(part(stepped, grown, row(pitch)))!;
      expect(astray(draft)).toEqual([]);
      const roles = draft.pieces
        .carriers()
        .map((b) => b.grownOn!.role)
        .sort();
      if (build.bends.length === 2) expect(roles).toEqual(high.map((e) => e.role).sort());
      else expect(roles).toEqual([first.role]);
    }
    expect(draftOf(part(stepped, grown, row("100")))!.pieces.carriers().length).toBe(2);
    // Between the two stands a lower edge; two thirds on, a copy would hang over the end of its own.
    for (const pitch of ["50", "-50", "30", "118"]) {
      const build = examinePart(part(stepped, grown, row(pitch)));
      expect(build.bends.length).toBe(1);
      expect(told(build)).toEqual([
        "stop: Pattern 3: It would stand beside the edge that its bend needs. Make the pattern shorter, or turn it.",
      ]);
    }
  });
});

describe("holes repeated across a later fold", () => {
  test("are cut in both sides of it, each once", () => {
    const hole: StepDocument = {
      id: "s2",
      kind: "cut",
      plate: at("s1"),
      form: "round",
      diameter: "6",
      x: "-50",
      y: "0",
    };
    const fold: StepDocument = { id: "s3", kind: "fold", from: at("s1.west"), distance: "50", moves: "far" };
    const row: StepDocument = {
      id: "s4",
      kind: "pattern",
      steps: at("s2"),
      form: "row",
      direction: "0",
      count: "6",
      pitch: "20",
    };
    const built = examinePart(part(plate, hole, fold, row));
    const before = examinePart(part(plate, hole, { ...row, id: "s3" }, { ...fold, id: "s4" }));
    for (const build of [built, before]) {
      expect(build.blank!.openings.length).toBe(6);
      expect(
        platesOf(build.sheet!)
          .map((p) => p.regions.flatMap((r) => r.holes).length)
          .sort(),
      ).toEqual([2, 3]);
      expect(build.blank!.openings.reduce((sum, l) => sum - loopArea(l), 0)).toBeCloseTo(6 * Math.PI * 9, 6);
    }
  });
});
