import type { Line } from "../plane/curve.ts";
import { type Isometry, moveCurve } from "../plane/isometry.ts";
import type { Motion } from "../space/vector.ts";
import { movePiece } from "./draft-kinds.ts";
import { type DraftPieceName, DraftPieces } from "./draft-piece-list.ts";
import type { DraftBend, DraftCarrier, DraftPiece } from "./draft-pieces.ts";
import { withWork } from "./shaping/metal-boxes.ts";
import type { MetalOp } from "./shaping/metal-op.ts";

/** A cut of no width, and the plate it is in. */
export interface DraftSlit {
  readonly owner: string;
  readonly step: string;
  readonly line: Line;
}

/** One piece of sheet: the plate it hangs from, and where that plate stands in space when folded. */
export interface DraftRoot {
  readonly plate: string;
  readonly place: Motion;
}

/** The sheets of a part while steps work on them. Records and lists are never changed, only replaced. */
export interface SheetDraft {
  readonly t: number;
  readonly roots: readonly DraftRoot[];
  readonly pieces: DraftPieces;
  readonly slits: readonly DraftSlit[];
  /** What is held flat while the next steps work. */
  readonly held: ReadonlySet<string>;
}

/** A draft that a step may write into. */
export interface OpenDraft {
  readonly t: number;
  roots: readonly DraftRoot[];
  readonly pieces: DraftPieces;
  slits: readonly DraftSlit[];
  held: ReadonlySet<string>;
}

export const newDraft = (t: number): OpenDraft => ({
  t,
  roots: [],
  pieces: new DraftPieces(),
  slits: [],
  held: new Set(),
});

/** A copy to work on; the original stays as it is. */
export const reopen = (draft: SheetDraft): OpenDraft => ({
  ...draft,
  pieces: new DraftPieces(draft.pieces),
});

/** Something a step asks that the sheet cannot give: which field to look at, and what would work. */
export interface Refusal {
  readonly field?: string;
  readonly message: string;
}

/** Works on the metal of a piece. */
export function workMetal(draft: OpenDraft, name: DraftPieceName, op: MetalOp): void {
  workAllMetal(draft, name, [op]);
}

/** The same many times over, one after another. */
export function workAllMetal(draft: OpenDraft, name: DraftPieceName, ops: readonly MetalOp[]): void {
  const piece = draft.pieces.named(name)!;
  const metal = ops.length === 1 ? withWork(piece.metal, ops[0]) : [...piece.metal, ...ops];
  draft.pieces.put({ ...piece, metal });
}

/** Cuts without width. */
export function slit(draft: OpenDraft, slits: readonly DraftSlit[]): void {
  if (slits.length > 0) draft.slits = [...draft.slits, ...slits];
}

/** What hangs on a plate. */
export const carriersFrom = (draft: SheetDraft | OpenDraft, plate: string): readonly DraftCarrier[] =>
  draft.pieces.from(plate);

/** A bend by its name; nothing where there is none, or something else carries its plate. */
export function bendOf(draft: SheetDraft | OpenDraft, id: string): DraftBend | undefined {
  const carrier = draft.pieces.carrier(id);
  return carrier?.kind === "bend" ? carrier : undefined;
}

/** Those of some carriers that are bends. */
export const bendsAmong = (carriers: Iterable<DraftCarrier>): DraftBend[] =>
  [...carriers].filter((c) => c.kind === "bend");

/** What carries a plate; nothing for a root. */
export function carrierTo(draft: SheetDraft | OpenDraft, plate: string): DraftCarrier | undefined {
  const own = draft.pieces.carrier(plate);
  return own?.child === plate ? own : draft.pieces.to(plate);
}

/** A plate and everything that hangs on it. */
export function subtreeOf(draft: SheetDraft | OpenDraft, plate: string): DraftPiece[] {
  const pieces: DraftPiece[] = [draft.pieces.plate(plate)!];
  for (const piece of pieces)
    if (piece.kind === "plate") pieces.push(...draft.pieces.from(piece.id));
    else pieces.push(draft.pieces.plate(piece.child)!);
  return pieces;
}

/** Moves a plate with everything that hangs on it, and with what carries it where that is named. */
export function moveSubtree(draft: OpenDraft, plate: string, m: Isometry, withCarrier?: string): void {
  const carrier = withCarrier === undefined ? undefined : draft.pieces.carrier(withCarrier);
  const moving = subtreeOf(draft, plate);
  for (const piece of carrier ? [carrier, ...moving] : moving) draft.pieces.put(movePiece(m, piece));
  const owners = new Set(moving.flatMap((p) => (p.kind === "plate" ? [p.id] : [])));
  draft.slits = draft.slits.map((s) =>
    owners.has(s.owner) ? { ...s, line: moveCurve(m, s.line) as Line } : s,
  );
}

/** Does work on a draft that may be refused half way; then the draft is as it was. */
export function attempt<T extends object | undefined>(
  draft: OpenDraft,
  work: () => T | Refusal,
): T | Refusal {
  const kept = reopen(draft);
  const result = work();
  if (result && "message" in result) {
    draft.pieces.become(kept.pieces);
    draft.slits = kept.slits;
    draft.roots = kept.roots;
    draft.held = kept.held;
  }
  return result;
}
