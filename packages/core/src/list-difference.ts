/** How many of the first entries of two lists are the very same, and of the rest how many of the last. */
export function commonEnds<T>(
  p: readonly T[],
  q: readonly T[],
): { readonly first: number; readonly last: number } {
  const most = Math.min(p.length, q.length);
  let first = 0;
  while (first < most && p[first] === q[first]) first++;
  let last = 0;
  while (last < most - first && p[p.length - 1 - last] === q[q.length - 1 - last]) last++;
  return { first, last };
}

/** What of a list is not in the one before it, and what of that one is not in it any more. */
export interface ListDifference<T> {
  readonly gone: readonly T[];
  readonly come: readonly T[];
}

/**
 * How two lists of records differ: the very same record is the same, wherever it stands. No record may stand twice in
 * one list. Lists that begin and end alike, as after an edit of one thing among thousands, take little time.
 */
export function listDifference<T>(before: readonly T[], now: readonly T[]): ListDifference<T> {
  const { first, last } = commonEnds(before, now);
  const [then, there] = [before.slice(first, before.length - last), now.slice(first, now.length - last)];
  const [old, fresh] = [new Set(then), new Set(there)];
  return { gone: then.filter((one) => !fresh.has(one)), come: there.filter((one) => !old.has(one)) };
}
