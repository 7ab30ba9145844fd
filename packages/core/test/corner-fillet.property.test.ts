import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type ChainPiece, filletCorner } from "../src/plane/corner-fillet.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(20261126);
// It is quick: a change of the program is tried against many corners too.
const RUNS = Math.max(120, casesOf(300));

type XY = readonly [number, number];
const DEGREE = Math.PI / 180;

/** A place on a piece, `along` it from the corner (negative: before it), and the heading there. */
function placeOn(piece: ChainPiece, heading: number, along: number): { at: XY; heading: number } {
  if (!piece) return { at: [Math.cos(heading) * along, Math.sin(heading) * along], heading };
  const { radius, way } = piece;
  const centre: XY = [-Math.sin(heading) * way * radius, Math.cos(heading) * way * radius];
  const turned = heading + way * along;
  return {
    at: [centre[0] + Math.sin(turned) * way * radius, centre[1] - Math.cos(turned) * way * radius],
    heading: turned,
  };
}

const beside = ({ at, heading }: { at: XY; heading: number }, by: number): XY => [
  at[0] - Math.sin(heading) * by,
  at[1] + Math.cos(heading) * by,
];

interface Found {
  readonly before: number;
  readonly after: number;
  readonly turn: number;
  readonly far: number;
}

const STEPS = 1500;
const RUN = 400;

/**
 * Every circle that rounds a corner, found by walking: the circle that touches the piece before, ever farther from
 * the corner, until it touches the piece after as well. `close` tells that one only just does or does not.
 */
function walked(before: ChainPiece, after: ChainPiece, corner: number, rho: number) {
  const s = Math.sign(corner);
  const end = before ? 2 * Math.PI - 1e-6 : RUN;
  const centreAt = (a: number) => beside(placeOn(before, 0, -a), s * rho);
  const reach = after ? after.radius - after.way * s * rho : 0;
  const apart = (a: number): number => {
    const c = centreAt(a);
    if (!after) return Math.cos(corner) * c[1] - Math.sin(corner) * c[0] - s * rho;
    const middle = beside({ at: [0, 0], heading: corner }, after.way * after.radius);
    return Math.hypot(c[0] - middle[0], c[1] - middle[1]) - reach;
  };
  // In steps that grow: near the corner the two circles that touch both pieces may lie close together.
  const walk = (i: number) => end * (i / STEPS) ** 2;
  const found: Found[] = [];
  let close =
    (before && Math.abs(before.radius - before.way * s * rho) < 1e-3) ||
    (after && reach < 1e-3 && reach > -1e-3);
  if ((before && before.radius - before.way * s * rho <= 0) || (after && reach <= 0))
    return { found, close: Boolean(close) };
  for (let i = 0; i < STEPS; i++) {
    let [low, high] = [walk(i), walk(i + 1)];
    const [g, h] = [apart(low), apart(high)];
    if (Math.min(Math.abs(g), Math.abs(h)) < 1e-7 * (1 + rho)) close = true;
    const next = apart(walk(i + 2));
    if (
      Math.abs(h) < Math.abs(g) &&
      Math.abs(h) < Math.abs(next) &&
      g * h > 0 &&
      h * next > 0 &&
      Math.abs(h) < 0.05 * rho
    )
      close = true;
    if (g * h > 0) continue;
    for (let k = 0; k < 80; k++) {
      const mid = (low + high) / 2;
      if (apart(mid) * g > 0) low = mid;
      else high = mid;
    }
    const c = centreAt(low);
    const b = after
      ? (() => {
          const middle = beside({ at: [0, 0], heading: corner }, after.way * after.radius);
          const to = Math.atan2(c[1] - middle[1], c[0] - middle[0]);
          const from = Math.atan2(-middle[1], -middle[0]);
          const turned = (after.way * (to - from)) % (2 * Math.PI);
          return turned < 0 ? turned + 2 * Math.PI : turned;
        })()
      : Math.cos(corner) * c[0] + Math.sin(corner) * c[1];
    const turn = corner + (before ? before.way * low : 0) + (after ? after.way * b : 0);
    for (const edge of [low, b, after ? 2 * Math.PI - b : 1, turn * s, Math.PI - Math.abs(turn)])
      if (Math.abs(edge) < 1e-5) close = true;
    if (b < 0 || turn * s <= 0 || Math.abs(turn) >= Math.PI) continue;
    found.push({ before: low, after: b, turn, far: Math.hypot(c[0], c[1]) });
  }
  found.sort((x, y) => x.far - y.far);
  if (found.length > 1 && found[1].far - found[0].far < 1e-4) close = true;
  return { found, close: Boolean(close) };
}

const piece = fc.option(
  fc.record({
    radius: spread(2, 60),
    way: fc.constantFrom(1 as const, -1 as const),
  }),
  { nil: undefined, freq: 2 },
);
const corner = fc
  .tuple(spread(3, 170), fc.constantFrom(1, -1))
  .map(([degrees, way]) => degrees * way * DEGREE);
const rho = spread(0.5, 40);

describe("the corner of a chain", () => {
  test("is rounded by the nearest circle that touches both pieces, or by none where none does", () => {
    let [rounded, refused] = [0, 0];
    fc.assert(
      fc.property(piece, piece, corner, rho, (before, after, turn, radius) => {
        const { found, close } = walked(before, after, turn, radius);
        fc.pre(!close);
        const made = filletCorner(before, after, turn, radius);
        // The walk goes so far along a straight piece only.
        if (made.ok && !before && made.value.before > RUN * 0.9) return;
        expect(made.ok).toBe(found.length > 0);
        if (!made.ok) {
          refused++;
          expect(made.error).toContain("leave no room");
          return;
        }
        rounded++;
        expect(made.value.before).toBeCloseTo(found[0].before, 6);
        expect(made.value.after).toBeCloseTo(found[0].after, 6);
        expect(made.value.turn).toBeCloseTo(found[0].turn, 6);
      }),
      { numRuns: RUNS },
    );
    if (RUNS >= 100) expect(Math.min(rounded, refused)).toBeGreaterThan(RUNS / 20);
  });

  test("between straight pieces takes ρ·tan(θ/2) off each", () => {
    for (const degrees of [1, 30, 90, 135, 179, -30, -90, -179]) {
      const made = filletCorner(undefined, undefined, degrees * DEGREE, 7);
      if (!made.ok) throw new Error(made.error);
      const off = 7 * Math.tan((Math.abs(degrees) * DEGREE) / 2);
      expect(made.value.before / off).toBeCloseTo(1, 9);
      expect(made.value.after / off).toBeCloseTo(1, 9);
      expect(made.value.turn).toBeCloseTo(degrees * DEGREE, 9);
    }
  });

  test("has none where the pieces go straight on, back on themselves, or about one centre", () => {
    const ring: ChainPiece = { radius: 20, way: 1 };
    const straight = [filletCorner(undefined, undefined, Math.PI, 5), filletCorner(ring, ring, 0, 5)];
    // A half-turn from one arc into the other way about the same centre: concentric, and never touched by one circle.
    const back = filletCorner(ring, { radius: 20, way: -1 }, Math.PI, 5);
    for (const made of [...straight, back]) expect(made.ok).toBe(false);
  });

  test("has none where the radius is that of the arc it would have to lie in", () => {
    const arc: ChainPiece = { radius: 6, way: 1 };
    expect(filletCorner(arc, undefined, Math.PI / 2, 6).ok).toBe(false);
    expect(filletCorner(arc, undefined, Math.PI / 2, 7).ok).toBe(false);
    expect(filletCorner(undefined, arc, Math.PI / 2, 6).ok).toBe(false);
  });
});
