import { buildPart, cornersOf, type PartDocument, sheetCorners } from "@hillcrest/core";

let kept: { document: PartDocument; step: string; names: ReadonlySet<string> } | undefined;

/**
 * The corners that stand when a step begins its work: later steps, and the step itself, may have taken
 * some away or made others, which it could not find.
 */
export function cornersBefore(document: PartDocument, step: string): ReadonlySet<string> {
  if (kept?.document === document && kept.step === step) return kept.names;
  const index = document.steps.findIndex((s) => s.id === step);
  const { builtTo: _bookmark, ...rest } = document;
  const { sheet } = buildPart({ ...rest, steps: document.steps.slice(0, index) });
  const of = document.steps[index] ? cornersOf(document.steps[index], "corners") : "outline";
  const names = new Set(sheet ? sheetCorners(sheet).flatMap((c) => (c.of === of ? [c.name] : [])) : []);
  kept = { document, step, names };
  return names;
}
