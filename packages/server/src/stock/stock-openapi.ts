import { STOCK_SECTIONS } from "@hillcrest/core";
import { id, invalid, json, listOf, notFound, ref } from "../openapi-pieces.ts";

/** Addresses of the stock library. */
export const stockPaths: object = {
  "/api/stock": {
    get: {
      summary: "List everything in the stock library; very long tables are left out",
      responses: {
        200: {
          description: "Items with revisions",
          ...listOf("StockEntry"),
        },
      },
    },
  },
  "/api/stock/library": {
    get: {
      summary: "Export the stock library",
      responses: { 200: { description: "The library", ...json(ref("StockLibrary")) } },
    },
    post: {
      summary: "Import a stock library: all of it, or nothing",
      requestBody: json({
        type: "object",
        required: ["library"],
        properties: { library: ref("StockLibrary") },
      }),
      responses: {
        200: {
          description: "How many were added and replaced",
          ...json({
            type: "object",
            properties: { added: { type: "integer" }, replaced: { type: "integer" } },
          }),
        },
        413: invalid,
        400: invalid,
      },
    },
  },
  "/api/stock/impact": {
    post: {
      summary: "What taking over the cards as they are, or as they would be after a change, does to parts",
      requestBody: json({
        type: "object",
        properties: {
          section: { enum: [...STOCK_SECTIONS] },
          item: { type: "object" },
          card: { type: "string", description: "Only parts of this card" },
        },
      }),
      responses: {
        200: {
          description:
            "Line by line as it is known: first the parts that would change, then each of them before and after",
          content: {
            "application/x-ndjson": {
              schema: {
                oneOf: [
                  {
                    type: "object",
                    required: ["parts"],
                    properties: { parts: { type: "array", items: { type: "object" } } },
                  },
                  { type: "object", required: ["id"], properties: { id: { type: "string" } } },
                ],
              },
            },
          },
        },
        400: invalid,
      },
    },
  },
  "/api/stock/take-over": {
    post: {
      summary: "Bring parts to the present state of their cards",
      requestBody: json({
        type: "object",
        required: ["parts"],
        properties: { parts: { type: "array", items: { type: "string" } } },
      }),
      responses: {
        200: {
          description: "How many were changed, and which were not",
          ...json({
            type: "object",
            properties: {
              changed: { type: "integer" },
              skipped: { type: "array", items: { type: "string" } },
            },
          }),
        },
        400: invalid,
      },
    },
  },
  "/api/stock/cards/{id}/snapshot": {
    parameters: [id],
    get: {
      summary: "A card with all that it refers to, as a part takes it over",
      responses: { 200: { description: "The card", ...json({ type: "object" }) }, 404: notFound },
    },
  },
  "/api/stock/{section}/{id}": {
    parameters: [{ name: "section", in: "path", required: true, schema: { enum: [...STOCK_SECTIONS] } }, id],
    get: {
      summary: "Read one item whole",
      responses: { 200: { description: "The item", ...json(ref("StockEntry")) }, 404: notFound },
    },
    put: {
      summary: "Save an item against the revision it started from; 0 makes a new one",
      requestBody: json({
        type: "object",
        required: ["revision", "item"],
        properties: { revision: { type: "integer", minimum: 0 }, item: { type: "object" } },
      }),
      responses: {
        200: {
          description: "The new revision",
          ...json({ type: "object", properties: { revision: { type: "integer" } } }),
        },
        404: notFound,
        409: { description: "Saved elsewhere since", ...json(ref("Problem")) },
        400: invalid,
      },
    },
    delete: {
      summary: "Take an item away",
      responses: {
        204: { description: "Done" },
        404: notFound,
        409: { description: "Something else uses it", ...json(ref("Problem")) },
      },
    },
  },
};

export const stockSchemas: object = {
  StockEntry: {
    type: "object",
    required: ["section", "revision", "updatedAt", "item"],
    properties: {
      section: { enum: [...STOCK_SECTIONS] },
      revision: { type: "integer" },
      updatedAt: { type: "string", format: "date-time" },
      item: { type: "object" },
      rows: { type: "integer", description: "How many rows a chart's table has" },
    },
  },
};
