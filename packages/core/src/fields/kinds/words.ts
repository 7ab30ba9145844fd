import { neededInWhole } from "../checking.ts";
import type { ChoiceField, RawValues, TextField, YesField } from "../field.ts";
import type { FieldKind } from "../field-kind.ts";

const wordIn = (f: ChoiceField | TextField, raw: RawValues): string => {
  const value = raw[f.key];
  return typeof value === "string" ? value : f.default;
};

/** That a word is none of a field's; nothing when it is one. */
const unknownWord = (f: ChoiceField, word: unknown): string | undefined =>
  f.options.some((o) => o.value === word)
    ? undefined
    : `"${String(word)}" is not one of ${f.options.map((o) => o.value).join(", ")}.`;

export const choiceKind: FieldKind<ChoiceField> = {
  needed: neededInWhole,
  fresh: (f) => f.default,
  check: (f, value, at, { say }) => {
    const wrong = unknownWord(f, value);
    if (wrong) say(at, wrong);
  },
  schema: (f, { sparse }) => ({
    title: f.label,
    enum: f.options.map((o) => o.value),
    ...(sparse ? { default: f.default } : {}),
  }),
  word: wordIn,
  evaluate: (f, _raw, e) => {
    const wrong = unknownWord(f, e.values.choices[f.key]);
    if (wrong) e.wrong(f, wrong);
  },
  mapExpressions: undefined,
  picks: undefined,
  within: undefined,
  items: undefined,
};

export const textKind: FieldKind<TextField> = {
  needed: neededInWhole,
  fresh: (f) => f.default,
  check: (f, value, at, { say }) => {
    if (typeof value !== "string") say(at, `${f.label} must be a text.`);
    else if (f.needed && value.trim() === "") say(at, `${f.label} is needed.`);
    else if (value.length > f.most) say(at, `${f.label} can have at most ${f.most} characters.`);
  },
  schema: (f, { sparse }) => ({
    title: f.label,
    type: "string",
    maxLength: f.most,
    ...(f.needed ? { minLength: 1 } : {}),
    ...(sparse ? { default: f.default } : {}),
  }),
  word: wordIn,
  evaluate: undefined,
  mapExpressions: undefined,
  picks: undefined,
  within: undefined,
  items: undefined,
};

export const yesKind: FieldKind<YesField> = {
  needed: () => false,
  fresh: () => false,
  check: (f, value, at, { say }) => {
    if (typeof value !== "boolean") say(at, `${f.label} must be true or false.`);
  },
  schema: (f) => ({ title: f.label, type: "boolean" }),
  word: undefined,
  evaluate: undefined,
  mapExpressions: undefined,
  picks: undefined,
  within: undefined,
  items: undefined,
};
