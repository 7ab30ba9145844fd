import { intoFrame, movePoint } from "../plane/isometry.ts";
import { along, type Point, point } from "../plane/point.ts";
import { legWay, linesOf } from "./draft-kinds.ts";
import type { DraftCarrier, DraftPlate } from "./draft-pieces.ts";
import { metalBounds, metalSpans, moveMetal } from "./shaping/metal.ts";

/** Shares of a bend's length at which it is looked how far the leg reaches. */
const LOOKED = [0.02, 0.15, 0.3, 0.5, 0.7, 0.85, 0.98];
/** No leg reaches farther, mm. */
const FARTHEST = 1e6;

/** The middle of all metal of a plate before cuts, in its own frame: half way between the ends of its extent. */
export function middleOfMetal({ frame, metal }: Pick<DraftPlate, "frame" | "metal">): Point {
  const b = metalBounds(moveMetal(intoFrame(frame), metal));
  return b.minX > b.maxX ? point(0, 0) : point((b.minX + b.maxX) / 2, (b.minY + b.maxY) / 2);
}

/**
 * The middle of a plate as it is seen, in its own frame. Of a leg that hangs on a bend it lies half way along the bend and half
 * way between its tangent line and the free edge, so that metal that closes a corner does not move it; of any other plate it is
 * the middle of its metal.
 */
export function middleOfPlate(
  plate: Pick<DraftPlate, "frame" | "metal">,
  carrier: DraftCarrier | undefined,
): Point {
  if (!carrier) return middleOfMetal(plate);
  const { origin: foot, axis, width } = linesOf(carrier).child;
  const out = legWay(carrier);
  const added = plate.metal.filter((op) => op.kind === "add");
  const reach = LOOKED.reduce((far, share) => {
    const start = along(foot, axis, width * share);
    const end = metalSpans(added, start, out, [0, FARTHEST]).at(-1)?.[1] ?? 0;
    return Math.max(far, end);
  }, 0);
  const middle = along(along(foot, axis, width / 2), out, reach / 2);
  return movePoint(intoFrame(plate.frame), middle);
}
