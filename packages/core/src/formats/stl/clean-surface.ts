import { JoinedSets } from "../../joined-sets.ts";
import type { Mesh } from "../../space/mesh.ts";

/** A closed surface whose points are apart in single precision. */
export interface CleanSurface {
  readonly positions: Float32Array;
  readonly triangles: readonly (readonly [number, number, number])[];
}

/**
 * Makes a closed mesh ready for a format that knows points only by their coordinates in single
 * precision. What has no size there is taken out: edges whose ends fall together, as on the inside of a
 * hem folded flat, are drawn to one point, and triangles that this leaves without a face are dropped; slivers go into what
 * lies beside their longest side.
 * Points that fall together without belonging together, as where metal touches metal, are moved apart by
 * a few of the smallest steps that single precision knows, each into its own metal.
 */
export function cleanSurface({ positions, triangles }: Mesh): CleanSurface {
  const single = Float32Array.from(positions);
  const home = drawnTogether(single, triangles);
  const kept = withoutSlivers(single, withoutFlats(triangles, home));
  moveApart(single, kept);
  return { positions: single, triangles: kept };
}

/** The smallest step of single precision at a point's largest coordinate. */
function smallestStep(p: Float32Array, i: number): number {
  const largest = Math.max(Math.abs(p[i * 3]), Math.abs(p[i * 3 + 1]), Math.abs(p[i * 3 + 2]), 1);
  return 2 ** (Math.floor(Math.log2(largest)) - 23);
}

/** An edge of so few smallest steps has no length that could be told from rounding. */
const SHORT = 4;

const fallTogether = (p: Float32Array, a: number, b: number): boolean => {
  const reach = SHORT * smallestStep(p, a);
  return [0, 1, 2].every((k) => Math.abs(p[a * 3 + k] - p[b * 3 + k]) <= reach);
};

/** For each point the one that stands for it: points joined by edges of no length are one. */
function drawnTogether(p: Float32Array, triangles: Mesh["triangles"]): (i: number) => number {
  const sets = new JoinedSets(p.length / 3);
  for (let i = 0; i < triangles.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [triangles[i + k], triangles[i + ((k + 1) % 3)]];
      if (a < b && fallTogether(p, a, b)) sets.join(a, b);
    }
  return (i) => sets.find(i);
}

type Triangle = readonly [number, number, number];

/** Triangles that have three corners; two that lie back to back on the same three are no metal and go both. */
function withoutFlats(triangles: Mesh["triangles"], home: (i: number) => number): Triangle[] {
  const out = new Map<string, Triangle>();
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [home(triangles[i]), home(triangles[i + 1]), home(triangles[i + 2])];
    if (a === b || b === c || c === a) continue;
    const back = keyOf([a, c, b]);
    if (!out.delete(back)) out.set(keyOf([a, b, c]), [a, b, c]);
  }
  return [...out.values()];
}

/** The same for all three ways to begin a triangle, another for its back. */
function keyOf([a, b, c]: Triangle): string {
  if (a < b && a < c) return `${a},${b},${c}`;
  return b < c ? `${b},${c},${a}` : `${c},${a},${b}`;
}

/** A triangle less high than this is a sliver, mm. */
const SLIVER = 1e-5;
/** Each pass takes slivers that the one before may have left beside one another. */
const PASSES = 4;

/** How high a triangle is over its longest side, mm, and the corner that lies across that. */
function heightOf(p: Float32Array, t: Triangle): { readonly height: number; readonly top: number } {
  const side = (i: number, j: number) =>
    Math.hypot(p[i * 3] - p[j * 3], p[i * 3 + 1] - p[j * 3 + 1], p[i * 3 + 2] - p[j * 3 + 2]);
  const [a, b, c] = t;
  const sides = [side(b, c), side(c, a), side(a, b)];
  const top = sides.indexOf(Math.max(...sides));
  const u = [0, 1, 2].map((k) => p[b * 3 + k] - p[a * 3 + k]);
  const v = [0, 1, 2].map((k) => p[c * 3 + k] - p[a * 3 + k]);
  const twice = Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]);
  return { height: twice / sides[top], top };
}

