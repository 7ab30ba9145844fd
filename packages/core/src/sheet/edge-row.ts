import { firstPlace } from "../first-place.ts";
import { dot } from "../plane/point.ts";
import type { DraftCarrier } from "./draft-pieces.ts";

/**
 * What stands on one edge of a plate, in order of where they begin along it: of a thousand flanges side by side only
 * those at a place are looked at. Bends that begin at one place stand in the order in which they came, and so do those that
 * are grown on no edge, folds, which make a row of their own.
 */
export interface EdgeRow {
  readonly carriers: readonly DraftCarrier[];
  /** None of them takes more of the edge, mm. */
  readonly longest: number;
  /** None of them begins farther within the plate: places along the way that the carriers of the edge go, mm. */
  readonly innermost: number;
}

export const NO_ROW: EdgeRow = { carriers: [], longest: 0, innermost: Number.POSITIVE_INFINITY };

const beginOf = (b: DraftCarrier) => b.grownOn?.from ?? 0;
const endOf = (b: DraftCarrier) => b.grownOn?.to ?? 0;
const lengthOf = (b: DraftCarrier) => endOf(b) - beginOf(b);

/** How far out of the plate a bend begins, along the way that it goes; all on one edge go the same way. */
const rootOf = ({ origin, out }: DraftCarrier) => dot(origin, out);

/** The place of the first that begins at a place along the edge or after it. */
const firstFrom = (carriers: readonly DraftCarrier[], at: number): number =>
  firstPlace(carriers.length, (i) => beginOf(carriers[i]) >= at);

/** @param cameOf When each bend came, as a number that grows. */
export function rowWith(
  { carriers, longest, innermost }: EdgeRow,
  bend: DraftCarrier,
  cameOf: (bend: DraftCarrier) => number,
): EdgeRow {
  const [begin, came] = [beginOf(bend), cameOf(bend)];
  const at = firstPlace(carriers.length, (i) => {
    const other = beginOf(carriers[i]);
    return other > begin || (other === begin && cameOf(carriers[i]) > came);
  });
  return {
    carriers: [...carriers.slice(0, at), bend, ...carriers.slice(at)],
    longest: Math.max(longest, lengthOf(bend)),
    innermost: Math.min(innermost, rootOf(bend)),
  };
}

export function rowWithout({ carriers }: EdgeRow, bend: DraftCarrier): EdgeRow {
  const left = carriers.filter((b) => b !== bend);
  return {
    carriers: left,
    longest: left.reduce((most, b) => Math.max(most, lengthOf(b)), 0),
    innermost: left.reduce((least, b) => Math.min(least, rootOf(b)), Number.POSITIVE_INFINITY),
  };
}

/** Those that take anything of a stretch of the edge. */
export function onStretch({ carriers, longest }: EdgeRow, from: number, to: number): DraftCarrier[] {
  const found: DraftCarrier[] = [];
  for (let i = firstFrom(carriers, from - longest); i < carriers.length && beginOf(carriers[i]) < to; i++)
    if (endOf(carriers[i]) > from) found.push(carriers[i]);
  return found;
}

/** How far the edge is free from a place on to its left, or its right: to where the next of them ends, or begins. */
export function freeBeside({ carriers, longest }: EdgeRow, at: number, end: "left" | "right"): number {
  if (end === "right") {
    const next = carriers[firstFrom(carriers, at)];
    return next ? beginOf(next) - at : Number.POSITIVE_INFINITY;
  }
  let last = Number.NEGATIVE_INFINITY;
  // None that begins farther left than this can end beyond the one that is found.
  for (let i = firstFrom(carriers, at) - 1; i >= 0 && beginOf(carriers[i]) + longest > last; i--)
    if (endOf(carriers[i]) <= at) last = Math.max(last, endOf(carriers[i]));
  return at - last;
}
