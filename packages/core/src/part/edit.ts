import { type PickEntry, picksOf } from "../fields/field.ts";
import type { PartDocument, StepDocument } from "./document.ts";
import { picksIn, plateIdsOf, plateOfPick } from "./references.ts";

const withSteps = (doc: PartDocument, steps: readonly StepDocument[]): PartDocument => ({ ...doc, steps });

/** The next free step id: s1, s2, … never one that was used by a step still there. */
export function freshStepId(doc: PartDocument): string {
  // Steps of a part that follows another have names that the other will never give.
  const stem = doc.follows ? "o" : "s";
  const form = new RegExp(`^${stem}(\\d+)$`);
  const highest = doc.steps.reduce((most, s) => Math.max(most, Number(form.exec(s.id)?.[1] ?? 0)), 0);
  return `${stem}${highest + 1}`;
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
 * A key for another pick of a step: none that it has, and none by which later steps still name a
 * plate that is gone, so that they do not come to stand on another.
 */
export function freshPickKey(doc: PartDocument, step: StepDocument, field: string): string {
  const named = doc.steps.flatMap((s) =>
    picksIn(s).flatMap(({ field: f, picks }) => picks.map((p) => plateOfPick(f, p) ?? "")),
  );
  const gone = named.filter((p) => p.startsWith(step.id)).map((p) => ({ key: p.slice(step.id.length) }));
  return freshKey([...picksOf(step, field), ...gone]);
}

/** Adds steps at the end, or after the bookmark when there is one, which then moves along. */
export function addSteps(doc: PartDocument, added: readonly StepDocument[]): PartDocument {
  const mark = doc.builtTo === undefined ? -1 : doc.steps.findIndex((s) => s.id === doc.builtTo);
  const last = added.at(-1);
  if (mark < 0 || !last) return withSteps(doc, [...doc.steps, ...added]);
  return { ...withSteps(doc, doc.steps.toSpliced(mark + 1, 0, ...added)), builtTo: last.id };
}

/** The last step of a kind that fits a question. */
export const lastStepOf = (
  doc: PartDocument,
  kind: string,
  fits: (step: StepDocument) => boolean,
): StepDocument | undefined => doc.steps.findLast((s) => s.kind === kind && fits(s));

/** What a step loses when plates and steps go: the picks on them, by field. */
function lostPicks(step: StepDocument, plates: ReadonlySet<string>, steps: ReadonlySet<string>) {
  const lost = new Map<string, readonly PickEntry[]>();
  let bare = false;
  for (const { field, picks } of picksIn(step)) {
    const gone = picks.filter((p) =>
      field.of === "step" ? steps.has(p.at) : plates.has(plateOfPick(field, p)!),
    );
    if (gone.length === 0) continue;
    lost.set(field.key, gone);
    if (gone.length === picks.length && !field.optional) bare = true;
  }
  return { lost, bare };
}

/** Walks the steps after a removal: `visit` is told what each loses; plates that go with it go too. */
function followRemoval(
  doc: PartDocument,
  id: string,
  visit: (step: StepDocument, lost: ReadonlyMap<string, readonly PickEntry[]>, bare: boolean) => void,
): void {
  const owner = doc.steps.find((s) => s.id === id);
  const plates = new Set(owner ? plateIdsOf(owner) : []);
  const steps = new Set([id]);
  for (const step of doc.steps) {
    if (step.id === id) continue;
    const { lost, bare } = lostPicks(step, plates, steps);
    visit(step, lost, bare);
    if (bare) {
      for (const p of plateIdsOf(step)) plates.add(p);
      steps.add(step.id);
    } else
      for (const { field } of picksIn(step))
        if (field.grows) for (const p of lost.get(field.key) ?? []) plates.add(`${step.id}${p.key}`);
  }
}

/** The steps that stand, directly or not, on what a step makes. */
export function dependentsOf(doc: PartDocument, id: string): StepDocument[] {
  const out: StepDocument[] = [];
  followRemoval(doc, id, (step, lost) => {
    if (lost.size > 0) out.push(step);
  });
  return out;
}

/**
 * Removes a step with everything that hangs on it: steps that have nothing left to stand on go too,
 * others lose only the picks that are gone.
 */
export function removeStep(doc: PartDocument, id: string): PartDocument {
  const steps: StepDocument[] = [];
  followRemoval(doc, id, (step, lost, bare) => {
    if (bare) return;
    const rest = [...lost].map(([field, gone]) => [
      field,
      picksOf(step, field).filter((p) => !gone.includes(p)),
    ]);
    steps.push(lost.size > 0 ? { ...step, ...Object.fromEntries(rest) } : step);
  });
  return tidy({ ...doc, steps });
}

/** Puts a step at another place in the order. */
export function moveStep(doc: PartDocument, id: string, to: number): PartDocument {
  const from = doc.steps.findIndex((s) => s.id === id);
  const steps = doc.steps.filter((s) => s.id !== id);
  steps.splice(Math.max(0, Math.min(to, steps.length)), 0, doc.steps[from]);
  return withSteps(doc, steps);
}

/**
 * Why a step cannot stand at a place; nothing when it can. Only what it stands on and what stands on it is
 * asked: the order of all others among themselves stays as it is.
 */
export function moveProblem(doc: PartDocument, id: string, to: number): string | undefined {
  const from = doc.steps.findIndex((s) => s.id === id);
  const at = Math.max(0, Math.min(to, doc.steps.length - 1));
  /** Where a step stands after the move, by where it stands now. */
  const then = (i: number): number =>
    i === from ? at : i > from && i <= at ? i - 1 : i < from && i >= at ? i + 1 : i;
  const owners = new Map(doc.steps.flatMap((s, i) => plateIdsOf(s).map((p) => [p, i] as const)));
  const places = new Map(doc.steps.map((s, i) => [s.id, i]));
  for (const [i, step] of doc.steps.entries()) {
    for (const { field, picks } of picksIn(step)) {
      for (const p of picks) {
        const owner = field.of === "step" ? places.get(p.at) : owners.get(plateOfPick(field, p)!);
        if (owner === undefined || (i !== from && owner !== from) || then(owner) < then(i)) continue;
        return `Step ${i + 1} stands on what step ${owner + 1} makes, so it must come after it.`;
      }
    }
  }
  return undefined;
}

/** A step's values without what it was picked on: another cannot stand on the same edge. */
function bareStep(step: StepDocument, id: string): StepDocument {
  const picked = new Set(picksIn(step).map(({ field }) => field.key));
  const values = Object.entries(step).filter(([key]) => !picked.has(key));
  return { ...Object.fromEntries(values), id, kind: step.kind };
}

/** A copy of a step, to stand right after it and not yet on anything: the step, and its place. */
export function copyOfStep(doc: PartDocument, id: string): { step: StepDocument; at: number } {
  const at = doc.steps.findIndex((s) => s.id === id);
  return { step: bareStep(doc.steps[at], freshStepId(doc)), at: at + 1 };
}

/**
 * Puts steps of another part at the end of this one. Among themselves they keep what they stand on,
 * by new names; a pick on anything else is kept only where this part has a thing of that name.
 */
export function pasteSteps(doc: PartDocument, steps: readonly StepDocument[]): PartDocument {
  const stem = doc.follows ? "o" : "s";
  const first = Number(freshStepId(doc).slice(stem.length));
  const plates = new Set(doc.steps.flatMap(plateIdsOf));
  const ids = new Set(doc.steps.map((s) => s.id));
  const renamed = new Map<string, string>();
  const pasted = steps.map((step, i): StepDocument => {
    const fresh = `${stem}${first + i}`;
    for (const plate of plateIdsOf(step)) renamed.set(plate, fresh + plate.slice(step.id.length));
    renamed.set(step.id, fresh);
    const picks = picksIn(step).map(({ field, picks: own }) => {
      const kept = own.flatMap((p) => {
        const stood = plateOfPick(field, p) ?? p.at;
        const to = renamed.get(stood) ?? stood;
        const there = field.of === "step" ? ids.has(to) : plates.has(to);
        return there ? [{ ...p, at: to + p.at.slice(stood.length) }] : [];
      });
      return [field.key, kept] as const;
    });
    const made = { ...step, ...Object.fromEntries(picks), id: fresh };
    for (const plate of plateIdsOf(made)) plates.add(plate);
    ids.add(fresh);
    return made;
  });
  return addSteps(doc, pasted);
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
