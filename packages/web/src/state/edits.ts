import {
  addStep,
  changeStep,
  edgesOf,
  freshEdgeKey,
  freshKey,
  freshStepId,
  holesOf,
  type PartDocument,
  type StepDocument,
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
  store.dispatch(partActions.edited({ document: change(document), ...options }));
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

/** A flange on picked edges, in one step. */
export function flangeOn(edges: readonly string[]): string {
  const picks: { key: string; at: string }[] = [];
  for (const at of edges) picks.push({ key: freshKey(picks), at });
  return appendStep("flange", { edges: picks });
}

/** Adds an edge to a flange, or takes it away when it is there. */
export function toggleEdge(step: StepDocument, at: string): void {
  const edges = edgesOf(step);
  const without = edges.filter((e) => e.at !== at);
  const { document } = store.getState().part;
  if (without.length < edges.length) setStepValue(step.id, "edges", without);
  else setStepValue(step.id, "edges", [...edges, { key: freshEdgeKey(document!, step), at }]);
}

export function addHole(step: StepDocument, x: string, y: string, d: string): void {
  const holes = holesOf(step);
  setStepValue(step.id, "holes", [...holes, { key: freshKey(holes), x, y, d }]);
}

export function setHole(
  step: StepDocument,
  key: string,
  axis: "x" | "y" | "d",
  value: string,
  mark?: string,
): void {
  const holes = holesOf(step).map((h) => (h.key === key ? { ...h, [axis]: value } : h));
  setStepValue(step.id, "holes", holes, mark);
}

export function removeHole(step: StepDocument, key: string): void {
  setStepValue(
    step.id,
    "holes",
    holesOf(step).filter((h) => h.key !== key),
  );
}

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
