import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { cleanSurface } from "../src/formats/stl/clean-surface.ts";
import { casesOf, sameCases } from "./random-cases.ts";

sameCases(20261128);
const RUNS = casesOf(80);

type XYZ = readonly [number, number, number];

const mesh = (points: readonly XYZ[], triangles: readonly (readonly number[])[]) => ({
  positions: Float64Array.from(points.flat()),
  triangles: Uint32Array.from(triangles.flat()),
});

/** A tetrahedron's faces, counter-clockwise from outside, by the places of its corners. */
const FACES = [
  [0, 2, 1],
  [0, 1, 3],
  [1, 2, 3],
  [2, 0, 3],
] as const;
const tetra = (first: number) => FACES.map((f) => f.map((i) => i + first));
const CORNERS: readonly XYZ[] = [
  [0, 0, 0],
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];
const at = (origin: XYZ, size: number, way: XYZ = [1, 1, 1]): XYZ[] =>
  CORNERS.map((c) => [0, 1, 2].map((k) => origin[k] + c[k] * size * way[k]) as unknown as XYZ);

const corner = ({ positions: p }: { positions: Float32Array }, i: number): XYZ => [
  p[i * 3],
  p[i * 3 + 1],
  p[i * 3 + 2],
];
/** One triangle, whichever of its corners is named first. */
const turned = (t: readonly number[]) => {
  const first = t.indexOf(Math.min(...t));
  return [t[first], t[(first + 1) % 3], t[(first + 2) % 3]].join(",");
};
const all = (triangles: readonly (readonly number[])[]) => triangles.map(turned).sort();

/** The smallest step of single precision at a coordinate. */
const stepAt = (v: number) => 2 ** (Math.floor(Math.log2(Math.max(1, Math.abs(v)))) - 23);

