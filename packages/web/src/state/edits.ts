import {
  addStep,
  changeStep,
  freshKey,
  freshPickKey,
  freshStepId,
  nameProblem,
  type PartDocument,
  type PickEntry,
  type PickOf,
  type PicksField,
  picksOf,
  rowsOf,
  type StepDocument,
  type StepKind,
  type Variable,
  variablesOf,
} from "@hillcrest/core";
import { partActions } from "./part-slice.ts";
import { store } from "./store.ts";
import { viewActions } from "./view-slice.ts";

/** Edits the open part. `mark` joins quick edits of one value into one undo step. */
export function edit(
  change: (doc: PartDocument) => PartDocument,
  options: { step?: string; mark?: string } = {},
): void {
  const { document } = store.getState().part;
  if (!document) return;
  const next = change(document);
  // Steps that follow another part are changed over there; what was done to them here would be lost.
  const followed = next.follows?.steps ?? 0;
  if (next.steps.slice(0, followed).some((s, i) => s !== document.steps[i])) return;
  store.dispatch(partActions.edited({ document: next, ...options }));
}

export const setStepValue = (step: string, key: string, value: unknown, mark?: string): void =>
  edit((doc) => changeStep(doc, step, { [key]: value }), { step, mark });

export const setStockValue = (key: string, value: unknown, mark?: string): void =>
  edit((doc) => ({ ...doc, stock: { ...doc.stock, [key]: value } }), { mark });

/** Adds a step and opens it. Returns its id. */
export function appendStep(kind: string, values: Readonly<Record<string, unknown>> = {}): string {
  const { document } = store.getState().part;
  const id = freshStepId(document!);
  edit((doc) => addStep(doc, { ...values, id, kind }), { step: id });
  store.dispatch(viewActions.stepOpened(id));
  store.dispatch(viewActions.pickCleared());
  return id;
}

/** Adds several steps at once, as one edit. Returns their ids. */
export function appendSteps(steps: readonly (Omit<StepDocument, "id"> & { kind: string })[]): string[] {
  const ids: string[] = [];
  edit((doc) =>
    steps.reduce((now, step) => {
      const id = freshStepId(now);
      ids.push(id);
      return addStep(now, { ...step, id } as StepDocument);
    }, doc),
  );
  store.dispatch(viewActions.pickCleared());
  return ids;
}

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
  const { document } = store.getState().part;
  if (without.length < picks.length) setStepValue(step.id, field, without);
  else if (single && picks.length > 0) setStepValue(step.id, field, [{ ...picks[0], at }]);
  else setStepValue(step.id, field, [...picks, { key: freshPickKey(document!, step, field), at }]);
}

/** Puts another thing in the place of a pick that is lost. */
export function repick(stepId: string, field: string, key: string, at: string): void {
  edit(
    (doc) => {
      const step = doc.steps.find((s) => s.id === stepId)!;
      const picks = picksOf(step, field).map((p) => (p.key === key ? { ...p, at } : p));
      return changeStep(doc, stepId, { [field]: picks });
    },
    { step: stepId },
  );
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
  const variables = variablesOf(store.getState().part.document!);
  const key = freshKey(variables);
  let n = variables.length + 1;
  while (nameProblem(`value${n}`, variables)) n++;
  setVariables([...variables, { key, name: `value${n}`, value: "10" }]);
  return key;
}

export const setVariables = (variables: readonly Variable[], mark?: string): void =>
  edit(
    (doc) => {
      const { variables: _gone, ...rest } = doc;
      return variables.length > 0 ? { ...rest, variables } : rest;
    },
    { mark },
  );

/** Shows a bend unfolded, or lets it fold again. */
export function toggleHeld(bend: string): void {
  edit((doc) => {
    const held = doc.held ?? [];
    const next = held.includes(bend) ? held.filter((h) => h !== bend) : [...held, bend];
    const { held: _held, ...rest } = doc;
    return next.length > 0 ? { ...rest, held: next } : rest;
  });
}

export const keepStill = (plate: string): void => edit((doc) => ({ ...doc, anchor: plate }));
