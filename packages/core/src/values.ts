/** Values by their keys. One that is `null` goes: what it was of stands at its default again. */
export type ChangedValues = Readonly<Record<string, unknown>>;

/** A record of a document as it is written. */
export type Plain = Readonly<Record<string, unknown>>;

/** Whether two values of a document say the same; the order of keys says nothing. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const [p, q] = [a as Plain, b as Plain];
  const keys = Object.keys(p);
  return (
    keys.length === Object.keys(q).length && keys.every((k) => Object.hasOwn(q, k) && sameValue(p[k], q[k]))
  );
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
