import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  asCircle,
  bendsOf,
  blankOf,
  buildPart,
  developedArea,
  evenState,
  examinePart,
  foldedBox,
  foldedVolume,
  foldMesh,
  foldPoint,
  foldSheet,
  intersectLoops,
  isClosedManifold,
  loopArea,
  meshSheet,
  meshVolume,
  newPart,
  overlapOf,
  type PartDocument,
  type Plate,
  platesOf,
  pointAt,
  polygonLoop,
  regionArea,
  regionLoops,
  reversed,
  type Sheet,
  samePoint,
  subtractLoops,
  unfoldPoint,
} from "../src/index.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { randomPart } from "./random-parts.ts";

// Every run of the suite asks the same parts, so that it tells what a change has done; with
// PROPERTY_RUNS it looks elsewhere each time.
sameCases(20261123);
const RUNS = casesOf(280);
const share = spread(0, 1);

const sheetOf = (document: PartDocument): Sheet => buildPart(document).sheet!;
const overlaps = (sheet: Sheet) => blankOf(sheet).overlaps.reduce((sum, r) => sum + regionArea(r), 0);

describe("any part of plates, flanges, reliefs and holes", () => {
  test("is built without throwing, and every step is either built or told what is wrong", () => {
    fc.assert(
      fc.property(randomPart, (document) => {
        const build = examinePart(document);
        expect(build.sheet).toBeDefined();
        for (const step of build.steps) {
          const told = build.findings.some((f) => f.step === step.id && f.level === "stop");
          if (step.state === "wrong") expect(told).toBe(true);
        }
      }),
      { numRuns: RUNS },
    );
  });

  test("has a blank whose area is that of its plates and strips, less what lies over itself", () => {
    fc.assert(
      fc.property(randomPart, (document) => {
        const sheet = sheetOf(document);
        const blank = blankOf(sheet);
        // Overlapping metal is never merged: the loops keep the sum of the parts either way.
        expect(Math.abs(blank.area - developedArea(sheet))).toBeLessThan(1e-5 * Math.max(1, blank.area));
      }),
      { numRuns: RUNS },
    );
  });

  test("has outlines and openings that close, curve after curve", () => {
    fc.assert(
      fc.property(randomPart, (document) => {
        const blank = blankOf(sheetOf(document));
        for (const loop of [...blank.outlines, ...blank.openings]) {
          loop.forEach((c, i) => {
            expect(samePoint(c.b, loop[(i + 1) % loop.length].a, 1e-6)).toBe(true);
          });
          const circle = asCircle(loop);
          if (circle)
            for (const c of loop)
              expect(Math.hypot(c.a.x - circle.c.x, c.a.y - circle.c.y)).toBeCloseTo(circle.r, 6);
        }
      }),
      { numRuns: RUNS },
    );
  });

  test("is a closed manifold in every fold state", () => {
    fc.assert(
      fc.property(randomPart, share, (document, s) => {
        const sheet = sheetOf(document);
        const mesh = foldMesh(meshSheet(sheet, 0.05), foldSheet(sheet, evenState(sheet, s)));
        expect(isClosedManifold(mesh)).toBe(true);
      }),
      { numRuns: RUNS },
    );
  });

  test("has in the flat the volume of its area times its thickness", () => {
    fc.assert(
      fc.property(randomPart, (document) => {
        // Straight outlines only: then the mesh has no chord error to allow for.
        const straight = { ...document, steps: document.steps.map((s) => square({ ...s, holes: [] })) };
        const sheet = sheetOf(straight);
        const volume = meshVolume(foldMesh(meshSheet(sheet, 0.05), foldSheet(sheet, evenState(sheet, 0))));
        expect(volume / (developedArea(sheet) * sheet.t)).toBeCloseTo(1, 9);
      }),
      { numRuns: RUNS },
    );
  });

  test("has folded the volume of the closed form, as fine as its mesh", () => {
    fc.assert(
      fc.property(randomPart, (document) => {
        const sheet = sheetOf(document);
        const mesh = foldMesh(meshSheet(sheet, 0.0005), foldSheet(sheet, evenState(sheet, 1)));
        expect(Math.abs(meshVolume(mesh) / foldedVolume(sheet) - 1)).toBeLessThan(1e-3);
      }),
      { numRuns: Math.ceil(RUNS / 8) },
    );
  });

  test("lies in its folded box, and touches all six of its sides", () => {
    fc.assert(
      fc.property(randomPart, (document) => {
        const sheet = sheetOf(document);
        const folding = foldSheet(sheet, evenState(sheet, 1));
        const box = foldedBox(sheet, folding);
        const { positions } = foldMesh(meshSheet(sheet, 0.002), folding);
        for (let k = 0; k < 3; k++) {
          let [low, high] = [Infinity, -Infinity];
          for (let i = k; i < positions.length; i += 3) {
            low = Math.min(low, positions[i]);
            high = Math.max(high, positions[i]);
          }
          expect(low).toBeGreaterThan(box.min[k] - 1e-6);
          expect(high).toBeLessThan(box.max[k] + 1e-6);
          expect(low - box.min[k]).toBeLessThan(0.01);
          expect(box.max[k] - high).toBeLessThan(0.01);
        }
      }),
      { numRuns: Math.ceil(RUNS / 8) },
    );
  });
});

