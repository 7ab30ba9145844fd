import type { Piece } from "../sheet.ts";
import { bendPiece, type FoldedBend } from "./bend-piece.ts";
import { conePiece, type FoldedCone } from "./cone-piece.ts";
import { type FoldedFormed, formedPiece } from "./formed-piece.ts";
import type { PieceKind } from "./piece-kind.ts";
import { type FoldedPlate, platePiece } from "./plate-piece.ts";
import { type FoldedRib, ribPiece } from "./rib-piece.ts";

/** What a piece of each kind is in a fold state. */
interface Folded {
  readonly plate: FoldedPlate;
  readonly bend: FoldedBend;
  readonly cone: FoldedCone;
  readonly formed: FoldedFormed;
  readonly rib: FoldedRib;
}

export type FoldedPiece = Folded[keyof Folded];

/** What each kind of piece answers. A kind without an answer does not compile. */
export const pieceKinds: {
  readonly [K in Piece["kind"]]: PieceKind<Extract<Piece, { kind: K }>, Folded[K]>;
} = {
  plate: platePiece,
  bend: bendPiece,
  cone: conePiece,
  formed: formedPiece,
  rib: ribPiece,
};

/** Where a piece between two plates meets them. */
export const seamsOf = (piece: Extract<Piece, { readonly child: string }>) => kindOf(piece).seams!(piece);

/** The answers for a piece, or for one in a fold state. */
export const kindOf = ({ kind }: { readonly kind: Piece["kind"] }): PieceKind<Piece, FoldedPiece> =>
  pieceKinds[kind] as unknown as PieceKind<Piece, FoldedPiece>;
