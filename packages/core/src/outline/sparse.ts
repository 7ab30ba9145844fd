import { type Equation, Row } from "./equations.ts";

/** Rows of derivatives, each with the unknowns that it touches, and what the equations are off by. */
export interface Linear {
  readonly rows: readonly Row[];
  readonly off: Float64Array;
}

export function linearise(equations: readonly Equation[], x: Float64Array): Linear {
  const off = new Float64Array(equations.length);
  const rows = equations.map((e, i) => {
    const row = new Row();
    off[i] = e.off(x, row);
    return row;
  });
  return { rows, off };
}

/** What equations are off by in all: the root of the sum of squares. */
export function offAt(equations: readonly Equation[], x: Float64Array): number {
  let sum = 0;
  for (const e of equations) {
    const v = e.off(x, new Row());
    sum += v * v;
  }
  return Math.sqrt(sum);
}

/** Which equations touch each unknown: pairs of equation and coefficient, one after the other. */
function byUnknown(rows: readonly Row[]): Map<number, number[]> {
  const columns = new Map<number, number[]>();
  rows.forEach((row, i) => {
    row.at.forEach((v, k) => {
      const list = columns.get(v);
      if (!list) columns.set(v, [i, row.by[k]]);
      else if (list[list.length - 2] === i) list[list.length - 1] += row.by[k];
      else list.push(i, row.by[k]);
    });
  });
  return columns;
}

/**
 * An order of the equations in which those that share unknowns stand near one another (breadth first from an outermost
 * one, turned round: Cuthill and McKee), so that little fills up when the system is solved.
 */
export function orderOf(rows: readonly Row[]): number[] {
  const columns = byUnknown(rows);
  const near: Set<number>[] = rows.map(() => new Set());
  for (const list of columns.values()) {
    // Beside an unknown that very many share, neighbours in a chain are enough to keep them together.
    const step = list.length > 80 ? 2 : list.length;
    for (let i = 0; i < list.length; i += 2)
      for (let j = i + 2; j < list.length && j <= i + step; j += 2) {
        near[list[i]].add(list[j]);
        near[list[j]].add(list[i]);
      }
  }
  const seen = new Uint8Array(rows.length);
  const walk = (from: number, mark: boolean): number[] => {
    const found = [from];
    const known = mark ? seen : seen.slice();
    known[from] = 1;
    for (let k = 0; k < found.length; k++)
      for (const next of [...near[found[k]]].sort((a, b) => near[a].size - near[b].size))
        if (!known[next]) {
          known[next] = 1;
          found.push(next);
        }
    return found;
  };
  const order: number[] = [];
  rows.forEach((_, i) => {
    if (seen[i]) return;
    const reached = walk(i, false);
    order.push(...walk(reached[reached.length - 1], true));
  });
  return order.reverse();
}

/**
 * The least change of the unknowns that takes the equations to nought in the first order: Δ = W·Jᵀ·(J·W·Jᵀ + d)⁻¹·(−f).
 * Solved by a Cholesky factorisation within the envelope of the ordered matrix. `damping` (a share of the largest
 * diagonal) keeps it solvable where equations repeat one another. `weights`: how readily each unknown moves, 1 if
 * nothing is said.
 */
export function leastStep(
  { rows, off }: Linear,
  order: readonly number[],
  damping: number,
  weights?: Float64Array,
): Map<number, number> | undefined {
  const n = rows.length;
  const { a, start, first, place, columns } = assemble(rows, order, weights);
  let largest = 0;
  for (let i = 0; i < n; i++) largest = Math.max(largest, a[start[i + 1] - 1]);
  if (!(largest > 0) || !Number.isFinite(largest)) return undefined;
  for (let i = 0; i < n; i++) a[start[i + 1] - 1] += damping * largest;
  if (!factor(a, start, first, n)) return undefined;
  const y = new Float64Array(n);
  order.forEach((eq, k) => {
    y[k] = -off[eq];
  });
  backSolve(a, start, first, y);
  const step = new Map<number, number>();
  for (const [v, list] of columns) {
    let sum = 0;
    for (let i = 0; i < list.length; i += 2) sum += list[i + 1] * y[place[list[i]]];
    step.set(v, (weights ? weights[v] : 1) * sum);
  }
  return step;
}

/** J·W·Jᵀ within its envelope: for each row of the order the entries from the first that is not nought to its diagonal. */
interface Envelope {
  readonly a: Float64Array;
  readonly start: Int32Array;
  readonly first: Int32Array;
  readonly place: Int32Array;
  readonly columns: ReadonlyMap<number, readonly number[]>;
}

