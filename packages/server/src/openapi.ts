import { documentSchema, librarySchema, STOCK_SECTIONS } from "@hillcrest/core";

const json = (schema: object) => ({ content: { "application/json": { schema } } });
const ref = (name: string) => ({ $ref: `#/components/schemas/${name}` });
const id = { name: "id", in: "path", required: true, schema: { type: "string" } };
const notFound = { description: "There is no such part", ...json(ref("Problem")) };
const invalid = {
  description: "The document or the request is wrong; every problem has a path",
  ...json(ref("Problem")),
};

/** The OpenAPI 3.1 description of the server. */
export function openApi(): object {
  const { $schema: _schema, $id: _id, ...document } = documentSchema();
  const { $schema: _librarySchema, $id: _libraryId, ...library } = librarySchema();
  const stored = { description: "The part", ...json(ref("StoredPart")) };
  return {
    openapi: "3.1.0",
    info: {
      title: "Hillcrest",
      version: "0.1.0",
      description: "Parts of bent sheet metal, kept with their revisions.",
    },
    paths: {
      "/api/parts": {
        get: {
          summary: "List parts",
          parameters: [
            { name: "bin", in: "query", schema: { enum: ["0", "1"] }, description: "1: those in the bin" },
          ],
          responses: {
            200: {
              description: "Parts with previews, the last saved first",
              ...json({ type: "array", items: ref("PartEntry") }),
            },
          },
        },
        post: {
          summary: "Make a part",
          requestBody: json({
            type: "object",
            required: ["document"],
            properties: { document: ref("PartDocument") },
          }),
          responses: { 201: stored, 413: invalid, 400: invalid },
        },
      },
      "/api/parts/{id}": {
        parameters: [id],
        get: { summary: "Read a part", responses: { 200: stored, 404: notFound } },
        put: {
          summary: "Save a part",
          requestBody: json({
            type: "object",
            required: ["revision", "document"],
            properties: { revision: { type: "integer", minimum: 1 }, document: ref("PartDocument") },
          }),
          responses: {
            200: {
              description: "The new revision",
              ...json({ type: "object", properties: { revision: { type: "integer" } } }),
            },
            404: notFound,
            409: {
              description: "Saved elsewhere since; the newer part comes along",
              ...json({
                type: "object",
                properties: { message: { type: "string" }, current: ref("StoredPart") },
              }),
            },
            413: invalid,
            400: invalid,
          },
        },
        delete: {
          summary: "Put a part into the bin",
          responses: { 204: { description: "Done" }, 404: notFound },
        },
      },
      "/api/parts/{id}/copy": {
        parameters: [id],
        post: {
          summary: "Copy a part; with follows, as one that takes over what changes there",
          requestBody: json({ type: "object", properties: { follows: { type: "boolean" } } }),
          responses: { 201: stored, 404: notFound, 400: invalid },
        },
      },
      "/api/parts/{id}/restore": {
        parameters: [id],
        post: { summary: "Take a part out of the bin", responses: { 200: stored, 404: notFound } },
      },
      "/api/parts/{id}/file": {
        parameters: [id],
        get: {
          summary: "Download the document",
          responses: { 200: { description: "The document", ...json(ref("PartDocument")) }, 404: notFound },
        },
      },
      "/api/stock": {
        get: {
          summary: "List everything in the stock library; very long tables are left out",
          responses: {
            200: {
              description: "Items with revisions",
              ...json({ type: "array", items: ref("StockEntry") }),
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
          summary:
            "What taking over the cards as they are, or as they would be after a change, does to parts",
          requestBody: json({
            type: "object",
            properties: { section: { enum: [...STOCK_SECTIONS] }, item: { type: "object" } },
          }),
          responses: {
            200: {
              description: "Each part that would change, before and after",
              ...json({ type: "array", items: { type: "object" } }),
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
        parameters: [
          { name: "section", in: "path", required: true, schema: { enum: [...STOCK_SECTIONS] } },
          id,
        ],
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
      "/api/demo": {
        post: { summary: "Add the Fernhollow Ridge parts", responses: { 201: { description: "Added" } } },
      },
    },
    components: {
      schemas: {
        PartDocument: document,
        StockLibrary: library,
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
        StoredPart: {
          type: "object",
          required: ["id", "revision", "updatedAt", "document"],
          properties: {
            id: { type: "string" },
            revision: { type: "integer" },
            updatedAt: { type: "string", format: "date-time" },
            binnedAt: { type: ["string", "null"] },
            document: ref("PartDocument"),
          },
        },
        PartEntry: {
          type: "object",
          properties: {
            id: { type: "string" },
            name: { type: "string" },
            revision: { type: "integer" },
            updatedAt: { type: "string" },
            binnedAt: { type: ["string", "null"] },
            summary: { type: ["object", "null"] },
            pictured: { type: "integer" },
          },
        },
        Problem: {
          type: "object",
          properties: {
            message: { type: "string" },
            problems: {
              type: "array",
              items: {
                type: "object",
                properties: { path: { type: "string" }, message: { type: "string" } },
              },
            },
          },
        },
      },
    },
  };
}
