import type { FieldSpec, RowsField } from "../../fields/field.ts";
import { stepKind } from "../../steps/registry.ts";
import { fieldsOf } from "../../steps/step-kind.ts";
import { type ChangedValues, changedBetween } from "../../values.ts";
import type { PartDocument, StepDocument } from "../document.ts";
import { dependentsOf } from "../edit.ts";
import { STOCK_FIELDS } from "../stock.ts";
import { variablesOf } from "../variables.ts";
import { afterCommand } from "./apply.ts";
import type { PartCommand } from "./command.ts";
import { patchBetween } from "./patch.ts";

/** Of several changes so many are named; the rest are counted. */
const NAMED = 4;
const LONGEST = 40;
const NOTHING = "Nothing changed";

/** A step as a person finds it in the list: its number, its kind or the name that it was given. */
function stepTitle(doc: PartDocument, id: string): string {
  const at = doc.steps.findIndex((s) => s.id === id);
  return at < 0 ? `step "${id}"` : `${named(doc.steps[at])} ${at + 1}`;
}

const named = (step: StepDocument): string => step.name ?? stepKind(step.kind)?.title ?? step.kind;

/** A value as it stands in a sentence. Lists are counted, what is long is cut. */
function say(value: unknown, field?: FieldSpec): string {
  if (value === undefined || value === null) {
    const start = field && "default" in field ? field.default : undefined;
    return start === undefined || start === "" ? "as it starts" : say(start, field);
  }
  if (field?.kind === "choice") return field.options.find((o) => o.value === value)?.label ?? String(value);
  if (Array.isArray(value)) return `${value.length} ${value.length === 1 ? "entry" : "entries"}`;
  if (typeof value === "object") return "other values";
  const text = String(value);
  return text.length > LONGEST ? `${text.slice(0, LONGEST - 1)}…` : text;
}

const listed = (parts: readonly string[]): string =>
  parts.length <= NAMED
    ? parts.join(", ")
    : `${parts.slice(0, NAMED - 1).join(", ")} and ${parts.length - NAMED + 1} more`;

type Row = Readonly<Record<string, unknown>>;

const rowsIn = (value: unknown): readonly Row[] =>
  Array.isArray(value) ? value.filter((r): r is Row => typeof r === "object" && r !== null) : [];

/** `leg 2: length 40 → 44`: what is another in each row, and rows that have come or gone. */
function sayRows(before: unknown, after: unknown, field: RowsField): string[] {
  const [old, now] = [rowsIn(before), rowsIn(after)];
  const count = (n: number, done: string) =>
    n === 0 ? [] : [`${n} ${field.noun}${n === 1 ? "" : "s"} ${done}`];
  const had = new Map(old.map((r) => [r.key, r]));
  const has = new Set(now.map((r) => r.key));
  const changed = now.flatMap((row, i) => {
    const was = had.get(row.key);
    const values = was && changedBetween(was, row);
    return values ? [`${field.noun} ${i + 1}: ${sayValues(was, values, field.columns)}`] : [];
  });
  return [
    ...count(now.filter((r) => !had.has(r.key)).length, "added"),
    ...count(old.filter((r) => !has.has(r.key)).length, "removed"),
    ...changed,
  ];
}

/** `length 20 → 25`: each value that is another than before. */
function sayValues(
  before: Readonly<Record<string, unknown>>,
  values: ChangedValues,
  fields: readonly FieldSpec[],
): string {
  return listed(
    Object.entries(values).flatMap(([key, value]) => {
      const field = fields.find((f) => f.key === key);
      const label = (field?.label ?? key).toLowerCase();
      const rows = field?.kind === "rows" ? sayRows(before[key], value, field) : [];
      if (rows.length > 0) return rows;
      // Two lists of as many entries would read as no change.
      const [from, to] = [say(before[key], field), say(value, field)];
      return from === to ? `${label} changed` : `${label} ${from} → ${to}`;
    }),
  );
}

function saySet(doc: PartDocument, id: string, values: ChangedValues): string {
  const step = doc.steps.find((s) => s.id === id);
  const title = stepTitle(doc, id);
  if (!step) return title;
  const { paused, name, ...rest } = values;
  const said: string[] = [];
  if (Object.hasOwn(values, "paused")) said.push(paused ? "paused" : "works again");
  if (Object.hasOwn(values, "name")) said.push(name ? `called "${say(name)}"` : "without its name");
  if (Object.keys(rest).length > 0)
    said.push(sayValues(step, rest, fieldsOf(stepKind(step.kind), { ...step, ...rest })));
  return `${title}: ${said.join(", ")}`;
}

