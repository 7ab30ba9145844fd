/**
 * Records that say the same of many things, column by column: ten thousand openings are a few long columns instead of ten
 * thousand records, and cross to the page as such.
 */
export interface Table {
  readonly length: number;
  readonly columns: Readonly<Record<string, Column>>;
}

/** What a column says: one value for all, a number each, any plain value each, or the number of a record each. */
type Column =
  | { readonly all: unknown }
  | { readonly numbers: Float64Array }
  | { readonly values: readonly unknown[] }
  | { readonly refs: Int32Array };

/** Of so many different records in one column they are no more what many entries share. */
const MOST_SHARED = 64;

const isPlainRecord = (v: unknown): v is object =>
  typeof v === "object" && v !== null && !ArrayBuffer.isView(v) && !Array.isArray(v);

/**
 * Entries as a table; nothing where they are not alike, or hold lists, functions or records of their own.
 *
 * @param cross Holds a record that entries share, and gives what holds it.
 * @returns The table, and each held record once.
 */
export function columnsOf<H extends { readonly id: number }>(
  entries: readonly unknown[],
  cross: (record: object) => H,
): { readonly table: Table; readonly refs: readonly H[] } | undefined {
  const [first] = entries;
  if (entries.length === 0) return { table: { length: 0, columns: {} }, refs: [] };
  if (!isPlainRecord(first)) return undefined;
  const keys = Object.keys(first);
  const shared = new Map<object, H | undefined>();
  for (const entry of entries) if (!fits(entry, keys, shared)) return undefined;
  for (const record of shared.keys()) shared.set(record, cross(record));
  const columns: Record<string, Column> = {};
  for (const key of keys) columns[key] = columnOf(entries as Record<string, unknown>[], key, shared);
  return { table: { length: entries.length, columns }, refs: [...new Set(shared.values())] as H[] };
}

/** Whether an entry has just these keys, in this order, and what it holds is plain or shared with others. */
function fits(entry: unknown, keys: readonly string[], shared: Map<object, unknown>): boolean {
  if (!isPlainRecord(entry)) return false;
  let n = 0;
  for (const key in entry) {
    // Kept apart from what a table's own records have.
    if (keys[n++] !== key || key === "__proto__") return false;
    const value = (entry as Record<string, unknown>)[key];
    if (typeof value === "function" || typeof value === "symbol") return false;
    if (typeof value !== "object" || value === null) continue;
    if (!isPlainRecord(value)) return false;
    if (!shared.has(value)) {
      if (shared.size >= MOST_SHARED) return false;
      shared.set(value, undefined);
    }
  }
  return n === keys.length;
}

function columnOf<H extends { readonly id: number }>(
  entries: readonly Record<string, unknown>[],
  key: string,
  shared: ReadonlyMap<object, H | undefined>,
): Column {
  const first = entries[0][key];
  const isRef = (v: unknown) => typeof v === "object" && v !== null;
  if (entries.every((e) => isRef(e[key])))
    return { refs: Int32Array.from(entries, (e) => shared.get(e[key] as object)!.id) };
  if (entries.some((e) => isRef(e[key])))
    return {
      values: entries.map((e) => (isRef(e[key]) ? { ref: shared.get(e[key] as object)!.id } : e[key])),
    };
  if (entries.every((e) => Object.is(e[key], first))) return { all: first };
  if (entries.every((e) => typeof e[key] === "number"))
    return { numbers: Float64Array.from(entries, (e) => e[key] as number) };
  return { values: entries.map((e) => e[key]) };
}

/** The records of a table again, each a record of its own. */
export function rowsOf({ length, columns }: Table, record: (ref: number) => object | undefined): object[] {
  const rows: Record<string, unknown>[] = Array.from({ length }, () => ({}));
  for (const [key, column] of Object.entries(columns))
    for (let i = 0; i < length; i++) {
      if ("all" in column) rows[i][key] = column.all;
      else if ("numbers" in column) rows[i][key] = column.numbers[i];
      else if ("refs" in column) rows[i][key] = record(column.refs[i]);
      else {
        const value = column.values[i];
        rows[i][key] = isPlainRecord(value) ? record((value as { ref: number }).ref) : value;
      }
    }
  return rows;
}

/** About how many bytes a table has on its way. */
export const tableBytes = ({ columns }: Table): number =>
  Object.values(columns).reduce((sum, column) => {
    if ("numbers" in column) return sum + column.numbers.byteLength;
    if ("refs" in column) return sum + column.refs.byteLength;
    return sum + (JSON.stringify("all" in column ? column.all : column.values)?.length ?? 0);
  }, 0);
