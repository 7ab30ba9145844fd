import type { Vector } from "../space/vector.ts";
import { boxGap } from "./box.ts";
import { boxesApart, eachNear, eachOverlapping, treeOf } from "./box-tree.ts";
import { type Nearest, nearest, overlapDepth, sharedFaces, volumeWithin } from "./convex.ts";
import { type Facing, leastWay, type WayOut } from "./least-way.ts";
import { halves, type Zone } from "./patches.ts";
import type { Body, Solid } from "./solids.ts";

/** What is no deeper, mm, touches: metal that is meant to lie on metal. */
export const CONTACT = 0.01;

/** No border at all. */
export const EVERYWHERE: Zone = { x0: -Infinity, x1: Infinity, y0: -Infinity, y1: Infinity };

/** The bodies of two pieces that come within `margin` mm of the other's box. */
function facing(a: Solid, b: Solid, margin: number): Facing {
  const zone = a.zoneOf(b, margin);
  const other = zone && b.zoneOf(a, margin);
  return other ? { still: a.bodies(zone), moved: b.bodies(other) } : { still: [], moved: [] };
}

/** Bodies of either piece that overlap, by how deep. */
function overlapping({ still, moved }: Facing): [Body, Body, number][] {
  const found: [Body, Body, number][] = [];
  eachOverlapping(treeOf(still), treeOf(moved), (a, b) => {
    const depth = overlapDepth(a.convex, b.convex, 1e-9);
    if (depth > 1e-9) found.push([a, b, depth]);
  });
  return found;
}

/** Bodies of two pieces that overlap, with halves in the place of those that are chosen. */
function closer(
  pairs: readonly (readonly [Body, Body, number])[],
  chosen: (body: Body) => boolean,
): [Body, Body, number][] {
  const parts = new Map<Body, Body[]>();
  const of = (body: Body): Body[] => {
    if (!chosen(body)) return [body];
    let known = parts.get(body);
    if (!known) {
      known = halves(body.patch).map((patch) => body.solid.body(patch));
      parts.set(body, known);
    }
    return known;
  };
  return pairs.flatMap(([p, q]) => overlapping({ still: of(p), moved: of(q) }));
}

/** A body decides whether two pieces collide when it is as good as its metal, or no thicker than contact bears. */
const isDecided = ({ error, patch: { y0, y1 } }: Body): boolean => error <= 1e-6 || y1 - y0 <= 4 * CONTACT;

/** Whether two pieces stand in one another deeper than contact. */
export function collide(a: Solid, b: Solid): boolean {
  if (boxGap(a.box, b.box, -CONTACT) >= -CONTACT) return false;
  let pairs = overlapping(facing(a, b, CONTACT));
  for (;;) {
    pairs = pairs.filter(([, , depth]) => depth > CONTACT);
    if (pairs.some(([p, q, depth]) => depth - p.error - q.error > CONTACT)) return true;
    if (pairs.some(([p, q]) => isDecided(p) && isDecided(q))) return true;
    if (pairs.length === 0) return false;
    pairs = closer(pairs, (body) => !isDecided(body));
  }
}

const NO_WAY: WayOut = { shift: [0, 0, 0], length: 0 };

/** Of more bodies than this the openings are taken as filled: the way out is then no shorter than it is. */
const MANY = 150;

/** The least shift of the second of two pieces that parts these two: how deep they stand in one another, mm. */
export function wayApart(a: Solid, b: Solid): WayOut {
  if (boxGap(a.box, b.box) >= 0) return NO_WAY;
  let [p, q] = [a, b];
  for (let margin = Math.max(a.t, CONTACT); ; margin *= 2) {
    const near = facing(p, q, margin);
    if (overlapping(near).length === 0) return NO_WAY;
    if (near.still.length + near.moved.length > MANY && p === a) {
      [p, q] = [a.filled, b.filled];
      continue;
    }
    const way = leastWay(near);
    // A longer shift may bring in metal that was not looked at.
    if (way.length <= margin || !Number.isFinite(margin)) return way;
    if (margin > 1e6) margin = Number.POSITIVE_INFINITY;
  }
}

