import type { PickEntry, PicksField } from "../fields/field.ts";
import { picksOfFields } from "../fields/field-kinds.ts";
import { Kept } from "../kept.ts";
import { partsOfName, plateLetter } from "../sheet/sheet.ts";
import { stepKind } from "../steps/registry.ts";
import { fieldsOf, type Made } from "../steps/step-kind.ts";
import type { PartDocument, StepDocument } from "./document.ts";

/** A question about a step alone, answered once for each: an edit makes another step, and leaves the others be. */
function onceAStep<T>(answer: (step: StepDocument) => T): (step: StepDocument) => T {
  const kept = new Kept(answer);
  return (step) => kept.of(step);
}

/** A step's fields of picks, with what is picked in each. */
export const picksIn = onceAStep((step) => picksOfFields(fieldsOf(stepKind(step.kind), step), step));

/** Which corners are picked in a field of a step. */
export const cornersOf = (step: StepDocument, key: string): "flanges" | "outline" =>
  picksIn(step).find(({ field }) => field.key === key)?.field.corners ?? "outline";

/** The plate that a pick stands on; none for a step. `s1.north` stands on plate `s1`. */
export function plateOfPick(field: PicksField, pick: PickEntry): string | undefined {
  return field.of === "step" ? undefined : partsOfName(pick.at).plate;
}

/** The plates that a step makes, by their stable names, and whether each hangs on a bend. */
export const madeBy = onceAStep((step): readonly Made[] => {
  const kind = stepKind(step.kind);
  const grown = picksIn(step)
    .filter(({ field }) => field.grows)
    .flatMap(({ picks }) => picks.map((p): Made => ({ plate: `${step.id}${p.key}`, onBend: true })));
  return [...grown, ...(kind?.makes?.(step) ?? [])];
});

export const plateIdsOf = (step: StepDocument): string[] => madeBy(step).map((m) => m.plate);

/** Letters of all plates in step order, also of steps that are paused or wrong, so that they do not jump about. */
export function plateLabels(document: PartDocument): Map<string, string> {
  const out = new Map<string, string>();
  for (const step of document.steps) for (const id of plateIdsOf(step)) out.set(id, plateLetter(out.size));
  return out;
}

/** Numbers of all bends in step order; a bend is called like the plate it carries. */
export function bendNumbers(document: PartDocument): Map<string, number> {
  const out = new Map<string, number>();
  for (const step of document.steps)
    for (const { plate, onBend } of madeBy(step)) if (onBend) out.set(plate, out.size + 1);
  return out;
}
