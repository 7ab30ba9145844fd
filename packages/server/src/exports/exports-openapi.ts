import { FILE_FORMATS, FOLDED_VIEWS } from "@hillcrest/core";
import { id, invalid, json, listOf, notFound, ref } from "../openapi-pieces.ts";

const query = (name: string, schema: object, description: string) => ({
  name,
  in: "query",
  schema,
  description,
});
const job = { name: "job", in: "path", required: true, schema: { type: "string" } };

/** Addresses of files that leave. */
export const exportPaths: object = {
  "/api/parts/{id}/files/{format}": {
    parameters: [
      id,
      { name: "format", in: "path", required: true, schema: { enum: FILE_FORMATS.map((f) => f.key) } },
    ],
    get: {
      summary: "The part as a file; a DXF is read back first, and one that is not the blank is refused",
      parameters: [
        query("preset", { type: "string" }, "A preset by its id or name; the part's own if none is named"),
        query("version", { enum: ["r12", "r2000"] }, "Of a DXF"),
        query("units", { enum: ["mm", "in"] }, "In which the file is written"),
        query(
          "fold",
          { type: "number", minimum: 0, maximum: 1 },
          "How far it is folded where it is shown folded",
        ),
        query("view", { enum: FOLDED_VIEWS }, "From where a folded picture is seen"),
        query("dots", { type: "integer" }, "How wide a PNG is"),
        query("anyway", { enum: ["1"] }, "Also where findings stop the part; the file then says so"),
      ],
      responses: { 200: { description: "The file" }, 400: invalid, 404: notFound, 422: invalid },
    },
  },
  "/api/parts/{id}/exports": {
    parameters: [id],
    get: {
      summary: "What has left of the part",
      responses: { 200: { description: "The newest first", ...listOf("Export") }, 404: notFound },
    },
    post: {
      summary: "Keep that a file was saved, with its proof",
      requestBody: json(ref("Export")),
      responses: { 201: { description: "Kept", ...json(ref("Export")) }, 400: invalid, 404: notFound },
    },
  },
  "/api/parts/{id}/compare": {
    parameters: [id],
    post: {
      summary: "Hold a DXF that came back against the blank",
      requestBody: json({
        type: "object",
        required: ["dxf"],
        properties: { dxf: { type: "string" }, within: { type: "number", description: "mm" } },
      }),
      responses: { 200: { description: "What differs" }, 400: invalid, 404: notFound, 422: invalid },
    },
  },
  "/api/exports": {
    post: {
      summary: "Begin an export of many parts",
      requestBody: json({
        type: "object",
        required: ["parts", "as"],
        properties: {
          parts: {
            type: "array",
            items: {
              type: "object",
              properties: { id: { type: "string" }, quantity: { type: "integer", minimum: 1 } },
            },
          },
          as: { enum: ["zip", "together"] },
          format: { enum: FILE_FORMATS.map((f) => f.key) },
          preset: { type: ["string", "object"] },
          pattern: { type: "string" },
          spacing: { type: "number", description: "mm" },
          stocks: {
            enum: ["files", "groups"],
            description:
              "Side by side: a file for each stock (the usual), or all in one, each stock in a group",
          },
          apart: { type: "boolean" },
          anyway: { type: "boolean" },
          by: { type: "string" },
        },
      }),
      responses: { 202: { description: "Begun", ...json(ref("BatchState")) }, 400: invalid },
    },
  },
  "/api/exports/formats": {
    get: { summary: "The kinds of file there are", responses: { 200: { description: "A list" } } },
  },
  "/api/exports/{job}": {
    parameters: [job],
    get: {
      summary: "How far an export is",
      responses: { 200: { description: "Its state", ...json(ref("BatchState")) }, 404: notFound },
    },
    delete: {
      summary: "Cancel an export, or let go of its file",
      responses: { 204: { description: "Done" }, 404: notFound },
    },
  },
  "/api/exports/{job}/file": {
    parameters: [job],
    get: { summary: "The finished file", responses: { 200: { description: "The file" }, 404: notFound } },
  },
};

export const exportSchemas: object = {
  Export: {
    type: "object",
    properties: {
      id: { type: "integer" },
      madeAt: { type: "string", format: "date-time" },
      by: { type: "string" },
      revision: { type: "integer" },
      format: { type: "string" },
      file: { type: "string" },
      sha256: { type: "string" },
      preset: { type: "string" },
      proof: {
        type: "array",
        items: { type: "object", properties: { holds: { type: "boolean" }, text: { type: "string" } } },
      },
      facts: { type: "object" },
    },
  },
  BatchState: {
    type: "object",
    properties: {
      id: { type: "string" },
      state: { enum: ["working", "ready", "failed", "cancelled"] },
      done: { type: "integer" },
      total: { type: "integer" },
      doing: { type: "string" },
      refused: {
        type: "array",
        items: { type: "object", properties: { part: { type: "string" }, why: { type: "string" } } },
      },
      stopped: {
        type: "array",
        description: "Written although findings stop them",
        items: { type: "object", properties: { part: { type: "string" }, why: { type: "string" } } },
      },
      problem: { type: "string" },
      file: { type: "string" },
    },
  },
};
