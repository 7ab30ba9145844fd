import fc from "fast-check";

/**
 * The same random cases at every run, unless PROPERTY_RUNS asks for many that are new. Where changes of the
 * core are tried (PROPERTY_FIXED), that a case fails is enough: the least that fails is not looked for.
 */
export function sameCases(seed: number): void {
  if (process.env.PROPERTY_RUNS) return;
  fc.configureGlobal({ seed, endOnFailure: process.env.PROPERTY_FIXED !== undefined });
}

/** A number from one to another, evenly spread: of the doubles from 0 to 1 nearly all are next to nothing. */
export const spread = (min: number, max: number): fc.Arbitrary<number> =>
  fc.integer({ min: 0, max: 1_000_000 }).map((i) => min + ((max - min) * i) / 1_000_000);
