import { type Loop, polygonLoop } from "../../plane/loop.ts";
import {
  cross,
  type Frame,
  frameY,
  fromFrame,
  hypotenuse,
  type Point,
  point,
  scale,
  subtract,
} from "../../plane/point.ts";
import { inverse, type Motion, moveV, turnV } from "../../space/vector.ts";

/** A plate that leans from a tab's direction by more, as a sine, is none that a tab can pass through. */
const FLATTEST = 0.2;

/** How a tab passes through a plate. Lengths in mm from the tab's edge. */
export interface Passing {
  /** To where the plate begins and ends, at the corners of the tab where it is nearest and farthest. */
  readonly near: number;
  readonly far: number;
  /** What the tab needs of the plate, without clearance: developed, convex, counter-clockwise. */
  readonly corners: readonly Point[];
}

/**
 * Where a tab from an edge passes through another plate of the folded part: what its straight sides meet on both of the
 * plate's faces.
 *
 * @param edge Along the edge, outwards square to it, developed; `from` and `to` are where the tab stands on it.
 * @param own Where the tab's plate stands in space.
 * @param other Where the other one stands.
 * @returns Nothing where the plate is too flat to the tab.
 */
export function passThrough(
  edge: Frame,
  [from, to]: readonly [number, number],
  own: Motion,
  other: Motion,
  t: number,
): Passing | undefined {
  const back = inverse(other);
  const out = frameY(edge);
  const d = turnV(back, turnV(own, [out.x, out.y, 0]));
  if (Math.abs(d[2]) < FLATTEST) return undefined;
  let [near, far] = [Infinity, -Infinity];
  const met: Point[] = [];
  for (const s of [from, to]) {
    const p = fromFrame(edge, point(s, 0));
    for (const w of [0, t]) {
      const q = moveV(back, moveV(own, [p.x, p.y, w]));
      for (const face of [0, t]) {
        const along = (face - q[2]) / d[2];
        [near, far] = [Math.min(near, along), Math.max(far, along)];
        met.push(point(q[0] + d[0] * along, q[1] + d[1] * along));
      }
    }
  }
  return { near, far, corners: hullOf(met) };
}

/** Points nearer to one another are one corner, mm. */
const ONE = 1e-7;

/** The corners of the convex hull of points, counter-clockwise, without those on its sides. */
function hullOf(points: readonly Point[]): Point[] {
  const sorted = [...points].sort((p, q) => (Math.abs(p.x - q.x) > ONE ? p.x - q.x : p.y - q.y));
  const half = (list: readonly Point[]) => {
    const out: Point[] = [];
    for (const p of list) {
      while (out.length > 0 && hypotenuse(p.x - out[out.length - 1].x, p.y - out[out.length - 1].y) < ONE)
        out.pop();
      while (
        out.length > 1 &&
        cross(subtract(out[out.length - 1], out[out.length - 2]), subtract(p, out[out.length - 1])) < ONE * 10
      )
        out.pop();
      out.push(p);
    }
    return out.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.toReversed())];
}

/** A convex outline that is wider by a clearance on all sides; its sides carry names in order. */
export function widened(corners: readonly Point[], by: number, names: readonly string[]): Loop {
  const n = corners.length;
  const side = (i: number) => {
    const [a, b] = [corners[(i + n) % n], corners[(i + 1) % n]];
    const d = scale(subtract(b, a), 1 / hypotenuse(b.x - a.x, b.y - a.y));
    return { at: point(a.x + d.y * by, a.y - d.x * by), d };
  };
  return polygonLoop(
    corners.map((_, i) => {
      const [p, q] = [side(i - 1), side(i)];
      const f = cross(subtract(q.at, p.at), q.d) / cross(p.d, q.d);
      return point(p.at.x + p.d.x * f, p.at.y + p.d.y * f);
    }),
    names,
  );
}
