import { fail, ok, type Result } from "../result.ts";
import type { Names } from "../units/expression.ts";
import type { Plain, Say, Schema, Where } from "./checking.ts";
import type {
  FieldOf,
  FieldProblem,
  FieldSpec,
  FieldValues,
  PickEntry,
  PicksField,
  QuantityField,
  RawValues,
} from "./field.ts";
import { typedText } from "./field.ts";
import type {
  Checking,
  Describing,
  EvaluatedRow,
  Evaluating,
  FieldKind,
  ItemReference,
  LastValues,
  ObjectWithin,
} from "./field-kind.ts";
import { drawnKind } from "./kinds/drawn.ts";
import { itemKind } from "./kinds/item.ts";
import { numberKind } from "./kinds/number.ts";
import { numbersKind } from "./kinds/numbers.ts";
import { picksKind } from "./kinds/picks.ts";
import { evaluateQuantity, quantityKind } from "./kinds/quantity.ts";
import { refersKind, refersManyKind } from "./kinds/refers.ts";
import { rowsKind } from "./kinds/rows.ts";
import { choiceKind, textKind, yesKind } from "./kinds/words.ts";

/** Every kind of field there is. A new kind is a file in `kinds/`, its type in `field.ts` and a line here. */
const FIELD_KINDS: { readonly [K in FieldSpec["kind"]]: FieldKind<FieldOf<K>> } = {
  quantity: quantityKind,
  number: numberKind,
  numbers: numbersKind,
  choice: choiceKind,
  text: textKind,
  yes: yesKind,
  refers: refersKind,
  refersMany: refersManyKind,
  drawn: drawnKind,
  item: itemKind,
  picks: picksKind,
  rows: rowsKind,
};

const kindOf = (field: FieldSpec): FieldKind<FieldSpec> => FIELD_KINDS[field.kind] as FieldKind<FieldSpec>;

/** Says what is wrong with values as they are kept. `sparse`: what is missing stands at its default. */
export function checkFields(
  fields: readonly FieldSpec[],
  raw: Plain,
  path: string,
  how: { readonly say: Say; readonly sparse: boolean },
): void {
  const walk = (among: readonly FieldSpec[], values: Plain, place: string, row: boolean) => {
    const checking: Checking = { ...how, row, among, within: walk };
    for (const field of among) {
      const kind = kindOf(field);
      const value = values[field.key];
      if (value === undefined && !kind.needed(field, checking)) continue;
      kind.check(field, value, `${place}/${field.key}`, checking);
    }
  };
  walk(fields, raw, path, false);
}

/** The schemas of fields by their keys, and which of them an object must have. */
export function describeFields(
  fields: readonly FieldSpec[],
  where: Where,
): { readonly properties: Schema; readonly required: readonly string[] } {
  const describing: Describing = {
    ...where,
    among: fields,
    properties: (own) => describeFields(own, where).properties,
    object: (columns, first) => {
      const { properties, required } = describeFields(columns, { ...where, row: true });
      return {
        type: "object",
        required: [...Object.keys(first), ...required],
        properties: { ...first, ...properties },
      };
    },
  };
  return {
    properties: Object.fromEntries(fields.map((f) => [f.key, kindOf(f).schema(f, describing)])),
    required: fields.filter((f) => kindOf(f).needed(f, where)).map((f) => f.key),
  };
}

/** What stands in a new row or item: values for all fields but those that may say nothing. */
export const freshValues = (fields: readonly FieldSpec[]): Record<string, unknown> =>
  Object.fromEntries(fields.filter((f) => !f.optional).map((f) => [f.key, kindOf(f).fresh(f)]));

/** The words that stand in fields, defaults filled in. */
export function choicesOf(fields: readonly FieldSpec[], raw: RawValues): Record<string, string> {
  const out: Record<string, string> = {};
  for (const field of fields) {
    const { word } = kindOf(field);
    if (word) out[field.key] = word(field, raw);
  }
  return out;
}

/** The fields that matter, given the choices made. */
export const shownFields = (fields: readonly FieldSpec[], choices: Readonly<Record<string, string>>) =>
  fields.filter((f) => f.shown?.(choices) ?? true);

