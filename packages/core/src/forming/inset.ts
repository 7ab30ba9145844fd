import {
  type Arc,
  arcAngles,
  type Curve,
  curveLength,
  directionAt,
  distanceToCurve,
  type Line,
} from "../plane/curve.ts";
import type { Loop } from "../plane/loop.ts";
import { along, cross, dot, hypotenuse, type Point, point, scale, subtract } from "../plane/point.ts";
import { pointsOf, ringOf, STARTS } from "../plane/rings.ts";
import { fail, ok, type Result } from "../result.ts";

/** The name of a border along which a formed shape is cut free; all others hang together with their plate. */
export const CUT_FREE = "form:cut";

export const isCutFree = ({ name }: Curve): boolean => name === CUT_FREE;

/** A run of borders that hang together with the plate, as places in the ring of the outline's points. */
export interface Chain {
  /** In order. Of an open one the last is where it ends. */
  readonly stations: readonly number[];
  readonly closed: boolean;
}

const SMOOTH = 1e-6;
const HAIR = 1e-6;

/** The left normal of a direction: inside a counter-clockwise outline. */
const inside = (d: Point): Point => point(-d.y, d.x);

/** Moves inward: where a point of the outline stands on the line so far inside it. */
type Move = (inset: number) => Point;

function arcMove(arc: Arc, at: Point, mitre: Move | undefined): Move {
  const way = arc.ccw ? -1 : 1;
  const d = scale(subtract(at, arc.c), 1 / arc.r);
  return (s) => (mitre && arc.ccw && s > arc.r ? mitre(s) : along(arc.c, d, arc.r + way * s));
}

/** Past its centre a rounded corner is the sharp one of the straight borders beside it. */
function beyondCentre(arc: Arc): Move | undefined {
  const sweep = Math.abs(arcAngles(arc).sweep);
  if (sweep > Math.PI - 1e-6) return undefined;
  const middle = subtract(arc.c, scale(add2(arc.a, arc.b), 0.5));
  const length = hypotenuse(middle.x, middle.y);
  const u = scale(middle, 1 / length);
  return (s) => along(arc.c, u, (s - arc.r) / Math.cos(sweep / 2));
}

const add2 = (p: Point, q: Point): Point => point(p.x + q.x, p.y + q.y);

/**
 * Lines inside an outline, at one distance after the other from those of its borders that are not cut free: each point
 * of the outline's ring has its own way inward, so that all lines have as many points. Counter-clockwise, of lines and
 * arcs that go over smoothly into one another or meet at corners between straight ones.
 */
export class Inset {
  readonly chains: readonly Chain[];
  /** For each point of the ring, the curve that leaves it. */
  readonly curveAt: readonly number[];
  readonly ring: readonly Point[];
  private readonly moves: (Move | undefined)[];

  private constructor(
    private readonly outline: Loop,
    chord: number,
  ) {
    const ring = ringOf(outline, chord);
    const points = pointsOf(ring);
    this.ring = points;
    let curve = -1;
    this.curveAt = ring.edges.map((edge) => ((edge & STARTS) !== 0 ? ++curve : curve));
    this.chains = this.findChains();
    this.moves = points.map(() => undefined);
    for (const chain of this.chains) for (const i of chain.stations) this.moves[i] = this.moveOf(i);
  }

  /** The lines inside an outline, or why they cannot be found. */
  static of(outline: Loop, chord: number): Result<Inset> {
    const all = new Inset(outline, chord);
    if (all.chains.length === 0) return fail("it is cut free all round and would fall out");
    for (let k = 0; k < outline.length; k++) {
      const [before, after] = [outline[k], outline[(k + 1) % outline.length]];
      const [d, e] = [directionAt(before, 1), directionAt(after, 0)];
      const smooth = Math.abs(cross(d, e)) < SMOOTH && dot(d, e) > 0;
      const [p, q] = [isCutFree(before), isCutFree(after)];
      if (p && q) continue;
      if (p !== q) {
        // Flat within, as a knock-out, it needs no way in along what is cut.
        continue;
      }
      if (!smooth && (before.kind === "arc" || after.kind === "arc"))
        return fail("an arc of its outline meets the next border at a corner; let it go over smoothly");
    }
    return ok(all);
  }

