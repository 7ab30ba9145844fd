import { FILE_FORMATS, FOLDED_VIEWS } from "@hillcrest/core";
import {
  id,
  invalid,
  json,
  listOf,
  NUMBER,
  notFound,
  notPossible,
  object,
  REVISION,
  ref,
  TEXT,
  TIME,
  tooLarge,
  WHOLE,
  YES,
} from "../openapi-pieces.ts";

const query = (name: string, schema: object, description: string) => ({
  name,
  in: "query",
  schema,
  description,
});
const job = { name: "job", in: "path", required: true, schema: TEXT };
const formats = FILE_FORMATS.map((f) => f.key);
const bytes = { type: "string", format: "binary" };
const KINDS = { type: "string", enum: formats };
/** Files as they leave, each by its media type. */
const files = (types: readonly string[]) =>
  Object.fromEntries([...new Set(types)].map((type) => [type, { schema: bytes }]));

const ofOnePart = {
  "/api/parts/{id}/files/{format}": {
    parameters: [id, { name: "format", in: "path", required: true, schema: KINDS }],
    get: {
      operationId: "getPartFile",
      summary: "The part as a file; a DXF is read back first, and one that is not the blank is refused",
      description:
        "A part that findings stop is refused (422, with the findings in words) unless it is wanted anyway; the file then says so.",
      parameters: [
        query("preset", TEXT, "A preset by its id or name; the part's own if none is named"),
        query("version", { enum: ["r12", "r2000"] }, "Of a DXF"),
        query("units", { enum: ["mm", "in"] }, "In which the file is written"),
        query(
          "fold",
          { type: "number", minimum: 0, maximum: 1 },
          "How far it is folded where it is shown folded",
        ),
        query("view", { enum: FOLDED_VIEWS }, "From where a folded picture is seen"),
        query("dots", { type: "integer", minimum: 16, maximum: 8000 }, "How wide a PNG is"),
        query("anyway", { enum: ["1"] }, "Also where findings stop the part; the file then says so"),
      ],
      responses: {
        200: { description: "The file", content: files(FILE_FORMATS.map((f) => f.type)) },
        400: invalid,
        404: notFound,
        422: notPossible,
      },
    },
  },
  "/api/parts/{id}/exports": {
    parameters: [id],
    get: {
      operationId: "listPartExports",
      summary: "What has left of the part",
      responses: { 200: { description: "The newest first", ...listOf("Export") }, 404: notFound },
    },
    post: {
      operationId: "recordExport",
      summary: "Keep that a file was saved, with its proof",
      requestBody: { required: true, ...json(ref("NewExport")) },
      responses: { 201: { description: "Kept", ...json(ref("Export")) }, 400: invalid, 404: notFound },
    },
  },
  "/api/parts/{id}/compare": {
    parameters: [id],
    post: {
      operationId: "compareFile",
      summary: "Hold a DXF that came back against the blank",
      requestBody: {
        required: true,
        ...json(
          object(
            {
              dxf: { type: "string", description: "The text of the file" },
              within: {
                type: "number",
                default: 0.01,
                description: "What is off by no more is the same, mm",
              },
            },
            ["within"],
          ),
        ),
      },
      responses: {
        200: { description: "What differs", ...json(ref("Comparison")) },
        400: invalid,
        404: notFound,
        413: tooLarge,
        422: notPossible,
      },
    },
  },
};

const ofMany = {
  "/api/exports": {
    post: {
      operationId: "startExport",
      summary: "Begin an export of many parts",
      requestBody: { required: true, ...json(ref("ExportOrder")) },
      responses: { 202: { description: "Begun", ...json(ref("BatchState")) }, 400: invalid },
    },
  },
  "/api/exports/formats": {
    get: {
      operationId: "listFormats",
      summary: "The kinds of file there are",
      responses: { 200: { description: "Kinds of file", ...listOf("FileFormat") } },
    },
  },
  "/api/exports/{job}": {
    parameters: [job],
    get: {
      operationId: "getExport",
      summary: "How far an export is",
      responses: { 200: { description: "Its state", ...json(ref("BatchState")) }, 404: notFound },
    },
    delete: {
      operationId: "dropExport",
      summary: "Cancel an export, or let go of its file",
      responses: { 204: { description: "Done" }, 404: notFound },
    },
  },
  "/api/exports/{job}/file": {
    parameters: [job],
    get: {
      operationId: "getExportFile",
      summary: "The finished file: a zip, or a single DXF of blanks side by side",
      responses: {
        200: { description: "The file", content: files(["application/zip", "image/vnd.dxf"]) },
        404: notFound,
      },
    },
  },
};

