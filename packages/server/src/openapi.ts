import { documentSchema } from "@hillcrest/core";

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
          responses: { 201: stored, 413: invalid, 422: invalid },
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
            422: invalid,
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
          responses: { 201: stored, 404: notFound, 422: invalid },
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
      "/api/demo": {
        post: { summary: "Add the Fernhollow Ridge parts", responses: { 201: { description: "Added" } } },
      },
    },
    components: {
      schemas: {
        PartDocument: document,
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
            preview: { type: "object" },
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
