import { addV, crossV, dotV, lengthV, scaleV, type Vector } from "../space/vector.ts";
import { type BoxTree, eachOverlapping, treeOf } from "./box-tree.ts";
import { type Convex, edgeAxes, wayOut } from "./convex.ts";
import { halves } from "./patches.ts";
import type { Body } from "./solids.ts";

/** Bodies of two pieces; the second are moved. */
export interface Facing {
  readonly still: readonly Body[];
  readonly moved: readonly Body[];
}

/** A shift v with normal·v at least `limit` takes one body past another along the normal. */
interface Half {
  readonly normal: Vector;
  readonly limit: number;
  readonly pair: readonly [Body, Body];
}

/** A shift of the second of two pieces that parts them, mm, and how long it is. */
export interface WayOut {
  readonly shift: Vector;
  readonly length: number;
}

/** A way out, and the bodies that decide it. */
interface Way extends WayOut {
  readonly decided: readonly Half[];
}

const FREE = 1e-9;
/** A way that is shorter by no more, mm, is not looked for. */
const WORTHWHILE = 1e-7;
const SAME_SHIFT = 1e-8;
/** So many ways are looked at among the bodies as they come, and once they are halved. */
const MOST_LOOKED_AT = 150;
const MOST_LOOKED_AT_AGAIN = 12;
/** A body is as good as its metal when it is no larger by more, mm. */
const TRUE = 2e-8;
const MOST_ROUNDS = 48;

/** Of very many bodies no more pairs are looked at than this. */
const MOST_WORK = 2_000_000;

/** Bodies of two pieces, each in a tree by where they are. */
interface Trees {
  readonly still: BoxTree<Body>;
  readonly moved: BoxTree<Body>;
  readonly directions: readonly Vector[];
}

const NOWHERE: Vector = [0, 0, 0];

/** The shortest shift within three planes at most, by their normals and limits. */
function shortest(halves: readonly Half[]): Vector | undefined {
  const [a, b, c] = halves;
  if (!b) return scaleV(a.normal, a.limit);
  if (!c) {
    const cos = dotV(a.normal, b.normal);
    const det = 1 - cos * cos;
    if (det < 1e-10) return undefined;
    const [p, q] = [(a.limit - b.limit * cos) / det, (b.limit - a.limit * cos) / det];
    return addV(scaleV(a.normal, p), scaleV(b.normal, q));
  }
  const [ab, bc, ca] = [crossV(a.normal, b.normal), crossV(b.normal, c.normal), crossV(c.normal, a.normal)];
  const det = dotV(a.normal, bc);
  if (Math.abs(det) < 1e-8) return undefined;
  return scaleV(addV(addV(scaleV(bc, a.limit), scaleV(ca, b.limit)), scaleV(ab, c.limit)), 1 / det);
}

/** The shortest shift that is past all of some planes, the last of which it lies on. */
function past(halves: readonly Half[]): Vector | undefined {
  const last = halves[halves.length - 1];
  const others = halves.slice(0, -1);
  let best: Vector | undefined;
  const offer = (chosen: readonly Half[]) => {
    const v = shortest(chosen);
    if (!v || (best && lengthV(v) >= lengthV(best))) return;
    if (halves.every((h) => dotV(h.normal, v) >= h.limit - FREE)) best = v;
  };
  offer([last]);
  others.forEach((h, i) => {
    offer([last, h]);
    for (const g of others.slice(i + 1)) offer([last, h, g]);
  });
  return best;
}

/** Corners that lie this little behind the farthest lie as far, mm. */
const AS_FAR = 1e-7;

/** How many corners of a body lie farthest along a direction. */
function farthest({ corners }: Convex, d: Vector): number {
  let most = -Infinity;
  const heights = corners.map((c) => {
    const h = dotV(c, d);
    if (h > most) most = h;
    return h;
  });
  return heights.filter((h) => h > most - AS_FAR).length;
}

/**
 * The ways out of two bodies: past each face of either, and past an edge of one over an edge of the other where
 * these lie farthest. Past anything else is never shorter.
 */
function waysOut(a: Body, b: Body): Half[] {
  const [p, q] = [a.convex, b.convex];
  const found: Half[] = [];
  const take = (normal: Vector) => found.push({ normal, limit: wayOut(p, q, normal), pair: [a, b] });
  p.normals.forEach(take);
  for (const n of q.normals) take(scaleV(n, -1));
  for (const axis of edgeAxes(p, q))
    for (const n of [axis, scaleV(axis, -1)])
      if (farthest(p, n) > 1 && farthest(q, scaleV(n, -1)) > 1) take(n);
  return found.sort((g, h) => g.limit - h.limit);
}

/** Looks for the way out among bodies, keeping what each two of them say from one round to the next. */
class Search {
  private readonly known = new Map<Body, Map<Body, readonly Half[]>>();
  /** How often two bodies were looked at. */
  private work = 0;

  /** Whether enough was looked at: what is found by then is taken. */
  get isTired(): boolean {
    return this.work > MOST_WORK;
  }

  private halvesOf(a: Body, b: Body): readonly Half[] {
    let of = this.known.get(a);
    if (!of) {
      of = new Map();
      this.known.set(a, of);
    }
    let halves = of.get(b);
    if (!halves) {
      halves = waysOut(a, b);
      of.set(b, halves);
    }
    return halves;
  }

  /** Of the bodies that overlap after a shift, the two that stand deepest in one another, by their ways out. */
  private deepest({ still, moved }: Trees, v: Vector): readonly Half[] | undefined {
    let found: readonly Half[] | undefined;
    let deepest = FREE;
    const look = (a: Body, b: Body) => {
      this.work++;
      const halves = this.halvesOf(a, b);
      let depth = Infinity;
      for (const { normal: n, limit } of halves) {
        depth = Math.min(depth, limit - n[0] * v[0] - n[1] * v[1] - n[2] * v[2]);
        if (depth <= deepest) return;
      }
      deepest = depth;
      found = halves;
    };
    eachOverlapping(still, moved, look, v);
    return found;
  }

