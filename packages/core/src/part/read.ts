import {
  checkEntries,
  checkTyped,
  type DocumentProblem,
  isNumber,
  isPlain,
  type Plain,
  type Say,
} from "../fields/checking.ts";
import { checkFields } from "../fields/field-kinds.ts";
import { parseJson } from "../json-text.ts";
import { outlineProblems } from "../outline/read-outline.ts";
import { fail, ok, type Result } from "../result.ts";
import { STEP_KINDS, stepKind } from "../steps/registry.ts";
import { fieldsOf } from "../steps/step-kind.ts";
import { snapshotProblems } from "../stock/card-snapshot.ts";
import { itemProblems } from "../stock/read-item.ts";
import { UNITS } from "../units/display.ts";
import { MOST_ACCEPTED } from "./accepted.ts";
import { checkBlankSettings } from "./blank-settings.ts";
import {
  DOCUMENT_FORMAT,
  LARGEST_DOCUMENT,
  LONGEST_NAME,
  MOST_MEASURES,
  MOST_OUTLINES,
  MOST_STEPS,
  type PartDocument,
} from "./document.ts";
import { migrate } from "./migrate.ts";
import { STOCK_FIELDS } from "./stock.ts";
import { MOST_VARIABLES, VARIABLE_NAME } from "./variables.ts";

const ID = /^[A-Za-z][A-Za-z0-9_-]{0,39}$/;

/** Reads a document from text; a syntax error names its line and column. */
export function readDocumentText(text: string): Result<PartDocument, DocumentProblem[]> {
  if (text.length > LARGEST_DOCUMENT) {
    const size = (text.length / 1e6).toFixed(1);
    return fail([
      {
        path: "",
        message: `The file has ${size} MB; a part document can have at most ${LARGEST_DOCUMENT / 1e6} MB.`,
      },
    ]);
  }
  const value = parseJson(text, "a part document");
  return value.ok ? readDocument(value.value) : fail([{ path: "", message: value.error }]);
}

/** Reads a document from parsed JSON: migrates it, checks every field, keeps what it does not know. */
export function readDocument(value: unknown): Result<PartDocument, DocumentProblem[]> {
  if (!isPlain(value)) return fail([{ path: "", message: "A part document is a JSON object." }]);
  if (value.format !== DOCUMENT_FORMAT) {
    return fail([
      { path: "/format", message: `"format" must be "${DOCUMENT_FORMAT}"; this is another kind of file.` },
    ]);
  }
  const migrated = migrate(value);
  if (!migrated.ok) return fail([{ path: "/version", message: migrated.error }]);
  const problems: DocumentProblem[] = [];
  const say = (path: string, message: string) => {
    if (problems.length < 50) problems.push({ path, message });
  };
  checkTop(migrated.value, say);
  return problems.length > 0 ? fail(problems) : ok(migrated.value as unknown as PartDocument);
}

function checkTop(doc: Plain, say: Say): void {
  if (typeof doc.name !== "string" || doc.name.trim() === "" || doc.name.length > LONGEST_NAME) {
    say("/name", `"name" must be a text of 1 to ${LONGEST_NAME} characters.`);
  }
  if (!isPlain(doc.stock)) say("/stock", `"stock" must be an object.`);
  else {
    checkFields(STOCK_FIELDS, doc.stock, "/stock", { say, sparse: true });
    if (doc.stock.libraryMaterial !== undefined)
      for (const p of itemProblems("materials", doc.stock.libraryMaterial, "/stock/libraryMaterial"))
        say(p.path, p.message);
    if (doc.stock.card !== undefined)
      for (const p of snapshotProblems(doc.stock.card, "/stock/card")) say(p.path, p.message);
  }
  if (doc.units !== undefined && !(UNITS as readonly unknown[]).includes(doc.units))
    say("/units", `"units" must be one of ${UNITS.join(", ")}.`);
  for (const key of ["builtTo", "anchor"]) {
    if (doc[key] !== undefined && typeof doc[key] !== "string") say(`/${key}`, `"${key}" must be a text.`);
  }
  if (doc.held !== undefined && !(Array.isArray(doc.held) && doc.held.every((h) => typeof h === "string"))) {
    say("/held", `"held" must be a list of bend names.`);
  }
  checkVariables(doc.variables, say);
  checkFollows(doc.follows, doc.steps, say);
  if (doc.measures !== undefined)
    checkEntries(doc.measures, "/measures", MOST_MEASURES, say, (entry, at) => {
      for (const end of ["from", "to"]) {
        const value = entry[end];
        const fits = isPlain(value) && typeof value.kind === "string" && typeof value.name === "string";
        if (!fits) say(`${at}/${end}`, `"${end}" must say the kind and the name of what is measured.`);
      }
    });
  checkAccepted(doc.accepted, say);
  checkBlankSettings(doc.blank, say);
  if (doc.outlines !== undefined)
    checkEntries(doc.outlines, "/outlines", MOST_OUTLINES, say, (entry, at) => {
      for (const p of outlineProblems(entry.outline, `${at}/outline`)) say(p.path, p.message);
      const { kept } = entry;
      if (
        kept !== undefined &&
        !(isPlain(kept) && typeof kept.id === "string" && Number.isInteger(kept.revision))
      )
        say(`${at}/kept`, `"kept" must say the id and the revision of a kept outline.`);
    });
  if (!Array.isArray(doc.steps)) {
    say("/steps", `"steps" must be a list.`);
    return;
  }
  if (doc.steps.length > MOST_STEPS) {
    say("/steps", `A part can have at most ${MOST_STEPS} steps; this one has ${doc.steps.length}.`);
    return;
  }
  const seen = new Set<string>();
  doc.steps.forEach((step, i) => {
    checkStep(step, `/steps/${i}`, seen, say);
  });
}

