import { Kept } from "../../kept.ts";
import { type Loop, loopsBounds } from "../../plane/loop.ts";
import { type Bounds, boundsMeet } from "../../plane/point.ts";
import { type OpenDraft, workAllMetal } from "../draft.ts";
import type { DraftPiece, DraftPlate } from "../draft-pieces.ts";
import type { Feature } from "../feature.ts";
import { metalBounds } from "./metal.ts";
import type { CutOp, Metal } from "./metal-op.ts";
import { refreshEdges } from "./refresh-edges.ts";

/** Whether a cut through the flat sheet goes on over something that carries a plate. */
export type GoesOver = (carrier: string) => boolean;

/** The pieces of one sheet that hang together flat with a plate, through what a cut goes over. */
export function flatWith(draft: OpenDraft, plate: string, over: GoesOver): readonly DraftPiece[] {
  const plates = new Set([plate]);
  const found: DraftPiece[] = [draft.pieces.plate(plate)!];
  const carriers = draft.pieces.carriers();
  const taken = new Set<string>();
  for (let grew = true; grew; ) {
    grew = false;
    for (const carrier of carriers) {
      const { id, parent, child } = carrier;
      if (taken.has(id) || !over(id) || !(plates.has(parent) || plates.has(child))) continue;
      taken.add(id);
      found.push(carrier);
      for (const end of [parent, child])
        if (!plates.has(end)) {
          plates.add(end);
          found.push(draft.pieces.plate(end)!);
        }
      grew = true;
    }
  }
  return found;
}

/** Whose doing cuts through the flat sheet are, and over which bends they go on. */
export interface FlatCuts {
  readonly step: string;
  readonly over: ReadonlySet<string>;
}

/** One cut through the flat sheet. */
export interface FlatCut {
  readonly loops: readonly Loop[];
  readonly title?: string;
  /** Which place of a repeating step it is. */
  readonly place?: number;
  readonly feature?: Feature;
}

/**
 * Cuts loops out of the flat sheet: of a plate, and of every plate and bend that hangs together flat
 * with it over some bends. New edges are named on the plates they are on.
 */
export function cutFlat(draft: OpenDraft, plate: string, cuts: readonly FlatCut[], by: FlatCuts): void {
  for (const id of takeFlat(draft, plate, cuts, by)) refreshEdges(draft, id);
}

/**
 * The same, but for the names: gives the plates whose edges are to be read anew, for who cuts them many
 * times over and reads them once.
 */
export function takeFlat(
  draft: OpenDraft,
  plate: string,
  cuts: readonly FlatCut[],
  { step, over }: FlatCuts,
): string[] {
  const flat = flatWith(draft, plate, (carrier) => over.has(carrier));
  const changed: string[] = [];
  if (cuts.length === 0) return changed;
  const meeting = (metal: Metal) => {
    const bounds = metalBounds(metal);
    return cuts.filter((cut) => boundsMeet(boxOfCut(cut), bounds));
  };
  // Only what can leave its plate without cutting anything else is worth a remark.
  const onPlates = sameBy.of(cuts[0], { step, over, titled: flat.every((p) => p.kind === "plate") });
  for (const piece of flat) {
    const isPlate = piece.kind === "plate";
    const met = isPlate && piece.id === plate ? cuts : meeting(piece.metal);
    if (met.length === 0) continue;
    if (!isPlate) {
      const ops = met.map((cut): CutOp => ({ kind: "cut", step, loops: cut.loops, over, ...placeOf(cut) }));
      workAllMetal(draft, { carrier: piece.id }, ops);
      continue;
    }
    workAllMetal(
      draft,
      { plate: piece.id },
      met.map((cut) => opOf.of(cut, onPlates)),
    );
    const now = draft.pieces.now(piece)!;
    if (met.some((cut) => changesEdges(now, cut.loops, boxOfCut(cut)))) changed.push(piece.id);
  }
  return changed;
}

const placeOf = ({ place, feature }: FlatCut) => ({
  ...(place === undefined ? {} : { place }),
  ...(feature ? { feature } : {}),
});

// A step of ten thousand openings that runs again has cut what it had cut: the same records, which need not be looked
// at one by one to see it.
const boxes = new Kept(({ loops }: FlatCut) => loopsBounds(loops));
export const boxOfCut = (cut: FlatCut): Bounds => boxes.of(cut);

/** Whose doing the cuts of plates are, and whether each is told by its title. */
interface By extends FlatCuts {
  readonly titled: boolean;
}

const sameBy = new Kept<FlatCut, By, By>(
  (_cut, by) => by,
  (before, now) =>
    before.step === now.step &&
    before.titled === now.titled &&
    before.over.size === now.over.size &&
    [...now.over].every((bend) => before.over.has(bend)),
);

const opOf = new Kept<FlatCut, CutOp, By>((cut, { step, over, titled }) => ({
  ...{ kind: "cut", step, loops: cut.loops, over },
  ...(cut.title && titled ? { title: cut.title, notch: true } : {}),
  ...placeOf(cut),
}));

/** Whether a cut may change a plate's edges: a round one that stands clear of them changes none. */
export function changesEdges(
  { edges }: DraftPlate,
  loops: readonly Loop[],
  box = loopsBounds(loops),
): boolean {
  if (loops.some((l) => l.some((c) => c.kind === "line"))) return true;
  return edges.some(({ left, right }) => {
    const [x0, x1] = [Math.min(left.x, right.x), Math.max(left.x, right.x)];
    const [y0, y1] = [Math.min(left.y, right.y), Math.max(left.y, right.y)];
    return !(x0 > box.maxX || x1 < box.minX || y0 > box.maxY || y1 < box.minY);
  });
}
