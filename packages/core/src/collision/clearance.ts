import type { Folding } from "../sheet/folding/fold.ts";
import { pieceIndex, type Sheet } from "../sheet/sheet.ts";
import type { Nearest } from "./convex.ts";
import { clearanceOf } from "./pair.ts";
import { Solid } from "./solids.ts";

/** A plate or bend, by its stable name; other kinds of things have no metal of their own. */
export interface Named {
  readonly kind: string;
  readonly name: string;
}

/**
 * The least distance between the metal of two plates or bends in a fold state, mm, with the two points where it is:
 * nought where they touch or stand in one another. Nothing where one is no piece of the sheet, or has no metal.
 */
export function clearanceBetween(sheet: Sheet, folding: Folding, a: Named, b: Named): Nearest | undefined {
  const [p, q] = [a, b].map(({ kind, name }) => {
    const i = kind === "plate" || kind === "bend" ? pieceIndex(sheet, kind, name) : -1;
    const solid = i < 0 ? undefined : new Solid(i, sheet.pieces[i], folding.pieces[i], sheet.t);
    return solid?.outline.isEmpty ? undefined : solid;
  });
  return p && q && p.index !== q.index ? clearanceOf(p, q) : undefined;
}
