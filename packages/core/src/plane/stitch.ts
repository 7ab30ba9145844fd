import { cellKey } from "./cell-key.ts";
import { type Curve, curveLength, directionAt, pointAt, withEnds } from "./curve.ts";
import { type Loop, loopArea } from "./loop.ts";
import { cross, dot, type Point, SAME } from "./point.ts";
import type { Region } from "./region.ts";

// Far wider than the tolerance, so that a point rarely stands close enough to a cell's border to be
// looked for in the next cell too; far narrower than the features of a part, so that cells stay empty.
const CELL = SAME * 1e4;
const NEAR = SAME * 2;

/** Gives each point a number; points within twice `SAME` of each other share one, and its first coordinates. */
export class PointTable {
  readonly points: Point[] = [];
  private readonly cells = new Map<number, number[]>();

  idOf(p: Point): number {
    const i = Math.floor(p.x / CELL);
    const j = Math.floor(p.y / CELL);
    const [u, v] = [p.x - i * CELL, p.y - j * CELL];
    const i0 = u < NEAR ? i - 1 : i;
    const i1 = u > CELL - NEAR ? i + 1 : i;
    const j0 = v < NEAR ? j - 1 : j;
    const j1 = v > CELL - NEAR ? j + 1 : j;
    // At most two cells each way, counted: beyond 2^53 a cell's number plus one is the same number.
    for (let a = 0; a <= Math.min(1, i1 - i0); a++) {
      for (let b = 0; b <= Math.min(1, j1 - j0); b++) {
        const found = this.inCell(cellKey(i0 + a, j0 + b), p);
        if (found >= 0) return found;
      }
    }
    const id = this.points.push(p) - 1;
    const key = cellKey(i, j);
    const list = this.cells.get(key);
    if (list) list.push(id);
    else this.cells.set(key, [id]);
    return id;
  }

  private inCell(key: number, p: Point): number {
    const list = this.cells.get(key);
    if (!list) return -1;
    for (const id of list) {
      const q = this.points[id];
      if (Math.abs(q.x - p.x) <= NEAR && Math.abs(q.y - p.y) <= NEAR) return id;
    }
    return -1;
  }
}

/** Of curves that go on from where another ends, the one that turns most to the left. */
function leftmost(curves: readonly Curve[], from: number, choices: readonly number[]): number | undefined {
  if (choices.length < 2) return choices[0];
  const heading = directionAt(curves[from], 1);
  return choices.reduce((best, i) =>
    turn(heading, directionAt(curves[i], 0)) > turn(heading, directionAt(curves[best], 0)) ? i : best,
  );
}

/** The numbers of the points where a curve begins and ends. */
export type Ends = readonly [number, number];

function numbered(curves: readonly Curve[]): Ends[] {
  const table = new PointTable();
  return curves.map((c) => [table.idOf(c.a), table.idOf(c.b)]);
}

/**
 * Turn from direction `u` to `v`, in (-π, π], positive to the left. Turning straight back counts as
 * left, whichever way rounding has it: a hole that touches an edge is then cut in at that point.
 */
function turn(u: Point, v: Point): number {
  const angle = Math.atan2(cross(u, v), dot(u, v));
  return angle < -Math.PI + 1e-6 ? angle + 2 * Math.PI : angle;
}

/**
 * Chains curves, each with material on its left, into closed loops. Where several go on from one
 * point the leftmost is taken, so that outlines that only touch stay apart. Curves that close
 * nothing are returned in `open`.
 *
 * @param given The numbers of their ends, where they have some already: the same number, the same point.
 */
export function stitchLoops(
  curves: readonly Curve[],
  given: readonly Ends[] = numbered(curves),
): { loops: Loop[]; open: Curve[] } {
  const next = new Map<number, number[]>();
  given.forEach(([a], i) => {
    const list = next.get(a);
    if (list) list.push(i);
    else next.set(a, [i]);
  });
  const used = new Uint8Array(curves.length);
  const loops: Loop[] = [];
  const open: Curve[] = [];
  for (let first = 0; first < curves.length; first++) {
    if (used[first]) continue;
    // Where it began may be a place that it passes more than once: it ends there only if that is the way to go.
    const after = (at: number) =>
      leftmost(
        curves,
        at,
        (next.get(given[at][1]) ?? []).filter((i) => !used[i] || i === first),
      );
    const chain: Curve[] = [];
    let at: number | undefined = first;
    do {
      used[at] = 1;
      chain.push(curves[at]);
      at = after(at);
    } while (at !== undefined && at !== first);
    if (at === first) loops.push(chain);
    else for (const c of chain) open.push(c);
  }
  return { loops, open };
}

/** Takes pieces that run out and straight back along themselves off a loop, as cuts of no width. */
export function withoutSpikes(loop: Loop): { loop: Loop; slits: Curve[] } {
  const kept: Curve[] = [];
  const slits: Curve[] = [];
  const push = (q: Curve): void => {
    const p = kept[kept.length - 1];
    if (!p || !isBacktrack(p, q)) {
      kept.push(q);
      return;
    }
    const surplus = curveLength(p) - curveLength(q);
    if (Math.abs(surplus) <= SAME * 4) {
      kept.pop();
      slits.push(p);
    } else if (surplus > 0) {
      kept[kept.length - 1] = withEnds(p, p.a, q.b);
      slits.push(q);
    } else {
      kept.pop();
      slits.push(p);
      push(withEnds(q, p.a, q.b));
    }
  };
  loop.forEach(push);
  // The spike may stand where the loop was opened for reading.
  for (let i = 0; i < loop.length && kept.length > 2 && isBacktrack(kept[kept.length - 1], kept[0]); i++) {
    push(kept.shift()!);
  }
  return { loop: kept, slits };
}

function isBacktrack(p: Curve, q: Curve): boolean {
  if (p.kind !== "line" || q.kind !== "line") return false;
  const u = directionAt(p, 1);
  const v = directionAt(q, 0);
  return dot(u, v) < 0 && Math.abs(cross(u, v)) < 1e-9;
}

/** Whether a point lies inside a loop, by crossings of chords fine enough for grouping loops. */
export function insideLoop(loop: Loop, p: Point): boolean {
  let inside = false;
  for (const c of loop) {
    const n = c.kind === "line" ? 1 : 16;
    let a = c.a;
    for (let i = 1; i <= n; i++) {
      const b = i === n ? c.b : pointAt(c, i / n);
      if (a.y > p.y !== b.y > p.y && p.x < a.x + ((p.y - a.y) / (b.y - a.y)) * (b.x - a.x)) inside = !inside;
      a = b;
    }
  }
  return inside;
}

/** Puts each clockwise loop into the smallest counter-clockwise loop that holds it. */
export function groupRegions(loops: readonly Loop[]): Region[] {
  const outers = loops
    .map((loop) => ({ loop, area: loopArea(loop), holes: [] as Loop[] }))
    .filter((o) => o.area > 0)
    .sort((p, q) => p.area - q.area);
  for (const hole of loops.filter((l) => loopArea(l) < 0)) {
    const c = hole[0];
    const d = directionAt(c, 0.5);
    // A step to the left of a hole's edge stands in the material that the hole is cut from.
    const mid = pointAt(c, 0.5);
    const probe = { x: mid.x - d.y * SAME * 10, y: mid.y + d.x * SAME * 10 };
    const home = outers.find((o) => insideLoop(o.loop, probe)) ?? outers[outers.length - 1];
    home?.holes.push(hole);
  }
  return outers.reverse().map((o) => ({ outer: o.loop, holes: o.holes }));
}
