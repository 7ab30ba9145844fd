import type { FieldValues, RowsField, RowValue } from "../fields/field.ts";
import { Kept } from "../kept.ts";
import type { HoleSpec } from "../sheet/growing/spec.ts";

export const MOST_HOLES = 100_000;

/** Round holes, as a table that plates and legs have: where a new one begins, and what `y` counts from. */
export const holesFrom = (y: string, about?: string): RowsField => ({
  kind: "rows",
  key: "holes",
  label: "Round holes",
  noun: "hole",
  most: MOST_HOLES,
  about,
  line: ["⌀", { column: "d" }, "at", { column: "x" }, ",", { column: "y" }],
  anew: ["x", "y"],
  columns: [
    { kind: "quantity", key: "x", label: "X", dimension: "length", default: "" },
    { kind: "quantity", key: "y", label: "Y", dimension: "length", default: "", start: y },
    {
      kind: "quantity",
      key: "d",
      label: "Diameter",
      dimension: "length",
      default: "",
      start: "6",
      above: 0,
      max: 1e5,
    },
  ],
});

// A row that says what it said is the same hole, and what was made of it need not be made again.
const holes = new Kept(
  ({ key, quantities: q }: RowValue): HoleSpec => ({ key, x: q.x ?? 0, y: q.y ?? 0, diameter: q.d ?? 0 }),
);

/** The round holes of a step's table. */
export const holesOf = (values: FieldValues): HoleSpec[] =>
  (values.rows.holes ?? []).map((row) => holes.of(row));
