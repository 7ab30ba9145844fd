import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Bend, type Curve, line, point, polygonLoop } from "../src/index.ts";
import { pointAt } from "../src/plane/curve.ts";
import { bendPiece } from "../src/sheet/pieces/bend-piece.ts";
import type { OwnFrame } from "../src/sheet/pieces/piece-kind.ts";
import { inverse, type Motion, moveV, STILL, type Vector } from "../src/space/vector.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(20261127);
const RUNS = Math.max(50, casesOf(100));

const T = 1.5;

interface Shape {
  readonly radius: number;
  readonly degrees: number;
  readonly k: number;
  readonly up: boolean;
  /** Where its line lies in the flat, and how it is turned there. */
  readonly x: number;
  readonly y: number;
  readonly turned: number;
  /** Whether the way out lies to the left of the line or to its right, as on a mirrored sheet. */
  readonly left: boolean;
  readonly share: number;
}

const shapes: fc.Arbitrary<Shape> = fc.record({
  radius: spread(0.2, 40),
  degrees: spread(1, 330),
  k: spread(0.2, 0.5),
  up: fc.boolean(),
  x: spread(-200, 200),
  y: spread(-200, 200),
  turned: spread(0, 2 * Math.PI),
  left: fc.boolean(),
  share: fc.oneof(spread(0.02, 1), fc.constantFrom(0, 1e-13, 1e-7, 1)),
});

const WIDTH = 60;

function bendOf({ radius, degrees, k, up, x, y, turned, left }: Shape, regions: Bend["regions"] = []): Bend {
  const angle = (degrees * Math.PI) / 180;
  const axis = point(Math.cos(turned), Math.sin(turned));
  const out = left ? point(-axis.y, axis.x) : point(axis.y, -axis.x);
  return {
    ...{ kind: "bend", id: "s2a", number: 1, step: "s2", parent: "s1", child: "s2a" },
    ...{
      origin: point(x, y),
      axis,
      out,
      width: WIDTH,
      allowance: angle * (radius + k * T),
      angle,
      radius,
      k,
    },
    ...{
      kSource: { label: "", lines: [] },
      up,
      regions,
      marks: [],
      unrelieved: [],
      reliefs: [],
      overhang: { left: 0, right: 0 },
    },
  };
}

/** A turn about an axis that is no axis of the sheet, and a shift: where the parent stands in space. */
const PLACED: Motion = {
  x: [0.36, 0.48, -0.8],
  y: [-0.8, 0.6, 0],
  z: [0.48, 0.64, 0.6],
  o: [31, -17, 8],
};

const inBend = (b: Bend, s: number, out: number) =>
  point(b.origin.x + b.axis.x * s + b.out.x * out, b.origin.y + b.axis.y * s + b.out.y * out);
const apart = (p: readonly number[], q: readonly number[]) => Math.hypot(...q.map((v, i) => v - p[i]));

/** Where a point of a bend stands in its parent's frame, by the cylinder that it is curled to. */
function curled(
  { origin: o, across: a, along: n }: OwnFrame,
  [rate, neutral, way]: readonly number[],
  s: number,
  out: number,
  w: number,
): Vector {
  const phi = rate * out;
  const radius = 1 / rate - neutral;
  // Side A is outside of an up bend and inside of a down bend; w counts from side A.
  const rho = way > 0 ? radius + T - w : radius + w;
  const forward = Math.abs(phi) < 1e-9 ? out : rho * Math.sin(phi);
  const rise = way > 0 ? radius + T - rho * Math.cos(phi) : rho * Math.cos(phi) - radius;
  return [o.x + a.x * s + n.x * forward, o.y + a.y * s + n.y * forward, rise];
}

