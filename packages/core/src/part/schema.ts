import { KEY_SCHEMA, type Schema } from "../fields/checking.ts";
import type { FieldSpec } from "../fields/field.ts";
import { describeFields } from "../fields/field-kinds.ts";
import { TYPED_SCHEMA } from "../fields/kinds/quantity.ts";
import { OUTLINE_FORMAT, OUTLINE_VERSION } from "../outline/outline.ts";
import { STEP_KINDS } from "../steps/registry.ts";
import type { StepKind } from "../steps/step-kind.ts";
import { itemSchema, snapshotSchema } from "../stock/library-schema.ts";
import { UNITS } from "../units/display.ts";
import { BLANK_SCHEMA } from "./blank-settings.ts";
import {
  DOCUMENT_FORMAT,
  DOCUMENT_VERSION,
  LONGEST_NAME,
  MOST_MEASURES,
  MOST_OUTLINES,
  MOST_STEPS,
} from "./document.ts";
import { STOCK_FIELDS } from "./stock.ts";
import { MOST_VARIABLES, VARIABLE_NAME } from "./variables.ts";

const MEASURE_END: Schema = {
  type: "object",
  required: ["kind", "name"],
  properties: {
    kind: { enum: ["edge", "plate", "bend", "corner", "hole"] },
    name: { type: "string" },
    face: { enum: ["A", "B", "middle"], description: "Which face; as the measurement says if none is named" },
  },
};

const properties = (fields: readonly FieldSpec[]): Schema =>
  describeFields(fields, { sparse: true, row: false }).properties;

const VARIABLES: Schema = {
  type: "array",
  maxItems: MOST_VARIABLES,
  items: {
    type: "object",
    required: ["key", "name", "value"],
    properties: {
      key: KEY_SCHEMA,
      name: { type: "string", pattern: VARIABLE_NAME.source },
      value: TYPED_SCHEMA,
      measures: { enum: ["length", "angle", "number"], default: "length" },
    },
  },
};

const FOLLOWS: Schema = {
  type: "object",
  description: "The part that this one begins with and follows",
  required: ["part", "name", "revision", "steps"],
  properties: {
    part: { type: "string" },
    name: { type: "string" },
    revision: { type: "integer", minimum: 1 },
    steps: { type: "integer", minimum: 0, description: "How many steps are the other part's" },
  },
};

const outlines = (named: Naming): Schema => ({
  type: "array",
  maxItems: MOST_OUTLINES,
  description: "Outlines that steps are made by; docs/format/outline.md",
  items: {
    type: "object",
    required: ["key", "outline"],
    properties: {
      key: KEY_SCHEMA,
      kept: {
        type: "object",
        description: "The kept outline of the stock that it was taken from",
        properties: { id: { type: "string" }, revision: { type: "integer" } },
      },
      outline: named("Outline", {
        type: "object",
        required: ["format", "version", "name", "points"],
        properties: {
          format: { const: OUTLINE_FORMAT },
          version: { const: OUTLINE_VERSION },
          name: { type: "string" },
          points: { type: "object" },
          curves: { type: "array", items: { type: "object" } },
          relations: { type: "array", items: { type: "object" } },
          dimensions: { type: "array", items: { type: "object" } },
          values: { type: "array", items: { type: "object" } },
          references: { type: "array", items: { type: "object" } },
          leftOut: { type: "array", items: { type: "string" } },
        },
      }),
    },
  },
});

const MEASURES: Schema = {
  type: "array",
  maxItems: MOST_MEASURES,
  items: {
    type: "object",
    required: ["key", "from", "to"],
    properties: {
      key: KEY_SCHEMA,
      from: MEASURE_END,
      to: MEASURE_END,
      faces: {
        enum: ["inner", "outer", "middle"],
        default: "inner",
        description: "Between which faces, where the ends name none",
      },
    },
  },
};

/**
 * How a schema stands within another: in place, or as a reference by its name where whoever describes more than a
 * document keeps schemas by their names.
 */
export type Naming = (name: string, schema: Schema) => Schema;
const inPlace: Naming = (_name, schema) => schema;

