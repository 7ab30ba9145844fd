import { type CHART_METHODS, MOST_CHART_POINTS, MOST_CHART_ROWS } from "../bend/chart.ts";
import { ITEM_FIELDS, type ItemField } from "./item-fields.ts";
import { LIBRARY_FORMAT, LIBRARY_VERSION, STOCK_SECTIONS, type StockSection } from "./library.ts";
import { ITEM_ID } from "./read-item.ts";

type Schema = Record<string, unknown>;

const ID: Schema = { type: "string", pattern: ITEM_ID.source };
const KEY: Schema = { type: "string", pattern: "^[A-Za-z0-9_-]{1,20}$" };
const NUMBER: Schema = { type: "number" };

function fieldSchema(f: ItemField): Schema {
  const title = f.label;
  switch (f.kind) {
    case "number": {
      const unit = f.unit ?? { length: "mm", angle: "degrees", number: "" }[f.dimension];
      return {
        title,
        type: "number",
        ...(f.above === undefined ? {} : { exclusiveMinimum: f.above }),
        ...(f.min === undefined ? {} : { minimum: f.min }),
        ...(f.below === undefined ? {} : { exclusiveMaximum: f.below }),
        ...(f.max === undefined ? {} : { maximum: f.max }),
        ...(unit ? { description: unit } : {}),
      };
    }
    case "text":
      return { title, type: "string", maxLength: f.most, ...(f.needed ? { minLength: 1 } : {}) };
    case "choice":
      return { title, enum: f.options.map((o) => o.value) };
    case "yes":
      return { title, type: "boolean" };
    case "refers":
      return { title, ...ID, description: `The id of an item in ${f.section}` };
    case "refersMany":
      return { title, type: "array", maxItems: f.most, uniqueItems: true, items: ID };
    case "numbers":
      return {
        title,
        type: "array",
        minItems: 1,
        maxItems: f.most,
        items: { type: "number", minimum: f.min, maximum: f.max },
      };
    case "rows":
      return {
        title,
        type: "array",
        maxItems: f.most,
        items: objectOf(f.fields, f.keyed ? { key: KEY } : {}),
      };
  }
}

function objectOf(fields: readonly ItemField[], first: Schema): Schema {
  return {
    type: "object",
    required: [
      ...Object.keys(first),
      ...fields.filter((f) => f.kind !== "yes" && !f.optional).map((f) => f.key),
    ],
    properties: { ...first, ...Object.fromEntries(fields.map((f) => [f.key, fieldSchema(f)])) },
  };
}

const GIVING: Schema = {
  gives: { enum: ["K", "BA", "BD"] },
  angleIs: { enum: ["bend angle", "opening angle"] },
  deductionTo: { enum: ["mould points", "outermost tangents"], description: "of a BD above 90°" },
};
const rule = (method: (typeof CHART_METHODS)[number], properties: Schema, optional: Schema = {}): Schema => ({
  type: "object",
  required: ["method", ...Object.keys(properties)],
  properties: { method: { const: method }, ...properties, ...optional },
});
const tuple = (...titles: string[]): Schema => ({
  type: "array",
  minItems: titles.length,
  maxItems: titles.length,
  prefixItems: titles.map((title) => ({ title, type: "number" })),
});

const RULE: Schema = {
  oneOf: [
    rule("one K", { k: NUMBER }),
    rule("K by r/t", {
      points: { type: "array", minItems: 1, maxItems: MOST_CHART_POINTS, items: tuple("r/t", "K") },
      between: { enum: ["linear", "stepwise"] },
    }),
    rule(
      "table",
      {
        ...GIVING,
        acrossThickness: { type: "boolean" },
        rows: {
          type: "array",
          minItems: 1,
          maxItems: MOST_CHART_ROWS,
          description: "They rise by thickness, then radius, then angle",
          items: tuple("thickness, mm", "radius, mm", "angle, degrees", "value"),
        },
      },
      {
        numbers: {
          type: "array",
          items: { type: "integer" },
          description: "The rows' numbers in the whole chart, when these are a part of one",
        },
      },
    ),
    rule("DIN 6935", {}, { carryOn: { type: "boolean" } }),
    rule("expression", {
      ...GIVING,
      expression: {
        type: "string",
        description: "of t and r in mm, angle in degrees, and K, as plain numbers",
      },
      k: NUMBER,
    }),
  ],
};

/** The schema of one item of a section. */
export function itemSchema(section: StockSection): Schema {
  const plain = objectOf(ITEM_FIELDS[section], { id: ID });
  if (section !== "charts") return plain;
  return {
    ...plain,
    required: [...(plain.required as string[]), "rule"],
    properties: { ...(plain.properties as Schema), rule: RULE, testBends: ID },
  };
}

/** The schema of a card as a part keeps it: with everything it refers to. */
export function snapshotSchema(): Schema {
  const { properties } = itemSchema("cards") as { properties: Schema };
  const { material: _m, chart: _c, dies: _d, note: _n, ...own } = properties;
  return {
    type: "object",
    description: "The stock card that the part is made by, as it was taken over",
    required: ["id", "name", "revision", "material", "thickness", "radii", "chart", "dies", "relief"],
    properties: {
      ...own,
      revision: { type: "integer", minimum: 1 },
      material: itemSchema("materials"),
      chart: itemSchema("charts"),
      dies: { type: "array", items: itemSchema("dies") },
    },
  };
}

/** The JSON Schema (draft 2020-12) of a stock library, made from the items' own fields. */
export function librarySchema(): Schema {
  return {
    $schema: "https://json-schema.org/draft/2020-12/schema",
    $id: "urn:hillcrest:stock",
    title: "Hillcrest stock library",
    type: "object",
    required: ["format", "version", ...STOCK_SECTIONS],
    properties: {
      format: { const: LIBRARY_FORMAT },
      version: { const: LIBRARY_VERSION },
      ...Object.fromEntries(
        STOCK_SECTIONS.map((section) => [section, { type: "array", items: itemSchema(section) }]),
      ),
    },
  };
}
