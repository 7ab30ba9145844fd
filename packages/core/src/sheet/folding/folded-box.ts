import type { Vector } from "../../space/vector.ts";
import { AXES } from "../pieces/borders.ts";
import type { Beyond } from "../pieces/piece-kind.ts";
import { kindOf } from "../pieces/piece-kinds.ts";
import type { Sheet } from "../sheet.ts";
import { type Folding, foldPoint } from "./fold.ts";

export interface Box {
  readonly min: Vector;
  readonly max: Vector;
  /** The metal lies within, but may not reach all of it. Nothing where the box is exact. */
  readonly bounded?: true;
}

/**
 * The axis-aligned box of a folded sheet: every piece names the developed points by which its own is decided.
 * Exact where all pieces can be: every outline is a border of straight lines and arcs, and each is followed to
 * where it turns back along an axis of space. A straight border across a bend is a helix there, whose farthest
 * point may lie within; its place is found in closed form. An arc border on a bend is followed numerically, to
 * 1e-9 of its length.
 */
export function foldedBox(sheet: Sheet, folding: Folding): Box {
  const box = emptyBox();
  let exact = true;
  sheet.pieces.forEach((_, i) => {
    exact = growBox(box, sheet, folding, i) === "exact" && exact;
  });
  return { ...box, ...(exact ? {} : { bounded: true }) };
}

/** A box that others are taken into. */
interface GrowingBox {
  readonly min: [number, number, number];
  readonly max: [number, number, number];
}

export const emptyBox = (): GrowingBox => ({
  min: [Infinity, Infinity, Infinity],
  max: [-Infinity, -Infinity, -Infinity],
});

/** Takes a piece into a box; what of it could not be beyond the box is not looked for. */
export function growBox(
  { min, max }: GrowingBox,
  { pieces, t }: Sheet,
  folding: Folding,
  i: number,
): "exact" | "outside" {
  const take = (u: number, v: number, height?: number) => {
    for (const w of height === undefined ? [0, t] : [height]) {
      const p = foldPoint(folding, i, [u, v, w]);
      for (const k of AXES) {
        min[k] = Math.min(min[k], p[k]);
        max[k] = Math.max(max[k], p[k]);
      }
    }
  };
  const beyond: Beyond = (k, way, height) => (way > 0 ? height > max[k] : height > -min[k]);
  return kindOf(pieces[i]).reach(pieces[i], folding.pieces[i], t, take, beyond);
}
