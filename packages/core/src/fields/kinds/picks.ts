import { checkEntries, isPlain, KEY_SCHEMA, neededInWhole } from "../checking.ts";
import { type PickOf, type PicksField, picksOf } from "../field.ts";
import type { FieldKind, ObjectWithin } from "../field-kind.ts";

export const MOST_PICKS = 500;

const NAME = "[A-Za-z0-9_-]+";
const ROLE = "[A-Za-z0-9_@-]+";

interface PickForm {
  readonly form: RegExp;
  readonly what: string;
  /** How such a name is made, in sentences. */
  readonly explained: string;
  readonly examples: readonly string[];
}

const PLATES =
  "A plate is called like the step that makes it from nothing (s1), or like a step and the key of its pick (s2a)";

const PICK_FORMS: Readonly<Record<PickOf, PickForm>> = {
  edge: {
    form: new RegExp(`^${NAME}\\.${ROLE}$`),
    what: "An edge is named <plate>.<edge>",
    explained: `<plate>.<edge>. ${PLATES}. Its edges are north, east, south and west of a rectangle; end, left and right of a flange, seen with the flange pointing away and side B towards the eye; <step>-<side> of an opening or a lug. A piece of an edge that was cut in two is <edge>@<what cut it>.`,
    examples: ["s1.north", "s2a.end", "s1.s4-west"],
  },
  corner: {
    form: new RegExp(`^${NAME}\\.${ROLE}\\+${ROLE}$`),
    what: "A corner is named <plate>.<edge>+<edge>",
    explained: `<plate>.<edge>+<edge>, the edges clockwise round the plate, each named as an edge of that plate is.`,
    examples: ["s1.north+east", "s2a.end+right"],
  },
  bend: {
    form: new RegExp(`^${NAME}$`),
    what: "A bend has one name",
    explained: "A bend is called like the plate that it carries.",
    examples: ["s2a"],
  },
  plate: {
    form: new RegExp(`^${NAME}$`),
    what: "A plate has one name",
    explained: `${PLATES}.`,
    examples: ["s1", "s2a"],
  },
  step: {
    form: new RegExp(`^${NAME}$`),
    what: "A step has one name",
    explained: "A step is named by its id.",
    examples: ["s3"],
  },
};

const mostOf = (f: PicksField) => (f.single ? 1 : MOST_PICKS);

export const picksKind: FieldKind<PicksField> = {
  needed: neededInWhole,
  fresh: () => [],
  check: (f, value, at, { say, among, within }) =>
    checkEntries(value, at, mostOf(f), say, (entry, place) => {
      const { form, examples, what } = PICK_FORMS[f.of];
      if (typeof entry.at !== "string" || !form.test(entry.at))
        say(`${place}/at`, `${what}, for example "${examples[0]}".`);
      if (entry.own === undefined) return;
      if (!isPlain(entry.own)) return say(`${place}/own`, "This must be an object.");
      const own = among.filter((o) => f.own?.includes(o.key));
      within(own, entry.own, `${place}/own`, false);
    }),
  schema: (f, { among, properties }) => ({
    title: f.label,
    type: "array",
    maxItems: mostOf(f),
    items: {
      type: "object",
      required: ["key", "at"],
      properties: {
        key: KEY_SCHEMA,
        at: {
          type: "string",
          pattern: PICK_FORMS[f.of].form.source,
          description: PICK_FORMS[f.of].explained,
          examples: PICK_FORMS[f.of].examples,
        },
        ...(f.own
          ? {
              own: {
                type: "object",
                description: "Values that differ here",
                properties: properties(among.filter((o) => f.own!.includes(o.key))),
              },
            }
          : {}),
      },
    },
  }),
  word: undefined,
  evaluate: (f, raw, e) => {
    e.values.picks[f.key] = picksOf(raw, f.key);
  },
  mapExpressions: (f, value, _map, within) =>
    picksOf({ [f.key]: value }, f.key).map((p) => (p.own ? { ...p, own: within(p.own) } : p)),
  within: (f, value, among) =>
    Array.isArray(value)
      ? value.flatMap((entry: unknown, i): ObjectWithin[] => {
          const path = `${f.key}/${i}`;
          const pick = {
            fields: [],
            values: entry,
            path,
            also: f.own ? ["key", "at", "own"] : ["key", "at"],
          };
          if (!f.own || !isPlain(entry) || entry.own === undefined) return [pick];
          const fields = among.filter((o) => f.own!.includes(o.key));
          return [pick, { fields, values: entry.own, path: `${path}/own`, also: [], own: true }];
        })
      : [],
  picks: (f, raw) => ({ field: f, picks: picksOf(raw, f.key) }),
  items: undefined,
};
