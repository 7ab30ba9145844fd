import { STOCK_SECTIONS } from "@hillcrest/core";
import {
  id,
  invalid,
  json,
  listOf,
  NUMBER,
  notFound,
  object,
  orNull,
  problem,
  REVISION,
  ref,
  TEXT,
  TIME,
  tooLarge,
  WHOLE,
} from "../openapi-pieces.ts";

const section = { type: "string", enum: [...STOCK_SECTIONS] };
const parts = { type: "array", maxItems: 10_000, items: TEXT, description: "Parts by their ids" };
const takeOver = (description: string) => ({ description, ...json(ref("TakeOver")) });
const takeOverParts = (description: string) => ({ description, ...json(ref("TakeOverParts")) });
const job = { name: "job", in: "path", required: true, schema: TEXT };

const libraryAddresses = {
  "/api/stock": {
    get: {
      operationId: "listStock",
      summary: "List everything in the stock library; very long tables are left out",
      responses: { 200: { description: "Items with revisions", ...listOf("StockEntry") } },
    },
  },
  "/api/stock/library": {
    get: {
      operationId: "getLibrary",
      summary: "Export the stock library",
      responses: { 200: { description: "The library", ...json(ref("StockLibrary")) } },
    },
    post: {
      operationId: "importLibrary",
      summary: "Import a stock library: all of it, or nothing",
      requestBody: { required: true, ...json(object({ library: ref("StockLibrary") })) },
      responses: {
        200: {
          description: "How many were added and replaced",
          ...json(object({ added: WHOLE, replaced: WHOLE })),
        },
        400: invalid,
        413: tooLarge,
      },
    },
  },
  "/api/stock/cards/{id}/snapshot": {
    parameters: [id],
    get: {
      operationId: "getCardSnapshot",
      summary: "A card with all that it refers to, as a part takes it over",
      responses: { 200: { description: "The card", ...json(ref("CardSnapshot")) }, 404: notFound },
    },
  },
  "/api/stock/{section}/{id}": {
    parameters: [{ name: "section", in: "path", required: true, schema: section }, id],
    get: {
      operationId: "getStockItem",
      summary: "Read one item whole",
      responses: { 200: { description: "The item", ...json(ref("StockEntry")) }, 404: notFound },
    },
    put: {
      operationId: "saveStockItem",
      summary: "Save an item against the revision it started from; 0 makes a new one",
      requestBody: {
        required: true,
        ...json(
          object(
            {
              revision: { type: "integer", minimum: 0 },
              item: { type: "object", description: "As it stands in the library" },
              parts: { ...parts, description: "Parts that are to take the change over, by their ids" },
            },
            ["parts"],
          ),
        ),
      },
      responses: {
        200: {
          description: "The new revision",
          ...json(object({ revision: REVISION, updatedAt: TIME, takeOver: ref("TakeOver") }, ["takeOver"])),
        },
        400: invalid,
        404: notFound,
        409: problem("Saved elsewhere since; what there is now comes along", "StaleItem"),
      },
    },
    delete: {
      operationId: "removeStockItem",
      summary: "Take an item away",
      responses: {
        204: { description: "Done" },
        404: notFound,
        409: problem("Something else uses it"),
      },
    },
  },
};

const changeAddresses = {
  "/api/stock/impact": {
    post: {
      operationId: "getImpact",
      summary: "What taking over the cards as they are, or as they would be after a change, does to parts",
      requestBody: json(
        object(
          {
            section,
            item: { type: "object", description: "An item as it would be" },
            card: { type: "string", description: "Only parts of this card" },
          },
          ["section", "item", "card"],
        ),
      ),
      responses: {
        200: {
          description:
            "JSON line by line as it is known: first the parts that would change, then each of them before and after",
          content: { "application/x-ndjson": { schema: ref("ImpactLine") } },
        },
        400: invalid,
      },
    },
  },
  "/api/stock/take-over": {
    get: {
      operationId: "listTakeOvers",
      summary: "Changes of stock that parts take over, the newest first",
      responses: { 200: { description: "The last ten", ...listOf("TakeOver") } },
    },
    post: {
      operationId: "startTakeOver",
      summary: "Have parts take over the present state of their cards",
      description:
        "It is done by the server, part by part, and kept: a restart goes on with it. Each part is changed whole or not at all.",
      requestBody: { required: true, ...json(object({ parts })) },
      responses: { 202: takeOver("Begun"), 400: invalid },
    },
  },
  "/api/stock/take-over/{job}": {
    parameters: [job],
    get: {
      operationId: "getTakeOver",
      summary: "How far a change is, and which parts it has changed",
      responses: { 200: takeOverParts("Its state, with every part that is done"), 404: notFound },
    },
    delete: {
      operationId: "cancelTakeOver",
      summary: "Cancel a change: what it has changed stays so",
      responses: { 200: takeOver("What it has changed"), 404: notFound },
    },
  },
};

/** Addresses of the stock library. */
export const stockPaths = { ...libraryAddresses, ...changeAddresses };

const StockEntry = object(
  {
    section,
    revision: REVISION,
    updatedAt: TIME,
    item: { type: "object" },
    rows: { type: "integer", description: "How many rows a chart's table has" },
  },
  ["rows"],
);
const taken = (description: string) => ({ type: "array", description, items: ref("TakenPart") });

export const stockSchemas = {
  StockEntry,
  StaleItem: { allOf: [ref("Problem"), object({ current: ref("StockEntry") })] },
  TakenPart: object(
    {
      id: TEXT,
      name: TEXT,
      revision: { ...REVISION, description: "The revision that was made of it" },
      why: { type: "string", description: "Why it was left as it is" },
    },
    ["revision", "why"],
  ),
  TakeOverParts: {
    allOf: [
      ref("TakeOver"),
      object({
        changedParts: taken("Parts that were changed, with the revisions made"),
        skippedParts: taken("Parts that were left as they are, and why"),
      }),
    ],
  },
  TakeOver: object(
    {
      id: TEXT,
      state: { enum: ["working", "finished", "cancelled"] },
      startedAt: TIME,
      endedAt: orNull(TIME),
      total: WHOLE,
      done: WHOLE,
      changed: { type: "integer", description: "How many parts were changed" },
      skipped: { type: "integer", description: "How many were left as they are" },
      problem: { type: "string", description: "Why it does not go on just now; it is tried again" },
    },
    ["problem"],
  ),
  PartNumbers: object({
    blank: orNull({ type: "array", items: NUMBER, minItems: 2, maxItems: 2 }),
    mass: orNull(NUMBER),
    stops: WHOLE,
    warnings: WHOLE,
  }),
  ImpactLine: {
    oneOf: [
      object({
        parts: {
          type: "array",
          items: object({ id: TEXT, name: TEXT, card: TEXT, cardName: TEXT, from: WHOLE, to: WHOLE }),
        },
      }),
      object({
        id: TEXT,
        before: ref("PartNumbers"),
        after: ref("PartNumbers"),
        allowance: { type: "number", description: "The greatest change of any bend's allowance, mm" },
      }),
      object({ id: TEXT, problem: TEXT }),
    ],
  },
};