describe("a bend", () => {
  test("is a sector of the cylinder that its numbers say, also on a mirrored sheet and where it stands askew", () => {
    fc.assert(
      fc.property(shapes, spread(0, 1), spread(0, 1), spread(0, 1), (shape, a, b, c) => {
        fc.pre(shape.share > 0.01);
        const bend = bendOf(shape);
        const folded = bendPiece.fold(bend, PLACED, shape.share, T);
        const { form, motion, numbers } = bendPiece.curl(folded, T);
        expect(form).toBe("cylinder");
        expect(motion).toBe(PLACED);
        const [s, out, w] = [a * WIDTH, b * bend.allowance, c * T];
        const p = inBend(bend, s, out);
        const found = moveV(bendPiece.motionAt(folded, T, p), [p.x, p.y, w]);
        expect(
          apart(found, moveV(PLACED, curled(bendPiece.ownFrame(bend), numbers, s, out, w))),
        ).toBeLessThan(1e-8);
        // The neutral axis keeps its length in every state.
        expect(numbers[0] * bend.allowance).toBeCloseTo(shape.share * bend.angle, 12);
        expect(numbers[1]).toBeCloseTo(shape.k * T, 12);
      }),
      { numRuns: RUNS },
    );
  });

  test("gives back every point that it carries, from 0 to 330°", () => {
    fc.assert(
      fc.property(shapes, spread(0, 1), spread(0, 1), spread(0, 1), (shape, a, b, c) => {
        const bend = bendOf(shape);
        const folded = bendPiece.fold(bend, PLACED, shape.share, T);
        const p = inBend(bend, a * WIDTH, b * bend.allowance);
        const there = moveV(bendPiece.motionAt(folded, T, p), [p.x, p.y, c * T]);
        expect(apart(bendPiece.placeAt(folded, T, p, c * T), there)).toBeLessThan(1e-8);
        const back = bendPiece.unfold!(folded, T, there);
        expect(apart(back, [p.x, p.y, c * T])).toBeLessThan(1e-8);
      }),
      { numRuns: RUNS },
    );
  });

  test("a flat one does not move, and a nearly flat one hardly does", () => {
    const shape = { radius: 3, degrees: 90, k: 0.4, up: true, x: 5, y: 7, turned: 0.3, left: true, share: 0 };
    for (const share of [0, 1e-13]) {
      const folded = bendPiece.fold(bendOf(shape), STILL, share, T);
      expect(folded.radius).toBe(Number.POSITIVE_INFINITY);
      const p = point(20, 30);
      expect(moveV(bendPiece.motionAt(folded, T, p), [p.x, p.y, 1])).toEqual([20, 30, 1]);
      expect(bendPiece.placeAt(folded, T, p, 1)).toEqual([20, 30, 1]);
      expect(bendPiece.unfold!(folded, T, [20, 30, 1])).toEqual([20, 30, 1]);
    }
  });

  test("passes on the motion at its far end, faces as its parent does, and is seen from elsewhere with it", () => {
    fc.assert(
      fc.property(shapes, (shape) => {
        const bend = bendOf(shape);
        const folded = bendPiece.fold(bend, PLACED, shape.share, T);
        const end = inBend(bend, 13, bend.allowance);
        const at: Vector = [end.x, end.y, 0.4];
        const carried = moveV(bendPiece.motionAt(folded, T, end), at);
        expect(apart(moveV(bendPiece.passes!(folded, T), at), carried)).toBeLessThan(1e-9);
        expect(bendPiece.facing(folded)).toBe(PLACED);
        const seen = bendPiece.seenFrom(folded, inverse(PLACED));
        expect(
          apart(moveV(bendPiece.motionAt(seen, T, end), at), moveV(inverse(PLACED), carried)),
        ).toBeLessThan(1e-9);
        expect(seen.angle).toBe(folded.angle);
      }),
      { numRuns: RUNS },
    );
  });

  test("is cut for its mesh into even strips whose chords stand off by no more than is asked", () => {
    fc.assert(
      fc.property(shapes, spread(0.005, 0.5), (shape, chord) => {
        const bend = bendOf(shape);
        const lines = bendPiece.slices(bend, T, chord);
        const n = lines.length + 1;
        expect(n).toBeGreaterThanOrEqual(2);
        lines.forEach((distance, i) => {
          expect(distance(inBend(bend, 21, (bend.allowance * (i + 1)) / n))).toBeCloseTo(0, 9);
          expect(distance(inBend(bend, 4, bend.allowance))).toBeGreaterThan(0);
        });
        const off = (bend.radius + T) * (1 - Math.cos(bend.angle / n / 2));
        expect(off).toBeLessThanOrEqual(chord * (1 + 1e-9));
        expect(bend.angle / n).toBeLessThanOrEqual(Math.PI / 12 + 1e-9);
      }),
      { numRuns: RUNS },
    );
  });

  test("meets its plates at the lines of its two ends", () => {
    const bend = bendOf({
      radius: 2,
      degrees: 120,
      k: 0.4,
      up: false,
      x: 3,
      y: 4,
      turned: 1,
      left: false,
      share: 1,
    });
    const { parent, child } = bendPiece.seams!(bend);
    expect(parent).toEqual({ origin: bend.origin, axis: bend.axis, width: WIDTH });
    const far = inBend(bend, 0, bend.allowance);
    expect(child).toEqual({ origin: far, axis: bend.axis, width: WIDTH });
  });
});