function assemble(rows: readonly Row[], order: readonly number[], weights?: Float64Array): Envelope {
  const n = rows.length;
  const place = new Int32Array(n);
  order.forEach((eq, k) => {
    place[eq] = k;
  });
  const columns = byUnknown(rows);
  const first = Int32Array.from({ length: n }, (_, i) => i);
  for (const list of columns.values()) {
    let least = n;
    for (let i = 0; i < list.length; i += 2) least = Math.min(least, place[list[i]]);
    for (let i = 0; i < list.length; i += 2) first[place[list[i]]] = Math.min(first[place[list[i]]], least);
  }
  const start = new Int32Array(n + 1);
  for (let i = 0; i < n; i++) start[i + 1] = start[i] + i - first[i] + 1;
  const a = new Float64Array(start[n]);
  for (const [v, list] of columns) {
    const w = weights ? weights[v] : 1;
    for (let i = 0; i < list.length; i += 2)
      for (let j = 0; j <= i; j += 2) {
        const [p, q] = [place[list[i]], place[list[j]]];
        const [hi, lo] = p >= q ? [p, q] : [q, p];
        a[start[hi] + lo - first[hi]] += w * list[i + 1] * list[j + 1];
      }
  }
  return { a, start, first, place, columns };
}

const MOST_HELD = 3e6;

/** Rows of about one whose own part is smaller, squared, say nothing of their own. */
const REPEATS = 1e-9;

/**
 * Which equations only repeat others, and how far each unknown is held by them (1: it cannot move), from the same
 * factorisation: for groups so large that taking rows out of one another would take too long.
 */
export function heldBy({ rows }: Linear): {
  readonly repeats: readonly number[];
  readonly held: ReadonlyMap<number, number>;
} {
  const n = rows.length;
  const ones = rows.map((row) => {
    const size = Math.hypot(...row.by) || 1;
    const scaled = new Row();
    row.at.forEach((v, k) => {
      scaled.add(v, row.by[k] / size);
    });
    return scaled;
  });
  const order = orderOf(ones);
  const { a, start, first, place, columns } = assemble(ones, order);
  const idle = new Uint8Array(n);
  factor(a, start, first, n, (k) => {
    idle[k] = 1;
  });
  const held = new Map<number, number>();
  // Of a group larger still it is not found what holds which unknown.
  if (columns.size * n > MOST_HELD) return { repeats: order.filter((_, k) => idle[k]), held };
  for (const [v, list] of columns) {
    const y = new Float64Array(n);
    for (let i = 0; i < list.length; i += 2) if (!idle[place[list[i]]]) y[place[list[i]]] = list[i + 1];
    forward(a, start, first, y);
    let sum = 0;
    for (let k = 0; k < n; k++) if (!idle[k]) sum += y[k] * y[k];
    held.set(v, sum);
  }
  return { repeats: order.filter((_, k) => idle[k]), held };
}

/** Row by row within the envelope; false where a pivot is lost, unless that is only told of: then it counts for nothing. */
function factor(
  a: Float64Array,
  start: Int32Array,
  first: Int32Array,
  n: number,
  lost?: (row: number) => void,
): boolean {
  for (let i = 0; i < n; i++) {
    const [si, fi] = [start[i] - first[i], first[i]];
    for (let j = fi; j <= i; j++) {
      const sj = start[j] - first[j];
      let sum = a[si + j];
      for (let k = Math.max(fi, first[j]); k < j; k++) sum -= a[si + k] * a[sj + k];
      if (j < i) a[si + j] = sum / a[sj + j];
      else if (lost && sum < REPEATS) {
        lost(i);
        for (let k = fi; k < i; k++) a[si + k] = 0;
        a[si + i] = Number.MAX_VALUE;
      } else {
        if (!(sum > 0)) return false;
        a[si + i] = Math.sqrt(sum);
      }
    }
  }
  return true;
}

function forward(a: Float64Array, start: Int32Array, first: Int32Array, y: Float64Array): void {
  for (let i = 0; i < y.length; i++) {
    const si = start[i] - first[i];
    let sum = y[i];
    for (let k = first[i]; k < i; k++) sum -= a[si + k] * y[k];
    y[i] = sum / a[si + i];
  }
}

function backSolve(a: Float64Array, start: Int32Array, first: Int32Array, y: Float64Array): void {
  forward(a, start, first, y);
  for (let i = y.length - 1; i >= 0; i--) {
    const si = start[i] - first[i];
    y[i] /= a[si + i];
    for (let k = first[i]; k < i; k++) y[k] -= a[si + k] * y[i];
  }
}
