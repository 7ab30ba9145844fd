import type { FoldState } from "../../sheet/folding/fold.ts";
import type { Sheet } from "../../sheet/sheet.ts";
import { foldedSurface } from "./folded-surface.ts";
import { writeStl } from "./stl.ts";

/** A folded sheet as binary STL, within `chord` (mm) of its surface. */
export const partStl = (
  sheet: Sheet,
  state: FoldState,
  anchor: string | undefined,
  chord: number,
): Uint8Array => writeStl(foldedSurface(sheet, state, anchor, chord));
