import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { convexOf, sharedFaces, volumeWithin } from "../src/collision/convex.ts";
import { examineFully, type Vector } from "../src/index.ts";
import { part, plate } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(310);
const RUNS = casesOf(3000);

/** A box between two of its corners, turned about z and then x, and moved. */
function box(low: Vector, high: Vector, [about, over]: readonly [number, number], by: Vector) {
  const corners = Array.from({ length: 8 }, (_, i): Vector => {
    const p = [i & 4 ? high[0] : low[0], i & 2 ? high[1] : low[1], i & 1 ? high[2] : low[2]];
    const [c, s, d, t] = [Math.cos(about), Math.sin(about), Math.cos(over), Math.sin(over)];
    const [x, y, z] = [p[0] * c - p[1] * s, p[0] * s + p[1] * c, p[2]];
    return [x + by[0], y * d - z * t + by[1], y * t + z * d + by[2]];
  });
  return convexOf(corners);
}

describe("two boxes share what their extents have in common", () => {
  // Whole numbers, so that sides often lie in one plane; turned and moved far, so that rounding puts them off it.
  const side = fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 1, max: 4 }));
  const size = fc.tuple(side, side, side);
  const turn = fc.tuple(spread(0, 3), spread(0, 3));
  const far = fc.tuple(spread(-900, 900), spread(-900, 900), spread(-900, 900));

  test("however they are turned, and also where sides lie in one plane", () => {
    let inPlane = 0;
    fc.assert(
      fc.property(size, size, turn, far, (p, q, angles, by) => {
        const ends = (s: typeof p) =>
          [s.map(([a]) => a), s.map(([a, b]) => a + b)] as unknown as [Vector, Vector];
        const [[a0, a1], [b0, b1]] = [ends(p), ends(q)];
        const common = [0, 1, 2].map((k) => Math.min(a1[k], b1[k]) - Math.max(a0[k], b0[k]));
        if (common.some((v) => v <= 0)) return;
        if ([0, 1, 2].some((k) => a0[k] === b0[k] || a1[k] === b1[k])) inPlane++;
        const shared = volumeWithin(sharedFaces(box(a0, a1, angles, by), box(b0, b1, angles, by)));
        expect(shared).toBeCloseTo(common[0] * common[1] * common[2], 6);
      }),
      { numRuns: RUNS },
    );
    expect(inPlane).toBeGreaterThan(RUNS / 10);
  });

  test("a border with a face missing has no volume", () => {
    const faces = sharedFaces(
      box([0, 0, 0], [2, 2, 2], [0.3, 0.4], [5, 5, 5]),
      box([1, 1, 1], [3, 3, 3], [0.3, 0.4], [5, 5, 5]),
    );
    expect(volumeWithin(faces)).toBeCloseTo(1, 9);
    expect(volumeWithin(faces.slice(1))).toBeUndefined();
  });
});

test("two returns with their ends in one plane share width × depth × thickness", () => {
  // Walls 60 apart outside, with returns towards one another that overlap by a twentieth of a millimetre.
  const wall = (id: string, edge: string) => ({
    id,
    kind: "flange",
    edges: [{ key: "a", at: `s1.${edge}` }],
    length: "40",
  });
  const back = (id: string, of: string, length: string) => ({
    id,
    kind: "flange",
    edges: [{ key: "a", at: `${of}a.end` }],
    length,
  });
  const document = {
    ...part(
      plate("60", "30"),
      wall("s2", "west"),
      wall("s3", "east"),
      back("s4", "s2", "30.025"),
      back("s5", "s3", "30.025"),
    ),
    stock: { material: "Mild steel", thickness: "2", radius: "2" },
  };
  const found = examineFully(document).findings.filter((f) => f.collision?.full);
  expect(found.length).toBe(1);
  expect(found[0].collision!.depth).toBeCloseTo(0.05, 6);
  expect(found[0].collision!.volume).toBeCloseTo(30 * 0.05 * 2, 3);
});
