import { sheetCorners } from "../sheet/corners/corners.ts";
import type { Plate } from "../sheet/pieces/flat-pieces.ts";
import { platesOf } from "../sheet/sheet.ts";
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

/** A plate as it stands when a step begins its work: what the step can be measured from. Nothing where it is made later. */
export function plateBefore(document: PartDocument, step: string, plate: string): Plate | undefined {
  const index = document.steps.findIndex((s) => s.id === step);
  if (index < 0) return undefined;
  const { builtTo: _bookmark, ...rest } = document;
  const { sheet } = buildPart({ ...rest, steps: document.steps.slice(0, index) });
  return platesOf(sheet).find((p) => p.id === plate);
}
