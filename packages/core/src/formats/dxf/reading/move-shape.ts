import type { Shape } from "../../../outline/from-shapes.ts";
import { type Affine, evenScale, flips, placeOn, wayOn } from "../../../plane/affine.ts";

type Place = readonly [number, number];

const TURN = 2 * Math.PI;

/** An arc from its parameters, as a curve over 0 to 1. */
function smoothArc(c: Place, r: number, from: number, turn: number): Extract<Shape, { kind: "smooth" }> {
  return {
    kind: "smooth",
    at: (t) => [c[0] + r * Math.cos(from + turn * t), c[1] + r * Math.sin(from + turn * t)],
    way: (t) => [-Math.sin(from + turn * t) * turn, Math.cos(from + turn * t) * turn],
  };
}

/** A shape moved, turned, mirrored and scaled. What is round stays round where the scale is even; else it is a smooth curve. */
export function moveShape(m: Affine, shape: Shape): Shape[] {
  const scale = evenScale(m);
  switch (shape.kind) {
    case "line":
      return [{ ...shape, a: placeOn(m, shape.a), b: placeOn(m, shape.b) }];
    case "circle":
      return scale === undefined
        ? moveShape(m, smoothArc(shape.c, shape.r, 0, TURN))
        : [{ ...shape, c: placeOn(m, shape.c), r: shape.r * scale }];
    case "arc": {
      const { c, r, from, to } = shape;
      if (scale === undefined) return moveShape(m, smoothArc(c, r, from, sweepOf(from, to)));
      const turned = Math.atan2(m[1], m[0]);
      const [start, end] = flips(m) ? [turned - to, turned - from] : [turned + from, turned + to];
      return [{ kind: "arc", c: placeOn(m, c), r: r * scale, from: start, to: end }];
    }
    case "smooth":
      return [{ kind: "smooth", at: (t) => placeOn(m, shape.at(t)), way: (t) => wayOn(m, shape.way(t)) }];
    case "chain": {
      const { corners, closed } = shape;
      if (scale !== undefined || corners.every((k) => k.bulge === 0)) {
        const sign = flips(m) ? -1 : 1;
        return [{ ...shape, corners: corners.map((k) => ({ at: placeOn(m, k.at), bulge: sign * k.bulge })) }];
      }
      return corners
        .slice(0, closed ? undefined : -1)
        .flatMap(({ at, bulge }, i) =>
          moveShape(m, pieceOf(at, corners[(i + 1) % corners.length].at, bulge)),
        );
    }
  }
}

/** How far an arc turns counter-clockwise; one that ends where it begins goes all round. */
export function sweepOf(from: number, to: number): number {
  const turn = (to - from) % TURN;
  return turn > 0 ? turn : turn + TURN;
}

/** One piece of a chain as a shape of its own. */
function pieceOf(a: Place, b: Place, bulge: number): Shape {
  if (bulge === 0) return { kind: "line", a, b };
  // The middle lies square to the chord, (1 − bulge²)/(4·bulge) of it away.
  const f = (1 - bulge * bulge) / (4 * bulge);
  const c: Place = [(a[0] + b[0]) / 2 - f * (b[1] - a[1]), (a[1] + b[1]) / 2 + f * (b[0] - a[0])];
  return smoothArc(
    c,
    Math.hypot(a[0] - c[0], a[1] - c[1]),
    Math.atan2(a[1] - c[1], a[0] - c[0]),
    4 * Math.atan(bulge),
  );
}
