import fc from "fast-check";

/**
 * The same random cases at every run, unless PROPERTY_RUNS asks for many that are new. Where changes of the
 * core are tried (PROPERTY_FIXED), that a case fails is enough: the least that fails is not looked for.
 */
export function sameCases(seed: number): void {
  if (process.env.PROPERTY_RUNS) return;
  fc.configureGlobal({ seed, endOnFailure: process.env.PROPERTY_FIXED !== undefined });
}

/** Of the full count of cases so many are tried by `npm test`, one of this number. */
const SAMPLED = 3;

/**
 * How many cases are tried: a sample of the full count, or all of it (and new ones) by `npm run prove`. PROPERTY_RUNS and
 * PROPERTY_FIXED say another count for all.
 */
export function casesOf(full: number): number {
  const said = process.env.PROPERTY_RUNS ?? process.env.PROPERTY_FIXED;
  if (said !== undefined && said !== "full") return Number(said);
  return said === "full" ? full : Math.max(Math.min(full, 10), Math.ceil(full / SAMPLED));
}

/** A number from one to another, evenly spread: of the doubles from 0 to 1 nearly all are next to nothing. */
export const spread = (min: number, max: number): fc.Arbitrary<number> =>
  fc.integer({ min: 0, max: 1_000_000 }).map((i) => min + ((max - min) * i) / 1_000_000);
