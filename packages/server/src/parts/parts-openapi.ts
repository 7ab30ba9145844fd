import { id, invalid, json, listOf, notFound, ref } from "../openapi-pieces.ts";

const stored = { description: "The part", ...json(ref("StoredPart")) };
const saved = {
  description: "The new revision",
  ...json({ type: "object", properties: { revision: { type: "integer" } } }),
};
const stale = {
  description: "Saved elsewhere since; the newer part comes along",
  ...json({
    type: "object",
    properties: { message: { type: "string" }, current: ref("StoredPart") },
  }),
};
const number = { name: "number", in: "path", required: true, schema: { type: "integer", minimum: 1 } };
const fromRevision = {
  type: "object",
  required: ["revision"],
  properties: { revision: { type: "integer", minimum: 1 } },
};
const revisionProperties = {
  number: { type: "integer" },
  madeAt: { type: "string", format: "date-time" },
  said: { type: "array", items: { type: "string" } },
  name: { type: ["string", "null"] },
};

/** Addresses of parts and of their history. */
export const partPaths: object = {
  "/api/parts": {
    get: {
      summary: "List parts",
      parameters: [
        { name: "bin", in: "query", schema: { enum: ["0", "1"] }, description: "1: those in the bin" },
      ],
      responses: {
        200: {
          description: "Parts with previews, the last saved first",
          ...listOf("PartEntry"),
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
      responses: { 200: saved, 404: notFound, 409: stale, 413: invalid, 400: invalid },
    },
    patch: {
      summary: "Change a part by commands: all of them, or none",
      requestBody: json({
        type: "object",
        required: ["revision", "commands"],
        properties: {
          revision: { type: "integer", minimum: 1 },
          commands: { type: ["object", "array"], description: "See docs/format/commands.md" },
        },
      }),
      responses: { 200: saved, 404: notFound, 409: stale, 413: invalid, 400: invalid },
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
  "/api/parts/{id}/findings": {
    parameters: [id],
    get: {
      summary: "Ask every check about a part, also whether plates and bends stand in one another",
      responses: {
        200: { description: "What was found, the gravest first", ...json(ref("CheckedPart")) },
        404: notFound,
        422: { description: "It takes too long, or too much memory", ...json(ref("Problem")) },
      },
    },
  },
  "/api/parts/{id}/file": {
    parameters: [id],
    get: {
      summary: "Download the document",
      responses: { 200: { description: "The document", ...json(ref("PartDocument")) }, 404: notFound },
    },
  },
  "/api/parts/{id}/revisions": {
    parameters: [id],
    get: {
      summary: "List a part's revisions, the newest first",
      parameters: [
        {
          name: "before",
          in: "query",
          schema: { type: "integer" },
          description: "Only those before this number",
        },
      ],
      responses: { 200: { description: "Up to 200 revisions", ...listOf("RevisionEntry") }, 404: notFound },
    },
  },
  "/api/parts/{id}/revisions/{number}": {
    parameters: [id, number],
    get: {
      summary: "Read a revision with its document and the commands that made it",
      responses: { 200: { description: "The revision", ...json(ref("StoredRevision")) }, 404: notFound },
    },
  },
  "/api/parts/{id}/revisions/{number}/preview": {
    parameters: [id, number],
    get: {
      summary: "Build a revision: its pictures folded and flat, its sizes and findings",
      responses: { 200: { description: "The preview", ...json({ type: "object" }) }, 404: notFound },
    },
  },
  "/api/parts/{id}/revisions/{number}/restore": {
    parameters: [id, number],
    post: {
      summary: "Make an earlier revision the newest one; what was newest stays in the history",
      requestBody: json(fromRevision),
      responses: { 200: saved, 404: notFound, 409: stale, 400: invalid },
    },
  },
  "/api/parts/{id}/revisions/{number}/name": {
    parameters: [id, number],
    put: {
      summary: "Give a revision a name, by which it is never thinned out; null takes it away",
      requestBody: json({
        type: "object",
        required: ["name"],
        properties: { name: { type: ["string", "null"], minLength: 1, maxLength: 80 } },
      }),
      responses: { 204: { description: "Done" }, 404: notFound, 400: invalid },
    },
  },
};

export const partSchemas: object = {
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
  CheckedPart: {
    type: "object",
    required: ["revision", "findings"],
    properties: {
      revision: { type: "integer" },
      findings: {
        type: "array",
        items: {
          type: "object",
          required: ["rule", "level", "pieces", "message"],
          properties: {
            rule: { type: "string" },
            level: { enum: ["stop", "warn", "note"] },
            pieces: {
              type: "array",
              items: { type: "string" },
              description: 'Plates by letter ("A"), bends by number ("#3")',
            },
            message: { type: "string" },
            step: { type: ["string", "null"] },
            field: { type: ["string", "null"] },
            depth: { type: ["number", "null"], description: "Of a collision: what parts the two, mm" },
            volume: { type: ["number", "null"], description: "What the two share, mm³" },
            at: { type: "number", description: "The share of folding at which it begins" },
            full: { type: "boolean", description: "Whether it is there fully folded" },
          },
        },
      },
    },
  },
  RevisionEntry: {
    type: "object",
    required: ["number", "madeAt", "said", "name"],
    properties: revisionProperties,
  },
  StoredRevision: {
    type: "object",
    required: ["number", "madeAt", "said", "name", "document", "commands"],
    properties: {
      ...revisionProperties,
      document: ref("PartDocument"),
      commands: { type: "array", items: { type: "object" } },
    },
  },
};
