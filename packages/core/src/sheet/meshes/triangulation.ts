import Constrainautor from "@kninnug/constrainautor";
import Delaunator from "delaunator";
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

/** From how many openings on the way whose cost grows no faster than the region is the quicker one. */
const MANY_OPENINGS = 24;

const triangulated = new Kept(
  (_region: Region, { flat, holes }: FlatRegion): ArrayLike<number> =>
    (holes.length < MANY_OPENINGS ? undefined : triangulateMany(flat, holes)) ??
    counterClockwise(earcut(flat, holes as number[], 2), flat),
  (before, now) => sameNumbers(before.flat, now.flat),
);

/** Cuts a region into triangles, as places in its list of points; what was cut before is not cut again. */
export const triangulate = (region: Region, flat: Float64Array, holes: readonly number[]) =>
  triangulated.of(region, { flat, holes });

/** Directed edges that bound an area, with it at their left. */
export interface BorderEdges {
  readonly count: number;
  readonly has: (from: number, to: number) => boolean;
  readonly each: (edge: (from: number, to: number) => void) => void;
}

/**
 * Triangles of a region with many openings. Time grows as n log n with the points.
 *
 * @returns Nothing where borders touch or cross; see `trianglesWithin`. What is returned has exactly as many triangles as a
 * region of so many points and openings has.
 */
function triangulateMany(flat: Float64Array, holes: readonly number[]): Uint32Array | undefined {
  const count = flat.length / 2;
  const next = nextOnBorder(count, holes);
  const most = count + 2 * holes.length - 2;
  const made = trianglesWithin(
    flat,
    {
      count,
      has: (from, to) => next[from] === to,
      each: (edge) => {
        for (let i = 0; i < count; i++) edge(i, next[i]);
      },
    },
    most,
  );
  return made?.length === most * 3 ? made : undefined;
}

/**
 * Triangles of what directed edges bound: all their points are joined (Delaunay), the edges made edges of that, and
 * what lies outside them left out.
 *
 * @param flat x and y of each point in turn.
 * @param most So many triangles at most.
 * @returns Nothing where not every edge can be one of a triangulation, for one touches or crosses another, or where
 * there would be more triangles. What is returned has every edge once, with the area at its left.
 */
export function trianglesWithin(
  flat: Float64Array,
  border: BorderEdges,
  most: number,
): Uint32Array | undefined {
  const joined = new Delaunator(flat);
  const { triangles, halfedges } = joined;
  // The package's triangles are turned clockwise where y points up.
  const start = (e: number) => triangles[e % 3 === 2 ? e - 2 : e + 1];
  const walled = () => {
    let found = 0;
    for (let e = 0; e < triangles.length; e++) if (border.has(start(e), triangles[e])) found++;
    return found;
  };
  // Borders of round holes that stand apart are edges of it already.
  if (walled() < border.count) {
    try {
      const made = new Constrainautor(joined);
      border.each((from, to) => made.constrainOne(from, to));
    } catch {
      return;
    }
    if (walled() !== border.count) return;
  }
  const inside = new Uint8Array(triangles.length / 3);
  const open = new Uint32Array(inside.length);
  const out = new Uint32Array(most * 3);
  let [waiting, made] = [0, 0];
  const enter = (triangle: number) => {
    if (inside[triangle]) return;
    inside[triangle] = 1;
    open[waiting++] = triangle;
  };
  for (let e = 0; e < triangles.length; e++) if (border.has(start(e), triangles[e])) enter((e / 3) | 0);
  while (waiting > 0) {
    if (made === most) return;
    const e = open[--waiting] * 3;
    out[made * 3] = triangles[e];
    out[made * 3 + 1] = triangles[e + 2];
    out[made * 3 + 2] = triangles[e + 1];
    made++;
    for (let k = e; k < e + 3; k++) {
      const [from, to] = [start(k), triangles[k]];
      if (border.has(from, to)) continue;
      // Only a border has nothing on its other side, and no triangle has one the wrong way round.
      if (halfedges[k] < 0 || border.has(to, from)) return;
      enter((halfedges[k] / 3) | 0);
    }
  }
  return out.slice(0, made * 3);
}

/** The point that comes after each one on its border. */
function nextOnBorder(count: number, holes: readonly number[]): Uint32Array {
  const next = new Uint32Array(count);
  let first = 0;
  for (const end of [...holes, count]) {
    for (let i = first; i < end; i++) next[i] = i + 1 < end ? i + 1 : first;
    first = end;
  }
  return next;
}

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
