import type { EdgePick, HoleEntry } from "../steps/field.ts";
import { plateIdsOf } from "./build.ts";
import type { PartDocument, StepDocument } from "./document.ts";

const withSteps = (doc: PartDocument, steps: readonly StepDocument[]): PartDocument => ({ ...doc, steps });

/** The next free step id: s1, s2, … never one that was used by a step still there. */
export function freshStepId(doc: PartDocument): string {
  const highest = doc.steps.reduce((most, s) => Math.max(most, Number(/^s(\d+)$/.exec(s.id)?.[1] ?? 0)), 0);
  return `s${highest + 1}`;
}

/** A key that no entry of a list has: a, b, … z, a1, … Keys of removed entries may come again. */
export function freshKey(entries: readonly { readonly key: string }[]): string {
  const used = new Set(entries.map((e) => e.key));
  for (let i = 0; ; i++) {
    const key = String.fromCharCode(97 + (i % 26)) + (i < 26 ? "" : Math.floor(i / 26));
    if (!used.has(key)) return key;
  }
}

/**
 * A key for another edge of a flange: none that it has, and none by which later steps still name a
 * plate that is gone, so that they do not come to stand on another.
 */
export function freshEdgeKey(doc: PartDocument, step: StepDocument): string {
  const named = doc.steps.flatMap(edgesOf).map((e) => plateOfEdge(e.at));
  const gone = named.filter((p) => p.startsWith(step.id)).map((p) => ({ key: p.slice(step.id.length) }));
  return freshKey([...edgesOf(step), ...gone]);
}

/** Adds a step at the end, or after the bookmark when there is one, which then moves along. */
export function addStep(doc: PartDocument, step: StepDocument): PartDocument {
  const mark = doc.builtTo === undefined ? -1 : doc.steps.findIndex((s) => s.id === doc.builtTo);
  if (mark < 0) return withSteps(doc, [...doc.steps, step]);
  const steps = [...doc.steps.slice(0, mark + 1), step, ...doc.steps.slice(mark + 1)];
  return { ...withSteps(doc, steps), builtTo: step.id };
}

/** Changes values of a step; a value of `undefined` goes back to its default. */
export function changeStep(
  doc: PartDocument,
  id: string,
  values: Readonly<Record<string, unknown>>,
): PartDocument {
  return withSteps(
    doc,
    doc.steps.map((s) => (s.id === id ? withoutUndefined({ ...s, ...values }) : s)),
  );
}

function withoutUndefined<T extends object>(value: T): T {
  return Object.fromEntries(Object.entries(value).filter(([, v]) => v !== undefined)) as T;
}

export const edgesOf = (step: StepDocument): readonly EdgePick[] =>
  (step.edges as readonly EdgePick[] | undefined) ?? [];
export const holesOf = (step: StepDocument): readonly HoleEntry[] =>
  (step.holes as readonly HoleEntry[] | undefined) ?? [];

/** The steps that stand, directly or not, on plates that a step makes. */
export function dependentsOf(doc: PartDocument, id: string): StepDocument[] {
  const owner = doc.steps.find((s) => s.id === id);
  const gone = new Set(owner ? plateIdsOf(owner) : []);
  const out: StepDocument[] = [];
  for (const step of doc.steps) {
    if (step.id === id) continue;
    const edges = edgesOf(step);
    if (!edges.some((e) => gone.has(plateOfEdge(e.at)))) continue;
    out.push(step);
    for (const e of edges) if (gone.has(plateOfEdge(e.at))) gone.add(`${step.id}${e.key}`);
  }
  return out;
}

/** `s1.north` stands on plate `s1`. */
export const plateOfEdge = (edge: string): string => edge.slice(0, edge.lastIndexOf("."));

/**
 * Removes a step with everything that hangs on it: steps all of whose edges are gone go too, others
 * lose only the edges that are gone.
 */
export function removeStep(doc: PartDocument, id: string): PartDocument {
  const gone = new Set(plateIdsOf(doc.steps.find((s) => s.id === id)!));
  const steps: StepDocument[] = [];
  for (const step of doc.steps) {
    if (step.id === id) continue;
    const edges = edgesOf(step);
    const lost = edges.filter((e) => gone.has(plateOfEdge(e.at)));
    for (const e of lost) gone.add(`${step.id}${e.key}`);
    if (edges.length > 0 && lost.length === edges.length) continue;
    steps.push(lost.length > 0 ? { ...step, edges: edges.filter((e) => !lost.includes(e)) } : step);
  }
  return tidy({ ...doc, steps });
}

/** Puts a step at another place in the order. */
export function moveStep(doc: PartDocument, id: string, to: number): PartDocument {
  const from = doc.steps.findIndex((s) => s.id === id);
  const steps = doc.steps.filter((s) => s.id !== id);
  steps.splice(Math.max(0, Math.min(to, steps.length)), 0, doc.steps[from]);
  return withSteps(doc, steps);
}

/** Why a step cannot stand at a place; nothing when it can. */
export function moveProblem(doc: PartDocument, id: string, to: number): string | undefined {
  const moved = moveStep(doc, id, to);
  const made = new Map(moved.steps.flatMap((s, i) => plateIdsOf(s).map((p) => [p, i] as const)));
  for (const [i, step] of moved.steps.entries()) {
    for (const e of edgesOf(step)) {
      const owner = made.get(plateOfEdge(e.at));
      if (owner === undefined || owner < i) continue;
      const [a, b] = [i, owner].map((k) => doc.steps.indexOf(moved.steps[k]) + 1);
      return `Step ${a} stands on what step ${b} makes, so it must come after it.`;
    }
  }
  return undefined;
}

/** A copy of a step right after it. A flange's copy has no edges yet: two cannot stand on one edge. */
export function copyStep(doc: PartDocument, id: string): { document: PartDocument; copy: string } {
  const at = doc.steps.findIndex((s) => s.id === id);
  const fresh = freshStepId(doc);
  const { edges: _edges, ...values } = doc.steps[at];
  const copy: StepDocument = { ...values, id: fresh, kind: doc.steps[at].kind };
  return {
    document: withSteps(doc, [...doc.steps.slice(0, at + 1), copy, ...doc.steps.slice(at + 1)]),
    copy: fresh,
  };
}

/** Drops held bends, anchors and bookmarks that name what is no longer there. */
function tidy(doc: PartDocument): PartDocument {
  const plates = new Set(doc.steps.flatMap(plateIdsOf));
  const held = doc.held?.filter((h) => plates.has(h));
  const { builtTo, anchor, held: _held, ...rest } = doc;
  return {
    ...rest,
    ...(builtTo !== undefined && doc.steps.some((s) => s.id === builtTo) ? { builtTo } : {}),
    ...(anchor !== undefined && plates.has(anchor) ? { anchor } : {}),
    ...(held && held.length > 0 ? { held } : {}),
  };
}
