import { isPlain } from "../fields/checking.ts";
import type { PickOf } from "../fields/field.ts";
import { mapExpressions } from "../fields/field-kinds.ts";
import { fail, ok, type Result } from "../result.ts";
import { stepKind } from "../steps/registry.ts";
import { fieldsOf } from "../steps/step-kind.ts";
import type { KeptGroup } from "../stock/kept-group.ts";
import { renameInExpression } from "../units/expression.ts";
import type { PartCommand } from "./commands/command.ts";
import type { PartDocument, PartOutline, StepDocument, Variable } from "./document.ts";
import { freshKey } from "./edit.ts";
import { readDocument } from "./read.ts";
import { picksIn, plateIdsOf, plateOfPick } from "./references.ts";
import { nameProblem, variablesOf } from "./variables.ts";

type Content = Pick<KeptGroup, "steps" | "variables" | "outlines">;

const uses = (text: string, name: string): boolean => renameInExpression(text, name, `${name}_`) !== text;

/** Everything that is written in a step's fields as an expression. */
function expressionsOf(step: StepDocument): string[] {
  const found: string[] = [];
  mapExpressions(fieldsOf(stepKind(step.kind), step), step, (text) => {
    found.push(String(text));
    return text;
  });
  return found;
}

/** Some steps of a part as a group, with the named values that they use, those that these use, and their outlines. */
export function groupOf(document: PartDocument, ids: ReadonlySet<string>): Content {
  const steps = document.steps.filter((s) => ids.has(s.id));
  const drawn = new Set(
    steps.flatMap((s) =>
      fieldsOf(stepKind(s.kind), s).flatMap((f) => (f.kind === "drawn" ? [String(s[f.key] ?? "")] : [])),
    ),
  );
  const outlines = (document.outlines ?? []).filter((o) => drawn.has(o.key));
  const texts = [
    ...steps.flatMap(expressionsOf),
    ...outlines.flatMap(({ outline }) =>
      [...outline.dimensions, ...(outline.values ?? [])].map((d) => String(d.value)),
    ),
  ];
  const used = new Set<Variable>();
  for (let at = 0; at < texts.length; at++)
    for (const v of variablesOf(document)) {
      if (used.has(v) || !uses(texts[at], v.name)) continue;
      used.add(v);
      texts.push(String(v.value));
    }
  return {
    steps: steps as unknown as Content["steps"],
    variables: variablesOf(document).filter((v) => used.has(v)) as unknown as Content["variables"],
    outlines: outlines as unknown as Content["outlines"],
  };
}

/** Something that is picked in the part into which a group is put. */
export interface PickedThing {
  readonly of: PickOf;
  readonly name: string;
}

/**
 * How a group is put at the end of a part's steps, as one command. What its steps stand on outside of the group is
 * replaced by what is picked, one thing for one and in their order; where too little is picked it is left to be picked.
 * A value of the part that is called like one of the group's stands for it if both say the same; otherwise the group's
 * gets a name of its own. The error says what of the group this part cannot read.
 */
export function groupCommand(
  document: PartDocument,
  group: Pick<KeptGroup, "name"> & Content,
  picked: readonly PickedThing[] = [],
): Result<PartCommand> {
  let steps = group.steps as unknown as readonly StepDocument[];
  const known = steps.every((s) => stepKind(s.kind) !== undefined);
  if (!known) return fail(`The group ${group.name} has a kind of step that this Hillcrest does not know.`);
  const variables: Variable[] = [...variablesOf(document)];
  for (const given of group.variables as unknown as readonly Variable[]) {
    const same = variables.find((v) => v.name === given.name);
    if (same && String(same.value) === String(given.value)) continue;
    const name = freeName(given.name, variables);
    variables.push({ ...given, key: freshKey(variables), name });
    if (name !== given.name) steps = steps.map((s) => renamed(s, given.name, name));
  }
  const outlines: PartOutline[] = [...(document.outlines ?? [])];
  const keys = new Map<string, string>();
  for (const given of group.outlines as unknown as readonly PartOutline[]) {
    const key = freshKey(outlines);
    keys.set(given.key, key);
    outlines.push({ ...given, key });
  }
  steps = steps.map((s) => ({ ...s, ...drawnAnew(s, keys) }));
  steps = standingOn(steps, picked);
  const values = {
    ...(variables.length > variablesOf(document).length ? { variables } : {}),
    ...(outlines.length > (document.outlines ?? []).length ? { outlines } : {}),
  };
  const tried = readDocument({ ...document, ...values, steps });
  if (!tried.ok) return fail(`The group ${group.name} cannot be put here: ${tried.error[0].message}`);
  const paste: PartCommand = { do: "paste", steps };
  return ok(
    Object.keys(values).length === 0 ? paste : { do: "several", commands: [{ do: "part", values }, paste] },
  );
}

function freeName(name: string, variables: readonly Variable[]): string {
  for (let n = 2; ; n++) {
    const next = n === 2 && !variables.some((v) => v.name === name) ? name : `${name}_${n}`;
    if (!nameProblem(next, variables)) return next;
  }
}

const renamed = (step: StepDocument, from: string, to: string): StepDocument =>
  mapExpressions(fieldsOf(stepKind(step.kind), step), step, (text) =>
    typeof text === "string" ? renameInExpression(text, from, to) : text,
  );

const drawnAnew = (step: StepDocument, keys: ReadonlyMap<string, string>) =>
  Object.fromEntries(
    fieldsOf(stepKind(step.kind), step).flatMap((f) => {
      const key = f.kind === "drawn" ? keys.get(String(step[f.key])) : undefined;
      return key === undefined ? [] : [[f.key, key]];
    }),
  );

/** Steps whose picks on what is not of them are those that are given, as far as they go. */
function standingOn(steps: readonly StepDocument[], picked: readonly PickedThing[]): StepDocument[] {
  // Ids of their own that no part gives: a plate of the part may be called like one of the group's.
  const own = new Map<string, string>();
  steps.forEach((s, i) => {
    for (const id of [s.id, ...plateIdsOf(s)]) own.set(id, `g${i + 1}_${id.slice(s.id.length)}`);
  });
  const given = new Map<string, string>();
  const left = [...picked];
  const found = (of: PickOf, at: string): string | undefined => {
    const key = `${of} ${at}`;
    const known = given.get(key);
    if (known !== undefined) return known;
    const next = left.findIndex((p) => p.of === of);
    if (next < 0) return undefined;
    const [{ name }] = left.splice(next, 1);
    given.set(key, name);
    return name;
  };
  return steps.map((step) => {
    const picks = picksIn(step).map(({ field, picks: own0 }) => {
      const kept = own0.flatMap((p) => {
        const stood = plateOfPick(field, p) ?? p.at;
        const within = own.get(stood);
        if (within !== undefined) return [{ ...p, at: within + p.at.slice(stood.length) }];
        const to = found(field.of, p.at);
        return to === undefined ? [] : [{ ...p, at: to }];
      });
      return [field.key, kept] as const;
    });
    const chosen = Object.fromEntries(picks.filter(([key]) => step[key] !== undefined));
    return { ...step, ...chosen, id: own.get(step.id)! };
  });
}

/** Whether something read from elsewhere could be a group's content; see `checkGroup` for what is said of it. */
export const isGroup = (value: unknown): value is Content =>
  isPlain(value) &&
  Array.isArray(value.steps) &&
  Array.isArray(value.variables) &&
  Array.isArray(value.outlines);