/** A flange with round reliefs made square. */
function square(step: PartDocument["steps"][number]): PartDocument["steps"][number] {
  const fix = (key: string) => (step[key] === "round" ? { [key]: "square" } : {});
  return { ...step, ...fix("leftRelief"), ...fix("rightRelief") };
}

describe("folding", () => {
  test("then flattening any point of the metal gives it back", () => {
    fc.assert(
      fc.property(randomPart, share, share, share, share, (document, s, a, b, c) => {
        const sheet = sheetOf(document);
        const folding = foldSheet(sheet, evenState(sheet, s));
        const parts = [...platesOf(sheet), ...bendsOf(sheet)];
        parts.forEach((part, owner) => {
          for (const region of part.regions) {
            const curve = region.outer[Math.floor(a * 0.999 * region.outer.length)];
            const p = pointAt(curve, b);
            const back = unfoldPoint(folding, owner, foldPoint(folding, owner, [p.x, p.y, c * sheet.t]));
            expect(Math.hypot(back[0] - p.x, back[1] - p.y, back[2] - c * sheet.t)).toBeLessThan(1e-9);
          }
        });
      }),
      { numRuns: RUNS },
    );
  });

  test("keeps the length of the neutral axis of every bend", () => {
    fc.assert(
      fc.property(randomPart, share, (document, s) => {
        const sheet = sheetOf(document);
        const folding = foldSheet(sheet, evenState(sheet, s));
        bendsOf(sheet).forEach((bend) => {
          const w = bend.up ? sheet.t * (1 - bend.k) : sheet.t * bend.k;
          const n = 2000;
          let length = 0;
          let last = foldPoint(folding, sheet.pieces.indexOf(bend), [bend.origin.x, bend.origin.y, w]);
          for (let i = 1; i <= n; i++) {
            const x = (bend.allowance * i) / n;
            const u = bend.origin.x + bend.out.x * x;
            const v = bend.origin.y + bend.out.y * x;
            const next = foldPoint(folding, sheet.pieces.indexOf(bend), [u, v, w]);
            length += Math.hypot(next[0] - last[0], next[1] - last[1], next[2] - last[2]);
            last = next;
          }
          expect(Math.abs(length / bend.allowance - 1)).toBeLessThan(1e-6);
        });
      }),
      { numRuns: Math.ceil(RUNS / 8) },
    );
  });

  test("moves no plate whose own bends to the anchor are untouched", () => {
    fc.assert(
      fc.property(randomPart, share, share, (document, which, s) => {
        const sheet = sheetOf(document);
        if (bendsOf(sheet).length === 0) return;
        const j = Math.floor(which * 0.999 * bendsOf(sheet).length);
        const before = foldSheet(sheet, evenState(sheet, 1));
        const turned = sheet.pieces.indexOf(bendsOf(sheet)[j]);
        const state = evenState(sheet, 1).map((v, i) => (i === turned ? s : v));
        const after = foldSheet(sheet, state);
        const parent = new Map(bendsOf(sheet).map((b) => [b.child, b]));
        const at = (plate: Plate) => sheet.pieces.indexOf(plate);
        platesOf(sheet).forEach((plate) => {
          for (let on = parent.get(plate.id); on; on = parent.get(on.parent))
            if (on === bendsOf(sheet)[j]) return;
          for (const p of [[0, 0, 0] as const, [10, -7, 1] as const]) {
            expect(foldPoint(after, at(plate), p)).toEqual(foldPoint(before, at(plate), p));
          }
        });
      }),
      { numRuns: RUNS },
    );
  });

  test("about another anchor changes no distance between plates", () => {
    fc.assert(
      fc.property(randomPart, (document) => {
        const sheet = sheetOf(document);
        const last = platesOf(sheet)[platesOf(sheet).length - 1].id;
        const [p, q] = [undefined, last].map((anchor) => foldSheet(sheet, evenState(sheet, 1), anchor));
        const probe = (folding: typeof p) =>
          platesOf(sheet).map((plate) => foldPoint(folding, sheet.pieces.indexOf(plate), [3, 4, 0]));
        const [a, b] = [probe(p), probe(q)];
        for (let i = 1; i < a.length; i++) {
          const d = (list: typeof a) => Math.hypot(...list[i].map((v, k) => v - list[0][k]));
          expect(Math.abs(d(a) - d(b))).toBeLessThan(1e-9);
        }
      }),
      { numRuns: Math.ceil(RUNS / 4) },
    );
  });
});

