import { along, dot, hypotenuse, type Point, SAME, subtract } from "../../plane/point.ts";
import { pointOf, type Ring, STRAIGHT } from "../../plane/rings.ts";
import type { Stretch, Stretches } from "../../plane/stretches.ts";

export interface Seam extends Stretch {
  readonly stops: number[];
  readonly columns: Map<number, number>;
}

export const keyOf = (s: number) => Math.round(s / (SAME * 10));

/**
 * The seams along which a ring's border comes to a point or leaves it. A border that only touches a
 * seam in that point has no part in it: shared, the point would hold two walls on one line.
 */
export function runsAlong(ring: Ring, i: number, seams: Stretches<Seam>): readonly Seam[] {
  if (!meetsLine(ring, i)) return [];
  const { edges } = ring;
  const count = edges.length;
  const [before, after] = [(i + count - 1) % count, (i + 1) % count];
  const p = pointOf(ring, i);
  const found = seams.reaching(p);
  if (found.length === 0) return found;
  const [from, to] = [pointOf(ring, before), pointOf(ring, after)];
  return found.filter((seam) => {
    if (placeOn(seam, p) === undefined) return false;
    return (
      ((edges[before] & STRAIGHT) !== 0 && shares(seam, p, from)) ||
      ((edges[i] & STRAIGHT) !== 0 && shares(seam, p, to))
    );
  });
}

/** Whether a straight border from a point on a seam's line has a stretch in common with the seam. */
function shares(seam: Seam, p: Point, q: Point): boolean {
  if (!onLine(seam, q)) return false;
  const place = (at: Point) => (at.x - seam.origin.x) * seam.axis.x + (at.y - seam.origin.y) * seam.axis.y;
  const [a, b] = [place(p), place(q)];
  return Math.min(seam.width, Math.max(a, b)) - Math.max(0, Math.min(a, b)) > SAME * 10;
}

/** Whether a point lies on a seam's line, also beyond its ends. */
const onLine = (seam: Seam, p: Point): boolean =>
  Math.abs((p.y - seam.origin.y) * seam.axis.x - (p.x - seam.origin.x) * seam.axis.y) <= SAME * 10;

/** Only points that a straight border comes to or leaves can stand on a seam. */
export const meetsLine = ({ edges }: Ring, i: number): boolean =>
  ((edges[i] | edges[(i + edges.length - 1) % edges.length]) & STRAIGHT) !== 0;

/** How far along a seam a point lies; nothing when it is not on it. */
export function placeOn(seam: Seam, p: Point): number | undefined {
  // Asked for every point and seam: written out, so that nothing is made on the way.
  const dx = p.x - seam.origin.x;
  const dy = p.y - seam.origin.y;
  if (Math.abs(dy * seam.axis.x - dx * seam.axis.y) > SAME * 10) return undefined;
  const s = dx * seam.axis.x + dy * seam.axis.y;
  return s < -SAME * 10 || s > seam.width + SAME * 10 ? undefined : Math.max(0, Math.min(seam.width, s));
}

/** Points of a seam that other borders put strictly between two points of this border, in order. */
export function stopsBetween(seams: Stretches<Seam>, p: Point, q: Point): Point[] {
  const out: { f: number; at: Point }[] = [];
  const d = subtract(q, p);
  const length = hypotenuse(d.x, d.y);
  for (const seam of seams.reaching(p, q)) {
    // Only borders that run along the seam can hold its stops.
    if (Math.abs(d.x * seam.axis.y - d.y * seam.axis.x) > 1e-9 * length) continue;
    const [ox, oy] = [p.x - seam.origin.x, p.y - seam.origin.y];
    if (Math.abs(oy * seam.axis.x - ox * seam.axis.y) > SAME * 10) continue;
    const along0 = ox * seam.axis.x + oy * seam.axis.y;
    const way = dot(d, seam.axis) > 0 ? 1 : -1;
    for (const s of seam.stops) {
      const f = (s - along0) * way;
      if (f > SAME * 10 && f < length - SAME * 10) out.push({ f, at: along(seam.origin, seam.axis, s) });
    }
  }
  out.sort((a, b) => a.f - b.f);
  return out.filter((o, i) => i === 0 || o.f - out[i - 1].f > SAME * 10).map((o) => o.at);
}
