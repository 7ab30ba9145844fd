import { UNITS } from "@hillcrest/core";
import {
  id,
  invalid,
  json,
  listOf,
  NUMBER,
  notFound,
  notPossible,
  object,
  orNull,
  problem,
  REVISION,
  ref,
  TEXT,
  TIME,
  tooLarge,
  WHOLE,
  YES,
} from "../openapi-pieces.ts";

const stored = { description: "The part", ...json(ref("StoredPart")) };
const saved = { description: "The new revision", ...json(ref("SavedPart")) };
const stale = problem("Saved elsewhere since; the newer part comes along", "StalePart");
const number = { name: "number", in: "path", required: true, schema: REVISION };
const revision = { ...REVISION, description: "The revision that this starts from" };
const body = (properties: Readonly<Record<string, object>>, optional?: readonly string[]) => ({
  required: true,
  ...json(object(properties, optional)),
});

const partAddresses = {
  "/api/parts": {
    get: {
      operationId: "listParts",
      summary: "List parts, the last saved first",
      parameters: [
        { name: "bin", in: "query", schema: { enum: ["0", "1"] }, description: "1: those in the bin" },
      ],
      responses: {
        200: { description: "Parts with what the Shelf says of them", ...listOf("PartEntry") },
        304: { description: "The list is the one of the tag in If-None-Match" },
      },
    },
    post: {
      operationId: "createPart",
      summary: "Make a part",
      requestBody: body({ document: ref("PartDocument") }),
      responses: {
        201: { description: "The part", ...json(ref("NotedPart")) },
        400: invalid,
        413: tooLarge,
      },
    },
  },
  "/api/parts/{id}": {
    parameters: [id],
    get: { operationId: "getPart", summary: "Read a part", responses: { 200: stored, 404: notFound } },
    put: {
      operationId: "savePart",
      summary: "Save a part as a whole",
      requestBody: body({ revision, document: ref("PartDocument") }),
      responses: { 200: saved, 400: invalid, 404: notFound, 409: stale, 413: tooLarge },
    },
    patch: {
      operationId: "editPart",
      summary: "Change a part by commands: all of them, or none",
      requestBody: body({
        revision,
        commands: {
          description:
            "Names that nothing knows are refused with the nearest known one; what is carried over whole (paste, patch, replace) keeps them, with a note",
          oneOf: [ref("Command"), { type: "array", maxItems: 500, items: ref("Command") }],
        },
      }),
      responses: { 200: saved, 400: invalid, 404: notFound, 409: stale, 413: tooLarge },
    },
    delete: {
      operationId: "binPart",
      summary: "Put a part into the bin",
      responses: { 204: { description: "Done" }, 404: notFound },
    },
  },
  "/api/parts/{id}/copy": {
    parameters: [id],
    post: {
      operationId: "copyPart",
      summary: "Copy a part; with follows, as one that takes over what changes there",
      requestBody: json(object({ follows: YES }, ["follows"])),
      responses: { 201: stored, 400: invalid, 404: notFound },
    },
  },
  "/api/parts/{id}/restore": {
    parameters: [id],
    post: {
      operationId: "restorePart",
      summary: "Take a part out of the bin",
      responses: { 200: stored, 404: notFound },
    },
  },
  "/api/parts/{id}/findings": {
    parameters: [id],
    get: {
      operationId: "getFindings",
      summary: "Ask every check about a part, also whether plates and bends stand in one another",
      responses: {
        200: { description: "What was found, the gravest first", ...json(ref("CheckedPart")) },
        404: notFound,
        422: notPossible,
      },
    },
  },
  "/api/parts/{id}/pictures": {
    parameters: [id],
    get: {
      operationId: "getPictures",
      summary: "The pictures of a part for a list, as SVG",
      parameters: [
        {
          name: "revision",
          in: "query",
          schema: REVISION,
          description: "With the revision that is pictured the answer never changes",
        },
      ],
      responses: { 200: { description: "The pictures", ...json(ref("PartPictures")) }, 404: notFound },
    },
  },
  "/api/parts/{id}/file": {
    parameters: [id],
    get: {
      operationId: "getDocument",
      summary: "Download the document",
      responses: { 200: { description: "The document", ...json(ref("PartDocument")) }, 404: notFound },
    },
  },
};

