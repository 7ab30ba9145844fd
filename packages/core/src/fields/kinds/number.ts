import { formatShort } from "../../units/quantity.ts";
import { isNumber, neededInWhole } from "../checking.ts";
import type { NumberField } from "../field.ts";
import type { FieldKind } from "../field-kind.ts";

const n = (v: number) => formatShort(v, 4);

export const numberKind: FieldKind<NumberField> = {
  needed: neededInWhole,
  fresh: (f) => f.default,
  check: (f, value, at, { say }) => {
    const wrong = numberProblem(f, value);
    if (wrong) say(at, wrong);
  },
  schema: (f) => {
    const unit = f.unit ?? { length: "mm", angle: "degrees", number: "" }[f.dimension];
    return {
      title: f.label,
      type: "number",
      ...(f.above === undefined ? {} : { exclusiveMinimum: f.above }),
      ...(f.min === undefined ? {} : { minimum: f.min }),
      ...(f.below === undefined ? {} : { exclusiveMaximum: f.below }),
      ...(f.max === undefined ? {} : { maximum: f.max }),
      ...(unit ? { description: unit } : {}),
    };
  },
  word: undefined,
  evaluate: undefined,
  mapExpressions: undefined,
  picks: undefined,
  within: undefined,
  items: undefined,
};

/** Why a number cannot stand in a field; nothing when it can. In the field's own unit. */
export function numberProblem(f: NumberField, value: unknown): string | undefined {
  if (!isNumber(value)) return `${f.label} must be a number.`;
  const unit = f.unit ? ` ${f.unit}` : { length: " mm", angle: "°", number: "" }[f.dimension];
  const say = (limit: string, v: number) => `${f.label}: ${n(value)}${unit} must be ${limit} ${n(v)}${unit}.`;
  if (f.above !== undefined && value <= f.above) return say("more than", f.above);
  if (f.min !== undefined && value < f.min) return say("at least", f.min);
  if (f.below !== undefined && value >= f.below) return say("less than", f.below);
  if (f.max !== undefined && value > f.max) return say("at most", f.max);
  return undefined;
}
