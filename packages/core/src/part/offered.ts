import { sheetCorners } from "../sheet/corners/corners.ts";
import { buildPart } from "./build.ts";
import type { PartDocument } from "./document.ts";
import { picksIn } from "./references.ts";

/**
 * The corners that stand when a step begins its work: later steps, and the step itself, may have taken some away or
 * made others, which it could not find. Those between flanges or those of the outline, as the step's field takes.
 */
export function cornersBefore(document: PartDocument, step: string): string[] {
  const index = document.steps.findIndex((s) => s.id === step);
  const field =
    index < 0 ? undefined : picksIn(document.steps[index]).find(({ field: f }) => f.of === "corner");
  if (!field) return [];
  const { builtTo: _bookmark, ...rest } = document;
  const { sheet } = buildPart({ ...rest, steps: document.steps.slice(0, index) });
  const of = field.field.corners ?? "outline";
  return sheet ? sheetCorners(sheet).flatMap((c) => (c.of === of ? [c.name] : [])) : [];
}