describe("a surface made ready for single precision", () => {
  test("stays as it is where all its points are apart", () => {
    const clean = cleanSurface(mesh(at([5, -3, 2], 10), tetra(0)));
    expect(all(clean.triangles)).toEqual(all(tetra(0)));
    at([5, -3, 2], 10).forEach((p, i) => {
      expect(corner(clean, i)).toEqual(p);
    });
  });

  test("is drawn together where an edge has no length: at each coordinate, up to four of its smallest steps", () => {
    for (const offset of [0, 3, 1000, -1000])
      for (const k of [0, 1, 2])
        for (const [steps, together] of [
          [4, true],
          [-4, true],
          [6, false],
          [-6, false],
        ] as const) {
          // A tetrahedron with a fifth point beside its tip, joined to two of its corners.
          const points = at([offset, 0, 0], 80);
          const tip = [...points[3]] as [number, number, number];
          tip[k] += steps * stepAt(Math.max(...points[3].map(Math.abs)));
          const split = [
            [0, 2, 1],
            [0, 1, 3],
            [1, 2, 4],
            [1, 4, 3],
            [2, 0, 3],
            [2, 3, 4],
          ];
          const clean = cleanSurface(mesh([...points, tip], split));
          expect(clean.triangles.length, `${offset} ${k} ${steps}`).toBe(together ? 4 : 6);
          const used = new Set(clean.triangles.flat());
          expect(used.size).toBe(together ? 4 : 5);
        }
  });

  test("loses what its drawing together has left back to back, and nothing else", () => {
    // Two tetrahedra on one face, given twice, once from each side: no metal is between them.
    const points: XYZ[] = [...at([0, 0, 0], 8), [-8, -8, -8]];
    for (const back of [
      [1, 3, 2],
      [3, 2, 1],
      [2, 1, 3],
    ]) {
      const clean = cleanSurface(mesh(points, [...FACES, back]));
      expect(all(clean.triangles)).toEqual(all(FACES.filter((f) => f !== FACES[2])));
    }
    // The same face twice from the same side is one.
    for (const same of [
      [1, 2, 3],
      [2, 3, 1],
      [3, 1, 2],
    ])
      expect(all(cleanSurface(mesh(points, [...FACES, same])).triangles)).toEqual(all(FACES));
  });

  test("drops a triangle of which any two corners are one", () => {
    const points = at([0, 0, 0], 8);
    for (const flat of [
      [1, 1, 3],
      [3, 1, 1],
      [1, 3, 1],
    ])
      expect(all(cleanSurface(mesh(points, [...FACES, flat])).triangles)).toEqual(all(FACES));
  });

  test("parts points that touch, each into its own metal by eight of the smallest steps for each before it", () => {
    const touch: XYZ = [100, 50, -20];
    const ways: XYZ[] = [
      [1, 1, 1],
      [-1, -1, 1],
      [1, -1, -1],
    ];
    const points = ways.flatMap((way, i) => at(touch, 16 + i, way));
    // One turned inside out in one direction has its faces the other way round.
    const faces = ways.flatMap((way, i) => {
      const out = tetra(i * 4);
      return way[0] * way[1] * way[2] < 0 ? out.map(([a, b, c]) => [a, c, b]) : out;
    });
    const clean = cleanSurface(mesh(points, faces));
    expect(all(clean.triangles)).toEqual(all(faces));
    const step = stepAt(100);
    const tips = [0, 4, 8].map((i) => corner(clean, i));
    expect(new Set(tips.map(String)).size).toBe(3);
    tips.forEach((tip, n) => {
      const moved = tip.map((v, k) => v - touch[k]);
      const inward = ways[n].map((w) => w / Math.sqrt(3));
      // By the sum of the three faces around the tip, which lie along the axes.
      const far = (n + 1) * 8 * step;
      moved.forEach((v, k) => {
        expect(Math.abs(v - inward[k] * far)).toBeLessThanOrEqual(step);
      });
    });
    // Nothing else has moved.
    points.forEach((p, i) => {
      if (i % 4 !== 0) expect(corner(clean, i)).toEqual(p);
    });
  });

  test("the direction into the metal is by faces alike, however large they are", () => {
    const touch: XYZ = [0, 0, 0];
    // One long and thin, one short: the long faces count no more than the short one.
    const long: XYZ[] = CORNERS.map((c) => [c[0] * 4, c[1] * 400, c[2] * 40]);
    const other = at(touch, 8, [-1, -1, 1]);
    const clean = cleanSurface(mesh([...long, ...other], [...tetra(0), ...tetra(4)]));
    const [x, y, z] = corner(clean, 0);
    expect(x).toBeGreaterThan(0);
    expect(Math.abs(x - y)).toBeLessThan(1e-9);
    expect(Math.abs(x - z)).toBeLessThan(1e-9);
    expect(Math.hypot(x, y, z)).toBeCloseTo(8 * stepAt(0), 9);
  });

  test("no two corners of crowds of tetrahedra that touch at their tips are one point in the end", () => {
    const way = fc.constantFrom(1, -1);
    const one = fc.tuple(fc.tuple(way, way, way), fc.integer({ min: 4, max: 40 }));
    fc.assert(
      fc.property(
        fc.array(one, { minLength: 2, maxLength: 6 }),
        fc.tuple(fc.integer({ min: -900, max: 900 }), fc.integer({ min: -90, max: 90 }), fc.integer()),
        (crowd, [x, y, z]) => {
          const touch: XYZ = [x, y, z % 50];
          const points = crowd.flatMap(([w, size]) => at(touch, size, w));
          const faces = crowd.flatMap(([w], i) => {
            const out = tetra(i * 4);
            return w[0] * w[1] * w[2] < 0 ? out.map(([a, b, c]) => [a, c, b]) : out;
          });
          const clean = cleanSurface(mesh(points, faces));
          expect(clean.triangles.length).toBe(faces.length);
          const tips = crowd.map((_, i) => String(corner(clean, i * 4)));
          expect(new Set(tips).size).toBe(crowd.length);
        },
      ),
      { numRuns: RUNS },
    );
  });
});
