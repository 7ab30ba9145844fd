import type { Equation } from "./equations.ts";
import { leastStep, linearise, offAt, orderOf } from "./sparse.ts";

/** Equations that share unknowns, directly or through others, and all unknowns that they touch. */
export interface Group {
  readonly equations: readonly Equation[];
  readonly unknowns: readonly number[];
}

/**
 * Parts equations into groups that have nothing to do with one another: they share no unknowns, and no curve has some of
 * its own in both (`joined`: the unknowns of each curve).
 */
export function groupsOf(
  equations: readonly Equation[],
  x: Float64Array,
  joined: readonly (readonly number[])[] = [],
): Group[] {
  const { rows } = linearise(equations, x);
  const leader = Int32Array.from({ length: x.length }, (_, i) => i);
  const find = (i: number): number => {
    let at = i;
    while (leader[at] !== at) {
      leader[at] = leader[leader[at]];
      at = leader[at];
    }
    return at;
  };
  for (const at of [...rows.map((r) => r.at), ...joined]) for (const v of at) leader[find(v)] = find(at[0]);
  const groups = new Map<number, { equations: Equation[]; unknowns: Set<number> }>();
  equations.forEach((e, i) => {
    const root = find(rows[i].at[0]);
    let group = groups.get(root);
    if (!group) {
      group = { equations: [], unknowns: new Set() };
      groups.set(root, group);
    }
    group.equations.push(e);
    for (const v of rows[i].at) group.unknowns.add(v);
  });
  return [...groups.values()].map((g) => ({ equations: g.equations, unknowns: [...g.unknowns] }));
}

const MOST_ROUNDS = 80;
const MOST_TRIES = 14;
/** So small a damping keeps a system solvable whose equations repeat one another, and changes nothing else. */
const LEAST_DAMPING = 1e-11;

export interface SolveOptions {
  /** What lengths are measured against, mm. */
  readonly size: number;
  /** How readily each unknown moves. */
  readonly weights?: Float64Array;
}

/**
 * Moves the unknowns of a group, in place, by least steps (Gauss and Newton, damped after Levenberg and Marquardt where
 * a step does not better things) until its equations hold to 1e-11 of the size. Returns what they are off by at last, mm:
 * where that stays, they do not hold together, or not near what is drawn.
 */
export function solveGroup({ equations }: Group, x: Float64Array, { size, weights }: SolveOptions): number {
  let linear = linearise(equations, x);
  const order = orderOf(linear.rows);
  const normOf = (f: Float64Array) => Math.sqrt(f.reduce((s, v) => s + v * v, 0));
  let off = normOf(linear.off);
  let damping = LEAST_DAMPING;
  let idle = 0;
  for (let round = 0; round < MOST_ROUNDS && off > 1e-12 * size; round++) {
    let bettered = false;
    for (let tries = 0; tries < MOST_TRIES && !bettered; tries++) {
      const step = leastStep(linear, order, damping, weights);
      if (step) {
        let longest = 0;
        for (const by of step.values()) longest = Math.max(longest, Math.abs(by));
        // A step across half the outline leads anywhere.
        const share = Math.min(1, (0.3 * size) / (longest || 1));
        const before = new Map<number, number>();
        for (const [v, by] of step) {
          before.set(v, x[v]);
          x[v] += by * share;
        }
        const now = offAt(equations, x);
        if (now < off) {
          bettered = true;
          idle = off - now < 1e-9 * off ? idle + 1 : 0;
          off = now;
          damping = Math.max(LEAST_DAMPING, damping / 30);
          continue;
        }
        for (const [v, value] of before) x[v] = value;
      }
      damping = Math.max(damping * 30, 1e-8);
    }
    if (!bettered || idle > 3) break;
    linear = linearise(equations, x);
  }
  return off;
}
