import { Kept } from "../../kept.ts";
import type { Vector } from "../../space/vector.ts";
import { AXES } from "../pieces/borders.ts";
import type { Beyond } from "../pieces/piece-kind.ts";
import { type FoldedPiece, kindOf } from "../pieces/piece-kinds.ts";
import type { Piece, Sheet } from "../sheet.ts";
import type { Folding } from "./fold.ts";

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
  sheet.pieces.forEach((piece, i) => {
    const known: GrowingBox = { min: [...box.min], max: [...box.max] };
    const own = ownBox.of(folding.pieces[i], { known, piece, t: folding.t });
    for (let k = 0; k < 3; k++) {
      box.min[k] = Math.min(box.min[k], own.min[k]);
      box.max[k] = Math.max(box.max[k], own.max[k]);
    }
    exact &&= own.exact;
  });
  return { ...box, ...(exact ? {} : { bounded: true }) };
}

/** What the box of a folded piece follows from besides: `known` is the box of others. */
interface Asked {
  readonly known: GrowingBox;
  readonly piece: Piece;
  readonly t: number;
}

/** The box of a folded piece, as far as it could be beyond one that is known. It stands while that holds all of the other. */
const ownBox = new Kept(
  (folded: FoldedPiece, { known, piece, t }: Asked) => {
    const box = emptyBox();
    const exact = growBox(box, piece, folded, t, known) === "exact";
    return { ...box, exact };
  },
  (p, q) =>
    p.piece === q.piece &&
    p.t === q.t &&
    AXES.every((k) => q.known.min[k] <= p.known.min[k] && q.known.max[k] >= p.known.max[k]),
);

/** A box that others are taken into. */
interface GrowingBox {
  readonly min: [number, number, number];
  readonly max: [number, number, number];
}

export const emptyBox = (): GrowingBox => ({
  min: [Infinity, Infinity, Infinity],
  max: [-Infinity, -Infinity, -Infinity],
});

/**
 * Takes a folded piece into a box; what of it could not be beyond that or beyond another that is known is not looked
 * for.
 */
export function growBox(
  { min, max }: GrowingBox,
  piece: Piece,
  folded: FoldedPiece,
  t: number,
  known: GrowingBox = { min, max },
): "exact" | "outside" {
  const kind = kindOf(piece);
  const takeAt = (x: number, y: number, w: number) => {
    const p = kind.placeAt(folded, t, { x, y }, w);
    for (let k = 0; k < 3; k++) {
      min[k] = Math.min(min[k], p[k]);
      max[k] = Math.max(max[k], p[k]);
    }
  };
  const take = (x: number, y: number, height?: number) => {
    takeAt(x, y, height ?? 0);
    if (height === undefined) takeAt(x, y, t);
  };
  const beyond: Beyond = (k, way, height) =>
    way > 0 ? height > Math.max(max[k], known.max[k]) : height > -Math.min(min[k], known.min[k]);
  return kind.reach(piece, folded, t, take, beyond);
}
