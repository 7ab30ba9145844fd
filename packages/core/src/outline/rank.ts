import { heldBy, type Linear } from "./sparse.ts";

/** What a group's equations say in the first order where they hold. */
export interface RankFacts {
  /** How many of them say something of their own. */
  readonly rank: number;
  /** Those that only repeat others, by their places: each with the others, and itself last. */
  readonly repeats: readonly (readonly number[])[];
  /** The unknowns that can still move. */
  readonly free: readonly number[];
}

/** What is left of a row of about one, once what others say is taken out, says nothing of its own below this. */
const NOTHING = 1e-7;
/** So many products are worth the exacter way, which also says what repeats what. */
const MOST_WORK = 2e8;
/** A part of another row that is smaller is rounding. */
const PART = 1e-6;

/**
 * The rank of a group's derivatives, by taking out of each row what those before it say (Gram and Schmidt, twice over
 * against rounding), which of the rows repeat which others, and which unknowns none of them holds.
 */
export function rankOf(linear: Linear, unknowns: readonly number[]): RankFacts {
  const { rows } = linear;
  if (rows.length * rows.length * unknowns.length > MOST_WORK) {
    const { repeats, held } = heldBy(linear);
    const rank = rows.length - repeats.length;
    const free = rank === unknowns.length ? [] : unknowns.filter((v) => (held.get(v) ?? 0) < 1 - PART);
    return { rank, repeats: repeats.map((i) => [i]), free };
  }
  const place = new Map(unknowns.map((v, i) => [v, i]));
  const n = unknowns.length;
  const basis: Float64Array[] = [];
  const kept: number[] = [];
  /** For each kept row, itself as a sum of basis vectors: a triangle. */
  const triangle: Float64Array[] = [];
  const repeats: number[][] = [];
  rows.forEach((row, index) => {
    const v = new Float64Array(n);
    row.at.forEach((at, k) => {
      v[place.get(at)!] += row.by[k];
    });
    const size = norm(v);
    if (size === 0) {
      repeats.push([index]);
      return;
    }
    for (let i = 0; i < n; i++) v[i] /= size;
    const parts = new Float64Array(basis.length + 1);
    for (let pass = 0; pass < 2; pass++)
      basis.forEach((q, k) => {
        let dot = 0;
        for (let i = 0; i < n; i++) dot += q[i] * v[i];
        if (dot === 0) return;
        parts[k] += dot;
        for (let i = 0; i < n; i++) v[i] -= dot * q[i];
      });
    const left = norm(v);
    if (left > NOTHING) {
      for (let i = 0; i < n; i++) v[i] /= left;
      parts[basis.length] = left;
      basis.push(v);
      triangle.push(parts);
      kept.push(index);
      return;
    }
    // The row as a sum of kept rows: from the last one down.
    const sum = Float64Array.from(parts);
    const by = new Float64Array(kept.length);
    for (let k = kept.length - 1; k >= 0; k--) {
      by[k] = sum[k] / triangle[k][k];
      for (let i = 0; i <= k; i++) sum[i] -= by[k] * triangle[k][i];
    }
    repeats.push([...kept.filter((_, k) => Math.abs(by[k]) > PART), index]);
  });
  const free = unknowns.filter((_, i) => {
    let held = 0;
    for (const q of basis) held += q[i] * q[i];
    return held < 1 - NOTHING;
  });
  return { rank: basis.length, repeats, free };
}

function norm(v: Float64Array): number {
  let sum = 0;
  for (const x of v) sum += x * x;
  return Math.sqrt(sum);
}