const ofKind = ({ kind }: StepKind, what: string) => `${kind[0].toUpperCase()}${kind.slice(1)}${what}`;

const stepOfKind = (k: StepKind): Schema => ({
  title: k.title,
  description: k.about,
  type: "object",
  required: ["id", "kind"],
  properties: {
    id: { type: "string", pattern: "^[A-Za-z][A-Za-z0-9_-]{0,39}$" },
    kind: { const: k.kind },
    name: { type: "string", maxLength: LONGEST_NAME, description: "What a person calls it" },
    paused: { type: "boolean", description: "It is skipped, and so is what hangs on it" },
    ...properties(k.fields),
  },
});

/** The schema of a step: one of all kinds. */
export const stepSchema = (named: Naming = inPlace): Schema =>
  named("Step", { oneOf: STEP_KINDS.map((k) => named(ofKind(k, "Step"), stepOfKind(k))) });

/** The properties of fields whose values change: `null` lets a value go. */
const changing = (schemas: Schema): Schema =>
  Object.fromEntries(Object.entries(schemas).map(([key, s]) => [key, { anyOf: [s, { type: "null" }] }]));

const changedValues = (k: StepKind): Schema => {
  const { properties: all } = stepOfKind(k) as { readonly properties: Schema };
  const { id: _id, kind: _kind, ...values } = all;
  return {
    title: `Changed values of ${k.title}`,
    type: "object",
    properties: changing(values),
    additionalProperties: false,
  };
};

/** The schema of values of a step that a command changes, by the step's kind. */
export const stepValuesSchema = (named: Naming): Schema =>
  named("StepValues", {
    description: "By the kind of the step; null lets a value go, so that it stands at its default",
    anyOf: STEP_KINDS.map((k) => named(ofKind(k, "Values"), changedValues(k))),
  });

/** The schema of values of the stock that a command changes. */
export const stockValuesSchema = (named: Naming): Schema =>
  named("StockValues", {
    type: "object",
    properties: changing(stockProperties(named)),
    additionalProperties: false,
  });

/** The schema of what a part says besides its steps and its stock, as a command changes it. */
export const partValuesSchema = (named: Naming): Schema => {
  const { properties: all } = documentSchema(named) as { readonly properties: Schema };
  const { format: _f, version: _v, stock: _stock, steps: _steps, ...values } = all;
  return named("PartValues", {
    type: "object",
    properties: changing(values),
    additionalProperties: false,
  });
};

const stockProperties = (named: Naming): Schema => ({
  card: named("CardSnapshot", snapshotSchema()),
  libraryMaterial: named("Material", itemSchema("materials")),
  ...properties(STOCK_FIELDS),
});

const ACCEPTED: Schema = {
  type: "array",
  description: "Findings that are accepted as they are",
  items: {
    type: "object",
    required: ["key", "rule", "about", "reason", "by"],
    properties: {
      key: KEY_SCHEMA,
      rule: { type: "string" },
      about: { type: "string", description: "The finding's pieces, step and field by name" },
      reason: { type: "string" },
      by: { type: "string", description: "Who accepted it" },
      found: { type: "number", description: "What it measured then" },
      within: { type: "number", description: "By how much that may change before it comes back" },
    },
  },
};

/** The JSON Schema (draft 2020-12) of a part document, made from the step kinds' own fields. */
export function documentSchema(named: Naming = inPlace): Schema {
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
        properties: stockProperties(named),
      },
      units: {
        enum: [...UNITS],
        default: "mm",
        description: "In what lengths are shown; bare numbers in the document are millimetres all the same",
      },
      variables: VARIABLES,
      follows: FOLLOWS,
      outlines: outlines(named),
      measures: MEASURES,
      builtTo: { type: "string", description: "Build only up to and with this step" },
      anchor: { type: "string", description: "The plate that stays still" },
      accepted: ACCEPTED,
      blank: BLANK_SCHEMA,
      held: { type: "array", items: { type: "string" }, description: "Bends shown unfolded" },
      steps: { type: "array", maxItems: MOST_STEPS, items: stepSchema(named) },
    },
  };
}
