import type { Names } from "../units/expression.ts";
import type { Row } from "./equations.ts";
import { freshIds, type Outline, type OutlineDimension, type Relation } from "./outline.ts";
import { equationsOf, type SolvedOutline, solveOutline } from "./solve.ts";
import { linearise } from "./sparse.ts";

/** Of what is left of a row once others are taken out, a part below this is rounding. */
const NOTHING = 1e-7;

/**
 * An outline that can no longer move: its points and radii stand as they are solved, points that are still free are fixed
 * there, no more than it takes and the first ones first, and circles that are keep their radius. `outer`: names from
 * around, which its dimensions may use.
 */
export function holdAsItIs(outline: Outline, outer?: Names): Outline {
  let held = outline;
  let solved = solveOutline(held, outer);
  while (solved.state === "free") {
    const next = heldOnce(standing(held, solved), outer);
    const after = solveOutline(next, outer);
    if (after.state === "conflict" || after.free >= solved.free) break;
    [held, solved] = [next, after];
  }
  return held;
}

/** An outline drawn where it is solved. */
export const standing = (outline: Outline, { points, radii }: SolvedOutline): Outline => ({
  ...outline,
  points,
  curves: outline.curves.map((c) => (c.kind === "circle" ? { ...c, r: radii[c.id] } : c)),
});

function heldOnce(outline: Outline, outer?: Names): Outline {
  const { list, unknowns } = equationsOf(outline, outer);
  const free = notDriven(linearise(list, unknowns.start).rows, unknowns.start.length);
  const fresh = freshIds(outline);
  const fixed = Object.entries(outline.points).flatMap(([id, at]): Relation[] => {
    const x = unknowns.point(id);
    return free.has(x) || free.has(x + 1) ? [{ id: fresh("r"), kind: "fixed", of: [id], at }] : [];
  });
  const rounds = outline.curves.flatMap((c): OutlineDimension[] =>
    c.kind === "circle" && free.has(unknowns.radius(c.id))
      ? [{ id: fresh("d"), kind: "radius", of: [c.id], value: c.r }]
      : [],
  );
  return {
    ...outline,
    relations: [...outline.relations, ...fixed],
    dimensions: [...outline.dimensions, ...rounds],
  };
}

/**
 * Of `count` unknowns those to be given so that the rows say all the others, the first ones rather than the last: rows
 * are taken out of one another by the last unknown that they touch (Gauss), and each unknown by which none is left is one.
 */
function notDriven(rows: readonly Row[], count: number): Set<number> {
  const touching = Array.from({ length: count }, (): Set<number> => new Set());
  const left = rows.map((row, i) => {
    const size = Math.hypot(...row.by) || 1;
    const parts = new Map<number, number>();
    row.at.forEach((v, k) => {
      parts.set(v, (parts.get(v) ?? 0) + row.by[k] / size);
      touching[v].add(i);
    });
    return parts;
  });
  const free = new Set<number>();
  for (let v = count - 1; v >= 0; v--) {
    let pivot = -1;
    let most = NOTHING;
    for (const i of touching[v]) {
      const part = Math.abs(left[i].get(v)!);
      if (part > most) [pivot, most] = [i, part];
    }
    if (pivot < 0) {
      free.add(v);
      for (const i of touching[v]) left[i].delete(v);
      continue;
    }
    const by = left[pivot];
    for (const u of by.keys()) touching[u].delete(pivot);
    for (const i of touching[v]) {
      const share = left[i].get(v)! / by.get(v)!;
      for (const [u, part] of by) {
        left[i].set(u, (left[i].get(u) ?? 0) - share * part);
        touching[u].add(i);
      }
      left[i].delete(v);
    }
    touching[v].clear();
  }
  return free;
}