/** What is picked in fields, by field. */
export const picksOfFields = (
  fields: readonly FieldSpec[],
  raw: RawValues,
): { readonly field: PicksField; readonly picks: readonly PickEntry[] }[] =>
  fields.flatMap((f) => kindOf(f).picks?.(f, raw) ?? []);

/** The objects that stand within the values of fields: rows, picks and what is different in one. */
export const objectsWithin = (fields: readonly FieldSpec[], raw: RawValues): readonly ObjectWithin[] =>
  fields.flatMap((f) => (raw[f.key] === undefined ? [] : (kindOf(f).within?.(f, raw[f.key], fields) ?? [])));

/** The items of the stock library that fields name. */
export const itemsOfFields = (fields: readonly FieldSpec[], raw: RawValues): ItemReference[] =>
  fields.flatMap((f) => kindOf(f).items?.(f, raw[f.key]) ?? []);

/** Raw values with every expression in them mapped, and nothing else: no word, name or pick. */
export function mapExpressions<T extends RawValues>(
  fields: readonly FieldSpec[],
  raw: T,
  map: (text: unknown) => unknown,
): T {
  const out: Record<string, unknown> = { ...raw };
  for (const field of fields) {
    const value = raw[field.key];
    if (value === undefined) continue;
    const mapped = kindOf(field).mapExpressions;
    if (mapped)
      out[field.key] = mapped(field, value, map, (values, own = fields) => mapExpressions(own, values, map));
  }
  return out as T;
}

/**
 * Evaluates all fields of a step. Quantities may use each other's keys as names, and those in
 * `outer`; going round in a circle is an error at every field of the circle.
 *
 * @param last What they were before, where `outer` stands for the same as then: a row that is the very same record need
 * not be evaluated again.
 */
export function evaluateFields(
  fields: readonly FieldSpec[],
  raw: RawValues,
  outer: Names,
  known: readonly string[],
  last?: LastValues,
): FieldValues {
  const choices = choicesOf(fields, raw);
  const shown = shownFields(fields, choices);
  const evaluator = quantityEvaluator(
    shown.filter((f): f is QuantityField => f.kind === "quantity"),
    raw,
    outer,
    known,
  );
  const problems: FieldProblem[] = [];
  const values: Evaluating["values"] = { quantities: {}, choices, picks: {}, rows: {} };
  const row = (columns: readonly FieldSpec[], cells: RawValues, at: string, title: string): EvaluatedRow => {
    const found = evaluateRow(columns, cells, evaluator);
    const own = found.problems.map(({ field, message }): FieldProblem => {
      const column = columns.find((c) => c.key === field)!;
      return { field: `${at}.${field}`, message: `${title}, ${column.label.toLowerCase()}: ${message}` };
    });
    problems.push(...own);
    return { ...found, problems: own };
  };
  const evaluating: Evaluating = {
    values,
    quantity: evaluator.field,
    wrong: (field, message) => problems.push({ field: field.key, message: `${field.label}: ${message}` }),
    row,
    last: last && sameNames(fields, raw, last.raw) ? last : undefined,
  };
  for (const field of shown) kindOf(field).evaluate?.(field, raw, evaluating);
  return { ...values, problems };
}

/** Whether the fields whose keys are names, and the choices by which they are shown, say the same in two steps. */
const sameNames = (fields: readonly FieldSpec[], raw: RawValues, last: RawValues): boolean =>
  fields.every((f) => f.kind === "rows" || f.kind === "picks" || raw[f.key] === last[f.key]);

/** A row's cells: they use the names of the step's fields, but not each other's. */
function evaluateRow(
  columns: readonly FieldSpec[],
  cells: RawValues,
  { names, known }: { readonly names: Names; readonly known: readonly string[] },
): EvaluatedRow {
  const problems: FieldProblem[] = [];
  const quantities: Record<string, number | undefined> = {};
  const choices = choicesOf(columns, cells);
  const evaluating: Evaluating = {
    values: { quantities, choices, picks: {}, rows: {} },
    quantity: (field) => evaluateQuantity(field, typedText(field, cells), names, known),
    wrong: (field, message) => problems.push({ field: field.key, message }),
    row: () => ({ quantities: {}, choices: {}, problems: [] }),
    last: undefined,
  };
  for (const column of shownFields(columns, choices)) kindOf(column).evaluate?.(column, cells, evaluating);
  return { quantities, choices, problems };
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
