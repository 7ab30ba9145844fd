import { checkEntries, checkList, isPlain, KEY_SCHEMA, neededInWhole } from "../checking.ts";
import { type RawValues, type RowsField, type RowValue, rowsOf } from "../field.ts";
import type { FieldKind, LastValues } from "../field-kind.ts";

const capital = (text: string) => text[0].toUpperCase() + text.slice(1);

export const rowsKind: FieldKind<RowsField> = {
  needed: neededInWhole,
  fresh: () => [],
  check: (f, value, at, { say, within }) => {
    if (!f.keyless)
      return checkEntries(value, at, f.most, say, (row, place) => within(f.columns, row, place, true));
    checkList(value, at, f.most, say, (row, place) => {
      if (isPlain(row)) within(f.columns, row, place, true);
      else say(place, "This must be an object.");
    });
  },
  schema: (f, { object }) => ({
    title: f.label,
    type: "array",
    maxItems: f.most,
    items: object(f.columns, f.keyless ? {} : { key: KEY_SCHEMA }),
  }),
  word: undefined,
  // A row with a wrong value is told, by its place and column, and left out.
  evaluate: (f, raw, e) => {
    const out: RowValue[] = [];
    const rows = rowsOf(raw, f.key);
    const before = e.last && evaluatedBefore(f.key, e.last, rows.length);
    rows.forEach((row, i) => {
      const known = before?.(row, i);
      if (known) {
        out.push(known);
        return;
      }
      const { problems, ...values } = e.row(
        f.columns,
        row,
        `${f.key}.${row.key}`,
        `${capital(f.noun)} ${i + 1}`,
      );
      if (problems.length === 0) out.push({ key: row.key, ...values });
    });
    e.values.rows[f.key] = out;
  },
  mapExpressions: (f, value, _map, within) =>
    rowsOf({ [f.key]: value }, f.key).map((row) => within(row, f.columns)),
  picks: undefined,
  within: (f, value) =>
    Array.isArray(value)
      ? value.map((values, i) => ({
          fields: f.columns,
          values,
          path: `${f.key}/${i}`,
          also: f.keyless ? [] : ["key"],
        }))
      : [],
  items: undefined,
};

/** The value of a row that is the very same record as the last time; some may have come or gone before it. */
function evaluatedBefore(
  key: string,
  last: LastValues,
  now: number,
): (row: RawValues, at: number) => RowValue | undefined {
  const rows = rowsOf(last.raw, key);
  const values = last.values.rows[key] ?? [];
  const shift = rows.length - now;
  return (row, at) =>
    rows[at] === row ? values[at] : rows[at + shift] === row ? values[at + shift] : undefined;
}
