import type { Folding, FoldState } from "../sheet/folding/fold.ts";
import { type Piece, pieceIndex, type Sheet } from "../sheet/sheet.ts";
import { boxGap } from "./box.ts";
import { eachNear, treeOf } from "./box-tree.ts";
import type { Nearest } from "./convex.ts";
import { Folds } from "./folds.ts";
import { CONTACT, clearanceOf } from "./pair.ts";
import { NEIGHBOURS, solidsAtEnd } from "./search.ts";
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

/** Where metal comes nearest to itself: the two pieces, and the two points. */
export interface LeastGap extends Nearest {
  readonly pieces: readonly [Piece, Piece];
}

/**
 * Where the metal of a sheet comes nearest to itself in a fold state without touching, mm. Pieces of which one hangs on
 * the other, or both on one, are left out; nothing where there are no others. What touches or stands in one another
 * has no gap, and is left out too.
 */
export function clearanceWithin(sheet: Sheet, state: FoldState): LeastGap | undefined {
  const folds = new Folds(sheet, () => state);
  const solids = solidsAtEnd(folds);
  const tree = treeOf(solids.map((solid) => ({ min: solid.box.min, max: solid.box.max, solid })));
  let best: LeastGap | undefined;
  const bound = () => best?.distance ?? Infinity;
  eachNear(tree, tree, bound, ({ solid: p }, { solid: q }) => {
    if (p.index >= q.index || boxGap(p.box, q.box, bound()) >= bound()) return;
    if (folds.trail(p.index, q.index).pieces.length <= NEIGHBOURS) return;
    const found = clearanceOf(p, q);
    if (found.distance > CONTACT && found.distance < bound()) best = { ...found, pieces: [p.piece, q.piece] };
  });
  return best;
}