/** Bodies no larger than their metal by more than this, mm, give a volume. */
const FINE = 2e-3;
const MOST_BODIES = 4000;

/** What two pieces share: its volume, mm³, where that is known, and its border as flat polygons in space. */
export interface Shared {
  readonly volume: number | undefined;
  readonly faces: readonly (readonly Vector[])[];
}

/** The metal that stands in both of two pieces. */
export function sharedOf(a: Solid, b: Solid): Shared {
  let pairs = overlapping(facing(a, b, CONTACT));
  const isCoarse = (body: Body) => body.error > FINE;
  while (pairs.length < MOST_BODIES && pairs.some(([p, q]) => isCoarse(p) || isCoarse(q)))
    pairs = closer(pairs, isCoarse);
  const faces: Vector[][] = [];
  let volume: number | undefined = 0;
  for (const [p, q] of pairs) {
    const shared = sharedFaces(p.convex, q.convex);
    const own = volumeWithin(shared);
    volume = volume === undefined || own === undefined ? undefined : volume + own;
    faces.push(...shared);
  }
  return { volume, faces };
}

/** Two bodies, and how far they are apart, mm. */
interface Candidate {
  readonly pair: readonly [Body, Body];
  readonly distance: number;
}

const NEAR_ENOUGH = 2e-8;
const MOST_STEPS = 4000;

/** The nearest points of what lies within the metal of two bodies: no nearer than the metal, whatever the bodies are. */
function nearestCores(a: Body, b: Body): Nearest {
  if (a.error === 0 && b.error === 0) return nearest(a.convex, b.convex);
  const [p, q] = [a, b].map(({ solid, patch }) => solid.core(patch));
  const found = nearest(p.convex, q.convex);
  return { ...found, distance: found.distance + p.error + q.error };
}

/**
 * The nearest of bodies. Bodies hold their metal, so that it is as far apart as they are at least; what lies within it
 * is as far at most. Those between are halved until both say the same.
 */
function nearestOf({ still, moved }: Facing): Nearest | undefined {
  const open: Candidate[] = [];
  let best: Nearest | undefined;
  const bound = () => best?.distance ?? Infinity;
  const take = (a: Body, b: Body) => {
    if (boxesApart(a, b) >= bound()) return;
    const touch = overlapDepth(a.convex, b.convex) > 0;
    const distance = touch ? 0 : nearest(a.convex, b.convex).distance;
    if (distance >= bound()) return;
    const sure = nearestCores(a, b);
    if (sure.distance < bound()) best = touch && a.error + b.error === 0 ? { ...sure, distance: 0 } : sure;
    let at = open.length;
    while (at > 0 && open[at - 1].distance < distance) at--;
    open.splice(at, 0, { pair: [a, b], distance });
  };
  eachNear(treeOf(still), treeOf(moved), bound, take);
  for (let i = 0; i < MOST_STEPS && open.length > 0; i++) {
    const { pair, distance } = open.pop()!;
    if (distance >= bound() - NEAR_ENOUGH) break;
    const of = (body: Body) => (body.error > 0 ? halves(body.patch).map((p) => body.solid.body(p)) : [body]);
    const [as, bs] = pair.map(of);
    for (const p of as) for (const q of bs) take(p, q);
  }
  return best;
}

/** The least distance between two pieces, mm, with the points where it is; nought where they touch or overlap. */
export function clearanceOf(a: Solid, b: Solid): Nearest {
  const gap = boxesApart(a.box, b.box);
  for (let margin = Math.max(a.t, gap); margin < 1e7; margin *= 2) {
    const found = nearestOf(facing(a, b, margin));
    if (found && found.distance <= margin) return found;
  }
  return nearestOf({ still: a.bodies(EVERYWHERE), moved: b.bodies(EVERYWHERE) })!;
}
