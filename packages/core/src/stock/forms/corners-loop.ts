import { type Curve, line } from "../../plane/curve.ts";
import { type Loop, loopArea, welded } from "../../plane/loop.ts";
import {
  along,
  cross,
  distance,
  dot,
  hypotenuse,
  type Point,
  point,
  scale,
  subtract,
} from "../../plane/point.ts";
import { fail, ok, type Result } from "../../result.ts";
import { mm } from "../../units/spoken-length.ts";

/** A corner with the radius that rounds it, mm, and the name of the side that leaves it. */
export interface NamedCorner {
  readonly at: Point;
  readonly radius: number;
  readonly name: string | undefined;
}

const NONE = 1e-9;

/** A counter-clockwise outline by its corners, each rounded by a radius of its own; or why there is none. */
export function cornersLoop(corners: readonly NamedCorner[]): Result<Loop> {
  const n = corners.length;
  if (n < 3) return fail("An outline has three corners at least.");
  const sides = corners.map(({ at }, i) => {
    const d = subtract(corners[(i + 1) % n].at, at);
    const length = hypotenuse(d.x, d.y);
    return { length, way: scale(d, 1 / (length || 1)) };
  });
  const short = sides.findIndex(({ length }) => length < 1e-3);
  if (short >= 0) return fail(`Corners ${short + 1} and ${((short + 1) % n) + 1} stand on one another.`);
  const rounded = corners.map(({ at, radius }, i) => {
    const [d, e] = [sides[(i + n - 1) % n].way, sides[i].way];
    const turn = Math.atan2(cross(d, e), dot(d, e));
    const r = radius > NONE && Math.abs(turn) > NONE ? radius : 0;
    const taken = r * Math.tan(Math.abs(turn) / 2);
    return { at, turn, r, taken, d, e };
  });
  for (const [i, { length }] of sides.entries()) {
    const wanted = rounded[i].taken + rounded[(i + 1) % n].taken;
    if (wanted > length + 1e-6)
      return fail(
        `The side from corner ${i + 1} to ${((i + 1) % n) + 1} is ${mm(length)} long: the radii at its ends need ${mm(wanted)}.`,
      );
  }
  const out: Curve[] = [];
  rounded.forEach(({ at, turn, r, taken, d, e }, i) => {
    const { name } = corners[i];
    if (r > 0) {
      const [a, b] = [along(at, d, -taken), along(at, e, taken)];
      const way = Math.sign(turn);
      const c = along(a, point(-d.y, d.x), r * way);
      out.push({ kind: "arc", a, b, c, r, ccw: way > 0 });
    }
    const next = rounded[(i + 1) % n];
    const [from, to] = [along(at, e, taken), along(next.at, next.d, -next.taken)];
    if (distance(from, to) > 1e-6) out.push(line(from, to, name));
  });
  const loop = welded(out);
  if (loopArea(loop) <= 1e-6) return fail("Its corners must go round counter-clockwise about some area.");
  return ok(loop);
}
