import { readdirSync, readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  type CleanSurface,
  evenState,
  examinePart,
  foldedSurface,
  type PartBuild,
  type PartDocument,
  writeStl,
} from "../src/index.ts";
import { flawsOfStl, volumeOfStl } from "./manifold.ts";
import { casesOf, sameCases } from "./random-cases.ts";
import { randomChain } from "./random-chains.ts";
import { randomPart } from "./random-parts.ts";

sameCases(811);
const RUNS = casesOf(240);
const CHORD = 0.02;
/** Single precision rounds, and points that touch are parted into their metal, by so much at the most, mm. */
const ROUNDING = 2e-4;

const folder = new URL("../../../demo/", import.meta.url);
const demo = readdirSync(folder)
  .filter((name) => name.endsWith(".json"))
  .map((name) => [name, JSON.parse(readFileSync(new URL(name, folder), "utf8")) as PartDocument] as const);

const surfaceOf = ({ sheet, heldBySteps }: PartBuild): CleanSurface =>
  foldedSurface(sheet!, evenState(sheet!, 1, new Set(heldBySteps)), undefined, CHORD);

const volumeOf = (surface: CleanSurface): number => volumeOfStl(writeStl(surface));

/** How far a surface reaches beyond the exact box of its part, mm. */
function beyondBox({ positions }: CleanSurface, build: PartBuild): number {
  const { min, max } = build.folded!.box;
  return positions.reduce((far, v, i) => Math.max(far, min[i % 3] - v, v - max[i % 3]), -Infinity);
}

describe("the surface that leaves", () => {
  test.each(
    demo,
  )("of %s lies within its exact box, is closed, and holds the metal that its numbers say", (_, document) => {
    const build = examinePart(document);
    const surface = surfaceOf(build);
    expect(beyondBox(surface, build)).toBeLessThan(ROUNDING);
    expect(flawsOfStl(writeStl(surface))).toEqual([]);
    // Chords take a little of every bend, and hems are a hair open.
    expect(Math.abs(volumeOf(surface) / build.folded!.volume - 1)).toBeLessThan(1.2e-3);
  });

  test("of the panel foot with its gusset holds the same volume to a tenth of a per cent, pressed and not", () => {
    const [, foot] = demo.find(([name]) => name === "solar-panel-foot.json")!;
    const plain = { ...foot, steps: foot.steps.filter((s) => s.kind !== "gusset") };
    const [a, b] = [foot, plain].map((d) => examinePart(d));
    expect(a.folded!.volume).toBeCloseTo(b.folded!.volume, 9);
    expect(Math.abs(volumeOf(surfaceOf(a)) / a.folded!.volume - 1)).toBeLessThan(1e-3);
    expect(Math.abs(volumeOf(surfaceOf(a)) / volumeOf(surfaceOf(b)) - 1)).toBeLessThan(2e-4);
  });

  test("of any part lies within its box", () => {
    let hems = 0;
    fc.assert(
      fc.property(fc.oneof(randomPart, randomChain), (document) => {
        const build = examinePart(document);
        if (!build.sheet || !build.folded || build.blank!.overlaps.length > 0) return;
        if (document.steps.some((s) => s.kind === "hem")) hems++;
        const surface = surfaceOf(build);
        if (surface.triangles.length > 0) expect(beyondBox(surface, build)).toBeLessThan(ROUNDING);
      }),
      { numRuns: RUNS },
    );
    expect(hems).toBeGreaterThan(RUNS / 50);
  });
});
