import { checkList, isNumber, neededInWhole } from "../checking.ts";
import type { NumbersField } from "../field.ts";
import type { FieldKind } from "../field-kind.ts";

export const numbersKind: FieldKind<NumbersField> = {
  needed: neededInWhole,
  fresh: (f) => f.default,
  check: (f, value, at, { say }) => {
    if (Array.isArray(value) && value.length === 0) say(at, `${f.label}: give at least one.`);
    checkList(value, at, f.most, say, (entry, place) => {
      if (!isNumber(entry) || entry < f.min || entry > f.max)
        say(place, `${String(entry)} must be a number from ${f.min} to ${f.max}.`);
    });
  },
  schema: (f) => ({
    title: f.label,
    type: "array",
    minItems: 1,
    maxItems: f.most,
    items: { type: "number", minimum: f.min, maximum: f.max },
  }),
  word: undefined,
  evaluate: undefined,
  mapExpressions: undefined,
  picks: undefined,
  within: undefined,
  items: undefined,
};
