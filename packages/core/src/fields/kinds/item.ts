import { isPlain, neededInWhole } from "../checking.ts";
import type { ItemField } from "../field.ts";
import type { FieldKind } from "../field-kind.ts";

/** An item of the stock library that is kept whole where it is named, or one that every shop has, by its id. */
export const itemKind: FieldKind<ItemField> = {
  needed: neededInWhole,
  fresh: (f) => f.default,
  check: (f, value, at, { say }) => {
    if (typeof value === "string") {
      if (!f.own.some(({ id }) => id === value))
        say(
          at,
          `"${value.slice(0, 60)}" is none of those that every shop has: ${f.own.map(({ id }) => id).join(", ")}.`,
        );
    } else if (isPlain(value)) f.check(value, at, say);
    else say(at, `${f.label} must be the id of one that every shop has, or the whole of one.`);
  },
  schema: (f) => ({
    title: f.label,
    description: "One that every shop has, by its id, or the whole of one",
    oneOf: [
      { enum: ["", ...f.own.map(({ id }) => id)].filter((id) => id !== "" || f.default === "") },
      { type: "object" },
    ].filter((s) => s.enum?.length !== 0),
    default: f.default,
  }),
  word: (f, raw) => {
    const value = raw[f.key];
    return isPlain(value) ? String(value.id) : typeof value === "string" ? value : f.default;
  },
  evaluate: undefined,
  mapExpressions: undefined,
  picks: undefined,
  within: undefined,
  items: undefined,
};
