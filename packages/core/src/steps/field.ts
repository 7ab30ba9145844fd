import { fail, ok, type Result } from "../result.ts";
import { evaluateExpression, type Names } from "../units/expression.ts";
import { type Dimension, formatShort, toDegrees } from "../units/quantity.ts";

/** What a person typed: an expression, or a bare number (mm, degrees or plain). */
export type Typed = string | number;

/** What can be picked for a step. */
export type PickOf = "edge" | "corner" | "bend" | "plate" | "step";

/** Something picked. `key` stays the same when others are added or removed, and names what grows from it. */
export interface PickEntry {
  readonly key: string;
  /**
   * The stable name: an edge `s1.north`, a corner `s1.north+east`, a bend or plate `s2a`, a step `s3`.
   */
  readonly at: string;
  /** Values that differ here from the step's own. */
  readonly own?: RawValues;
}

/** One row of a table as typed: its key and a value for each column. */
export type RowEntry = { readonly key: string } & Readonly<Record<string, unknown>>;

/** The raw values of a step or of the stock, as the document holds them. */
export type RawValues = Readonly<Record<string, unknown>>;

interface FieldBase {
  readonly key: string;
  readonly label: string;
  /** Whether the field matters, given the choices made in the others. */
  readonly shown?: (choices: Readonly<Record<string, string>>) => boolean;
}

export interface QuantityField extends FieldBase {
  readonly kind: "quantity";
  readonly dimension: Dimension;
  /** What stands in a new step. Empty together with `optional`: taken from the stock. */
  readonly default: string;
  readonly optional?: boolean;
  /** In millimetres, degrees or plain numbers. */
  readonly min?: number;
  readonly above?: number;
  readonly max?: number;
}

export interface ChoiceField extends FieldBase {
  readonly kind: "choice";
  readonly default: string;
  readonly options: readonly { readonly value: string; readonly label: string }[];
}

export interface TextField extends FieldBase {
  readonly kind: "text";
  readonly default: string;
}

export interface PicksField extends FieldBase {
  readonly kind: "picks";
  readonly of: PickOf;
  /** Whether each pick makes a plate of its own, named by the step and the pick's key. */
  readonly grows?: boolean;
  /** Whether it takes one thing only: picking another puts it in the place of the first. */
  readonly single?: boolean;
  /** Whether the step can do without. */
  readonly optional?: boolean;
  /** Fields in which a pick may differ from the others. */
  readonly own?: readonly string[];
}

/** A column of a table: a quantity, or a choice from words. */
export type RowColumn =
  | Omit<QuantityField, "shown">
  | {
      readonly kind: "choice";
      readonly key: string;
      readonly label: string;
      readonly default: string;
      readonly options: readonly { readonly value: string; readonly label: string }[];
    };

export interface RowsField extends FieldBase {
  readonly kind: "rows";
  /** What one row is: "hole", "leg", "corner". */
  readonly noun: string;
  readonly columns: readonly RowColumn[];
  readonly most: number;
}

export type FieldSpec = QuantityField | ChoiceField | TextField | PicksField | RowsField;

export interface FieldProblem {
  readonly field: string;
  readonly message: string;
}

/** A table's row with numbers (mm, radians) and words; columns left empty are missing. */
export interface RowValue {
  readonly key: string;
  readonly quantities: Readonly<Record<string, number | undefined>>;
  readonly choices: Readonly<Record<string, string>>;
}

/** A step's values as numbers (mm, radians), choices, picks and tables. */
export interface FieldValues {
  readonly quantities: Readonly<Record<string, number | undefined>>;
  readonly choices: Readonly<Record<string, string>>;
  readonly picks: Readonly<Record<string, readonly PickEntry[]>>;
  readonly rows: Readonly<Record<string, readonly RowValue[]>>;
  readonly problems: readonly FieldProblem[];
}

export const MOST_HOLES = 5000;
export const MOST_PICKS = 500;

