import { fail, ok, type Result } from "../../result.ts";
import { evaluateExpression, type Names } from "../../units/expression.ts";
import { formatShort, toDegrees } from "../../units/quantity.ts";
import { mm } from "../../units/spoken-length.ts";
import { checkTyped, neededInWhole, type Schema } from "../checking.ts";
import type { QuantityField } from "../field.ts";
import type { FieldKind } from "../field-kind.ts";

/** No place on a part lies farther out than this (mm): coordinates stay where double precision resolves 1e-10 mm. */
export const FARTHEST = 1e5;

/** No size that must be more than nothing is finer than this (mm): no tool cuts it, and it would vanish as rounding. */
export const FINEST = 1e-3;

export const TYPED_SCHEMA: Schema = {
  type: ["number", "string"],
  description: "A number (mm or degrees) or an expression with units",
};

export const quantityKind: FieldKind<QuantityField> = {
  needed: (f, where) => neededInWhole(f, where) || (where.row && f.default === "" && !f.optional),
  fresh: (f) => f.start ?? (f.default === "" ? "0" : f.default),
  check: (_f, value, at, { say }) => checkTyped(value, at, say),
  schema: (f) => ({ ...TYPED_SCHEMA, title: f.label, default: f.default }),
  word: undefined,
  evaluate: (f, _raw, e) => {
    const result = e.quantity(f);
    if (result.ok) e.values.quantities[f.key] = result.value;
    else e.wrong(f, result.error);
  },
  mapExpressions: (_f, value, map) => map(value),
  picks: undefined,
  within: undefined,
  items: undefined,
};

/**
 * The number that a text stands for, in mm, radians or plain; nothing where it is empty and may be. The error says
 * what is wrong with it, or which limit of the field it breaks.
 */
export function evaluateQuantity(
  f: QuantityField,
  text: string,
  names: Names,
  known: readonly string[],
): Result<number | undefined> {
  if (text.trim() === "" && f.optional) return ok(undefined);
  const result = evaluateExpression(text, { dimension: f.dimension, names, known });
  if (!result.ok) return result;
  const shown = f.dimension === "angle" ? toDegrees(result.value) : result.value;
  const say = (v: number) => {
    const tiny = v !== 0 && Math.abs(v) < 1e-4;
    if (f.dimension === "length") return tiny ? `${v.toPrecision(2)} mm` : mm(v, 4);
    return `${tiny ? v.toPrecision(2) : formatShort(v, 4)}${f.dimension === "angle" ? "°" : ""}`;
  };
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

function leastOf(f: QuantityField): number | undefined {
  if (f.dimension !== "length") return f.min;
  if (f.above !== undefined) return f.above === 0 ? FINEST : f.min;
  return f.min ?? -FARTHEST;
}