const PART_WORDS: Readonly<Record<string, (value: unknown) => string>> = {
  name: (v) => `called "${say(v)}"`,
  units: (v) => `shown in ${v === "in" ? "inches" : v === "fractions" ? "fractions of inches" : "mm"}`,
  variables: () => "named values changed",
  measures: () => "measurements changed",
  outlines: () => "outlines changed",
  accepted: (v) =>
    Array.isArray(v) && v.length > 0
      ? `${v.length} ${v.length === 1 ? "finding" : "findings"} accepted`
      : "no finding accepted",
  follows: (v) => (v ? "brought up to date with the part it follows" : "no longer follows another part"),
  builtTo: (v) => (v ? "built up to a step only" : "built to its end"),
  anchor: () => "another plate keeps still",
  blank: () => "blank page changed",
  held: (v) =>
    Array.isArray(v) && v.length > 0
      ? `${v.length} ${v.length === 1 ? "bend" : "bends"} held flat`
      : "no bend held flat",
};

const sayPart = (values: ChangedValues): string =>
  listed(
    Object.entries(values).map(([key, v]) =>
      Object.hasOwn(PART_WORDS, key) ? PART_WORDS[key](v) : `"${key.slice(0, LONGEST)}" changed`,
    ),
  );

/**
 * What a command does, in words for a list of changes: "Flange 3: length 20 → 25".
 *
 * @param before the document that it is done to
 */
export function sayCommand(command: PartCommand, before: PartDocument): string {
  switch (command.do) {
    case "set":
      return saySet(before, command.step, command.values);
    case "add":
      return `${named(command.step)} added`;
    case "remove": {
      const more = dependentsOf(before, command.step).length;
      const rest = more === 0 ? "" : `, and what stood on it in ${more} more`;
      return `${stepTitle(before, command.step)} removed${rest}`;
    }
    case "move":
      return `${stepTitle(before, command.step)} moved to place ${command.to + 1}`;
    case "paste":
      return `${listed(command.steps.map(named))} pasted`;
    case "rename": {
      const old = variablesOf(before).find((v) => v.key === command.variable)?.name ?? command.variable;
      return `${old} is called ${command.name}`;
    }
    case "stock":
      return `Stock: ${sayValues(before.stock, command.values, STOCK_FIELDS)}`;
    case "part":
      return `Part ${sayPart(command.values)}`;
    case "patch": {
      const had = new Set(before.steps.map((s) => s.id));
      const has = new Set(command.order ?? had);
      const gone = before.steps.filter((s) => !has.has(s.id));
      const come = (command.put ?? []).filter((s) => !had.has(s.id));
      const said = [
        ...come.map((s) => `${named(s)} added`),
        ...gone.map((s) => `${stepTitle(before, s.id)} removed`),
        ...(command.put ?? []).filter((s) => had.has(s.id)).map((s) => `${stepTitle(before, s.id)} changed`),
        ...Object.entries(command.set ?? {}).map(([id, values]) => saySet(before, id, values)),
        ...(command.stock ? [`Stock: ${sayValues(before.stock, command.stock, STOCK_FIELDS)}`] : []),
        ...(command.part ? [`Part ${sayPart(command.part)}`] : []),
      ];
      if (said.length === 0) return command.order ? "Steps in another order" : NOTHING;
      return listed(said);
    }
    case "several":
      return listed(sayAll(command.commands, before)) || NOTHING;
    case "replace":
      return `Taken in whole: ${sayCommand(patchBetween(before, command.document), before)}`;
  }
}

/** Of many commands so many are put into words. */
const MOST_SAID = 40;

/** What each of some commands does, one after another; of very many the first. Those that do not go are left out. */
export function sayAll(commands: readonly PartCommand[], before: PartDocument): string[] {
  const out: string[] = [];
  let now = before;
  for (const command of commands.slice(0, MOST_SAID)) {
    const done = afterCommand(now, command);
    if (!done.ok) continue;
    out.push(sayCommand(command, now));
    now = done.value;
  }
  const more = commands.length - MOST_SAID;
  return more > 0 ? [...out, `and ${more} more changes`] : out;
}