export const RELIEF_SHAPES = [
  { value: "none", label: "no" },
  { value: "torn", label: "torn" },
  { value: "square", label: "square" },
  { value: "round", label: "round-ended" },
] as const;

/** Round holes, as a table that plates and flanges have. */
export const holesField: RowsField = {
  kind: "rows",
  key: "holes",
  label: "Round holes",
  noun: "hole",
  most: MOST_HOLES,
  columns: [
    { kind: "quantity", key: "x", label: "X", dimension: "length", default: "" },
    { kind: "quantity", key: "y", label: "Y", dimension: "length", default: "" },
    { kind: "quantity", key: "d", label: "Diameter", dimension: "length", default: "", above: 0, max: 1e5 },
  ],
};

export const picksOf = (raw: RawValues, field: string): readonly PickEntry[] =>
  (raw[field] as readonly PickEntry[] | undefined) ?? [];
export const rowsOf = (raw: RawValues, field: string): readonly RowEntry[] =>
  (raw[field] as readonly RowEntry[] | undefined) ?? [];

/** The choices of a step, defaults filled in. */
export function choicesOf(specs: readonly FieldSpec[], raw: RawValues): Record<string, string> {
  const out: Record<string, string> = {};
  for (const f of specs) {
    if (f.kind === "choice" || f.kind === "text")
      out[f.key] = typeof raw[f.key] === "string" ? (raw[f.key] as string) : f.default;
  }
  return out;
}

/** What stands in a quantity field: the typed text, or its default. */
export function typedText(spec: Pick<QuantityField, "key" | "default">, raw: RawValues): string {
  const value = raw[spec.key];
  return typeof value === "string" || typeof value === "number" ? String(value) : spec.default;
}

/**
 * Evaluates all fields of a step. Quantities may use each other's keys as names, and those in
 * `outer`; going round in a circle is an error at every field of the circle.
 */
export function evaluateFields(
  specs: readonly FieldSpec[],
  raw: RawValues,
  outer: Names,
  known: readonly string[],
): FieldValues {
  const choices = choicesOf(specs, raw);
  const shown = specs.filter((f) => f.shown?.(choices) ?? true);
  const quantities = shown.filter((f) => f.kind === "quantity");
  const evaluate = quantityEvaluator(quantities, raw, outer, known);
  const problems: FieldProblem[] = [];
  const values: Record<string, number | undefined> = {};
  for (const f of quantities) {
    const result = evaluate.field(f);
    if (result.ok) values[f.key] = result.value;
    else problems.push({ field: f.key, message: `${f.label}: ${result.error}` });
  }
  for (const f of shown) {
    if (f.kind === "choice" && !f.options.some((o) => o.value === choices[f.key])) {
      const words = f.options.map((o) => o.value).join(", ");
      problems.push({ field: f.key, message: `${f.label}: "${choices[f.key]}" is not one of ${words}.` });
    }
  }
  const picks: Record<string, readonly PickEntry[]> = {};
  const rows: Record<string, readonly RowValue[]> = {};
  for (const f of shown) {
    if (f.kind === "picks") picks[f.key] = picksOf(raw, f.key);
    if (f.kind === "rows") rows[f.key] = evaluateRows(f, raw, evaluate.names, evaluate.known, problems);
  }
  return { quantities: values, choices, picks, rows, problems };
}

