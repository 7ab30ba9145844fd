import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Region } from "../src/plane/region.ts";
import { triangulate } from "../src/sheet/meshes/triangulation.ts";
import { expectGrowth } from "./growth.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(47);

type XY = readonly [number, number];
const ring = (x: number, y: number, r: number, sides: number, turn: number): XY[] =>
  Array.from({ length: sides }, (_, k) => {
    const angle = turn - (2 * Math.PI * k) / sides;
    return [x + r * Math.cos(angle), y + r * Math.sin(angle)] as const;
  });

/** Corners of a field's plate and of its openings, in the way in which the mesh gives them: metal on the left. */
function bordersOf(rings: readonly (readonly XY[])[]) {
  const holes: number[] = [];
  let at = 0;
  for (const points of rings.slice(0, -1)) {
    at += points.length;
    holes.push(at);
  }
  return { flat: Float64Array.from(rings.flat(2)), holes, count: rings.flat().length };
}

const PITCH = 10;
const plateAbout = (side: number): XY[] => [
  [0, 0],
  [side * PITCH, 0],
  [side * PITCH, side * PITCH],
  [0, side * PITCH],
];
const opening = fc.record({
  r: spread(0.05, 4.9),
  sides: fc.integer({ min: 3, max: 40 }),
  turn: spread(0, 6.28),
  dx: spread(0, 1),
  dy: spread(0, 1),
});
const field = fc.record({
  side: fc.integer({ min: 5, max: 9 }),
  openings: fc.array(opening, { minLength: 81, maxLength: 81 }),
  // All alike and in line, as a perforation is: many points on one circle and on one line.
  alike: fc.boolean(),
});

const ringsOf = ({
  side,
  openings,
  alike,
}: {
  side: number;
  openings: readonly Opening[];
  alike: boolean;
}) => [
  plateAbout(side),
  ...Array.from({ length: side * side }, (_, i) => {
    const { r, sides, turn, dx, dy } = openings[alike ? 0 : i];
    const room = PITCH / 2 - r - 0.01;
    const [x, y] = [((i % side) + 0.5) * PITCH, (Math.floor(i / side) + 0.5) * PITCH];
    return alike
      ? ring(x, y, r, sides, 0)
      : ring(x + (2 * dx - 1) * room, y + (2 * dy - 1) * room, r, sides, turn);
  }),
];
interface Opening {
  readonly r: number;
  readonly sides: number;
  readonly turn: number;
  readonly dx: number;
  readonly dy: number;
}

const none = (): Region => ({ outer: [], holes: [] });
const areaOf = (points: readonly XY[]) =>
  points.reduce((sum, [x, y], i) => {
    const [u, v] = points[(i + 1) % points.length];
    return sum + (x * v - u * y) / 2;
  }, 0);

describe("a region with many openings", () => {
  test("is cut into triangles that fill it: every border once, every other edge twice, none turned over", () => {
    fc.assert(
      fc.property(field, (asked) => {
        const rings = ringsOf(asked);
        const { flat, holes, count } = bordersOf(rings);
        const triangles = triangulate(none(), flat, holes);
        expect(triangles.length / 3).toBe(count + 2 * holes.length - 2);
        const edges = new Set<string>();
        let area = 0;
        for (let i = 0; i < triangles.length; i += 3) {
          const [p, q, r] = [0, 1, 2].map((k) => triangles[i + k]);
          for (const edge of [`${p},${q}`, `${q},${r}`, `${r},${p}`]) {
            expect(edges.has(edge)).toBe(false);
            edges.add(edge);
          }
          const [ax, ay, bx, by] = [
            flat[q * 2] - flat[p * 2],
            flat[q * 2 + 1] - flat[p * 2 + 1],
            flat[r * 2] - flat[p * 2],
            flat[r * 2 + 1] - flat[p * 2 + 1],
          ];
          const own = (ax * by - ay * bx) / 2;
          expect(own).toBeGreaterThan(-1e-9);
          area += own;
        }
        let first = 0;
        const borders = new Set<string>();
        for (const points of rings) {
          points.forEach((_, i) => {
            borders.add(`${first + i},${first + ((i + 1) % points.length)}`);
          });
          first += points.length;
        }
        for (const edge of edges) {
          const back = edge.split(",").reverse().join(",");
          expect(edges.has(back)).toBe(!borders.has(edge));
        }
        for (const edge of borders) expect(edges.has(edge)).toBe(true);
        const whole = rings.reduce((sum, points) => sum + areaOf(points), 0);
        expect(Math.abs(area - whole)).toBeLessThan(1e-9 * Math.abs(whole) + 1e-9);
      }),
      { numRuns: casesOf(60) },
    );
  });

  test("takes a time that grows with their number and hardly faster", () => {
    expectGrowth(1.5, [1000, 2000, 4000, 8000], (n) => {
      const side = Math.ceil(Math.sqrt(n));
      const rings = [
        plateAbout(side),
        ...Array.from({ length: n }, (_, i) =>
          ring(((i % side) + 0.5) * PITCH, (Math.floor(i / side) + 0.5) * PITCH, 3, 24, 0),
        ),
      ];
      const { flat, holes } = bordersOf(rings);
      return () => triangulate(none(), flat, holes);
    });
  });
});
