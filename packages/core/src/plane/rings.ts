import { Kept } from "../kept.ts";
import { type Arc, directionAt, flattenCurve } from "./curve.ts";
import type { Loop } from "./loop.ts";
import type { Point } from "./point.ts";

/** A flattened border: points and the outward normals at the two ends of each edge that leaves them. */
export interface Ring {
  readonly points: Point[];
  /** Whether the edge that leaves each point is a piece of a straight line. */
  readonly straight: boolean[];
  /** Whether a curve of the outline begins at each point. */
  readonly starts: boolean[];
  readonly normals: [Point, Point][];
  /** Whether the metal goes on beyond the edge that leaves each point, in a body of its own. */
  readonly goesOn: boolean[];
  /** Whether no piece of it is straight. */
  readonly round: boolean;
}

export const HAIR = 1e-5;

/** The name of borders beyond which the metal goes on in another body, so that no line is drawn there. */
export const GOES_ON = "form:goes-on";

/** The unit direction into the metal at a corner that is come to along `d` and left along `e`. */
export function intoMetal(d: Point, e: Point): Point {
  const [ld, le] = [Math.hypot(d.x, d.y) || 1, Math.hypot(e.x, e.y) || 1];
  const between = { x: e.x / le - d.x / ld, y: e.y / le - d.y / ld };
  const length = Math.hypot(between.x, between.y);
  if (length < 1e-6) return { x: -d.y / ld, y: d.x / ld };
  const reflex = (d.x * e.y - d.y * e.x) / (ld * le) < -1e-9;
  const way = (reflex ? -1 : 1) / length;
  return { x: between.x * way, y: between.y * way };
}

const flattened = new Kept(flattenRing);

/** A loop as a ring of points; the same loop is flattened once. */
export const ringOf = (loop: Loop, chord: number): Ring => flattened.of(loop, chord);

const outward = (d: Point): Point => ({ x: d.y, y: -d.x });
function flattenRing(loop: Loop, chord: number): Ring {
  const round = loop.every((c) => c.kind === "arc");
  const ring: Ring = { points: [], straight: [], starts: [], normals: [], goesOn: [], round };
  for (const c of loop) {
    const points = flattenCurve(c, chord);
    if (c.kind === "line") {
      const normal = outward(directionAt(c, 0));
      ring.normals.push([normal, normal]);
    } else pushArcNormals(ring.normals, c, points);
    points.forEach((p, i) => {
      ring.points.push(p);
      ring.straight.push(c.kind === "line");
      ring.starts.push(i === 0);
      ring.goesOn.push(c.name === GOES_ON);
    });
  }
  return ring;
}

/** Along an arc the outward direction is the radius, away from the centre when the metal is inside. */
function pushArcNormals(out: [Point, Point][], { c, r, ccw, b }: Arc, points: readonly Point[]): void {
  const f = (ccw ? 1 : -1) / r;
  const radial = (p: Point): Point => ({ x: (p.x - c.x) * f, y: (p.y - c.y) * f });
  let from = radial(points[0]);
  for (let i = 0; i < points.length; i++) {
    const to = radial(i + 1 < points.length ? points[i + 1] : b);
    out.push([from, to]);
    from = to;
  }
}