describe("overlaps on the blank", () => {
  test("are found exactly where two parts' areas meet", () => {
    fc.assert(
      fc.property(randomPart, (document) => {
        const sheet = sheetOf(document);
        const parts = [...platesOf(sheet), ...bendsOf(sheet)].flatMap((p) => p.regions);
        const direct = overlapOf(parts.flatMap(regionLoops)).reduce((sum, r) => sum + regionArea(r), 0);
        expect(Math.abs(overlaps(sheet) - direct)).toBeLessThan(1e-4 * Math.max(1, direct) + holes(sheet));
      }),
      { numRuns: RUNS },
    );
  });

  test("are found wherever a plate's own metal lies over a bend of it, however little", () => {
    const sheet = sheetOf({
      ...newPart("Lying over"),
      steps: [
        { id: "s1", kind: "plate", width: "120", depth: "80" },
        { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.east" }], length: "30" },
      ],
    });
    const [bend] = bendsOf(sheet);
    // Doubles would stand mostly at their two ends.
    const even = fc.integer({ min: 0, max: 1000 }).map((n) => n / 1000);
    const metal = [...platesOf(sheet), ...bendsOf(sheet)].flatMap((p) => p.regions).flatMap(regionLoops);
    fc.assert(
      fc.property(even, even, even, even, fc.boolean(), (out, depth, along, length, leg) => {
        const at = (s: number, o: number) => ({
          x: bend.origin.x + bend.axis.x * s + bend.out.x * o,
          y: bend.origin.y + bend.axis.y * s + bend.out.y * o,
        });
        const [o, s] = [(out * 1.4 - 0.2) * bend.allowance, along * bend.width];
        const [high, wide] = [0.01 + depth * 2, 0.01 + length * bend.width];
        const loop = polygonLoop([at(s, o), at(s + wide, o), at(s + wide, o + high), at(s, o + high)]);
        const hook = { outer: loopArea(loop) > 0 ? loop : loop.map(reversed).reverse(), holes: [] };
        const plates = platesOf(sheet).map((p) =>
          (p.id === bend.child) === leg ? { ...p, regions: [...p.regions, hook] } : p,
        );
        const found = overlaps({ ...sheet, pieces: [...plates, ...bendsOf(sheet)] });
        const meant = intersectLoops([hook.outer], metal).reduce((sum, r) => sum + regionArea(r), 0);
        // A hair at the border of the strip is no metal that lies double.
        expect(Math.abs(found - meant)).toBeLessThan(3e-4 * (wide + high));
      }),
      { numRuns: RUNS },
    );
  });

  test("never lose metal: uniting parts loses exactly what lies double", () => {
    fc.assert(
      fc.property(randomPart, (document) => {
        const sheet = sheetOf(document);
        const loops = [...platesOf(sheet), ...bendsOf(sheet)].flatMap((p) => p.regions).flatMap(regionLoops);
        const united = subtractLoops(loops, []).reduce((sum, r) => sum + regionArea(r), 0);
        expect(united).toBeLessThan(developedArea(sheet) + 1e-6);
      }),
      { numRuns: RUNS },
    );
  });
});

/** Area of round holes, over which an overlap may be told although nothing is there. */
const holes = (sheet: Sheet) =>
  platesOf(sheet)
    .flatMap((p) => p.regions)
    .flatMap((r) => r.holes)
    .reduce((sum, h) => sum - loopArea(h), 0);