function checkAccepted(value: unknown, say: Say): void {
  if (value === undefined) return;
  checkEntries(value, "/accepted", MOST_ACCEPTED, say, (entry, at) => {
    for (const key of ["rule", "about", "reason", "by"])
      if (typeof entry[key] !== "string" || entry[key].length > LONGEST_ACCEPTED)
        say(`${at}/${key}`, `"${key}" must be a text of at most ${LONGEST_ACCEPTED} characters.`);
    for (const key of ["found", "within"])
      if (entry[key] !== undefined && !isNumber(entry[key]))
        say(`${at}/${key}`, `"${key}" must be a number.`);
  });
}

/** A reason is a few sentences, not a document. */
const LONGEST_ACCEPTED = 2000;

function checkFollows(value: unknown, steps: unknown, say: Say): void {
  if (value === undefined) return;
  const count = Array.isArray(steps) ? steps.length : 0;
  const whole = (v: unknown, least: number) => Number.isInteger(v) && (v as number) >= least;
  const fits =
    isPlain(value) &&
    typeof value.part === "string" &&
    typeof value.name === "string" &&
    whole(value.revision, 1);
  if (!fits) return void say("/follows", `"follows" must say the part, its name and its revision.`);
  if (!whole(value.steps, 0) || (value.steps as number) > count)
    say("/follows/steps", `"steps" must be how many of the ${count} steps are the other part's.`);
}

function checkVariables(value: unknown, say: Say): void {
  if (value === undefined) return;
  const names = new Set<string>();
  checkEntries(value, "/variables", MOST_VARIABLES, say, (entry, at) => {
    const { name, measures } = entry;
    if (typeof name !== "string" || !VARIABLE_NAME.test(name))
      say(`${at}/name`, `"name" must be a letter followed by up to 39 letters, digits or _.`);
    else if (names.has(name)) say(`${at}/name`, `The name "${name}" is used twice.`);
    else names.add(name);
    checkTyped(entry.value, `${at}/value`, say);
    if (measures !== undefined && !["length", "angle", "number"].includes(measures as string))
      say(`${at}/measures`, `"measures" must be length, angle or number.`);
  });
}

function checkStep(step: unknown, path: string, seen: Set<string>, say: Say): void {
  if (!isPlain(step)) return void say(path, "A step must be an object.");
  const { id } = step;
  if (typeof id !== "string" || !ID.test(id)) {
    say(`${path}/id`, `"id" must be a letter followed by up to 39 letters, digits, - or _.`);
  } else if (seen.has(id)) say(`${path}/id`, `The id "${id}" is used by two steps.`);
  else seen.add(id);
  if (step.name !== undefined && (typeof step.name !== "string" || step.name.length > LONGEST_NAME))
    say(`${path}/name`, `"name" must be a text of at most ${LONGEST_NAME} characters.`);
  if (step.paused !== undefined && typeof step.paused !== "boolean")
    say(`${path}/paused`, `"paused" must be true or false.`);
  const kind = typeof step.kind === "string" ? stepKind(step.kind) : undefined;
  if (!kind) {
    const kinds = STEP_KINDS.map((k) => k.kind).join(", ");
    return void say(`${path}/kind`, `"${String(step.kind)}" is not a kind of step; there are ${kinds}.`);
  }
  checkFields(fieldsOf(kind, step), step, path, { say, sparse: true });
}
