import { outerSetback } from "../bend/allowance.ts";
import { intoFrame, movePoint } from "../plane/isometry.ts";
import type { Point } from "../plane/point.ts";
import type { Plate } from "./pieces/flat-pieces.ts";
import { bendsOf, type Sheet } from "./sheet.ts";

/** A developed point as a plate's own holes are given: from the origin of its frame, mm. */
export const holePlace = (_sheet: Sheet, plate: Plate, at: Point): Point =>
  movePoint(intoFrame(plate.frame), at);

/**
 * A developed point as a leg's own holes are given, mm: from the outer mould line of the bend that carries it, which stands
 * one setback before the leg. Of a bend without one (180° and more) from the leg's tangent line.
 */
export function legHolePlace(sheet: Sheet, plate: Plate, at: Point): Point {
  const { x, y } = holePlace(sheet, plate, at);
  const bend = bendsOf(sheet).find((b) => b.child === plate.id);
  const setback = bend && outerSetback({ t: sheet.t, r: bend.radius, angle: bend.angle });
  return { x, y: y + (setback ?? 0) };
}
