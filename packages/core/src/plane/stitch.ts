import { type Curve, curveLength, directionAt, pointAt } from "./curve.ts";
import { type Loop, loopArea } from "./loop.ts";
import { cross, dot, type Point, SAME } from "./point.ts";
import type { Region } from "./region.ts";

/** Gives each point a number; points within `SAME` of each other share one, and its first coordinates. */
export class PointTable {
  readonly points: Point[] = [];
  private readonly cells = new Map<string, number[]>();
  private readonly cell = SAME * 8;

  idOf(p: Point): number {
    const i = Math.floor(p.x / this.cell);
    const j = Math.floor(p.y / this.cell);
    for (let di = -1; di <= 1; di++) {
      for (let dj = -1; dj <= 1; dj++) {
        for (const id of this.cells.get(`${i + di},${j + dj}`) ?? []) {
          const q = this.points[id];
          if (Math.abs(q.x - p.x) <= SAME * 2 && Math.abs(q.y - p.y) <= SAME * 2) return id;
        }
      }
    }
    const id = this.points.push(p) - 1;
    const key = `${i},${j}`;
    const list = this.cells.get(key);
    if (list) list.push(id);
    else this.cells.set(key, [id]);
    return id;
  }
}

/** Turn from direction `u` to `v`, in (-π, π], positive to the left. */
const turn = (u: Point, v: Point) => Math.atan2(cross(u, v), dot(u, v));

/**
 * Chains curves, each with material on its left, into closed loops. Where several go on from one
 * point the leftmost is taken, so that outlines that only touch stay apart. Curves that close
 * nothing are returned in `open`.
 */
export function stitchLoops(curves: readonly Curve[]): { loops: Loop[]; open: Curve[] } {
  const table = new PointTable();
  const next = new Map<number, number[]>();
  const ends = curves.map((c, i) => {
    const a = table.idOf(c.a);
    const list = next.get(a);
    if (list) list.push(i);
    else next.set(a, [i]);
    return table.idOf(c.b);
  });
  const starts = curves.map((c) => table.idOf(c.a));
  const used = new Uint8Array(curves.length);
  const loops: Loop[] = [];
  const open: Curve[] = [];
  for (let first = 0; first < curves.length; first++) {
    if (used[first]) continue;
    const chain = [first];
    used[first] = 1;
    let at = first;
    while (ends[at] !== starts[first]) {
      const choices = (next.get(ends[at]) ?? []).filter((i) => !used[i]);
      if (choices.length === 0) break;
      const heading = directionAt(curves[at], 1);
      at =
        choices.length === 1
          ? choices[0]
          : choices.reduce((best, i) =>
              turn(heading, directionAt(curves[i], 0)) > turn(heading, directionAt(curves[best], 0))
                ? i
                : best,
            );
      used[at] = 1;
      chain.push(at);
    }
    const pieces = chain.map((i) => curves[i]);
    if (ends[at] === starts[first]) loops.push(pieces);
    else open.push(...pieces);
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
      kept[kept.length - 1] = { ...p, b: q.b };
      slits.push(q);
    } else {
      kept.pop();
      slits.push(p);
      push({ ...q, a: p.a });
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
