import { fail, ok, type Result } from "../result.ts";
import { evaluateExpression, type Names } from "../units/expression.ts";
import { type Dimension, formatShort, toDegrees } from "../units/quantity.ts";

/** What a person typed: an expression, or a bare number (mm, degrees or plain). */
export type Typed = string | number;

/** A picked edge. `key` stays the same when others are added or removed, and names what grows from it. */
export interface EdgePick {
  readonly key: string;
  /** `<plate>.<role>`, for example `s1.north`. */
  readonly at: string;
}

/** A round hole as typed. */
export interface HoleEntry {
  readonly key: string;
  readonly x: Typed;
  readonly y: Typed;
  readonly d: Typed;
}

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

export interface EdgesField extends FieldBase {
  readonly kind: "edges";
}

export interface HolesField extends FieldBase {
  readonly kind: "holes";
}

export type FieldSpec = QuantityField | ChoiceField | TextField | EdgesField | HolesField;

export interface FieldProblem {
  readonly field: string;
  readonly message: string;
}

/** A hole with numbers: millimetres. */
export interface HoleValue {
  readonly key: string;
  readonly x: number;
  readonly y: number;
  readonly diameter: number;
}

/** A step's values as numbers (mm, radians), choices, edges and holes. */
export interface FieldValues {
  readonly quantities: Readonly<Record<string, number | undefined>>;
  readonly choices: Readonly<Record<string, string>>;
  readonly edges: readonly EdgePick[];
  readonly holes: readonly HoleValue[];
  readonly problems: readonly FieldProblem[];
}

export const MOST_HOLES = 5000;

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
export function typedText(spec: QuantityField, raw: RawValues): string {
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
  const edges = (specs.some((f) => f.kind === "edges") ? (raw.edges as EdgePick[]) : undefined) ?? [];
  const holes = evaluateHoles(specs, raw, evaluate.names, evaluate.known, problems);
  return { quantities: values, choices, edges, holes, problems };
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
    const own = byKey.get(name);
    if (!own) return outer(name);
    const result = field(own);
    if (!result.ok) return fail(`${own.label} has no value`);
    if (result.value === undefined) return outer(name);
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
  f: QuantityField,
  text: string,
  names: Names,
  known: readonly string[],
): Result<number | undefined> {
  if (text.trim() === "" && f.optional) return ok(undefined);
  const result = evaluateExpression(text, { dimension: f.dimension, names, known });
  if (!result.ok) return result;
  const shown = f.dimension === "angle" ? toDegrees(result.value) : result.value;
  const unit = { length: " mm", angle: "°", number: "" }[f.dimension];
  const say = (v: number) => `${formatShort(v, 4)}${unit}`;
  if (f.above !== undefined && shown <= f.above + 1e-12)
    return fail(`${say(shown)} is too small; it must be more than ${say(f.above)}.`);
  if (f.min !== undefined && shown < f.min - 1e-9)
    return fail(`${say(shown)} is too small; it must be at least ${say(f.min)}.`);
  if (f.max !== undefined && shown > f.max + 1e-9)
    return fail(`${say(shown)} is too large; it must be at most ${say(f.max)}.`);
  return result;
}

function evaluateHoles(
  specs: readonly FieldSpec[],
  raw: RawValues,
  names: Names,
  known: readonly string[],
  problems: FieldProblem[],
): HoleValue[] {
  if (!specs.some((f) => f.kind === "holes")) return [];
  const out: HoleValue[] = [];
  const entries = (raw.holes as readonly HoleEntry[] | undefined) ?? [];
  entries.forEach((hole, i) => {
    const read = (axis: "x" | "y" | "d") => {
      const result = evaluateExpression(hole[axis], { dimension: "length", names, known });
      if (!result.ok)
        problems.push({ field: `holes.${hole.key}.${axis}`, message: `Hole ${i + 1}: ${result.error}` });
      return result.ok ? result.value : undefined;
    };
    const [x, y, diameter] = [read("x"), read("y"), read("d")];
    if (x === undefined || y === undefined || diameter === undefined) return;
    if (diameter <= 0 || diameter > 1e5) {
      const message = `Hole ${i + 1}: a diameter of ${formatShort(diameter)} mm cannot be cut; it must be more than 0 mm.`;
      problems.push({ field: `holes.${hole.key}.d`, message });
      return;
    }
    out.push({ key: hole.key, x, y, diameter });
  });
  return out;
}
