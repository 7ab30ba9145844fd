import { Kept } from "../../kept.ts";
import { intersectLoops } from "../../plane/boolean.ts";
import { type Loop, loopArea, loopBounds, loopFromFrame, rectangleLoop } from "../../plane/loop.ts";
import { boundsMeet } from "../../plane/point.ts";
import { type Region, regionArea, regionLoops } from "../../plane/region.ts";
import type { Bend, Plate } from "../pieces/flat-pieces.ts";
import { extentOf, type Rib } from "../pieces/rib-piece.ts";
import type { Labels, SheetRemark } from "../remarks.ts";
import type { Metal } from "./metal-op.ts";

/** A hair of metal that may be missing, mm². */
const HAIR = 1e-6;

/** What a bend's ribs hang on: what was done to its metal, and the plates beside it. */
interface Around {
  readonly metal: Metal;
  readonly parent: Plate | undefined;
  readonly child: Plate | undefined;
}

interface Pressed {
  readonly ribs: readonly Rib[];
  /** Those that cannot be pressed: whether another stands there, or metal is missing. */
  readonly missing: readonly { readonly step: string; readonly other: boolean }[];
}

// A rib is the same record for as long as nothing near it changes, so that its body need not be made again.
const pressed = new Kept(
  (bend: Bend, { metal, parent, child }: Around): Pressed => {
    const ribs: Rib[] = [];
    const missing: Pressed["missing"][number][] = [];
    let nth = 0;
    for (const op of metal) {
      if (op.kind !== "press") continue;
      const rib: Rib = {
        ...{ kind: "rib", id: `${bend.id}/${op.step}/${nth++}`, step: op.step, host: bend.parent, bend },
        ...{ feature: op.feature.id, zone: op.loops[0], title: op.rib.title, onBlank: op.rib.onBlank },
      };
      const { from, to } = extentOf(rib);
      const other = ribs.some((r) => {
        const e = extentOf(r);
        return e.from < to - 1e-9 && from < e.to - 1e-9;
      });
      if (!other && hasMetal(rib, parent?.regions ?? [], child?.regions ?? [])) ribs.push(rib);
      else missing.push({ step: op.step, other });
    }
    return { ribs, missing };
  },
  (p, q) => p.metal === q.metal && p.parent === q.parent && p.child === q.child,
);

/** Whether there is metal all over a rib's zone: in its bend and on both plates. */
function hasMetal(rib: Rib, parent: readonly Region[], child: readonly Region[]): boolean {
  const { bend } = rib;
  const { from, to, low, high } = extentOf(rib);
  const frame = { origin: bend.origin, x: bend.axis };
  // The frame's y is to the left of the axis; a bend may lead to the right of it.
  const way = bend.axis.x * bend.out.y - bend.axis.y * bend.out.x > 0 ? 1 : -1;
  const part = (x0: number, x1: number): Loop =>
    loopFromFrame(frame, rectangleLoop(from, Math.min(way * x0, way * x1), to, Math.max(way * x0, way * x1)));
  const wanted: [Loop, readonly Region[]][] = [
    [part(low, 0), parent],
    [part(0, bend.allowance), bend.regions],
    [part(bend.allowance, high), child],
  ];
  return wanted.every(([loop, regions]) => {
    const box = loopBounds(loop);
    // Of a plate full of openings few are in its way.
    const near = regions.flatMap(regionLoops).filter((l) => boundsMeet(loopBounds(l), box));
    const there = intersectLoops([loop], near).reduce((sum, r) => sum + regionArea(r), 0);
    return there > Math.abs(loopArea(loop)) - HAIR;
  });
}

/** The ribs that are pressed into a bend; and what is to be said of those that are not, for metal is missing there. */
export function ribsOf(
  bend: Bend,
  metal: Metal,
  plates: ReadonlyMap<string, Plate>,
  { numberOf }: Labels,
): { readonly ribs: readonly Rib[]; readonly remarks: readonly SheetRemark[] } {
  const { ribs, missing } = pressed.of(bend, {
    metal,
    parent: plates.get(bend.parent),
    child: plates.get(bend.child),
  });
  const remarks = missing.map(({ step, other }) => ({
    step,
    message: other
      ? `A gusset on bend ${numberOf(bend.id)} stands in another. It is not pressed: set them further apart, or make them narrower.`
      : `A gusset on bend ${numberOf(bend.id)} reaches beyond the metal beside it, or over an opening. It is not pressed: make it less deep or narrower, or move it.`,
    plate: bend.parent,
  }));
  return { ribs, remarks };
}
