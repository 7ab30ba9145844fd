import earcut from "earcut";
import { Kept } from "../../kept.ts";
import type { Region } from "../../plane/region.ts";

// Two column numbers make one key below 2^53.
export const MOST_COLUMNS = 2 ** 26;
export const edgeKey = (a: number, b: number) => a * MOST_COLUMNS + b;

/** The points of a region's borders, x and y in turn, and where its openings begin among them. */
interface FlatRegion {
  readonly flat: Float64Array;
  readonly holes: readonly number[];
}

const triangulated = new Kept(
  (_region: Region, { flat, holes }: FlatRegion): readonly number[] =>
    counterClockwise(earcut(flat, holes as number[], 2), flat),
  (before, now) => sameNumbers(before.flat, now.flat),
);

/** Cuts a region into triangles, as places in its list of points; what was cut before is not cut again. */
export const triangulate = (region: Region, flat: Float64Array, holes: readonly number[]) =>
  triangulated.of(region, { flat, holes });

function sameNumbers(p: Float64Array, q: Float64Array): boolean {
  if (p.length !== q.length) return false;
  for (let i = 0; i < p.length; i++) if (p[i] !== q[i]) return false;
  return true;
}

/** All triangles come turned the same way; those of no area could not tell by themselves. */
function counterClockwise(triangles: number[], flat: Float64Array): number[] {
  let area = 0;
  for (let i = 0; i < triangles.length; i += 3) {
    const [p, q, r] = [triangles[i] * 2, triangles[i + 1] * 2, triangles[i + 2] * 2];
    area +=
      (flat[q] - flat[p]) * (flat[r + 1] - flat[p + 1]) - (flat[q + 1] - flat[p + 1]) * (flat[r] - flat[p]);
  }
  if (area >= 0) return triangles;
  for (let i = 0; i < triangles.length; i += 3)
    [triangles[i + 1], triangles[i + 2]] = [triangles[i + 2], triangles[i + 1]];
  return triangles;
}

/**
 * Where points of several borders stand on one line, the triangulation leaves out triangles of no
 * area, and with them the neighbours of some edges. They are put back as fans, so that every edge
 * has its neighbour again.
 */
export function closeSeams(triangles: number[], borders: readonly [number, number][]): number[] {
  const wanted = new Map<number, [number, number][]>();
  const need = (a: number, b: number) => {
    const list = wanted.get(a);
    if (list) list.push([a, b]);
    else wanted.set(a, [[a, b]]);
  };
  const edges = new Set<number>();
  for (let i = 0; i < triangles.length; i += 3)
    for (let k = 0; k < 3; k++) edges.add(edgeKey(triangles[i + k], triangles[i + ((k + 1) % 3)]));
  const border = new Set(borders.map(([a, b]) => edgeKey(a, b)));
  for (const key of edges) {
    const [a, b] = [Math.floor(key / MOST_COLUMNS), key % MOST_COLUMNS];
    if (!border.has(key) && !edges.has(edgeKey(b, a))) need(b, a);
  }
  for (const [a, b] of borders) if (!edges.has(edgeKey(a, b))) need(a, b);
  const out = [...triangles];
  for (const start of [...wanted.keys()]) {
    for (let first = wanted.get(start)?.pop(); first; first = wanted.get(start)?.pop()) {
      const ring = [start];
      let at = first[1];
      while (at !== start) {
        ring.push(at);
        const next = wanted.get(at)?.pop();
        if (!next) break;
        at = next[1];
      }
      for (let k = 1; at === start && k + 1 < ring.length; k++) out.push(ring[0], ring[k], ring[k + 1]);
    }
  }
  return out;
}

/** The edges of rings that end before each of `ringEnds`, by their columns. */
export function bordersOf(ids: readonly number[], ringEnds: readonly number[]): [number, number][] {
  const out: [number, number][] = [];
  let start = 0;
  for (const end of ringEnds) {
    for (let i = start; i < end; i++) out.push([ids[i], ids[i + 1 < end ? i + 1 : start]]);
    start = end;
  }
  return out;
}