function quantityEvaluator(
  fields: readonly QuantityField[],
  raw: RawValues,
  outer: Names,
  known: readonly string[],
) {
  const done = new Map<string, Result<number | undefined>>();
  const open: string[] = [];
  const byKey = new Map(fields.map((f) => [f.key, f]));
  const allKnown = [...known, ...fields.map((f) => f.key)];
  const names: Names = (name) => {
    // What a person has named goes before the names that fields bring along.
    const named = outer(name);
    const own = byKey.get(name);
    if (named || !own) return named;
    const result = field(own);
    if (!result.ok) return fail(`${own.label} has no value`);
    if (result.value === undefined) return undefined;
    return ok({ value: result.value, dimension: own.dimension });
  };
  const field = (f: QuantityField): Result<number | undefined> => {
    const known = done.get(f.key);
    if (known) return known;
    if (open.includes(f.key)) return fail(`it depends on itself, by way of ${[...open, f.key].join(" → ")}.`);
    open.push(f.key);
    const result = evaluateQuantity(f, typedText(f, raw), names, allKnown);
    open.pop();
    if (open.length === 0 || result.ok) done.set(f.key, result);
    return result;
  };
  return { field, names, known: allKnown };
}

function evaluateQuantity(
  f: Omit<QuantityField, "shown">,
  text: string,
  names: Names,
  known: readonly string[],
): Result<number | undefined> {
  if (text.trim() === "" && f.optional) return ok(undefined);
  const result = evaluateExpression(text, { dimension: f.dimension, names, known });
  if (!result.ok) return result;
  const shown = f.dimension === "angle" ? toDegrees(result.value) : result.value;
  const unit = { length: " mm", angle: "°", number: "" }[f.dimension];
  const say = (v: number) => `${v !== 0 && Math.abs(v) < 1e-4 ? v.toPrecision(2) : formatShort(v, 4)}${unit}`;
  const { above } = f;
  const min = leastOf(f);
  const max = f.max ?? (f.dimension === "length" ? FARTHEST : undefined);
  if (above !== undefined && shown <= above + 1e-12)
    return fail(`${say(shown)} is too small; it must be more than ${say(above)}.`);
  if (min !== undefined && shown < min - 1e-9)
    return fail(`${say(shown)} is too small; it must be at least ${say(min)}.`);
  if (max !== undefined && shown > max + 1e-9)
    return fail(`${say(shown)} is too large; it must be at most ${say(max)}.`);
  return result;
}

/** No place on a part lies farther out than this (mm): coordinates stay where double precision resolves 1e-10 mm. */
export const FARTHEST = 1e5;

/** No size that must be more than nothing is finer than this (mm): no tool cuts it, and it would vanish as rounding. */
export const FINEST = 1e-3;

function leastOf(f: Omit<QuantityField, "shown">): number | undefined {
  if (f.dimension !== "length") return f.min;
  if (f.above !== undefined) return f.above === 0 ? FINEST : f.min;
  return f.min ?? -FARTHEST;
}

const capital = (text: string) => text[0].toUpperCase() + text.slice(1);

/** A table's rows as numbers; a row with a wrong value is told, by its place and column, and left out. */
function evaluateRows(
  spec: RowsField,
  raw: RawValues,
  names: Names,
  known: readonly string[],
  problems: FieldProblem[],
): RowValue[] {
  const out: RowValue[] = [];
  rowsOf(raw, spec.key).forEach((row, i) => {
    const quantities: Record<string, number | undefined> = {};
    const choices: Record<string, string> = {};
    let whole = true;
    for (const column of spec.columns) {
      const field = `${spec.key}.${row.key}.${column.key}`;
      const title = `${capital(spec.noun)} ${i + 1}`;
      if (column.kind === "choice") {
        const word = typeof row[column.key] === "string" ? (row[column.key] as string) : column.default;
        if (column.options.some((o) => o.value === word)) choices[column.key] = word;
        else {
          whole = false;
          const words = column.options.map((o) => o.value).join(", ");
          problems.push({ field, message: `${title}: "${word}" is not one of ${words}.` });
        }
        continue;
      }
      const result = evaluateQuantity(column, typedText(column, row), names, known);
      if (result.ok) quantities[column.key] = result.value;
      else {
        whole = false;
        problems.push({ field, message: `${title}, ${column.label.toLowerCase()}: ${result.error}` });
      }
    }
    if (whole) out.push({ key: row.key, quantities, choices });
  });
  return out;
}
