import { documentSchema, librarySchema } from "@hillcrest/core";
import { exportPaths, exportSchemas } from "./exports/exports-openapi.ts";
import { partPaths, partSchemas } from "./parts/parts-openapi.ts";
import { stockPaths, stockSchemas } from "./stock/stock-openapi.ts";

/** The OpenAPI 3.1 description of the server. */
export function openApi(): object {
  const { $schema: _schema, $id: _id, ...document } = documentSchema();
  const { $schema: _librarySchema, $id: _libraryId, ...library } = librarySchema();
  return {
    openapi: "3.1.0",
    info: {
      title: "Hillcrest",
      version: "0.1.0",
      description: "Parts of bent sheet metal, kept with their revisions.",
    },
    paths: {
      ...partPaths,
      ...stockPaths,
      ...exportPaths,
      "/api/demo": {
        post: { summary: "Add the Fernhollow Ridge parts", responses: { 201: { description: "Added" } } },
      },
    },
    components: {
      schemas: {
        PartDocument: document,
        StockLibrary: library,
        ...partSchemas,
        ...stockSchemas,
        ...exportSchemas,
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
