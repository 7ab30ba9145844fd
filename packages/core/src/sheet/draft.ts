import type { Line } from "../plane/curve.ts";
import { type Isometry, moveCurve, moveFrame } from "../plane/isometry.ts";
import type { Motion } from "../space/vector.ts";
import { moveCarrier } from "./carrier-kinds.ts";
import { DraftCarriers } from "./draft-carriers.ts";
import type { DraftBend, DraftCarrier, DraftPlate } from "./draft-pieces.ts";
import { moveEdge } from "./edges.ts";
import { Records } from "./records.ts";
import { moveMetal } from "./shaping/metal.ts";
import { withWork } from "./shaping/metal-boxes.ts";
import type { Metal, MetalOp } from "./shaping/metal-op.ts";

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
  readonly plates: Records<DraftPlate>;
  readonly carriers: DraftCarriers;
  readonly slits: readonly DraftSlit[];
  /** What is held flat while the next steps work. */
  readonly held: ReadonlySet<string>;
}

/** A draft that a step may write into. */
export interface OpenDraft {
  readonly t: number;
  roots: readonly DraftRoot[];
  readonly plates: Records<DraftPlate>;
  readonly carriers: DraftCarriers;
  slits: readonly DraftSlit[];
  held: ReadonlySet<string>;
}

export const newDraft = (t: number): OpenDraft => ({
  t,
  roots: [],
  plates: new Records(),
  carriers: new DraftCarriers(),
  slits: [],
  held: new Set(),
});

/** A copy to work on; the original stays as it is. */
export const reopen = (draft: SheetDraft): OpenDraft => ({
  ...draft,
  plates: new Records(draft.plates),
  carriers: new DraftCarriers(draft.carriers),
});

/** Something a step asks that the sheet cannot give: which field to look at, and what would work. */
export interface Refusal {
  readonly field?: string;
  readonly message: string;
}

/** Works on the metal of a plate, or of what carries one. */
export function workMetal(draft: OpenDraft, id: { plate: string } | { carrier: string }, op: MetalOp): void {
  workAllMetal(draft, id, [op]);
}

/** The same many times over, one after another. */
export function workAllMetal(
  draft: OpenDraft,
  id: { plate: string } | { carrier: string },
  ops: readonly MetalOp[],
): void {
  const worked = (metal: Metal) => (ops.length === 1 ? withWork(metal, ops[0]) : [...metal, ...ops]);
  if ("plate" in id) {
    const plate = draft.plates.get(id.plate)!;
    draft.plates.set(plate.id, { ...plate, metal: worked(plate.metal) });
  } else {
    const carrier = draft.carriers.get(id.carrier)!;
    draft.carriers.set(carrier.id, { ...carrier, metal: worked(carrier.metal) });
  }
}

/** Cuts without width. */
export function slit(draft: OpenDraft, slits: readonly DraftSlit[]): void {
  if (slits.length > 0) draft.slits = [...draft.slits, ...slits];
}

/** What hangs on a plate. */
export const carriersFrom = (draft: SheetDraft | OpenDraft, plate: string): readonly DraftCarrier[] =>
  draft.carriers.from(plate);

/** A bend by its name; nothing where there is none, or something else carries its plate. */
export function bendOf(draft: SheetDraft | OpenDraft, id: string): DraftBend | undefined {
  const carrier = draft.carriers.get(id);
  return carrier?.kind === "bend" ? carrier : undefined;
}

/** Those of some carriers that are bends. */
export const bendsAmong = (carriers: Iterable<DraftCarrier>): DraftBend[] =>
  [...carriers].filter((c) => c.kind === "bend");

/** What carries a plate; nothing for a root. */
export function carrierTo(draft: SheetDraft | OpenDraft, plate: string): DraftCarrier | undefined {
  const own = draft.carriers.get(plate);
  return own?.child === plate ? own : draft.carriers.to(plate);
}

/** A plate and everything that hangs on it. */
export function subtreeOf(
  draft: SheetDraft | OpenDraft,
  plate: string,
): { plates: string[]; carriers: string[] } {
  const plates = [plate];
  const carriers: string[] = [];
  for (const id of plates) {
    for (const b of draft.carriers.from(id)) {
      carriers.push(b.id);
      plates.push(b.child);
    }
  }
  return { plates, carriers };
}

export const movePlate = (m: Isometry, p: DraftPlate): DraftPlate => ({
  ...p,
  frame: moveFrame(m, p.frame),
  edges: p.edges.map((e) => moveEdge(m, e)),
  metal: moveMetal(m, p.metal),
});

/** Moves a plate with everything that hangs on it. */
export function moveSubtree(draft: OpenDraft, plate: string, m: Isometry, withCarrier?: string): void {
  const { plates, carriers } = subtreeOf(draft, plate);
  const owners = new Set(plates);
  for (const id of plates) draft.plates.set(id, movePlate(m, draft.plates.get(id)!));
  for (const id of withCarrier ? [withCarrier, ...carriers] : carriers)
    draft.carriers.set(id, moveCarrier(m, draft.carriers.get(id)!));
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
    draft.plates.become(kept.plates);
    draft.carriers.become(kept.carriers);
    draft.slits = kept.slits;
    draft.roots = kept.roots;
    draft.held = kept.held;
  }
  return result;
}
