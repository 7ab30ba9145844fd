import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  buildPart,
  CONTACT,
  collide,
  evenState,
  foldSheet,
  type Solid,
  sharedOf,
  solidsOf,
  type Vector,
  wayApart,
} from "../src/index.ts";
import { CHORD, forget, manifoldsOf, sharedVolume } from "./pieces-of-manifold.ts";
import { casesOf, sameCases } from "./random-cases.ts";
import { crowdedPart } from "./random-parts.ts";

sameCases(20261126);
const RUNS = casesOf(30);
const STATES = [0.2, 0.4, 0.6, 0.8, 1];

/** Directions spread evenly over the ball. */
const DIRECTIONS: Vector[] = Array.from({ length: 60 }, (_, i) => {
  const z = 1 - (2 * i + 1) / 60;
  const r = Math.sqrt(1 - z * z);
  return [r * Math.cos(i * 2.399963), r * Math.sin(i * 2.399963), z];
});

const times = (v: Vector, f: number): Vector => [v[0] * f, v[1] * f, v[2] * f];

/** Every two pieces of a fold state, asked once. */
function everyTwo(solids: readonly Solid[], ask: (a: Solid, b: Solid) => void): void {
  solids.forEach((a, i) => {
    for (const b of solids.slice(i + 1)) ask(a, b);
  });
}

describe("pieces of random parts, against another program's meshes", () => {
  test("what collides is what shares metal that no shift of 0.05 mm parts, and much of it does", () => {
    let [parts, hitting] = [0, 0];
    fc.assert(
      fc.property(crowdedPart, (document) => {
        const sheet = buildPart(document).sheet!;
        let hits = false;
        for (const share of STATES) {
          const folding = foldSheet(sheet, evenState(sheet, share));
          const solids = solidsOf(sheet, folding);
          const meshes = new Map(solids.map((s) => [s, manifoldsOf(sheet, folding, s.index)]));
          everyTwo(solids, (a, b) => {
            const [p, q] = [meshes.get(a)!, meshes.get(b)!];
            const volume = sharedVolume(p, q);
            if (collide(a, b)) {
              hits = true;
              expect(volume).toBeGreaterThan(0);
            } else if (volume > 1e-6)
              expect(DIRECTIONS.some((d) => sharedVolume(p, q, times(d, 0.05)) < volume * 1e-3)).toBe(true);
          });
          for (const m of meshes.values()) forget(m);
        }
        parts++;
        if (hits) hitting++;
      }),
      { numRuns: RUNS },
    );
    expect(hitting * 3).toBeGreaterThan(parts);
  }, 1_200_000);

  test("the way out parts two pieces, nothing much shorter does, and they share what the meshes share", () => {
    fc.assert(
      fc.property(crowdedPart, fc.constantFrom(...STATES), (document, share) => {
        const sheet = buildPart(document).sheet!;
        const folding = foldSheet(sheet, evenState(sheet, share));
        const solids = solidsOf(sheet, folding);
        everyTwo(solids, (a, b) => {
          if (!collide(a, b)) return;
          const [p, q] = [a, b].map((s) => manifoldsOf(sheet, folding, s.index));
          const { shift, length } = wayApart(a, b);
          // Bodies no higher than four contacts decide by themselves, a little larger than their metal.
          expect(length).toBeGreaterThan(CONTACT - 1e-3);
          expect(Math.hypot(...shift)).toBeCloseTo(length, 9);
          const volume = sharedVolume(p, q);
          const chord = 4 * CHORD;
          // The meshes are off by their chords, and so is what is left between them.
          const left = sharedVolume(p, q, times(shift, 1 + chord / length));
          expect(left / volume).toBeLessThan(1e-6);
          if (length > 10 * chord)
            for (const d of DIRECTIONS)
              expect(sharedVolume(p, q, times(d, length - chord))).toBeGreaterThan(0);
          const ours = sharedOf(a, b).volume!;
          expect(Math.abs(ours - volume) / (volume + 0.05)).toBeLessThan(0.02);
          forget([...p, ...q]);
        });
      }),
      { numRuns: RUNS },
    );
  }, 1_200_000);
});
