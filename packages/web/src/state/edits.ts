import {
  freshKey,
  freshPickKey,
  freshStepId,
  nameProblem,
  type PartCommand,
  type PartDocument,
  type PickEntry,
  type PickOf,
  type PicksField,
  patchBetween,
  picksOf,
  rowsOf,
  type StepDocument,
  type StepKind,
  type Variable,
  variablesOf,
} from "@hillcrest/core";
import { begunStep, inRoundInches } from "./inch-defaults.ts";
import { openPart, partActions } from "./part-slice.ts";
import { store } from "./store.ts";
import { type Pick, viewActions } from "./view-slice.ts";

/** Does a command to the open part. `mark` joins quick edits of one value into one undo step. */
export function edit(command: PartCommand, options: { step?: string; mark?: string } = {}): void {
  const { document } = openPart(store.getState());
  const rounded = document ? inRoundInches(command, document) : command;
  store.dispatch(partActions.edited({ command: rounded, ...options }));
}

/** Values as a command takes them: what is `undefined` goes back to its default. */
const changed = (values: Readonly<Record<string, unknown>>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(values).map(([key, value]) => [key, value ?? null]));

export const setStepValues = (step: string, values: Readonly<Record<string, unknown>>, mark?: string): void =>
  edit({ do: "set", step, values: changed(values) }, { step, mark });

export const setStepValue = (step: string, key: string, value: unknown, mark?: string): void =>
  setStepValues(step, { [key]: value }, mark);

export const setStockValues = (values: Readonly<Record<string, unknown>>, mark?: string): void =>
  edit({ do: "stock", values: changed(values) }, { mark });

export const setStockValue = (key: string, value: unknown, mark?: string): void =>
  setStockValues({ [key]: value }, mark);

/** The stock becomes another one, whatever it was. */
export function setStock(stock: PartDocument["stock"]): void {
  const { document } = openPart(store.getState());
  if (document) edit(patchBetween(document, { ...document, stock }));
}

export const setPartValues = (values: Readonly<Record<string, unknown>>, mark?: string): void =>
  edit({ do: "part", values: changed(values) }, { mark });

/** Adds a step and opens it. Returns its id. */
export function appendStep(kind: string, values: Readonly<Record<string, unknown>> = {}): string {
  const { document } = openPart(store.getState());
  const id = freshStepId(document!);
  const step: StepDocument = withoutUndefined({ ...values, id, kind });
  edit({ do: "add", step: begunStep(step, document!) }, { step: id });
  store.dispatch(viewActions.stepOpened(id));
  store.dispatch(viewActions.pickCleared());
  return id;
}

/** Adds several steps at once, as one edit. Returns their ids. */
export function appendSteps(steps: readonly (Omit<StepDocument, "id"> & { kind: string })[]): string[] {
  const ids: string[] = [];
  const commands: PartCommand[] = [];
  let now = openPart(store.getState()).document!;
  for (const values of steps) {
    const id = freshStepId(now);
    const step = begunStep(withoutUndefined({ ...values, id }), now);
    ids.push(id);
    commands.push({ do: "add", step });
    now = { ...now, steps: [...now.steps, step] };
  }
  edit({ do: "several", commands });
  store.dispatch(viewActions.pickCleared());
  return ids;
}

const withoutUndefined = <T extends object>(record: T): T =>
  Object.fromEntries(Object.entries(record).filter(([, value]) => value !== undefined)) as T;

/** Picks under keys of their own. */
const keyed = (names: readonly string[]): PickEntry[] => {
  const picks: PickEntry[] = [];
  for (const at of names) picks.push({ key: freshKey(picks), at });
  return picks;
};

/** The field of a step kind that takes picks of a sort; the one that must be filled comes first. */
export function picksFieldFor(kind: StepKind, of: PickOf): PicksField | undefined {
  const fields = kind.fields.filter((f): f is PicksField => f.kind === "picks" && f.of === of);
  return fields.find((f) => !f.optional) ?? fields[0];
}

