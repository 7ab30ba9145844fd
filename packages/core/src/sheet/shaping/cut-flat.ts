import { type Loop, loopsBounds } from "../../plane/loop.ts";
import { boundsMeet } from "../../plane/point.ts";
import { type DraftPlate, type OpenDraft, workAllMetal } from "../draft.ts";
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
  const { plates, bends } = flatWith(draft, plate, (bend) => over.has(bend));
  const boxed = cuts.map((cut) => ({ ...cut, box: loopsBounds(cut.loops) }));
  const numbered = ({ place }: FlatCut) => (place === undefined ? {} : { place });
  const changed: string[] = [];
  for (const id of plates) {
    const { metal } = draft.plates.get(id)!;
    const bounds = metalBounds(metal);
    const meeting = id === plate ? boxed : boxed.filter(({ box }) => boundsMeet(bounds, box));
    if (meeting.length === 0) continue;
    // Only what can leave its plate without cutting anything else is worth a remark.
    const ops = meeting.map((cut): MetalOp => {
      const said = cut.title && bends.size === 0 ? { title: cut.title, notch: true } : {};
      return { kind: "cut", step, loops: cut.loops, over, ...said, ...numbered(cut) };
    });
    workAllMetal(draft, { plate: id }, ops);
    const now = draft.plates.get(id)!;
    if (meeting.some((cut) => changesEdges(now, cut.loops))) changed.push(id);
  }
  for (const id of bends) {
    const bounds = metalBounds(draft.bends.get(id)!.metal);
    const meeting = boxed.filter(({ box }) => boundsMeet(bounds, box));
    if (meeting.length === 0) continue;
    const ops = meeting.map(
      (cut): MetalOp => ({ kind: "cut", step, loops: cut.loops, over, ...numbered(cut) }),
    );
    workAllMetal(draft, { bend: id }, ops);
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
