import {
  fail,
  newPart,
  ok,
  outlineFromShapes,
  outlineRegions,
  type PartDocument,
  type Result,
  solveOutline,
} from "@hillcrest/core";
import { leftOut, type ReadDrawing } from "../../drawing-files/read-drawing.ts";

/** A part that is one flat plate as a file draws it, and what was done to the drawing on the way. */
export interface FlatPart {
  readonly document: PartDocument;
  readonly notes: readonly string[];
}

/** Makes a flat part of a drawing; `scale`: millimetres in a unit of it. Says why where it bounds no plate. */
export function flatPart(
  { name, drawn }: ReadDrawing,
  scale: number,
  stock: PartDocument["stock"],
): Result<FlatPart> {
  const made = outlineFromShapes(name, drawn.shapes, { scale });
  if (!made.ok) return fail(made.error);
  const { outline, notes } = made.value;
  const { regions, problems } = outlineRegions(outline, solveOutline(outline));
  if (problems.length > 0)
    return fail(
      `It bounds no plate: ${problems[0].message} Read it in on the Bench, under Outlines, to mend it.`,
    );
  if (regions.length !== 1)
    return fail(
      `It draws ${regions.length} separate areas, and a flat part is one. Read it in on the Bench, under Outlines, and take out what is not wanted.`,
    );
  const document: PartDocument = {
    ...newPart(name.trim() || "Flat part"),
    stock,
    outlines: [{ key: "a", outline }],
    steps: [{ id: "s1", kind: "plate", form: "drawn", drawn: "a" }],
  };
  return ok({ document, notes: [...notes, ...leftOut(drawn)] });
}
