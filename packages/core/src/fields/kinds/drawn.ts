import { KEY, KEY_SCHEMA, neededInWhole } from "../checking.ts";
import type { DrawnField } from "../field.ts";
import type { FieldKind } from "../field-kind.ts";

/** One of the part's outlines, by its key; empty where none is chosen yet. */
export const drawnKind: FieldKind<DrawnField> = {
  needed: neededInWhole,
  fresh: () => "",
  check: (f, value, at, { say }) => {
    if (value !== "" && !(typeof value === "string" && KEY.test(value)))
      say(at, `${f.label} must be the key of an outline of the part.`);
  },
  schema: (f) => ({ title: f.label, ...KEY_SCHEMA, description: "The key of one of the part's outlines" }),
  word: (f, raw) => (typeof raw[f.key] === "string" ? (raw[f.key] as string) : ""),
  evaluate: undefined,
  mapExpressions: undefined,
  picks: undefined,
  within: undefined,
  items: undefined,
};