const revisionAddresses = {
  "/api/parts/{id}/revisions": {
    parameters: [id],
    get: {
      operationId: "listRevisions",
      summary: "List a part's revisions, the newest first",
      parameters: [
        { name: "before", in: "query", schema: WHOLE, description: "Only those before this number" },
      ],
      responses: {
        200: { description: "Up to 200 revisions", ...listOf("RevisionEntry") },
        400: invalid,
        404: notFound,
      },
    },
  },
  "/api/parts/{id}/revisions/{number}": {
    parameters: [id, number],
    get: {
      operationId: "getRevision",
      summary: "Read a revision with its document and the commands that made it",
      responses: { 200: { description: "The revision", ...json(ref("StoredRevision")) }, 404: notFound },
    },
  },
  "/api/parts/{id}/revisions/{number}/preview": {
    parameters: [id, number],
    get: {
      operationId: "getRevisionPreview",
      summary: "Build a revision: its pictures folded and flat, its sizes and findings",
      responses: { 200: { description: "The preview", ...json(ref("PartPreview")) }, 404: notFound },
    },
  },
  "/api/parts/{id}/revisions/{number}/restore": {
    parameters: [id, number],
    post: {
      operationId: "restoreRevision",
      summary: "Make an earlier revision the newest one; what was newest stays in the history",
      requestBody: body({ revision }),
      responses: { 200: saved, 400: invalid, 404: notFound, 409: stale },
    },
  },
  "/api/parts/{id}/revisions/{number}/name": {
    parameters: [id, number],
    put: {
      operationId: "nameRevision",
      summary: "Give a revision a name, by which it is never thinned out; null takes it away",
      requestBody: body({ name: { type: ["string", "null"], minLength: 1, maxLength: 80 } }),
      responses: { 204: { description: "Done" }, 400: invalid, 404: notFound },
    },
  },
};

/** Addresses of parts and of their history. */
export const partPaths = { ...partAddresses, ...revisionAddresses };

const storedProperties = {
  id: TEXT,
  revision: REVISION,
  updatedAt: TIME,
  binnedAt: orNull(TIME),
  document: ref("PartDocument"),
};
const revisionProperties = {
  number: REVISION,
  madeAt: TIME,
  said: { type: "array", items: TEXT },
  name: orNull(TEXT),
};
const sizes = (what: string) => orNull({ type: "array", items: NUMBER, description: what });
const notes = { type: "array", items: ref("ValueNote"), description: "What is kept and does nothing" };

const Finding = object(
  {
    rule: { type: "string", description: "The rule, by its short stable name" },
    level: { enum: ["stop", "warn", "note"], description: "stop: the part cannot be made as it stands" },
    pieces: {
      type: "array",
      items: TEXT,
      description: 'What it is about: plates by letter ("A"), bends by number ("#3")',
    },
    message: TEXT,
    step: { ...orNull(TEXT), description: "The id of the step that it belongs to" },
    field: { ...orNull(TEXT), description: "The field of that step, or of the stock" },
    found: { ...orNull(NUMBER), description: "What the rule measured: mm, degrees, kN or kg" },
    wanted: { ...orNull(NUMBER), description: "What it wants, in the same unit" },
    accepted: {
      ...orNull(object({ reason: TEXT, by: TEXT })),
      description: "Why it is taken as it is, and who says so: it stops nothing then",
    },
    depth: { ...orNull(NUMBER), description: "Of a collision: what parts the two, mm" },
    volume: { ...orNull(NUMBER), description: "What the two share, mm³" },
    at: { type: "number", description: "The share of folding at which it begins" },
    full: { type: "boolean", description: "Whether it is there fully folded" },
  },
  ["depth", "volume", "at", "full"],
);

export const partSchemas = {
  StoredPart: object(storedProperties),
  NotedPart: object({ ...storedProperties, notes }),
  SavedPart: object({ revision: REVISION, updatedAt: TIME, notes }),
  StalePart: { allOf: [ref("Problem"), object({ current: ref("StoredPart") })] },
  ValueNote: object(
    {
      path: {
        type: "string",
        description: "JSON pointer into the document",
        examples: ["/steps/2/diameter"],
      },
      message: TEXT,
      step: { type: "string", description: "The step that it stands in" },
    },
    ["step"],
  ),
  PartEntry: object({
    id: TEXT,
    name: TEXT,
    revision: WHOLE,
    updatedAt: TEXT,
    binnedAt: orNull(TEXT),
    summary: { ...orNull(ref("PartSummary")), description: "Nothing while it is made, after a save" },
    pictured: { type: "integer", description: "The revision that summary and pictures are of" },
  }),
  PartSummary: object(
    {
      size: sizes("Length, width and height of the folded part, mm"),
      blankSize: sizes("Width and height of the blank, mm"),
      units: {
        type: "string",
        enum: [...UNITS],
        description: "In what the part is shown; mm where nothing is said",
      },
      stock: { type: "string", description: "Material and thickness in words" },
      mass: { ...orNull(NUMBER), description: "kg" },
      bends: WHOLE,
      steps: WHOLE,
      findings: object({ stop: WHOLE, warn: WHOLE, note: WHOLE }),
      problem: { type: "string", description: "Why nothing more can be said of it" },
    },
    ["units", "problem"],
  ),
  PartPictures: object({
    folded: { type: "string", description: "SVG; empty where it would be too fine" },
    blank: TEXT,
  }),
  PartPreview: object({ pictures: ref("PartPictures"), summary: ref("PartSummary") }),
  Finding,
  CheckedPart: object({ revision: REVISION, findings: { type: "array", items: ref("Finding") } }),
  RevisionEntry: object(revisionProperties),
  StoredRevision: object({
    ...revisionProperties,
    document: ref("PartDocument"),
    commands: { type: "array", items: ref("Command") },
  }),
};