  /** What follows from choosing one of the ways out of two bodies, shortest first. */
  private onwards(from: Way, halves: readonly Half[], atMost: number): Way[] {
    const ways: Way[] = [];
    for (const half of halves) {
      // The plane itself is as far off as its limit, and they come nearest first.
      if (half.limit >= atMost) break;
      if (half.limit - dotV(half.normal, from.shift) <= FREE) continue;
      const decided = [...from.decided, half];
      const shift = past(decided);
      if (!shift) continue;
      const length = lengthV(shift);
      if (length < atMost) ways.push({ shift, length, decided });
    }
    return ways.sort((a, b) => a.length - b.length);
  }

  /** The shortest way by which all bodies are free; it is known to be no longer than `atMost`. */
  way(facing: Trees, atMost: number, looks: number): Way | undefined {
    const start: Way = { shift: NOWHERE, length: 0, decided: [] };
    let best = pastTheBox(facing, atMost);
    // What is found straight ahead, and along the pieces' own directions, bounds the search.
    let way: Way | undefined = start;
    for (let i = 0; i < 32 && way; i++) {
      const stuck = this.deepest(facing, way.shift);
      if (!stuck) {
        if (!best || way.length < best.length) best = way;
        break;
      }
      way = this.onwards(way, stuck, atMost)[0];
    }
    for (const direction of facing.directions) {
      const straight = this.along(facing, direction, best?.length ?? atMost);
      if (straight) best = straight;
    }
    const open: Way[] = [start];
    // The same shift may be come to by many ways.
    const seen = new Set<string>();
    for (let i = 0; i < looks && open.length > 0 && !this.isTired; i++) {
      const next = open.shift()!;
      if (best && next.length >= best.length - WORTHWHILE) break;
      const stuck = this.deepest(facing, next.shift);
      if (!stuck) return next;
      for (const w of this.onwards(next, stuck, best ? best.length - WORTHWHILE : atMost)) {
        const key = w.shift.map((v) => Math.round(v / SAME_SHIFT)).join();
        if (seen.has(key)) continue;
        seen.add(key);
        let at = open.length;
        while (at > 0 && open[at - 1].length > w.length) at--;
        open.splice(at, 0, w);
      }
    }
    return best;
  }

  /** The way out along one direction; nothing when it is `atMost` or longer. */
  private along(facing: Trees, direction: Vector, atMost: number): Way | undefined {
    let way: Way = { shift: NOWHERE, length: 0, decided: [] };
    while (!this.isTired) {
      const stuck = this.deepest(facing, way.shift);
      if (!stuck) return way;
      let next: Way | undefined;
      for (const half of stuck) {
        const rate = dotV(half.normal, direction);
        const length = half.limit / rate;
        if (rate < 1e-9 || length <= way.length || (next && length >= next.length)) continue;
        next = { shift: scaleV(direction, length), length, decided: [half] };
      }
      if (!next || next.length >= atMost) return undefined;
      way = next;
    }
    return undefined;
  }
}

/** The shortest way along an axis of space that takes all of one piece past all of the other: there always is one. */
function pastTheBox({ still, moved }: Trees, atMost: number): Way | undefined {
  const ways = ([0, 1, 2] as const).flatMap((k) =>
    [still.max[k] - moved.min[k], still.min[k] - moved.max[k]].map((by): Way => {
      const shift: [number, number, number] = [0, 0, 0];
      shift[k] = by;
      return { shift, length: Math.abs(by), decided: [] };
    }),
  );
  const least = ways.reduce((p, q) => (q.length < p.length ? q : p));
  return least.length < atMost ? least : undefined;
}

/** Two pieces' bodies in trees, and the ways along, across and through both, there and back. */
function treesOf({ still, moved }: Facing): Trees {
  const directions = [still[0], moved[0]].flatMap(({ solid }) =>
    solid.directions.flatMap((d) => [d, scaleV(d, -1)]),
  );
  return { still: treeOf(still)!, moved: treeOf(moved)!, directions };
}

/** Bodies that are larger than their metal, as two halves each. */
function closer(bodies: readonly Body[], chosen: ReadonlySet<Body>): Body[] {
  return bodies.flatMap((b) => (chosen.has(b) ? halves(b.patch).map((p) => b.solid.body(p)) : [b]));
}

/**
 * The least shift of the second piece, mm, that parts two pieces whose bodies overlap, to 1e-6. Bodies hold their
 * metal and a little more, so that what is found shrinks towards the truth as those that decide it are halved.
 */
export function leastWay(facing: Facing): WayOut {
  const search = new Search();
  let now = facing;
  let way = search.way(treesOf(now), Infinity, MOST_LOOKED_AT)!;
  for (let round = 0; round < MOST_ROUNDS && !search.isTired; round++) {
    const bodies = way.decided.flatMap((h) => h.pair);
    const error = Math.max(0, ...bodies.map((b) => b.error));
    if (error <= TRUE) break;
    const chosen = new Set(bodies.filter((b) => b.error > Math.min(TRUE, error / 4)));
    now = { still: closer(now.still, chosen), moved: closer(now.moved, chosen) };
    // What parted larger bodies parts these: a little slack is for rounding alone.
    way = search.way(treesOf(now), way.length * 1.01 + 1e-6, MOST_LOOKED_AT_AGAIN) ?? way;
  }
  return { shift: way.shift, length: way.length };
}