/** The names of what is picked of a sort. */
export const namesOfPicks = (picks: readonly Pick[], of: PickOf): string[] =>
  picks.flatMap((p) => {
    if (p.kind !== of) return [];
    return "name" in p ? [p.name] : "id" in p ? [p.id] : [];
  });

/** A step of a kind that stands on what is picked. */
export function stepOn(
  kind: StepKind,
  of: PickOf,
  names: readonly string[],
  values: Readonly<Record<string, unknown>> = {},
): string {
  const field = picksFieldFor(kind, of);
  return appendStep(kind.kind, { ...(field ? { [field.key]: keyed(names) } : {}), ...values });
}

/** Adds a pick to a step, or takes it away when it is there. A field that takes one thing changes it. */
export function togglePick(step: StepDocument, field: string, at: string, single: boolean): void {
  const picks = picksOf(step, field);
  const without = picks.filter((p) => p.at !== at);
  const { document } = openPart(store.getState());
  if (without.length < picks.length) setStepValue(step.id, field, without);
  else if (single && picks.length > 0) setStepValue(step.id, field, [{ ...picks[0], at }]);
  else setStepValue(step.id, field, [...picks, { key: freshPickKey(document!, step, field), at }]);
}

/** Puts another thing in the place of a pick that is lost. */
export function repick(stepId: string, field: string, key: string, at: string): void {
  const step = openPart(store.getState()).document?.steps.find((s) => s.id === stepId);
  if (!step) return;
  const picks = picksOf(step, field).map((p) => (p.key === key ? { ...p, at } : p));
  setStepValue(stepId, field, picks);
}

/** Lets one pick differ from the step in a value; `undefined` goes back to the step's. */
export function setOwnValue(
  step: StepDocument,
  field: string,
  pick: string,
  key: string,
  value: unknown,
  mark?: string,
): void {
  const picks = picksOf(step, field).map((p) => {
    if (p.key !== pick) return p;
    const own = Object.fromEntries(
      Object.entries({ ...p.own, [key]: value }).filter(([, v]) => v !== undefined),
    );
    const { own: _own, ...rest } = p;
    return Object.keys(own).length > 0 ? { ...rest, own } : rest;
  });
  setStepValue(step.id, field, picks, mark);
}

/** Adds a row at a place of a step's table, at its end if none is said. Returns its key. */
export function addRow(
  step: StepDocument,
  field: string,
  values: Readonly<Record<string, unknown>>,
  at?: number,
): string {
  const rows = rowsOf(step, field);
  const key = freshKey(rows);
  setStepValue(step.id, field, rows.toSpliced(at ?? rows.length, 0, { ...values, key }));
  return key;
}

export function setRow(
  step: StepDocument,
  field: string,
  key: string,
  column: string,
  value: unknown,
  mark?: string,
): void {
  const rows = rowsOf(step, field).map((r) => (r.key === key ? { ...r, [column]: value } : r));
  setStepValue(step.id, field, rows, mark);
}

export function removeRow(step: StepDocument, field: string, key: string): void {
  setStepValue(
    step.id,
    field,
    rowsOf(step, field).filter((r) => r.key !== key),
  );
}

/** Adds a named value under a name that is still free. */
export function addVariable(): string {
  const variables = variablesOf(openPart(store.getState()).document!);
  const key = freshKey(variables);
  let n = variables.length + 1;
  while (nameProblem(`value${n}`, variables)) n++;
  setVariables([...variables, { key, name: `value${n}`, value: "10" }]);
  return key;
}

export const setVariables = (variables: readonly Variable[], mark?: string): void =>
  setPartValues({ variables: variables.length > 0 ? variables : undefined }, mark);

/** Shows a bend unfolded, or lets it fold again. */
export function toggleHeld(bend: string): void {
  const held = openPart(store.getState()).document?.held ?? [];
  const next = held.includes(bend) ? held.filter((h) => h !== bend) : [...held, bend];
  setPartValues({ held: next.length > 0 ? next : undefined });
}

export const keepStill = (plate: string): void => setPartValues({ anchor: plate });
