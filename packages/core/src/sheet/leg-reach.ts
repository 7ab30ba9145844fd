import { Kept } from "../kept.ts";
import { curvesBounds } from "../plane/curve.ts";
import { intoAxes, moveLoop } from "../plane/isometry.ts";
import { along, type Point, scale } from "../plane/point.ts";
import type { Bend, Plate } from "./pieces/flat-pieces.ts";

/** The two lines of a bend, by the plate that it joins there. */
export type BendSide = "parent" | "child";

/** The left end of a bend's line on one of its plates, and out of the bend over that plate. */
export const lineOf = ({ origin, out, allowance }: Bend, side: BendSide): { origin: Point; over: Point } =>
  side === "child" ? { origin: along(origin, out, allowance), over: out } : { origin, over: scale(out, -1) };

const reaches = new Kept(
  (plate: Plate, { bend, side }: { readonly bend: Bend; readonly side: BendSide }): number => {
    const { origin, over } = lineOf(bend, side);
    const frame = intoAxes(origin, bend.axis, over);
    return Math.max(0, ...plate.regions.map(({ outer }) => curvesBounds(moveLoop(frame, outer)).maxY));
  },
  (p, q) => p.bend === q.bend && p.side === q.side,
);

/** How far the metal of a plate reaches from the line of a bend of it, mm. */
export const legReach = (plate: Plate, bend: Bend, side: BendSide): number =>
  reaches.of(plate, { bend, side });