/**
 * Triangles without slivers: one that is no more than a line goes, with the triangle across its longest side, into two that
 * meet at its third corner. Where that would leave an edge with more than two faces it stays.
 */
function withoutSlivers(p: Float32Array, triangles: readonly Triangle[]): readonly Triangle[] {
  let now = triangles;
  for (let pass = 0; pass < PASSES; pass++) {
    const slivers = now.flatMap((t, i) => (heightOf(p, t).height < SLIVER ? [i] : []));
    if (slivers.length === 0) return now;
    const edges = new Map<string, number>();
    for (const [i, [a, b, c]] of now.entries())
      for (const [u, v] of [
        [a, b],
        [b, c],
        [c, a],
      ])
        edges.set(`${u} ${v}`, i);
    const next = [...now];
    const touched = new Set<number>();
    for (const i of slivers) {
      const t = now[i];
      const { top } = heightOf(p, t);
      const [b, c, a] = [t[top], t[(top + 1) % 3], t[(top + 2) % 3]];
      const j = edges.get(`${a} ${c}`);
      if (j === undefined || touched.has(i) || touched.has(j)) continue;
      const d = now[j].find((v) => v !== a && v !== c)!;
      if (d === b || edges.has(`${b} ${d}`) || edges.has(`${d} ${b}`)) continue;
      const [one, other]: Triangle[] = [
        [a, b, d],
        [b, c, d],
      ];
      if (Math.min(heightOf(p, one).height, heightOf(p, other).height) < SLIVER) continue;
      next[i] = one;
      next[j] = other;
      touched.add(i).add(j);
      edges.set(`${b} ${d}`, i).set(`${d} ${b}`, j);
    }
    if (touched.size === 0) return now;
    now = next;
  }
  return now;
}

/** So many of the smallest steps of single precision part points that touch. */
const STEPS = 8;

function moveApart(p: Float32Array, triangles: readonly Triangle[]): void {
  const groups = new Map<string, number[]>();
  const used = new Set(triangles.flat());
  for (const i of used) {
    const key = `${p[i * 3]} ${p[i * 3 + 1]} ${p[i * 3 + 2]}`;
    const group = groups.get(key);
    if (group) group.push(i);
    else groups.set(key, [i]);
  }
  const crowds = [...groups.values()].filter((g) => g.length > 1);
  if (crowds.length === 0) return;
  const inward = inwardAt(p, triangles, new Set(crowds.flat()));
  for (const crowd of crowds)
    for (const [n, i] of crowd.entries()) {
      const [x, y, z] = inward.get(i) ?? [0, 0, 0];
      const length = Math.hypot(x, y, z) || 1;
      // Each by another measure: two that go the same way must not meet again.
      const step = ((n + 1) * STEPS * smallestStep(p, i)) / length;
      [x, y, z].forEach((d, k) => {
        p[i * 3 + k] += d * step;
      });
    }
}

/** The direction into the metal at some points: against the normals of the faces around each, by their size. */
function inwardAt(
  p: Float32Array,
  triangles: readonly Triangle[],
  points: ReadonlySet<number>,
): Map<number, [number, number, number]> {
  const out = new Map<number, [number, number, number]>();
  for (const [a, b, c] of triangles) {
    if (!points.has(a) && !points.has(b) && !points.has(c)) continue;
    const u = [0, 1, 2].map((k) => p[b * 3 + k] - p[a * 3 + k]);
    const v = [0, 1, 2].map((k) => p[c * 3 + k] - p[a * 3 + k]);
    const normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const length = Math.hypot(...normal) || 1;
    for (const i of [a, b, c]) {
      if (!points.has(i)) continue;
      const sum = out.get(i) ?? [0, 0, 0];
      out.set(i, [sum[0] - normal[0] / length, sum[1] - normal[1] / length, sum[2] - normal[2] / length]);
    }
  }
  return out;
}
