/** Values by their keys. One that is `null` goes: what it was of stands at its default again. */
export type ChangedValues = Readonly<Record<string, unknown>>;

/** A record of a document as it is written. */
export type Plain = Readonly<Record<string, unknown>>;

/**
 * Whether two values say the same, down to what they hold; the order of keys, and of what is in a set, says nothing. Asked
 * of thousands of records at every build.
 */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null)
    return Number.isNaN(a) && Number.isNaN(b);
  if (Array.isArray(a) || Array.isArray(b)) return Array.isArray(a) && Array.isArray(b) && sameEntries(a, b);
  if (a instanceof Set || b instanceof Set) {
    if (!(a instanceof Set && b instanceof Set) || a.size !== b.size) return false;
    for (const v of a) if (!b.has(v)) return false;
    return true;
  }
  const [p, q] = [a as Plain, b as Plain];
  const keys = Object.keys(p);
  if (keys.length !== Object.keys(q).length) return false;
  for (const k of keys) if (!Object.hasOwn(q, k) || !sameValue(p[k], q[k])) return false;
  return true;
}

function sameEntries(p: readonly unknown[], q: readonly unknown[]): boolean {
  if (p.length !== q.length) return false;
  for (let i = 0; i < p.length; i++) if (!sameValue(p[i], q[i])) return false;
  return true;
}

/** The values that make one record of another; nothing when they are the same. */
export function changedBetween(before: Plain, after: Plain): ChangedValues | undefined {
  const out: [string, unknown][] = [];
  for (const key of Object.keys(before)) if (!Object.hasOwn(after, key)) out.push([key, null]);
  for (const [key, value] of Object.entries(after))
    if (!(Object.hasOwn(before, key) && sameValue(before[key], value))) out.push([key, value]);
  return out.length === 0 ? undefined : Object.fromEntries(out);
}

/** Whether a record has a `null` of its own, which a change of values would take for nothing. */
export const holdsNull = (record: Plain): boolean => Object.values(record).includes(null);

/** A record with values changed. Keys that stay keep their places. */
export function withValues<T extends object>(record: T, values: ChangedValues): T {
  const merged = Object.entries({ ...record, ...values });
  return Object.fromEntries(merged.filter(([key, v]) => !(v === null && Object.hasOwn(values, key)))) as T;
}
