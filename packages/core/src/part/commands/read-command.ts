import type { DocumentProblem } from "../../fields/checking.ts";
import { parseJson } from "../../json-text.ts";
import { fail, ok, type Result } from "../../result.ts";
import { MOST_STEPS } from "../document.ts";
import { readDocument } from "../read.ts";
import type { PartCommand } from "./command.ts";

/** So many commands may come at once, those within `several` counted. */
export const MOST_COMMANDS = 500;
/** `several` within `several`: so deep. */
const DEEPEST = 4;

type Plain = Readonly<Record<string, unknown>>;
type Say = (path: string, message: string) => void;

const isPlain = (v: unknown): v is Plain => typeof v === "object" && v !== null && !Array.isArray(v);

type Check = (value: unknown, path: string, say: Say, depth: number) => void;

const text: Check = (value, path, say) => {
  if (typeof value !== "string" || value === "" || value.length > 400)
    say(path, "This must be a text of 1 to 400 characters.");
};
const place: Check = (value, path, say) => {
  if (!Number.isInteger(value) || (value as number) < 0) say(path, "This must be a whole number from 0 on.");
};
const values =
  (...barred: readonly string[]): Check =>
  (value, path, say) => {
    if (!isPlain(value)) return say(path, "This must be an object of values.");
    for (const key of barred)
      if (Object.hasOwn(value, key)) say(`${path}/${key}`, `"${key}" cannot be changed by this command.`);
  };
// What a step may say is checked on the document that comes out.
const step: Check = (value, path, say) => {
  if (!isPlain(value)) return say(path, "A step must be an object.");
  text(value.id, `${path}/id`, say, 0);
  text(value.kind, `${path}/kind`, say, 0);
};
const listOf =
  (each: Check, most = MOST_STEPS): Check =>
  (value, path, say, depth) => {
    if (!Array.isArray(value)) return say(path, "This must be a list.");
    if (value.length > most) return say(path, `This can have at most ${most} entries.`);
    for (const [i, one] of value.entries()) each(one, `${path}/${i}`, say, depth);
  };
const valuesOfSteps: Check = (value, path, say, depth) => {
  if (!isPlain(value)) return say(path, "This must be an object of steps and their values.");
  for (const [id, changed] of Object.entries(value)) values("id")(changed, `${path}/${id}`, say, depth);
};
const command: Check = (value, path, say, depth) => {
  if (depth >= DEEPEST) return say(path, `Commands can stand ${DEEPEST} deep in each other.`);
  checkCommand(value, path, say, depth + 1);
};
const document: Check = (value, path, say) => {
  const read = readDocument(value);
  if (!read.ok) for (const p of read.error) say(`${path}${p.path}`, p.message);
};
const besides = values("steps", "stock", "format", "version");

interface Shape {
  readonly needs: Readonly<Record<string, Check>>;
  readonly may?: Readonly<Record<string, Check>>;
}

const SHAPES: Readonly<Record<PartCommand["do"], Shape>> = {
  set: { needs: { step: text, values: values("id", "kind") } },
  add: { needs: { step }, may: { at: place } },
  remove: { needs: { step: text } },
  move: { needs: { step: text, to: place } },
  paste: { needs: { steps: listOf(step) } },
  rename: { needs: { variable: text, name: text } },
  stock: { needs: { values: values() } },
  part: { needs: { values: besides } },
  patch: {
    needs: {},
    may: { order: listOf(text), put: listOf(step), set: valuesOfSteps, stock: values(), part: besides },
  },
  several: { needs: { commands: listOf(command, MOST_COMMANDS) } },
  replace: { needs: { document } },
};

function checkCommand(value: unknown, path: string, say: Say, depth: number): void {
  if (!isPlain(value)) return void say(path, "A command is a JSON object.");
  const named = typeof value.do === "string" && Object.hasOwn(SHAPES, value.do);
  if (!named)
    return void say(
      `${path}/do`,
      `"${String(value.do).slice(0, 40)}" is not a command; there are ${Object.keys(SHAPES).join(", ")}.`,
    );
  const { needs, may = {} } = SHAPES[value.do as PartCommand["do"]];
  for (const [key, check] of Object.entries(needs)) check(value[key], `${path}/${key}`, say, depth);
  for (const [key, check] of Object.entries(may))
    if (value[key] !== undefined) check(value[key], `${path}/${key}`, say, depth);
  for (const key of Object.keys(value))
    if (key !== "do" && !Object.hasOwn(needs, key) && !Object.hasOwn(may, key))
      say(`${path}/${key.slice(0, 40)}`, `"${String(value.do)}" takes no "${key.slice(0, 40)}".`);
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
  if (Array.isArray(value)) listOf(command, MOST_COMMANDS)(value, "", say, 0);
  else command(value, "", say, 0);
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
