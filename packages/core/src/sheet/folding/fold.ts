import { Kept } from "../../kept.ts";
import { inverse, type Motion, type Vector } from "../../space/vector.ts";
import { type FoldedPiece, kindOf } from "../pieces/piece-kinds.ts";
import type { Carrier, Piece, Sheet } from "../sheet.ts";

/** How far each piece is folded, 0 flat to 1 full, in the order of `sheet.pieces`; what does not fold counts for nothing. */
export type FoldState = readonly number[];

/** Where every piece of a sheet stands in one fold state, in the order of `sheet.pieces`. */
export interface Folding {
  readonly t: number;
  readonly pieces: readonly FoldedPiece[];
}

const isCarrier = (p: Piece): p is Carrier => "child" in p;

/** The whole part at one share of folding, with some bends held flat. */
export const evenState = (sheet: Sheet, share: number, held: ReadonlySet<string> = new Set()): FoldState =>
  sheet.pieces.map((p) => (held.has(p.kind === "rib" ? p.bend.id : isCarrier(p) ? p.id : "") ? 0 : share));

interface Carried {
  readonly folded: FoldedPiece;
  /** The motion of what hangs on it. */
  readonly on?: Motion;
}

function carried(piece: Piece, on: Motion, share: number, t: number): Carried {
  const kind = kindOf(piece);
  const folded = kind.fold(piece, on, share, t);
  return { folded, ...(isCarrier(piece) ? { on: kind.passes!(folded, t) } : {}) };
}

/** Every build asks for a part folded fully, of which most hangs where it hung before. */
const atTheEnd = new Kept(
  (piece: Piece, { on, t }: { readonly on: Motion; readonly t: number }) => carried(piece, on, 1, t),
  (p, q) => p.on === q.on && p.t === q.t,
);

/**
 * Folds a sheet. The anchor plate stays where it is in developed coordinates; by default that is
 * the first plate.
 */
export function foldSheet(sheet: Sheet, state: FoldState, anchor?: string): Folding {
  const { t } = sheet;
  const motions = new Map<string, Motion>(sheet.roots.map((r) => [r.plate, r.place]));
  const folded = new Map<Piece, FoldedPiece>();
  const fold = (piece: Piece, on: Motion, i: number): Carried =>
    state[i] === 1 ? atTheEnd.of(piece, { on, t }) : carried(piece, on, state[i], t);
  const carriers = new Map(
    sheet.pieces.flatMap((piece, i) => (isCarrier(piece) ? [[piece.child, { piece, i }] as const] : [])),
  );
  /** The motion of a plate: its root's, or what the piece that carries it passes on. */
  const motionOf = (plate: string): Motion => {
    const known = motions.get(plate);
    if (known) return known;
    const { piece, i } = carriers.get(plate)!;
    const made = fold(piece, motionOf(piece.parent), i);
    folded.set(piece, made.folded);
    motions.set(plate, made.on!);
    return made.on!;
  };
  const pieces = sheet.pieces.map((piece, i) => {
    if (!isCarrier(piece)) return fold(piece, motionOf("host" in piece ? piece.host : piece.id), i).folded;
    motionOf(piece.child);
    return folded.get(piece)!;
  });
  const still = anchor !== undefined ? motions.get(anchor) : undefined;
  if (!still || anchor === sheet.roots[0].plate) return { t, pieces };
  const back = inverse(still);
  return { t, pieces: pieces.map((p) => kindOf(p).seenFrom(p, back)) };
}

/** The motion that carries metal at a developed point of a piece, by its place in `sheet.pieces`. */
export const motionAt = ({ t, pieces }: Folding, piece: number, at: { x: number; y: number }): Motion =>
  kindOf(pieces[piece]).motionAt(pieces[piece], t, at);

/** The motion that directions at a piece turn by. */
export const facingOf = ({ pieces }: Folding, piece: number): Motion =>
  kindOf(pieces[piece]).facing(pieces[piece]);

/** Carries a developed point (u, v, w) of a piece into space; `piece` is its place in `sheet.pieces`. */
export const foldPoint = ({ t, pieces }: Folding, piece: number, [x, y, w]: Vector): Vector =>
  kindOf(pieces[piece]).placeAt(pieces[piece], t, { x, y }, w);

/** The developed point of a folded one: the inverse of `foldPoint` on the same piece. */
export function unfoldPoint({ t, pieces }: Folding, piece: number, q: Vector): Vector {
  const { unfold } = kindOf(pieces[piece]);
  if (!unfold) throw new Error(`A piece of the kind ${pieces[piece].kind} has no flat state.`);
  return unfold(pieces[piece], t, q);
}