/** Everything that the points taken reach, and what a dense walk along the borders reaches. */
function reaches(shape: Shape, borders: (bend: Bend) => readonly Curve[], samples = 4000) {
  const bare = bendOf(shape);
  const outer = borders(bare);
  const bend = { ...bare, regions: [{ outer, holes: [] }] };
  const folded = bendPiece.fold(bend, PLACED, shape.share, T);
  const box = () => ({ low: [1e9, 1e9, 1e9], high: [-1e9, -1e9, -1e9] });
  const [taken, walked] = [box(), box()];
  const add = (to: typeof taken, u: number, v: number) => {
    for (const w of [0, T])
      moveV(bendPiece.motionAt(folded, T, point(u, v)), [u, v, w]).forEach((c, k) => {
        to.low[k] = Math.min(to.low[k], c);
        to.high[k] = Math.max(to.high[k], c);
      });
  };
  expect(
    bendPiece.reach(
      bend,
      folded,
      T,
      (u, v) => add(taken, u, v),
      () => true,
    ),
  ).toBe("exact");
  for (const c of outer)
    for (let i = 0; i <= samples; i++) {
      const p = pointAt(c, i / samples);
      add(walked, p.x, p.y);
    }
  return { taken, walked };
}

function expectExact({ taken, walked }: ReturnType<typeof reaches>) {
  for (let k = 0; k < 3; k++) {
    // Nothing reaches farther than what is taken, and what is taken is reached.
    expect(taken.low[k]).toBeLessThanOrEqual(walked.low[k] + 1e-7);
    expect(taken.high[k]).toBeGreaterThanOrEqual(walked.high[k] - 1e-7);
    expect(walked.low[k] - taken.low[k]).toBeLessThan(1e-4);
    expect(taken.high[k] - walked.high[k]).toBeLessThan(1e-4);
  }
}

describe("how far a bend reaches", () => {
  const slanted = (bend: Bend, from: readonly [number, number], to: readonly [number, number]) => {
    const corners = [
      inBend(bend, from[0], 0),
      inBend(bend, from[1], 0),
      inBend(bend, to[1], bend.allowance),
      inBend(bend, to[0], bend.allowance),
    ];
    return polygonLoop(corners, ["root", "right", "end", "left"]);
  };

  test("is exact for borders that run straight across it, or slanted, which makes a helix of them", () => {
    fc.assert(
      fc.property(
        shapes,
        spread(0, 20),
        spread(0, 20),
        spread(30, 60),
        spread(30, 60),
        (shape, a, b, c, d) => {
          expectExact(reaches(shape, (bend) => slanted(bend, [a, c], [b, d])));
        },
      ),
      { numRuns: Math.min(RUNS, 60) },
    );
  });

  test("is exact where its border is an arc", () => {
    fc.assert(
      fc.property(shapes, spread(0.3, 0.7), spread(0.2, 1), (shape, at, size) => {
        fc.pre(shape.share > 0.01);
        const arcs = (bend: Bend): Curve[] => {
          const c = inBend(bend, WIDTH / 2, bend.allowance * at);
          const r = Math.min(at, 1 - at) * bend.allowance * size;
          const [a, b] = [point(c.x + r, c.y), point(c.x - r, c.y)];
          const half = (from: typeof a, to: typeof a): Curve => ({
            kind: "arc",
            a: from,
            b: to,
            c,
            r,
            ccw: true,
          });
          return [half(a, b), half(b, a)];
        };
        expectExact(reaches(shape, arcs, 8000));
      }),
      { numRuns: Math.min(RUNS, 40) },
    );
  });

  test("does not look beyond the ends of a border", () => {
    const shape = { radius: 5, degrees: 180, k: 0.4, up: true, x: 0, y: 0, turned: 0, left: true, share: 1 };
    // Only a little of the curl, from its beginning: the top of the cylinder is not reached.
    const low = reaches(shape, (bend) => [
      line(inBend(bend, 0, 0), inBend(bend, 10, bend.allowance * 0.1), "a"),
      line(inBend(bend, 10, bend.allowance * 0.1), inBend(bend, 0, 0), "b"),
    ]);
    expectExact(low);
  });
});
