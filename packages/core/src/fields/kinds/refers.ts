import { checkList, ITEM_ID, ITEM_ID_SCHEMA, neededInWhole } from "../checking.ts";
import type { RefersField, RefersManyField } from "../field.ts";
import type { FieldKind } from "../field-kind.ts";

const isId = (value: unknown): value is string => typeof value === "string" && ITEM_ID.test(value);

export const refersKind: FieldKind<RefersField> = {
  needed: neededInWhole,
  fresh: () => "",
  check: (f, value, at, { say }) => {
    if (!isId(value)) say(at, `${f.label} must be chosen.`);
  },
  schema: (f) => ({
    title: f.label,
    ...ITEM_ID_SCHEMA,
    description: `The id of an item in ${f.section}`,
  }),
  word: undefined,
  evaluate: undefined,
  mapExpressions: undefined,
  picks: undefined,
  within: undefined,
  items: (f, value) => (isId(value) ? [{ section: f.section, id: value }] : []),
};

export const refersManyKind: FieldKind<RefersManyField> = {
  needed: neededInWhole,
  fresh: () => [],
  check: (f, value, at, { say }) => {
    checkList(value, at, f.most, say, (entry, place) => {
      if (!isId(entry)) say(place, "This must be an id.");
    });
    if (Array.isArray(value) && new Set(value).size < value.length) say(at, "Something is named twice.");
  },
  schema: (f) => ({
    title: f.label,
    type: "array",
    maxItems: f.most,
    uniqueItems: true,
    items: ITEM_ID_SCHEMA,
  }),
  word: undefined,
  evaluate: undefined,
  mapExpressions: undefined,
  picks: undefined,
  within: undefined,
  items: (f, value) =>
    Array.isArray(value) ? value.filter(isId).map((id) => ({ section: f.section, id })) : [],
};
