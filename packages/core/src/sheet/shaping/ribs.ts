import { intersectLoops } from "../../plane/boolean.ts";
import { type Loop, loopArea, loopFromFrame, rectangleLoop } from "../../plane/loop.ts";
import { type Region, regionArea, regionLoops } from "../../plane/region.ts";
import type { SheetDraft } from "../draft.ts";
import type { Labels, SheetRemark } from "../finish.ts";
import { extentOf, type Rib } from "../pieces/rib-piece.ts";
import type { Bend, Plate } from "../sheet.ts";

/** A hair of metal that may be missing, mm². */
const HAIR = 1e-6;

/** The ribs that are pressed into a bend; and what is to be said of those that are not, for metal is missing there. */
export function ribsOf(
  bend: Bend,
  draft: SheetDraft,
  plates: ReadonlyMap<string, Plate>,
  { numberOf }: Labels,
): { readonly ribs: readonly Rib[]; readonly remarks: readonly SheetRemark[] } {
  const ribs: Rib[] = [];
  const remarks: SheetRemark[] = [];
  const metal = draft.bends.get(bend.id)?.metal ?? [];
  let nth = 0;
  for (const op of metal) {
    if (!op.rib) continue;
    const [zone] = op.loops;
    const { title, onBlank } = op.rib;
    const rib: Rib = {
      ...{ kind: "rib", id: `${bend.id}/${op.step}/${nth++}`, step: op.step, host: bend.parent, bend, zone },
      ...{ title, onBlank },
    };
    const { from, to, low, high } = extentOf(rib);
    const frame = { origin: bend.origin, x: bend.axis };
    // The frame's y is to the left of the axis; a bend may lead to the right of it.
    const way = bend.axis.x * bend.out.y - bend.axis.y * bend.out.x > 0 ? 1 : -1;
    const part = (x0: number, x1: number): Loop =>
      loopFromFrame(
        frame,
        rectangleLoop(from, Math.min(way * x0, way * x1), to, Math.max(way * x0, way * x1)),
      );
    const wanted: [Loop, readonly Region[]][] = [
      [part(low, 0), plates.get(bend.parent)?.regions ?? []],
      [part(0, bend.allowance), bend.regions],
      [part(bend.allowance, high), plates.get(bend.child)?.regions ?? []],
    ];
    const whole = wanted.every(([loop, regions]) => {
      const there = intersectLoops([loop], regions.flatMap(regionLoops)).reduce(
        (sum, r) => sum + regionArea(r),
        0,
      );
      return there > Math.abs(loopArea(loop)) - HAIR;
    });
    const other = ribs.some((r) => {
      const e = extentOf(r);
      return e.from < to - 1e-9 && from < e.to - 1e-9;
    });
    if (whole && !other) ribs.push(rib);
    else
      remarks.push({
        step: op.step,
        message: other
          ? `A gusset on bend ${numberOf(bend.id)} stands in another. It is not pressed: set them further apart, or make them narrower.`
          : `A gusset on bend ${numberOf(bend.id)} reaches beyond the metal beside it, or over an opening. It is not pressed: make it less deep or narrower, or move it.`,
        plate: bend.parent,
      });
  }
  return { ribs, remarks };
}
