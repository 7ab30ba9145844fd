import { describe, expect, test } from "vitest";
import {
  circleLoop,
  clearanceBetween,
  clearanceOf,
  collide,
  rectangleLoop,
  type Solid,
  sharedOf,
  wayApart,
} from "../src/index.ts";
import { disc, flatPiece, inSpace, type Put, quarter, square, T, turned } from "./pieces-in-space.ts";

const LEVEL = turned(0);
const lifted = (z: number) => turned(0, [0, 0, z]);

/** A plate that stands upright on its edge, `low` above the plane, across y = `y`. */
const upright = (low: number, side: number, y = 0) => turned(Math.PI / 2, [0, y, low + side / 2]);

/** A plate of no metal, with a bend whose axis lies along x at y = 0, z = 7: its outside has radius 7. */
const hung = { piece: { ...flatPiece("r", []), regions: [] }, at: LEVEL };

const two = (...put: readonly Put[]): [Solid, Solid] => {
  const [a, b] = inSpace(...put).solids;
  return [a, b];
};

describe("how deep two pieces stand in one another", () => {
  test.each([0.3, 1, 1.9])("two parallel walls that share %d mm of their thickness", (depth) => {
    const [a, b] = two(
      { piece: square("a", 40), at: LEVEL },
      { piece: square("b", 30), at: lifted(T - depth) },
    );
    expect(wayApart(a, b).length).toBeCloseTo(depth, 9);
    expect(wayApart(a, b).shift[2]).toBeCloseTo(depth, 9);
    expect(sharedOf(a, b).volume).toBeCloseTo(900 * depth, 6);
    expect(collide(a, b)).toBe(true);
  });

  test.each([1e-7, 0.2, 1.3])("a corner that stands %d mm in a plate", (depth) => {
    // Turned by 45° about x, the corner below is an edge; its lowest point lies side·√½ below its middle.
    const half = 20;
    const low = (half + T / 2) * Math.SQRT1_2 + (half - T / 2) * Math.SQRT1_2;
    const tilted = turned(Math.PI / 4, [0, 0, 0]);
    const [a, b] = two(
      { piece: square("a", 90), at: LEVEL },
      { piece: square("b", 2 * half), at: { ...tilted, o: [0, 0, T + half * Math.SQRT1_2 - depth] } },
    );
    expect(low).toBeGreaterThan(0);
    expect(wayApart(a, b).length).toBeCloseTo(depth, 8);
    // A right-angled wedge of that depth, along the whole edge.
    expect(sharedOf(a, b).volume).toBeCloseTo(depth * depth * 40, 6);
  });

  test.each([0.02, 0.5, 1.5])("a wall that stands %d mm in the outside of a bend", (depth) => {
    // The lowest of the round is at z = 0, y = 0 and rises to y = 7, z = 7 about (y, z) = (0, 7).
    const at = Math.PI / 5;
    const normal = [0, Math.sin(at), -Math.cos(at)];
    const reach = 7 - depth;
    const wall = {
      piece: square("w", 30),
      // Side B of the wall looks to the axis.
      at: turned(at, [0, normal[1] * (reach + T), 7 + normal[2] * (reach + T)]),
    };
    const [r, w] = two({ ...hung, bend: quarter("r", 40) }, wall);
    expect(wayApart(r, w).length).toBeCloseTo(depth, 6);
    const angle = 2 * Math.acos(reach / 7);
    expect(sharedOf(r, w).volume! / (24.5 * (angle - Math.sin(angle)) * 30)).toBeCloseTo(1, 1);
  });

  test("a disc in a round opening that is too small for it by a hair more than contact", () => {
    const ring = flatPiece("o", rectangleLoop(-30, -30, 30, 30), [
      [...circleLoop({ x: 0, y: 0 }, 10)]
        .map((c) => c)
        .reverse()
        .map((c) => ({ ...c, a: c.b, b: c.a, ccw: false }) as never),
    ]);
    const fits = two({ piece: ring, at: LEVEL }, { piece: disc("d", 10), at: LEVEL });
    expect(collide(...fits)).toBe(false);
    const tight = two({ piece: ring, at: LEVEL }, { piece: disc("d", 10.02), at: LEVEL });
    expect(collide(...tight)).toBe(true);
    // Sideways it is stuck on the other side: the way out is up.
    expect(wayApart(...tight).length).toBeCloseTo(T, 6);
  });
});

