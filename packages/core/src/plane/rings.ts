import { Kept } from "../kept.ts";
import { type Arc, directionAt, eachChord } from "./curve.ts";
import type { Loop } from "./loop.ts";
import { hypotenuse, type Point } from "./point.ts";

/**
 * A flattened border: points, and of each what is so of the edge that leaves it. As plain lists of numbers: openings
 * come by the thousand, and records of their points would be most of what is held.
 */
export interface Ring {
  /** x and y of each point in turn. */
  readonly xy: readonly number[];
  /** What is so of each edge: `STRAIGHT`, `STARTS` and `GOES_ON` added up. */
  readonly edges: readonly number[];
  /** The outward unit directions at each edge's two ends: four numbers. */
  readonly normals: readonly number[];
  /** Whether no piece of it is straight. */
  readonly round: boolean;
}

/** The edge is a piece of a straight line. */
export const STRAIGHT = 1;
/** A curve of the outline begins with it. */
export const STARTS = 2;
/** The metal goes on beyond it, in a body of its own. */
export const GOES_ON = 4;

export const HAIR = 1e-5;

/** The name of borders beyond which the metal goes on in another body, so that no line is drawn there. */
export const BORDER_GOES_ON = "form:goes-on";

/** The unit direction into the metal at a corner that is come to along `d` and left along `e`. */
export function intoMetal(d: Point, e: Point): Point {
  const [ld, le] = [hypotenuse(d.x, d.y) || 1, hypotenuse(e.x, e.y) || 1];
  const between = { x: e.x / le - d.x / ld, y: e.y / le - d.y / ld };
  const length = hypotenuse(between.x, between.y);
  if (length < 1e-6) return { x: -d.y / ld, y: d.x / ld };
  const reflex = (d.x * e.y - d.y * e.x) / (ld * le) < -1e-9;
  const way = (reflex ? -1 : 1) / length;
  return { x: between.x * way, y: between.y * way };
}

const flattened = new Kept(flattenRing);

/** A loop as a ring of points; the same loop is flattened once. */
export const ringOf = (loop: Loop, chord: number): Ring => flattened.of(loop, chord);

export const pointOf = ({ xy }: Ring, i: number): Point => ({ x: xy[2 * i], y: xy[2 * i + 1] });
export const pointsOf = (ring: Ring): Point[] => ring.edges.map((_, i) => pointOf(ring, i));

function flattenRing(loop: Loop, chord: number): Ring {
  const xy: number[] = [];
  const edges: number[] = [];
  const normals: number[] = [];
  for (const c of loop) {
    const beyond = c.name === BORDER_GOES_ON ? GOES_ON : 0;
    const first = edges.length;
    const own = (c.kind === "line" ? STRAIGHT : 0) + beyond;
    eachChord(c, chord, (x, y) => {
      xy.push(x, y);
      edges.push(edges.length === first ? own + STARTS : own);
    });
    if (c.kind === "arc") pushArcNormals(normals, c, xy, first);
    else {
      const { x, y } = directionAt(c, 0);
      normals.push(y, -x, y, -x);
    }
  }
  return { xy, edges, normals, round: loop.every((c) => c.kind === "arc") };
}

/** Along an arc the outward direction is the radius, away from the centre when the metal is inside. */
function pushArcNormals(out: number[], { c, r, ccw, b }: Arc, xy: readonly number[], first: number): void {
  const f = (ccw ? 1 : -1) / r;
  let [x, y] = [(xy[2 * first] - c.x) * f, (xy[2 * first + 1] - c.y) * f];
  for (let i = 2 * first; i < xy.length; i += 2) {
    const last = i + 2 === xy.length;
    const u = ((last ? b.x : xy[i + 2]) - c.x) * f;
    const v = ((last ? b.y : xy[i + 3]) - c.y) * f;
    out.push(x, y, u, v);
    [x, y] = [u, v];
  }
}
