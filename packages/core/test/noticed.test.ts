import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { dieFor, loopArea, type StepDocument } from "../src/index.ts";
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

describe("the drop at a corner", () => {
  const corner = (size: number, length: number) =>
    cornerReliefLoops(
      {
        at: { x: 0, y: 0 },
        first: { out: { x: 1, y: 0 } },
        second: { out: { x: 1, y: 0 } },
      } as Parameters<typeof cornerReliefLoops>[0],
      { shape: "teardrop", size, length },
    )[0];

  test.each([
    [4, 6],
    [6, 6],
    [3, 12],
  ])("of %f and %f is a disc and the two tangents from its tip", (size, length) => {
    const loop = corner(size, length);
    const h = size / 2;
    const tangent = Math.sqrt(length * length - h * h);
    const area = h * tangent + h * h * (Math.PI - Math.acos(h / length));
    expect(loopArea(loop)).toBeCloseTo(area, 4);
    // Its tip stands outside the corner, its round end in the plate; the curves follow each other.
    expect(Math.max(...loop.map((c) => c.a.x))).toBeCloseTo(length, 9);
    for (const [i, c] of loop.entries()) {
      const next = loop[(i + 1) % loop.length];
      expect([c.b.x, c.b.y]).toEqual([next.a.x, next.a.y]);
    }
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