describe("what only touches", () => {
  test("face on face, edge on face and butted edges are no collision", () => {
    for (const put of [
      [
        { piece: square("a", 40), at: LEVEL },
        { piece: square("b", 40), at: lifted(T) },
      ],
      [
        { piece: square("a", 40), at: LEVEL },
        { piece: square("b", 20), at: upright(T, 20) },
      ],
      [
        { piece: square("a", 40), at: LEVEL },
        { piece: square("b", 40), at: turned(0, [40, 3, 0]) },
      ],
    ] as const) {
      const [a, b] = two(...put);
      expect(collide(a, b)).toBe(false);
      expect(wayApart(a, b).length).toBeLessThan(1e-9);
      expect(clearanceOf(a, b).distance).toBeLessThan(1e-9);
    }
  });

  test.each([
    [0.0099, false],
    [0.0101, true],
  ])("%d mm deep: a collision is %s", (depth, is) => {
    const walls = two(
      { piece: square("a", 40), at: LEVEL },
      { piece: square("b", 30), at: lifted(T - depth) },
    );
    expect(collide(...walls)).toBe(is);
    const wall = { piece: square("w", 30), at: turned(0, [0, 0, -T + depth]) };
    const [r, w] = two({ ...hung, bend: quarter("r", 40) }, wall);
    expect(collide(r, w)).toBe(is);
  });
});

describe("how far two pieces are apart", () => {
  test("two parallel walls, with points that face one another", () => {
    const [a, b] = two(
      { piece: square("a", 40), at: LEVEL },
      { piece: square("b", 30), at: lifted(T + 3.7) },
    );
    const { distance, from, to } = clearanceOf(a, b);
    expect(distance).toBeCloseTo(3.7, 9);
    expect(to[2] - from[2]).toBeCloseTo(3.7, 9);
  });

  test("a wall and the outside of a bend", () => {
    const at = Math.PI / 5;
    const reach = 7 + 1.25;
    const wall = {
      piece: square("w", 300),
      at: turned(at, [0, Math.sin(at) * (reach + T), 7 - Math.cos(at) * (reach + T)]),
    };
    const [r, w] = two({ ...hung, bend: quarter("r", 40) }, wall);
    const { distance, from } = clearanceOf(r, w);
    expect(distance).toBeCloseTo(1.25, 6);
    expect(Math.hypot(from[1], from[2] - 7)).toBeCloseTo(7, 6);
  });

  test("a corner over a plate, a corner beside a corner, two round edges", () => {
    const [a, b] = two(
      { piece: square("a", 90), at: LEVEL },
      { piece: square("b", 20), at: upright(T + 0.4, 20) },
    );
    expect(clearanceOf(a, b).distance).toBeCloseTo(0.4, 9);
    const [c, d] = two(
      { piece: square("c", 20), at: LEVEL },
      { piece: square("d", 20), at: turned(0, [23, 24, 0]) },
    );
    expect(clearanceOf(c, d).distance).toBeCloseTo(5, 9);
    const [e, f] = two(
      { piece: disc("e", 8), at: LEVEL },
      { piece: disc("f", 5), at: turned(0, [12, 9, 0]) },
    );
    expect(clearanceOf(e, f).distance).toBeCloseTo(2, 6);
    const [g, h] = two(
      { piece: disc("g", 8), at: LEVEL },
      { piece: disc("h", 5), at: turned(0, [9, 12, T + 2]) },
    );
    expect(clearanceOf(g, h).distance).toBeCloseTo(Math.hypot(2, 2), 6);
  });

  test("by their names, in any fold state; of what is no piece nothing is told", () => {
    const { sheet, folding } = inSpace(
      { piece: square("a", 40), at: LEVEL },
      { piece: square("b", 30), at: lifted(T + 1.25) },
    );
    const gap = (a: string, b: string, kind = "plate") =>
      clearanceBetween(sheet, folding, { kind, name: a }, { kind, name: b })?.distance;
    expect(gap("a", "b")).toBeCloseTo(1.25, 9);
    expect(gap("b", "a")).toBeCloseTo(1.25, 9);
    expect(gap("a", "a")).toBeUndefined();
    expect(gap("a", "c")).toBeUndefined();
    expect(gap("a", "b", "edge")).toBeUndefined();
  });
});
