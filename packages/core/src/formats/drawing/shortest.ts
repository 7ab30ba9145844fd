import { type Curve, curveLength, type Line } from "../../plane/curve.ts";
import { type Loop, loopArea } from "../../plane/loop.ts";
import { cross, distance, hypotenuse, type Point, subtract } from "../../plane/point.ts";

/** A loop without its shortest pieces. */
export interface Shortened {
  readonly loop: Loop;
  readonly joined: number;
  /** By how much its area has changed. */
  readonly area: number;
}

/** Where two lines meet when they are led on; nothing where they run alike. */
function meeting(p: Line, q: Line): Point | undefined {
  const [d, e] = [subtract(p.b, p.a), subtract(q.b, q.a)];
  const turn = cross(d, e);
  if (Math.abs(turn) < 1e-3 * hypotenuse(d.x, d.y) * hypotenuse(e.x, e.y)) return undefined;
  const f = cross(subtract(q.a, p.a), e) / turn;
  return { x: p.a.x + d.x * f, y: p.a.y + d.y * f };
}

/** An arc with one end moved by a little: the same way round, through the new end, its radius kept where it can be. */
function withEnds(c: Curve, a: Point, b: Point): Curve {
  if (c.kind === "line") return { ...c, a, b };
  const half = distance(a, b) / 2;
  const r = Math.max(c.r, half);
  const up = Math.sqrt(Math.max(0, r * r - half * half));
  const [mx, my] = [(a.x + b.x) / 2, (a.y + b.y) / 2];
  const [ux, uy] = [(b.x - a.x) / (2 * half || 1), (b.y - a.y) / (2 * half || 1)];
  // Of the two centres the one nearer to where it was.
  const sides = [1, -1].map((s) => ({ x: mx - uy * up * s, y: my + ux * up * s }));
  const centre = distance(sides[0], c.c) <= distance(sides[1], c.c) ? sides[0] : sides[1];
  return { ...c, a, b, r, c: centre };
}

/**
 * Joins each piece that is shorter than `least` to its neighbours: two lines beside it are led on until they meet, where
 * that is near; else the next begins where the one before ended. Loops keep at least two pieces.
 */
export function withoutShort(loop: Loop, least: number): Shortened {
  const curves = [...loop];
  let joined = 0;
  for (let i = 0; i < curves.length && curves.length > 2; ) {
    const c = curves[i];
    if (curveLength(c) >= least) {
      i++;
      continue;
    }
    const before = (i - 1 + curves.length) % curves.length;
    const next = (i + 1) % curves.length;
    const [p, q] = [curves[before], curves[next]];
    const led = p.kind === "line" && q.kind === "line" ? meeting(p, q) : undefined;
    const at = led && distance(led, c.a) < 4 * least ? led : c.a;
    curves[before] = withEnds(p, p.a, at);
    curves[next] = withEnds(q, at, q.b);
    curves.splice(i, 1);
    joined++;
    // The one before may have become short itself; it is looked at again where it stands before this place.
    i = Math.max(0, i - 1);
  }
  return {
    loop: joined > 0 ? curves : loop,
    joined,
    area: joined > 0 ? loopArea(curves) - loopArea(loop) : 0,
  };
}
