import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { limitAt, type Patch } from "../src/collision/patches.ts";
import { outlineOf } from "../src/collision/solids.ts";
import {
  buildPart,
  intersectLoops,
  type Loop,
  platesOf,
  rectangleLoop,
  regionArea,
  regionLoops,
} from "../src/index.ts";
import { moveLoop } from "../src/plane/isometry.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";
import { crowdedPart } from "./random-parts.ts";

sameCases(20261126);
const RUNS = casesOf(100);

const STRIPS = 1000;

/** The area of a patch, in strips. */
function areaOf({ y0, y1, left, right }: Patch): number {
  const height = (y1 - y0) / STRIPS;
  let sum = 0;
  for (let i = 0; i < STRIPS; i++) {
    const y = y0 + (i + 0.5) * height;
    sum += limitAt(right, y) - limitAt(left, y);
  }
  return sum * height;
}

describe("the patches of a plate within a zone", () => {
  test("are all of its metal there, none of it twice, and never wider than it", () => {
    fc.assert(
      fc.property(
        crowdedPart,
        fc.array(spread(-0.2, 1.2), { minLength: 4, maxLength: 4 }),
        (document, shares) => {
          const { sheet } = buildPart(document);
          for (const plate of platesOf(sheet)) {
            const outline = outlineOf(plate, sheet!.t);
            if (outline.isEmpty) continue;
            const { x0, x1, y0, y1 } = outline.extent;
            const [a, b, c, d] = shares;
            const zone = {
              x0: x0 + Math.min(a, b) * (x1 - x0),
              x1: x0 + Math.max(a, b) * (x1 - x0) + 0.01,
              y0: y0 + Math.min(c, d) * (y1 - y0),
              y1: y0 + Math.max(c, d) * (y1 - y0) + 0.01,
            };
            const loops: Loop[] = plate.regions.flatMap(regionLoops).map((l) => moveLoop(outline.toFrame, l));
            const window = rectangleLoop(zone.x0, zone.y0, zone.x1, zone.y1);
            const expected = intersectLoops(loops, [window]).reduce((sum, r) => sum + regionArea(r), 0);
            const patches = outline.patches(zone);
            for (const p of patches) {
              expect(p.y0).toBeGreaterThanOrEqual(zone.y0);
              expect(p.y1).toBeLessThanOrEqual(zone.y1);
            }
            // Where a round meets the zone level its strips are off by little.
            expect(Math.abs(patches.reduce((sum, p) => sum + areaOf(p), 0) - expected)).toBeLessThan(0.03);
          }
        },
      ),
      { numRuns: RUNS },
    );
  });
});
