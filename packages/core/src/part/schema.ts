import { type FieldSpec, MOST_PICKS, type RowColumn } from "../steps/field.ts";
import { STEP_KINDS } from "../steps/registry.ts";
import { itemSchema, snapshotSchema } from "../stock/library-schema.ts";
import { UNITS } from "../units/display.ts";
import { DOCUMENT_FORMAT, DOCUMENT_VERSION, LONGEST_NAME, MOST_MEASURES, MOST_STEPS } from "./document.ts";
import { STOCK_FIELDS } from "./stock.ts";
import { MOST_VARIABLES, VARIABLE_NAME } from "./variables.ts";

type Schema = Record<string, unknown>;

const TYPED: Schema = {
  type: ["number", "string"],
  description: "A number (mm or degrees) or an expression with units",
};
const KEY: Schema = { type: "string", pattern: "^[A-Za-z0-9_-]{1,20}$" };

const MEASURE_END: Schema = {
  type: "object",
  required: ["kind", "name"],
  properties: {
    kind: { enum: ["edge", "plate", "bend", "corner", "hole"] },
    name: { type: "string" },
    face: { enum: ["A", "B", "middle"], description: "Which face; as the measurement says if none is named" },
  },
};

function fieldSchema(f: FieldSpec): Schema {
  switch (f.kind) {
    case "quantity":
      return { ...TYPED, title: f.label, default: f.default };
    case "choice":
      return { title: f.label, enum: f.options.map((o) => o.value), default: f.default };
    case "text":
      return { title: f.label, type: "string", maxLength: LONGEST_NAME, default: f.default };
    case "picks":
      return {
        title: f.label,
        type: "array",
        maxItems: f.single ? 1 : MOST_PICKS,
        items: {
          type: "object",
          required: ["key", "at"],
          properties: {
            key: KEY,
            at: { type: "string", description: `The name of one ${f.of}` },
            ...(f.own ? { own: { type: "object", description: "Values that differ here" } } : {}),
          },
        },
      };
    case "rows":
      return {
        title: f.label,
        type: "array",
        maxItems: f.most,
        items: {
          type: "object",
          required: ["key"],
          properties: { key: KEY, ...Object.fromEntries(f.columns.map((c) => [c.key, columnSchema(c)])) },
        },
      };
  }
}

const columnSchema = (c: RowColumn): Schema =>
  c.kind === "choice"
    ? { title: c.label, enum: c.options.map((o) => o.value), default: c.default }
    : { ...TYPED, title: c.label };

const properties = (fields: readonly FieldSpec[]): Schema =>
  Object.fromEntries(fields.map((f) => [f.key, fieldSchema(f)]));

/** The JSON Schema (draft 2020-12) of a part document, made from the step kinds' own fields. */
export function documentSchema(): Schema {
  return {
    $schema: "https://json-schema.org/draft/2020-12/schema",
    $id: "urn:hillcrest:part",
    title: "Hillcrest part document",
    type: "object",
    required: ["format", "version", "name", "stock", "steps"],
    properties: {
      format: { const: DOCUMENT_FORMAT },
      version: { const: DOCUMENT_VERSION },
      name: { type: "string", minLength: 1, maxLength: LONGEST_NAME },
      stock: {
        type: "object",
        properties: {
          card: snapshotSchema(),
          libraryMaterial: itemSchema("materials"),
          ...properties(STOCK_FIELDS),
        },
      },
      units: {
        enum: [...UNITS],
        default: "mm",
        description: "In what lengths are shown; bare numbers in the document are millimetres all the same",
      },
      variables: {
        type: "array",
        maxItems: MOST_VARIABLES,
        items: {
          type: "object",
          required: ["key", "name", "value"],
          properties: {
            key: KEY,
            name: { type: "string", pattern: VARIABLE_NAME.source },
            value: TYPED,
            measures: { enum: ["length", "angle", "number"], default: "length" },
          },
        },
      },
      follows: {
        type: "object",
        description: "The part that this one begins with and follows",
        required: ["part", "name", "revision", "steps"],
        properties: {
          part: { type: "string" },
          name: { type: "string" },
          revision: { type: "integer", minimum: 1 },
          steps: { type: "integer", minimum: 0, description: "How many steps are the other part's" },
        },
      },
      measures: {
        type: "array",
        maxItems: MOST_MEASURES,
        items: {
          type: "object",
          required: ["key", "from", "to"],
          properties: { key: KEY, from: MEASURE_END, to: MEASURE_END },
        },
      },
      builtTo: { type: "string", description: "Build only up to and with this step" },
      anchor: { type: "string", description: "The plate that stays still" },
      held: { type: "array", items: { type: "string" }, description: "Bends shown unfolded" },
      steps: {
        type: "array",
        maxItems: MOST_STEPS,
        items: {
          type: "object",
          required: ["id", "kind"],
          properties: {
            id: { type: "string", pattern: "^[A-Za-z][A-Za-z0-9_-]{0,39}$" },
            name: { type: "string", maxLength: LONGEST_NAME },
            paused: { type: "boolean" },
          },
          oneOf: STEP_KINDS.map((k) => ({
            title: k.title,
            description: k.about,
            properties: { kind: { const: k.kind }, ...properties(k.fields) },
          })),
        },
      },
    },
  };
}
