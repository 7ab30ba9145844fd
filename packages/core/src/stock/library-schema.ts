import { type CHART_METHODS, MOST_CHART_POINTS, MOST_CHART_ROWS } from "../bend/chart.ts";
import { ITEM_ID_SCHEMA, type Schema } from "../fields/checking.ts";
import type { FieldSpec } from "../fields/field.ts";
import { describeFields } from "../fields/field-kinds.ts";
import { ITEM_FIELDS } from "./item-fields.ts";
import {
  LATER_SECTIONS,
  LIBRARY_FORMAT,
  LIBRARY_VERSION,
  STOCK_SECTIONS,
  type StockSection,
} from "./library.ts";

const NUMBER: Schema = { type: "number" };

function objectOf(fields: readonly FieldSpec[], first: Schema): Schema {
  const { properties, required } = describeFields(fields, { sparse: false, row: false });
  return {
    type: "object",
    required: [...Object.keys(first), ...required],
    properties: { ...first, ...properties },
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
  const plain = objectOf(ITEM_FIELDS[section], { id: ITEM_ID_SCHEMA });
  if (section !== "charts") return plain;
  return {
    ...plain,
    required: [...(plain.required as string[]), "rule"],
    properties: { ...(plain.properties as Schema), rule: RULE, testBends: ITEM_ID_SCHEMA },
  };
}

/** The schema of a card as a part keeps it: with everything it refers to. */
export function snapshotSchema(): Schema {
  const { properties } = itemSchema("cards") as { properties: Schema };
  const { material: _m, chart: _c, dies: _d, rules: _r, note: _n, ...own } = properties;
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
      rules: itemSchema("rules"),
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
    required: ["format", "version", ...STOCK_SECTIONS.filter((s) => !LATER_SECTIONS.has(s))],
    properties: {
      format: { const: LIBRARY_FORMAT },
      version: { const: LIBRARY_VERSION },
      ...Object.fromEntries(
        STOCK_SECTIONS.map((section) => [section, { type: "array", items: itemSchema(section) }]),
      ),
    },
  };
}
