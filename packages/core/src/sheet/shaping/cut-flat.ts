import { type Loop, loopsBounds } from "../../plane/loop.ts";
import { boundsMeet } from "../../plane/point.ts";
import { type DraftPlate, type OpenDraft, workMetal } from "../draft.ts";
import { type MetalOp, metalBounds } from "./metal.ts";
import { refreshEdges } from "./refresh-edges.ts";

/** The plates and bends of one piece of sheet that hang together flat with a plate, through bends that `passes`. */
export function flatWith(
  draft: OpenDraft,
  plate: string,
  passes: (bend: string) => boolean,
): { plates: Set<string>; bends: Set<string> } {
  const plates = new Set([plate]);
  const bends = new Set<string>();
  for (let grew = true; grew; ) {
    grew = false;
    for (const b of draft.bends.values()) {
      if (bends.has(b.id) || !passes(b.id)) continue;
      if (!plates.has(b.parent) && !plates.has(b.child)) continue;
      bends.add(b.id);
      plates.add(b.parent).add(b.child);
      grew = true;
    }
  }
  return { plates, bends };
}

/** Whose doing a cut through the flat sheet is, and over which bends it goes on. */
export interface FlatCut {
  readonly step: string;
  readonly over: ReadonlySet<string>;
  readonly title?: string;
  /** Which place of a repeating step it is. */
  readonly place?: number;
}

/**
 * Cuts loops out of the flat sheet: of a plate, and of every plate and bend that hangs together flat
 * with it over some bends. New edges are named on the plates they are on.
 */
export function cutFlat(draft: OpenDraft, plate: string, loops: readonly Loop[], cut: FlatCut): void {
  for (const id of takeFlat(draft, plate, loops, cut)) refreshEdges(draft, id);
}

/**
 * The same, but for the names: gives the plates whose edges are to be read anew, for who cuts them many
 * times over and reads them once.
 */
export function takeFlat(
  draft: OpenDraft,
  plate: string,
  loops: readonly Loop[],
  { step, over, title, place }: FlatCut,
): string[] {
  const changed: string[] = [];
  const { plates, bends } = flatWith(draft, plate, (bend) => over.has(bend));
  const box = loopsBounds(loops);
  const meets = (metal: Parameters<typeof metalBounds>[0]) => boundsMeet(metalBounds(metal), box);
  // Only what can leave its plate without cutting anything else is worth a remark.
  const said = {
    ...(title && bends.size === 0 ? { title, notch: true } : {}),
    ...(place === undefined ? {} : { place }),
  };
  for (const id of plates) {
    if (!meets(draft.plates.get(id)!.metal) && id !== plate) continue;
    const op: MetalOp = { kind: "cut", step, loops, over, ...said };
    workMetal(draft, { plate: id }, op);
    if (changesEdges(draft.plates.get(id)!, loops)) changed.push(id);
  }
  for (const id of bends) {
    if (!meets(draft.bends.get(id)!.metal)) continue;
    workMetal(
      draft,
      { bend: id },
      { kind: "cut", step, loops, over, ...(place === undefined ? {} : { place }) },
    );
  }
  return changed;
}

/** Whether a cut may change a plate's edges: a round one that stands clear of them changes none. */
export function changesEdges({ edges }: DraftPlate, loops: readonly Loop[]): boolean {
  if (loops.some((l) => l.some((c) => c.kind === "line"))) return true;
  const box = loopsBounds(loops);
  return edges.some(({ left, right }) => {
    const [x0, x1] = [Math.min(left.x, right.x), Math.max(left.x, right.x)];
    const [y0, y1] = [Math.min(left.y, right.y), Math.max(left.y, right.y)];
    return !(x0 > box.maxX || x1 < box.minX || y0 > box.maxY || y1 < box.minY);
  });
}
