import type { DocumentProblem, Schema } from "../../fields/checking.ts";
import { unknownKeys } from "../../fields/unknown-values.ts";
import { parseJson } from "../../json-text.ts";
import { fail, ok, type Result } from "../../result.ts";
import { MOST_STEPS } from "../document.ts";
import { readDocument } from "../read.ts";
import {
  documentSchema,
  type Naming,
  partValuesSchema,
  stepSchema,
  stepValuesSchema,
  stockValuesSchema,
} from "../schema.ts";
import type { PartCommand } from "./command.ts";

/** So many commands may come at once, those within `several` counted. */
export const MOST_COMMANDS = 500;
/** `several` within `several`: so deep. */
const DEEPEST = 4;

type Plain = Readonly<Record<string, unknown>>;
type Say = (path: string, message: string) => void;

const isPlain = (v: unknown): v is Plain => typeof v === "object" && v !== null && !Array.isArray(v);

/** What may stand at a place of a command: how it is checked, and how it is described. */
interface Piece {
  readonly check: (value: unknown, path: string, say: Say, depth: number) => void;
  readonly schema: (named: Naming) => Schema;
}

const text: Piece = {
  check: (value, path, say) => {
    if (typeof value !== "string" || value === "" || value.length > 400)
      say(path, "This must be a text of 1 to 400 characters.");
  },
  schema: () => ({ type: "string", minLength: 1, maxLength: 400 }),
};
const place: Piece = {
  check: (value, path, say) => {
    if (!Number.isInteger(value) || (value as number) < 0)
      say(path, "This must be a whole number from 0 on.");
  },
  schema: () => ({ type: "integer", minimum: 0 }),
};
const values = (schema: Piece["schema"], ...barred: readonly string[]): Piece => ({
  check: (value, path, say) => {
    if (!isPlain(value)) return say(path, "This must be an object of values.");
    for (const key of barred)
      if (Object.hasOwn(value, key)) say(`${path}/${key}`, `"${key}" cannot be changed by this command.`);
  },
  schema,
});
// What a step may say is checked on the document that comes out.
const step: Piece = {
  check: (value, path, say) => {
    if (!isPlain(value)) return say(path, "A step must be an object.");
    text.check(value.id, `${path}/id`, say, 0);
    text.check(value.kind, `${path}/kind`, say, 0);
  },
  schema: stepSchema,
};
const listOf = (each: Piece, most = MOST_STEPS): Piece => ({
  check: (value, path, say, depth) => {
    if (!Array.isArray(value)) return say(path, "This must be a list.");
    if (value.length > most) return say(path, `This can have at most ${most} entries.`);
    for (const [i, one] of value.entries()) each.check(one, `${path}/${i}`, say, depth);
  },
  schema: (named) => ({ type: "array", maxItems: most, items: each.schema(named) }),
});
const ofStep = values(stepValuesSchema, "id", "kind");
const valuesOfSteps: Piece = {
  check: (value, path, say, depth) => {
    if (!isPlain(value)) return say(path, "This must be an object of steps and their values.");
    for (const [id, changed] of Object.entries(value)) carried.check(changed, `${path}/${id}`, say, depth);
  },
  schema: () => ({
    type: "object",
    description: "Values by the ids of their steps",
    additionalProperties: { type: "object" },
  }),
};
const command: Piece = {
  check: (value, path, say, depth) => {
    if (depth >= DEEPEST) return say(path, `Commands can stand ${DEEPEST} deep in each other.`);
    checkCommand(value, path, say, depth + 1);
  },
  schema: (named) => named("Command", {}),
};
const document: Piece = {
  check: (value, path, say) => {
    const read = readDocument(value);
    if (!read.ok) for (const p of read.error) say(`${path}${p.path}`, p.message);
  },
  schema: (named) => named("PartDocument", documentSchema(named)),
};
const besides = values(partValuesSchema, "steps", "stock", "format", "version");
/** What a patch carries of a part as it was, names that nothing knows included. */
const carried = values(() => ({ type: "object" }), "id");
const carriedBesides = values(() => ({ type: "object" }), "steps", "stock", "format", "version");

interface Shape {
  readonly does: string;
  readonly needs: Readonly<Record<string, Piece>>;
  readonly may?: Readonly<Record<string, Piece>>;
}

