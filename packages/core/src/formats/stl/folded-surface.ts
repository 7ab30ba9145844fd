import { type FoldState, foldSheet } from "../../sheet/folding/fold.ts";
import { foldMesh } from "../../sheet/meshes/folded-mesh.ts";
import { meshSheet, type SheetMesh } from "../../sheet/meshes/mesh.ts";
import type { Bend } from "../../sheet/pieces/flat-pieces.ts";
import { bendsOf, type Sheet } from "../../sheet/sheet.ts";
import { type CleanSurface, cleanSurface } from "./clean-surface.ts";

/** The least inside radius that a file of points shows (mm), and in steps of single precision at the part's size. */
const LEAST_RADIUS = 1e-3;
const LEAST_STEPS = 96;

/** Bends that turn by less than a straight angle less this are no hem on whose legs metal lies on metal. */
const CLOSED = Math.PI - 0.1;

/**
 * A folded sheet as a closed surface within `chord` (mm) of its own, for formats that know points in single precision. A hem
 * that is folded flat on itself would have no inside: its two inner faces stand as far apart there as they need to be told, a
 * few thousandths of a millimetre, each in its own metal, so that the outside is where it is.
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
  const isFlat = (b: Bend) => b.radius < least && b.angle > CLOSED;
  const open = (b: Bend): Bend => ({
    ...b,
    radius: least,
    k: (b.allowance / b.angle - least) / sheet.t,
  });
  const mesh = meshSheet(sheet, chord);
  const exact = foldMesh(mesh, foldSheet(sheet, state, anchor));
  const flat = bendsOf(sheet).filter(isFlat);
  if (flat.length === 0) return cleanSurface(exact);
  const opened: Sheet = {
    ...sheet,
    pieces: sheet.pieces.map((p) => (p.kind === "bend" && isFlat(p) ? open(p) : p)),
  };
  const apart = foldMesh(mesh, foldSheet(opened, state, anchor));
  return cleanSurface({
    ...exact,
    positions: withInner(exact.positions, apart.positions, mesh, sheet, flat),
  });
}

/** The places of one mesh, but for the inner faces of bends that are folded flat and of the plates beside them. */
function withInner(
  outer: Float64Array,
  inner: Float64Array,
  { columnOwner }: SheetMesh,
  { pieces }: Sheet,
  flat: readonly Bend[],
): Float64Array {
  // Of a plate between two of them the side counts that lies inside the first.
  const side = new Map<string, 0 | 3>();
  for (const { id, parent, child, up } of flat)
    for (const name of [`bend ${id}`, `plate ${parent}`, `plate ${child}`])
      if (!side.has(name)) side.set(name, up ? 3 : 0);
  const out = outer.slice();
  for (const [k, owner] of columnOwner.entries()) {
    const from = side.get(`${pieces[owner].kind} ${pieces[owner].id}`);
    if (from === undefined) continue;
    for (let i = k * 6 + from; i < k * 6 + from + 3; i++) out[i] = inner[i];
  }
  return out;
}
