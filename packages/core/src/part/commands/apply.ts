import { fail, ok, type Result } from "../../result.ts";
import { withValues } from "../../values.ts";
import type { PartDocument } from "../document.ts";
import { addSteps, moveProblem, moveStep, pasteSteps, removeStep } from "../edit.ts";
import { notesOfChange, unknownInValues, type ValueNote } from "../idle-values.ts";
import { readDocument } from "../read.ts";
import { nameProblem, renameVariable, variablesOf } from "../variables.ts";
import type { PartCommand, PatchCommand } from "./command.ts";
import { applyPatch, noStep, patchBetween } from "./patch.ts";

/** What a command has made of a document, and the command that takes it back. */
export interface Applied {
  readonly document: PartDocument;
  readonly undo: PatchCommand;
}

/** The same of several commands, with what they have brought in that does nothing. */
export interface AppliedAll extends Applied {
  readonly notes: readonly ValueNote[];
}

/**
 * Does a command to a document, which stays as it was. An error says what of the command does not go
 * and what would. Whether the values themselves can be built is for the build to say.
 */
export function applyCommand(before: PartDocument, command: PartCommand): Result<Applied> {
  const done = afterCommand(before, command);
  return done.ok ? ok({ document: done.value, undo: patchBetween(done.value, before) }) : done;
}

/** The document that a command makes, for those who do not want to take it back. */
export function afterCommand(before: PartDocument, command: PartCommand): Result<PartDocument> {
  const done = perform(before, command);
  if (typeof done === "string") return fail(done);
  const { document } = done;
  const followed = before.follows && document.follows ? before.follows.steps : 0;
  const touched = before.steps.slice(0, followed).findIndex((s, i) => s !== document.steps[i]);
  // What was done to them here would be lost when the other part changes. Bringing up to date is a patch.
  if (touched >= 0 && command.do !== "patch" && command.do !== "replace")
    return fail(
      `step ${touched + 1} follows the part "${before.follows!.name}"; change it there, or let go of the other part first`,
    );
  return ok(document);
}

type Done = { document: PartDocument } | string;

function perform(doc: PartDocument, command: PartCommand): Done {
  switch (command.do) {
    case "set":
      return setValues(doc, command.step, command.values);
    case "add": {
      const { step, at } = command;
      if (doc.steps.some((s) => s.id === step.id)) return `there is a step "${step.id}" already`;
      const unknown = unknownInValues({ step }, step);
      if (unknown) return unknown;
      if (at === undefined) return { document: addSteps(doc, [step]) };
      if (at > doc.steps.length) return `place ${at} is beyond the ${doc.steps.length} steps that there are`;
      return { document: { ...doc, steps: doc.steps.toSpliced(at, 0, step) } };
    }
    case "remove":
      return hasStep(doc, command.step)
        ? { document: removeStep(doc, command.step) }
        : noStep(command.step, doc);
    case "move": {
      if (!hasStep(doc, command.step)) return noStep(command.step, doc);
      const problem = moveProblem(doc, command.step, command.to);
      return problem ?? { document: moveStep(doc, command.step, command.to) };
    }
    case "paste":
      return { document: pasteSteps(doc, command.steps) };
    case "rename": {
      const variables = variablesOf(doc);
      const one = variables.find((v) => v.key === command.variable);
      if (!one) return `there is no named value with the key "${command.variable}"`;
      const others = variables.filter((v) => v !== one);
      const problem = nameProblem(command.name, others);
      return problem ?? { document: renameVariable(doc, one.key, command.name) };
    }
    case "stock":
      return (
        unknownInValues("stock", command.values) ?? {
          document: { ...doc, stock: withValues(doc.stock, command.values) },
        }
      );
    case "part":
      return unknownInValues("part", command.values) ?? { document: withValues(doc, command.values) };
    case "patch":
      return applyPatch(doc, command);
    case "several": {
      let document = doc;
      for (const [i, one] of command.commands.entries()) {
        const done = perform(document, one);
        if (typeof done === "string") return `command ${i + 1} of ${command.commands.length}: ${done}`;
        ({ document } = done);
      }
      return { document };
    }
    case "replace": {
      const read = readDocument(command.document);
      return read.ok ? { document: read.value } : `${read.error[0].path}: ${read.error[0].message}`;
    }
  }
}

const hasStep = (doc: PartDocument, id: string): boolean => doc.steps.some((s) => s.id === id);

function setValues(doc: PartDocument, id: string, values: Readonly<Record<string, unknown>>): Done {
  const step = doc.steps.find((s) => s.id === id);
  if (!step) return noStep(id, doc);
  const unknown = unknownInValues({ step }, values);
  if (unknown) return unknown;
  return { document: { ...doc, steps: doc.steps.map((s) => (s.id === id ? withValues(s, values) : s)) } };
}

/** Does commands one after another, and holds what comes out to the format of a part. */
export function applyCommands(before: PartDocument, commands: readonly PartCommand[]): Result<AppliedAll> {
  let document = before;
  for (const [i, command] of commands.entries()) {
    const done = afterCommand(document, command);
    if (!done.ok) return fail(commands.length > 1 ? `command ${i + 1}: ${done.error}` : done.error);
    document = done.value;
  }
  const read = readDocument(document);
  if (!read.ok) {
    const [{ path, message }] = read.error;
    return fail(`what it makes is no part: ${path}: ${message}`);
  }
  const undo = patchBetween(read.value, before);
  return ok({ document: read.value, undo, notes: notesOfChange(before, read.value) });
}
