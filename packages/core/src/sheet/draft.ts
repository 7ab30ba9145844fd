import type { Line } from "../plane/curve.ts";
import { type Isometry, moveCurve, moveDirection, moveFrame, movePoint } from "../plane/isometry.ts";
import type { Loop } from "../plane/loop.ts";
import { distance, type Frame, point, scale, subtract } from "../plane/point.ts";
import type { Motion } from "../space/vector.ts";
import { DraftBends } from "./draft-bends.ts";
import type { DraftBend, DraftPlate } from "./draft-pieces.ts";
import type { EdgeSite } from "./pieces/flat-pieces.ts";
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
  readonly bends: DraftBends;
  readonly slits: readonly DraftSlit[];
  /** Bends that are held flat while the next steps work. */
  readonly held: ReadonlySet<string>;
}

/** A draft that a step may write into. */
export interface OpenDraft {
  readonly t: number;
  roots: readonly DraftRoot[];
  readonly plates: Records<DraftPlate>;
  readonly bends: DraftBends;
  slits: readonly DraftSlit[];
  held: ReadonlySet<string>;
}

export const newDraft = (t: number): OpenDraft => ({
  t,
  roots: [],
  plates: new Records(),
  bends: new DraftBends(),
  slits: [],
  held: new Set(),
});

/** A copy to work on; the original stays as it is. */
export const reopen = (draft: SheetDraft): OpenDraft => ({
  ...draft,
  plates: new Records(draft.plates),
  bends: new DraftBends(draft.bends),
});

/** Something a step asks that the sheet cannot give: which field to look at, and what would work. */
export interface Refusal {
  readonly field?: string;
  readonly message: string;
}

/** Works on the metal of a plate or a bend, whichever has the name. */
export function workMetal(draft: OpenDraft, id: { plate: string } | { bend: string }, op: MetalOp): void {
  workAllMetal(draft, id, [op]);
}

/** The same many times over, one after another. */
export function workAllMetal(
  draft: OpenDraft,
  id: { plate: string } | { bend: string },
  ops: readonly MetalOp[],
): void {
  const worked = (metal: Metal) => (ops.length === 1 ? withWork(metal, ops[0]) : [...metal, ...ops]);
  if ("plate" in id) {
    const plate = draft.plates.get(id.plate)!;
    draft.plates.set(plate.id, { ...plate, metal: worked(plate.metal) });
  } else {
    const bend = draft.bends.get(id.bend)!;
    draft.bends.set(bend.id, { ...bend, metal: worked(bend.metal) });
  }
}

/** Cuts without width. */
export function slit(draft: OpenDraft, slits: readonly DraftSlit[]): void {
  if (slits.length > 0) draft.slits = [...draft.slits, ...slits];
}

/** The bends that start from a plate. */
export const bendsFrom = (draft: SheetDraft | OpenDraft, plate: string): readonly DraftBend[] =>
  draft.bends.from(plate);

/** The bend that a plate hangs on; none for a root. */
export function bendTo(draft: SheetDraft | OpenDraft, plate: string): DraftBend | undefined {
  const own = draft.bends.get(plate);
  return own?.child === plate ? own : draft.bends.to(plate);
}

/** A plate and everything that hangs on it. */
export function subtreeOf(
  draft: SheetDraft | OpenDraft,
  plate: string,
): { plates: string[]; bends: string[] } {
  const plates = [plate];
  const bends: string[] = [];
  for (const id of plates) {
    for (const b of draft.bends.from(id)) {
      bends.push(b.id);
      plates.push(b.child);
    }
  }
  return { plates, bends };
}

export const edgeLength = (e: EdgeSite): number => distance(e.left, e.right);

/** The frame of an edge: origin at its left end, x to the right, y out of the plate. */
export function edgeFrame(e: EdgeSite): Frame {
  const length = edgeLength(e) || 1;
  return { origin: e.left, x: scale(subtract(e.right, e.left), 1 / length) };
}

export const moveEdge = (m: Isometry, e: EdgeSite): EdgeSite => {
  const [left, right] = m.flips
    ? [movePoint(m, e.right), movePoint(m, e.left)]
    : [movePoint(m, e.left), movePoint(m, e.right)];
  return { role: e.role, left, right, out: moveDirection(m, e.out) };
};

export const movePlate = (m: Isometry, p: DraftPlate): DraftPlate => ({
  ...p,
  frame: moveFrame(m, p.frame),
  edges: p.edges.map((e) => moveEdge(m, e)),
  metal: moveMetal(m, p.metal),
});

const otherEnd = (end: "left" | "right") => (end === "left" ? "right" : "left");

/** A moved bend; a mirrored one begins at what was its right end, so that its frame stays right-handed. */
export function moveBend(m: Isometry, b: DraftBend): DraftBend {
  const out = moveDirection(m, b.out);
  const far = point(b.origin.x + b.axis.x * b.width, b.origin.y + b.axis.y * b.width);
  const origin = movePoint(m, m.flips ? far : b.origin);
  const axis = m.flips ? scale(moveDirection(m, b.axis), -1) : moveDirection(m, b.axis);
  return {
    ...b,
    origin,
    axis,
    out,
    metal: moveMetal(m, b.metal),
    ...(m.flips
      ? {
          unrelieved: b.unrelieved.map(otherEnd),
          reliefs: b.reliefs.map((r) => ({ ...r, end: otherEnd(r.end) })),
        }
      : {}),
  };
}

/** Moves a plate with everything that hangs on it. */
export function moveSubtree(draft: OpenDraft, plate: string, m: Isometry, withBend?: string): void {
  const { plates, bends } = subtreeOf(draft, plate);
  const owners = new Set(plates);
  for (const id of plates) draft.plates.set(id, movePlate(m, draft.plates.get(id)!));
  for (const id of withBend ? [withBend, ...bends] : bends)
    draft.bends.set(id, moveBend(m, draft.bends.get(id)!));
  draft.slits = draft.slits.map((s) =>
    owners.has(s.owner) ? { ...s, line: moveCurve(m, s.line) as Line } : s,
  );
}

/** The edges that a loop's named straight pieces make, one for each name. */
export function edgesFromLoop(loop: Loop): EdgeSite[] {
  const out: EdgeSite[] = [];
  for (const c of loop) {
    if (c.kind !== "line" || !c.name || c.name.includes(":")) continue;
    const length = distance(c.a, c.b);
    if (length < 1e-6) continue;
    // With metal on the left of its travel, the outside is on the right and the left end is where it goes.
    const d = scale(subtract(c.b, c.a), 1 / length);
    out.push({ role: c.name, left: c.b, right: c.a, out: point(d.y, -d.x) });
  }
  return out;
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
    draft.bends.become(kept.bends);
    draft.slits = kept.slits;
    draft.roots = kept.roots;
    draft.held = kept.held;
  }
  return result;
}