const SHAPES: Readonly<Record<PartCommand["do"], Shape>> = {
  set: { does: "Changes values of a step", needs: { step: text, values: ofStep } },
  add: {
    does: "Adds a step: at a place from 0, else after the bookmark, else at the end",
    needs: { step },
    may: { at: place },
  },
  remove: { does: "Removes a step, with what has nothing else to stand on", needs: { step: text } },
  move: { does: "Puts a step at another place", needs: { step: text, to: place } },
  paste: { does: "Adds steps of another part under fresh ids", needs: { steps: listOf(step) } },
  rename: {
    does: "Renames a named value, by its key, and follows it in every expression",
    needs: { variable: text, name: text },
  },
  stock: { does: "Changes values of the stock", needs: { values: values(stockValuesSchema) } },
  part: { does: "Changes what the part says besides", needs: { values: besides } },
  patch: {
    does: "Makes one document of another: the inverse of every command is one",
    needs: {},
    may: {
      order: listOf(text),
      put: listOf(step),
      set: valuesOfSteps,
      stock: values(() => ({ type: "object" })),
      part: carriedBesides,
    },
  },
  several: { does: "Does several as one", needs: { commands: listOf(command, MOST_COMMANDS) } },
  replace: { does: "Takes a document in whole", needs: { document } },
};

/** The schema of a command, made of what is checked: one of all kinds, told apart by `do`. */
export function commandSchema(named: Naming): Schema {
  const kinds = Object.entries(SHAPES).map(([kind, { does, needs, may = {} }]) => {
    const pieces = Object.entries({ ...needs, ...may });
    return named(`${kind[0].toUpperCase()}${kind.slice(1)}Command`, {
      title: does,
      type: "object",
      required: ["do", ...Object.keys(needs)],
      properties: {
        do: { const: kind },
        ...Object.fromEntries(pieces.map(([key, piece]) => [key, piece.schema(named)])),
      },
      additionalProperties: false,
    });
  });
  return { oneOf: kinds };
}

function checkCommand(value: unknown, path: string, say: Say, depth: number): void {
  if (!isPlain(value)) return void say(path, "A command is a JSON object.");
  const named = typeof value.do === "string" && Object.hasOwn(SHAPES, value.do);
  if (!named)
    return void say(
      `${path}/do`,
      `"${String(value.do).slice(0, 40)}" is not a command; there are ${Object.keys(SHAPES).join(", ")}.`,
    );
  const { needs, may = {} } = SHAPES[value.do as PartCommand["do"]];
  for (const [key, piece] of Object.entries(needs)) piece.check(value[key], `${path}/${key}`, say, depth);
  for (const [key, piece] of Object.entries(may))
    if (value[key] !== undefined) piece.check(value[key], `${path}/${key}`, say, depth);
  const known = [...Object.keys(needs), ...Object.keys(may)];
  for (const { path: at, key, near } of unknownKeys(value, ["do", ...known], path))
    say(
      at.slice(0, path.length + 41),
      `"${String(value.do)}" takes no "${key.slice(0, 40)}"${near ? `; did you mean "${near}"?` : `; it takes ${known.join(", ")}.`}`,
    );
}

/** How many commands there are, with those within others. */
function countOf(value: unknown): number {
  if (Array.isArray(value)) return value.reduce((sum: number, one) => sum + countOf(one), 0);
  const { commands } = value as { readonly commands?: unknown };
  return 1 + (Array.isArray(commands) ? countOf(commands) : 0);
}

/** Reads one command or a list of them from parsed JSON. Problems name the path within it. */
export function readCommands(value: unknown): Result<PartCommand[], DocumentProblem[]> {
  const problems: DocumentProblem[] = [];
  const say: Say = (path, message) => {
    if (problems.length < 50) problems.push({ path, message });
  };
  if (Array.isArray(value)) listOf(command, MOST_COMMANDS).check(value, "", say, 0);
  else command.check(value, "", say, 0);
  if (problems.length === 0 && countOf(value) > MOST_COMMANDS)
    say("", `At most ${MOST_COMMANDS} commands can come at once, those within others counted.`);
  if (problems.length > 0) return fail(problems);
  return ok((Array.isArray(value) ? value : [value]) as PartCommand[]);
}

/** Reads commands from JSON text; a syntax error names its line and column. */
export function readCommandText(source: string): Result<PartCommand[], DocumentProblem[]> {
  const value = parseJson(source, "a command");
  return value.ok ? readCommands(value.value) : fail([{ path: "", message: value.error }]);
}
