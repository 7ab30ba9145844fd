import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { dieFor, examinePart, flattenLoop, type Loop, loopArea, type StepDocument } from "../src/index.ts";
import { dot, subtract } from "../src/plane/point.ts";
import { bendsFrom, edgeFrame, edgeLength, type SheetDraft } from "../src/sheet/draft.ts";
import { cornerReliefLoops } from "../src/sheet/meeting-legs.ts";
import { draftOf } from "./draft-of.ts";
import { part } from "./plain-parts.ts";
import { randomChain } from "./random-chains.ts";

// Small changes of the program that no test noticed once: each is held here by what it would make wrong.
const RUNS = Number(process.env.PROPERTY_RUNS ?? process.env.PROPERTY_FIXED ?? 150);
if (!process.env.PROPERTY_RUNS) fc.configureGlobal({ seed: 20261126 });

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
  for (const plate of draft.plates.values())
    for (const bend of bendsFrom(draft, plate.id)) {
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
          expect(draft.plates.size).toBe(3);
          const [bend] = [...draft.bends.values()].filter((b) => b.id === "s2a");
          const edge = draft.plates.get(bend.parent)!.edges.find((e) => e.role === bend.grownOn!.role)!;
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
    const width = (id: string) => draft.bends.get(id)!.width;
    const given = (id: keyof typeof whole) => whole[id] - width(id);
    for (const id of Object.keys(whole) as (keyof typeof whole)[])
      expect(given(id)).toBeCloseTo(close === "mitre" ? 2 * back.mitre : back.butt, 9);
    const bend = draft.bends.get(leg)!;
    const edges = draft.plates.get(bend.child)!.edges;
    expect(edgeLength(edges.find((e) => e.role === "end")!)).toBeCloseTo(bend.width, 9);
    expect(edges.map((e) => e.role).sort()).toEqual(["end", "left", "right"]);
    // The lip gives only where it reaches into what its leg has given.
    const lip = draft.bends.get("s3a")!;
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
    for (const b of build.bends) expect(b.length).toBeCloseTo(draft.bends.get(b.id)!.width, 9);
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