/** Addresses of files that leave. */
export const exportPaths = { ...ofOnePart, ...ofMany };

const proof = { type: "array", items: object({ holds: YES, text: TEXT }) };
const told = (description: string) => ({
  type: "array",
  description,
  items: object({ part: TEXT, why: TEXT }),
});
const kept = {
  by: { type: "string", maxLength: 100, description: "Who saved it" },
  revision: REVISION,
  format: { type: "string", maxLength: 20 },
  file: { type: "string", maxLength: 260, description: "The name of the file" },
  sha256: { type: "string", pattern: "^[0-9a-f]{64}$" },
  preset: { type: "string", maxLength: 100, description: "The preset's name" },
  proof,
  facts: ref("BlankFacts"),
};
const difference = { type: "array", items: ref("Difference") };
const place = { type: "array", items: NUMBER, minItems: 2, maxItems: 2 };

export const exportSchemas = {
  Export: object({ id: WHOLE, madeAt: TIME, ...kept }),
  NewExport: object(kept, ["by"]),
  BlankFacts: object({
    width: NUMBER,
    height: NUMBER,
    area: NUMBER,
    cutting: { type: "number", description: "Length of all cuts, mm" },
    openings: WHOLE,
    thickness: NUMBER,
    bends: {
      type: "array",
      items: object({ number: WHOLE, up: YES, angle: NUMBER, radius: NUMBER, length: NUMBER }),
    },
  }),
  ExportOrder: object(
    {
      parts: {
        type: "array",
        minItems: 1,
        maxItems: 2000,
        items: object({ id: TEXT, quantity: { type: "integer", minimum: 1, maximum: 9999 } }),
      },
      as: { enum: ["zip", "together"], description: "A file for each part, or blanks side by side" },
      format: { ...KINDS, default: "dxf" },
      preset: {
        description: "A preset by its id or name, or the whole of one",
        anyOf: [TEXT, { type: "object" }],
      },
      pattern: { type: "string", maxLength: 200, description: "How the files are named" },
      spacing: { type: "number", default: 5, description: "Between blanks side by side, mm" },
      stocks: {
        enum: ["files", "groups"],
        default: "files",
        description: "Side by side: a file for each stock, or all in one, each stock in a group",
      },
      apart: { type: "boolean", description: "Each piece of a part in a file of its own" },
      anyway: { type: "boolean", description: "Also parts that findings stop; their files say so" },
      by: { type: "string", maxLength: 100 },
    },
    ["format", "preset", "pattern", "spacing", "stocks", "apart", "anyway", "by"],
  ),
  BatchState: object(
    {
      id: TEXT,
      state: { enum: ["working", "ready", "failed", "cancelled"] },
      done: WHOLE,
      total: WHOLE,
      doing: { type: "string", description: "What is being done, in words" },
      refused: told("Parts that were not written, and why"),
      stopped: told("Written although findings stop them"),
      problem: { type: "string", description: "Why it failed" },
      file: { type: "string", description: "The name of the file that is ready" },
    },
    ["problem", "file"],
  ),
  FileFormat: object({
    key: KINDS,
    label: TEXT,
    of: { enum: ["blank", "folded"] },
    ending: TEXT,
    type: { type: "string", description: "Its media type" },
  }),
  Difference: object(
    {
      what: TEXT,
      at: place,
      to: { ...place, description: "Where it is in the file" },
      by: { type: "number", description: "How far that is off, mm" },
      curves: { type: "array", items: { type: "object" } },
    },
    ["to", "by"],
  ),
  Comparison: object({
    same: YES,
    scale: { type: "number", description: "How large the file is for the blank's one" },
    mirrored: YES,
    turned: { type: "number", description: "Degrees counter-clockwise" },
    offset: place,
    moved: difference,
    changed: difference,
    added: difference,
    removed: difference,
    notes: { type: "array", items: TEXT },
  }),
};