  /** Where a point of the ring stands so far inside. */
  at(station: number, inset: number): Point {
    return inset === 0 ? this.ring[station] : this.moves[station]!(inset);
  }

  /** Why a line so far inside cannot be; nothing where it can. */
  wrongAt(inset: number): string | undefined {
    if (inset <= HAIR) return undefined;
    const { outline, ring } = this;
    for (let k = 0; k < outline.length; k++) {
      const [before, after] = [outline[k], outline[(k + 1) % outline.length]];
      const [p, q] = [isCutFree(before), isCutFree(after)];
      if (p === q) continue;
      const [cut, formed] = p ? [before, after] : [after, before];
      const d = directionAt(formed, p ? 0 : 1);
      const e = directionAt(cut, p ? 1 : 0);
      if (cut.kind !== "line" || Math.abs(dot(d, e)) > SMOOTH)
        return "a side that is cut must leave the one that is not squarely and straight";
      // Two shapes that rise from both its ends share a side.
      const both = isCutFree(outline[(k + (p ? -1 : 2) + outline.length) % outline.length]) ? 1 : 2;
      if (inset * both > curveLength(cut) + HAIR)
        return `the side that is cut is too short: ${"it needs"} ${both === 2 ? "twice " : ""}the depth of the section`;
    }
    const formed = outline.filter((c) => !isCutFree(c));
    for (const { stations, closed } of this.chains) {
      const inner = stations.map((i) => this.at(i, inset));
      for (const p of inner)
        if (formed.some((c) => distanceToCurve(c, p) < inset - HAIR))
          return "its section reaches past its middle";
      for (let k = 0; k + (closed ? 0 : 1) < stations.length; k++) {
        const [i, j] = [stations[k], stations[(k + 1) % stations.length]];
        const curve = outline[this.curveAt[i]];
        if (curve.kind !== "line") continue;
        const d = subtract(inner[(k + 1) % stations.length], inner[k]);
        if (dot(d, subtract(ring[j], ring[i])) < -HAIR) return "its section reaches past its middle";
      }
    }
    return undefined;
  }

  /** The deepest line that there is, to 1e-4 mm. */
  deepest(most: number): number {
    let [low, high] = [0, most];
    while (high - low > 1e-4) {
      const middle = (low + high) / 2;
      if (this.wrongAt(middle)) high = middle;
      else low = middle;
    }
    return low;
  }

  private findChains(): Chain[] {
    const n = this.ring.length;
    const formed = (i: number) => !isCutFree(this.outline[this.curveAt[((i % n) + n) % n]]);
    const all = Array.from({ length: n }, (_, i) => i);
    if (all.every(formed)) return [{ stations: all, closed: true }];
    const chains: Chain[] = [];
    for (const i of all) {
      if (!formed(i) || formed(i - 1)) continue;
      const stations = [i];
      for (let k = i; formed(k); k++) stations.push((k + 1) % n);
      chains.push({ stations, closed: false });
    }
    return chains;
  }

  private moveOf(i: number): Move {
    const { outline, ring, curveAt } = this;
    const n = ring.length;
    const at = ring[i];
    const before = outline[curveAt[(i + n - 1) % n]];
    const after = outline[curveAt[i]];
    if (before === after && after.kind === "arc" && !isCutFree(after))
      return arcMove(after, at, beyondCentre(after));
    const [p, q] = [before, after].map((c) => (isCutFree(c) ? undefined : c));
    if (q?.kind === "arc") return arcMove(q, at, p ? beyondCentre(q) : undefined);
    if (p?.kind === "arc") return arcMove(p, at, q ? beyondCentre(p) : undefined);
    const normal = (c: Line) => inside(directionAt(c, 0));
    if (!p || !q) return (s) => along(at, normal((p ?? q) as Line), s);
    const [a, b] = [normal(p as Line), normal(q as Line)];
    const f = 1 / (1 + dot(a, b));
    return (s) => along(at, add2(a, b), s * f);
  }
}
