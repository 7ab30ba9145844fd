import { type FoldState, foldSheet } from "../../sheet/folding/fold.ts";
import { foldMesh } from "../../sheet/meshes/folded-mesh.ts";
import { meshSheet } from "../../sheet/meshes/mesh.ts";
import { type Bend, bendsOf, type Sheet } from "../../sheet/sheet.ts";
import { type CleanSurface, cleanSurface } from "./clean-surface.ts";

/** The least inside radius that a file of points shows (mm), and in steps of single precision at the part's size. */
const LEAST_RADIUS = 1e-3;
const LEAST_STEPS = 256;

/**
 * A folded sheet as a closed surface within `chord` (mm) of its own, for formats that know points in single precision. A hem
 * that is folded flat on itself would have no inside: its metal stands as far apart there as its two sides need to be told,
 * a few thousandths of a millimetre.
 */
export function foldedSurface(
  sheet: Sheet,
  state: FoldState,
  anchor: string | undefined,
  chord: number,
): CleanSurface {
  const size = Math.max(
    1,
    ...bendsOf(sheet).map((b) => Math.abs(b.origin.x) + Math.abs(b.origin.y) + b.width),
  );
  const least = Math.max(LEAST_RADIUS, LEAST_STEPS * 2 ** (Math.floor(Math.log2(size)) - 23));
  const open = (b: Bend): Bend =>
    b.radius >= least || b.angle < 1e-9
      ? b
      : { ...b, radius: least, k: (b.allowance / b.angle - least) / sheet.t };
  const shown: Sheet = { ...sheet, pieces: sheet.pieces.map((p) => (p.kind === "bend" ? open(p) : p)) };
  return cleanSurface(foldMesh(meshSheet(shown, chord), foldSheet(shown, state, anchor)));
}
