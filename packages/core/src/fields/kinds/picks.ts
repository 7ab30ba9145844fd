import { checkEntries, isPlain, KEY_SCHEMA, neededInWhole } from "../checking.ts";
import { type PickOf, type PicksField, picksOf } from "../field.ts";
import type { FieldKind } from "../field-kind.ts";

export const MOST_PICKS = 500;

const NAME = "[A-Za-z0-9_-]+";
const ROLE = "[A-Za-z0-9_@-]+";
const PICK_FORMS: Readonly<Record<PickOf, { form: RegExp; example: string; what: string }>> = {
  edge: {
    form: new RegExp(`^${NAME}\\.${ROLE}$`),
    example: "s1.north",
    what: "An edge is named <plate>.<edge>",
  },
  corner: {
    form: new RegExp(`^${NAME}\\.${ROLE}\\+${ROLE}$`),
    example: "s1.north+east",
    what: "A corner is named <plate>.<edge>+<edge>",
  },
  bend: { form: new RegExp(`^${NAME}$`), example: "s2a", what: "A bend has one name" },
  plate: { form: new RegExp(`^${NAME}$`), example: "s2a", what: "A plate has one name" },
  step: { form: new RegExp(`^${NAME}$`), example: "s3", what: "A step has one name" },
};

const mostOf = (f: PicksField) => (f.single ? 1 : MOST_PICKS);

export const picksKind: FieldKind<PicksField> = {
  needed: neededInWhole,
  fresh: () => [],
  check: (f, value, at, { say, among, within }) =>
    checkEntries(value, at, mostOf(f), say, (entry, place) => {
      const { form, example, what } = PICK_FORMS[f.of];
      if (typeof entry.at !== "string" || !form.test(entry.at))
        say(`${place}/at`, `${what}, for example "${example}".`);
      if (entry.own === undefined) return;
      if (!isPlain(entry.own)) return say(`${place}/own`, "This must be an object.");
      const own = among.filter((o) => f.own?.includes(o.key));
      within(own, entry.own, `${place}/own`, false);
    }),
  schema: (f) => ({
    title: f.label,
    type: "array",
    maxItems: mostOf(f),
    items: {
      type: "object",
      required: ["key", "at"],
      properties: {
        key: KEY_SCHEMA,
        at: { type: "string", description: `The name of one ${f.of}` },
        ...(f.own ? { own: { type: "object", description: "Values that differ here" } } : {}),
      },
    },
  }),
  word: undefined,
  evaluate: (f, raw, e) => {
    e.values.picks[f.key] = picksOf(raw, f.key);
  },
  mapExpressions: (f, value, _map, within) =>
    picksOf({ [f.key]: value }, f.key).map((p) => (p.own ? { ...p, own: within(p.own) } : p)),
  picks: (f, raw) => ({ field: f, picks: picksOf(raw, f.key) }),
  items: undefined,
};
