import { commandSchema, documentSchema, librarySchema, type Naming, Once } from "@hillcrest/core";
import { exportPaths, exportSchemas } from "./exports/exports-openapi.ts";
import { json, notFound, object, problem, ref, TEXT, WHOLE, YES } from "./openapi-pieces.ts";
import { partPaths, partSchemas } from "./parts/parts-openapi.ts";
import { PROBLEMS, sentence } from "./problem.ts";
import { stockPaths, stockSchemas } from "./stock/stock-openapi.ts";

/** The schemas that core makes of its field declarations, each under its name. */
function coreSchemas(): Record<string, object> {
  const schemas: Record<string, object> = {};
  const named: Naming = (name, schema) => {
    schemas[name] ??= schema;
    return ref(name);
  };
  const { $schema: _schema, $id: _id, ...document } = documentSchema(named);
  const { $schema: _librarySchema, $id: _libraryId, ...library } = librarySchema();
  // A command may hold commands: what stands under its name until then is a mere reference.
  const Command = commandSchema(named);
  return { ...schemas, PartDocument: document, StockLibrary: library, Command };
}

const Problem = object(
  {
    type: {
      enum: Object.keys(PROBLEMS).map((kind) => `urn:hillcrest:problem:${kind}`),
      description: "The kind of problem, by which a program tells them apart",
    },
    title: TEXT,
    status: WHOLE,
    detail: { type: "string", description: "What is wrong, where, and what would work" },
    instance: { type: "string", description: "The address that was asked" },
    errors: {
      type: "array",
      description: "Every single problem with its place",
      items: object(
        {
          pointer: {
            type: "string",
            description: "JSON pointer (RFC 6901) into the body of the request",
            examples: ["/document/steps/2/length"],
          },
          field: { type: "string", description: "The field that it leads to", examples: ["length"] },
          detail: TEXT,
        },
        ["field"],
      ),
    },
  },
  ["errors"],
);

const otherPaths = {
  "/api/health": {
    get: {
      operationId: "getHealth",
      summary: "Whether the server is there",
      responses: { 200: { description: "It is", ...json(object({ ok: YES })) } },
    },
  },
  "/api/openapi.json": {
    get: {
      operationId: "getDescription",
      summary: "This description",
      responses: { 200: { description: "OpenAPI 3.1", ...json({ type: "object" }) } },
    },
  },
  "/api/demo": {
    post: {
      operationId: "addDemo",
      summary: "Add the Fernhollow Ridge parts that are not there",
      responses: {
        201: { description: "How many were added", ...json(object({ added: WHOLE })) },
        404: notFound,
      },
    },
  },
};

type Paths = Readonly<Record<string, Readonly<Record<string, object>>>>;

/** Every operation may also be refused as a whole: by a page of another site, or while the database is in trouble. */
const withDefaults = (paths: Paths): object =>
  Object.fromEntries(
    Object.entries(paths).map(([path, item]) => [
      path,
      Object.fromEntries(
        Object.entries(item).map(([method, operation]) => {
          if (method === "parameters") return [method, operation];
          const { responses } = operation as { responses: object };
          return [
            method,
            { ...operation, responses: { ...responses, default: problem("What else went wrong") } },
          ];
        }),
      ),
    ]),
  );

/**
 * A schema as makers of clients read it. What stands in `default` would be taken for a value that must be given: it is said
 * in words. An object whose properties are not listed may hold any.
 */
function readable(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(readable);
  if (typeof value !== "object" || value === null) return value;
  const { default: otherwise, ...rest } = value as Record<string, unknown>;
  const out = Object.fromEntries(Object.entries(rest).map(([key, one]) => [key, readable(one)]));
  if (typeof otherwise === "object" && !Array.isArray(otherwise) && otherwise !== null)
    return { ...out, default: readable(otherwise) };
  if (otherwise !== undefined) {
    const said = `If nothing is said: ${JSON.stringify(otherwise)}`;
    out.description = out.description ? `${sentence(String(out.description))} ${said}` : said;
  }
  if (out.type === "object" && !("properties" in out) && !("additionalProperties" in out))
    out.additionalProperties = true;
  return out;
}

/** The OpenAPI 3.1 description of the server: it is all that a client needs. */
export const openApi = (): object => made.value;

const made = new Once(() => readable(description()) as object);

function description(): object {
  return {
    openapi: "3.1.0",
    info: {
      title: "Hillcrest",
      version: "0.1.0",
      description: `Parts of bent sheet metal, kept with their revisions.

Make a part with \`createPart\`: a document with its stock and its steps, in their order. Change it with \`editPart\` by
commands, naming the revision that they start from; ask \`getFindings\` whether it can be made; fetch a file with
\`getPartFile\`, or begin an export of many parts with \`startExport\`, ask \`getExport\` until its state is \`ready\`, and
fetch \`getExportFile\`.

Lengths are millimetres and angles degrees wherever a number stands. In a document they may be expressions as texts:
\`"3/4in"\`, \`"2*t + 1"\`.

Names in a part. A step is named by its \`id\` (\`s2\`). A plate that a step makes from nothing is named like the step
(\`s1\`); one that it makes on a pick by the step and the pick's key (\`s2a\`). A bend is named like the plate that it
carries. An edge is \`<plate>.<edge>\`: \`s1.north\`, \`s2a.end\`. A corner is \`<plate>.<edge>+<edge>\`, the edges
clockwise: \`s1.north+east\`.

Errors are problem documents (RFC 9457, \`application/problem+json\`).`,
    },
    paths: withDefaults({ ...partPaths, ...stockPaths, ...exportPaths, ...otherPaths }),
    components: {
      schemas: { ...coreSchemas(), ...partSchemas, ...stockSchemas, ...exportSchemas, Problem },
    },
  };
}
