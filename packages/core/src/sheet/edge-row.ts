import { firstPlace } from "../first-place.ts";
import { dot } from "../plane/point.ts";
import type { DraftBend } from "./draft-pieces.ts";

/**
 * The bends on one edge of a plate, in order of where they begin along it: of a thousand flanges side by side only
 * those at a place are looked at. Bends that begin at one place stand in the order in which they came, and so do those that
 * are grown on no edge, folds, which make a row of their own.
 */
export interface EdgeRow {
  readonly bends: readonly DraftBend[];
  /** None of them takes more of the edge, mm. */
  readonly longest: number;
  /** None of them begins farther within the plate: places along the way that the bends of the edge go, mm. */
  readonly innermost: number;
}

export const NO_ROW: EdgeRow = { bends: [], longest: 0, innermost: Number.POSITIVE_INFINITY };

const beginOf = (b: DraftBend) => b.grownOn?.from ?? 0;
const endOf = (b: DraftBend) => b.grownOn?.to ?? 0;
const lengthOf = (b: DraftBend) => endOf(b) - beginOf(b);

/** How far out of the plate a bend begins, along the way that it goes; all on one edge go the same way. */
const rootOf = ({ origin, out }: DraftBend) => dot(origin, out);

/** The place of the first that begins at a place along the edge or after it. */
const firstFrom = (bends: readonly DraftBend[], at: number): number =>
  firstPlace(bends.length, (i) => beginOf(bends[i]) >= at);

/** @param cameOf When each bend came, as a number that grows. */
export function rowWith(
  { bends, longest, innermost }: EdgeRow,
  bend: DraftBend,
  cameOf: (bend: DraftBend) => number,
): EdgeRow {
  const [begin, came] = [beginOf(bend), cameOf(bend)];
  const at = firstPlace(bends.length, (i) => {
    const other = beginOf(bends[i]);
    return other > begin || (other === begin && cameOf(bends[i]) > came);
  });
  return {
    bends: [...bends.slice(0, at), bend, ...bends.slice(at)],
    longest: Math.max(longest, lengthOf(bend)),
    innermost: Math.min(innermost, rootOf(bend)),
  };
}

export function rowWithout({ bends }: EdgeRow, bend: DraftBend): EdgeRow {
  const left = bends.filter((b) => b !== bend);
  return {
    bends: left,
    longest: left.reduce((most, b) => Math.max(most, lengthOf(b)), 0),
    innermost: left.reduce((least, b) => Math.min(least, rootOf(b)), Number.POSITIVE_INFINITY),
  };
}

/** Those that take anything of a stretch of the edge. */
export function onStretch({ bends, longest }: EdgeRow, from: number, to: number): DraftBend[] {
  const found: DraftBend[] = [];
  for (let i = firstFrom(bends, from - longest); i < bends.length && beginOf(bends[i]) < to; i++)
    if (endOf(bends[i]) > from) found.push(bends[i]);
  return found;
}

/** How far the edge is free from a place on to its left, or its right: to where the next of them ends, or begins. */
export function freeBeside({ bends, longest }: EdgeRow, at: number, end: "left" | "right"): number {
  if (end === "right") {
    const next = bends[firstFrom(bends, at)];
    return next ? beginOf(next) - at : Number.POSITIVE_INFINITY;
  }
  let last = Number.NEGATIVE_INFINITY;
  // None that begins farther left than this can end beyond the one that is found.
  for (let i = firstFrom(bends, at) - 1; i >= 0 && beginOf(bends[i]) + longest > last; i--)
    if (endOf(bends[i]) <= at) last = Math.max(last, endOf(bends[i]));
  return at - last;
}
