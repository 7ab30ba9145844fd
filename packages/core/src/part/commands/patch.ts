import {
  type ChangedValues,
  changedBetween,
  holdsNull,
  type Plain,
  sameValue,
  withValues,
} from "../../values.ts";
import type { PartDocument, StepDocument } from "../document.ts";
import type { PatchCommand } from "./command.ts";

const besides = ({ steps: _steps, stock: _stock, ...rest }: PartDocument): Plain => rest;

/** The command that makes `after` of `before`. Steps are told apart by their ids. */
export function patchBetween(before: PartDocument, after: PartDocument): PatchCommand {
  const old = new Map(before.steps.map((s) => [s.id, s]));
  const put: StepDocument[] = [];
  const set: [string, ChangedValues][] = [];
  for (const step of after.steps) {
    const was = old.get(step.id);
    if (was === step) continue;
    if (!was || holdsNull(step)) {
      if (!was || !sameValue(was, step)) put.push(step);
      continue;
    }
    const values = changedBetween(was, step);
    if (values) set.push([step.id, values]);
  }
  const moved =
    before.steps.length !== after.steps.length || before.steps.some((s, i) => s.id !== after.steps[i].id);
  const stock = before.stock === after.stock ? undefined : changedBetween(before.stock, after.stock);
  const part = changedBetween(besides(before), besides(after));
  return {
    do: "patch",
    ...(moved ? { order: after.steps.map((s) => s.id) } : {}),
    ...(put.length > 0 ? { put } : {}),
    ...(set.length > 0 ? { set: Object.fromEntries(set) } : {}),
    ...(stock ? { stock } : {}),
    ...(part ? { part } : {}),
  };
}

/** Does what a patch says. A step that it names and that is nowhere is a problem, said in words. */
export function applyPatch(doc: PartDocument, patch: PatchCommand): { document: PartDocument } | string {
  const { order, put = [], set = {}, stock, part } = patch;
  const fresh = new Map(put.map((s) => [s.id, s]));
  const steps = new Map(doc.steps.map((s) => [s.id, fresh.get(s.id) ?? s]));
  for (const [id, values] of Object.entries(set)) {
    const step = steps.get(id);
    if (!step) return noStep(id, doc);
    steps.set(id, withValues(step, values));
  }
  for (const step of put) if (!steps.has(step.id)) steps.set(step.id, step);
  const ids = order ?? [...steps.keys()];
  const lost = ids.find((id) => !steps.has(id));
  if (lost !== undefined) return noStep(lost, doc);
  const said = part ? withValues(doc, part) : doc;
  return {
    document: {
      ...said,
      stock: stock ? withValues(doc.stock, stock) : doc.stock,
      steps: ids.map((id) => steps.get(id)!),
    },
  };
}

/** What is wrong with naming a step that is not there, and which there are. */
export function noStep(id: string, { steps }: PartDocument): string {
  const some = steps.slice(0, 8).map((s) => s.id);
  const rest = steps.length > some.length ? ` and ${steps.length - some.length} more` : "";
  return `there is no step "${id.slice(0, 40)}"; ${some.length === 0 ? "the part has none" : `there are ${some.join(", ")}${rest}`}`;
}
