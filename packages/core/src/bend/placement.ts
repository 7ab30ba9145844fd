import { fail, ok, type Result } from "../result.ts";
import { type BendShape, innerSetback, outermostSetback, outerSetback } from "./allowance.ts";

/** Where a bend sits relative to the edge a flange is grown from. */
export type BendPlace = "outer-face" | "inner-face" | "outermost" | "bend-from-edge" | "offset";

/** What the length of a flange is measured to. */
export type LengthTo = "outer-mould" | "inner-mould" | "tangent" | "outermost" | "overall-height";

/** How far the first tangent line stands behind the picked edge, in millimetres; negative is beyond it. */
export function tangentSetback(place: BendPlace, shape: BendShape, offset = 0): number {
  const outer = outerSetback(shape) ?? shape.r + shape.t;
  switch (place) {
    case "outer-face":
      return outer;
    case "inner-face":
      return innerSetback(shape) ?? shape.r;
    case "outermost":
      return outermostSetback(shape);
    case "bend-from-edge":
      return 0;
    case "offset":
      return offset;
  }
}

const NO_MOULD =
  "At 180° and beyond a bend has no mould point: measure to the tangent or the outermost face.";

/**
 * The straight leg beyond the second tangent line, in millimetres, from a flange's stated length.
 * Negative where the length is too short for the bend: see `leastLength`.
 */
export function straightLeg(lengthTo: LengthTo, length: number, shape: BendShape): Result<number> {
  const outer = outerSetback(shape);
  const inner = innerSetback(shape);
  switch (lengthTo) {
    case "outer-mould":
      return outer === undefined ? fail(NO_MOULD) : ok(length - outer);
    case "inner-mould":
      return inner === undefined ? fail(NO_MOULD) : ok(length - inner);
    case "tangent":
      return ok(length);
    case "outermost":
      return ok(length - outermostSetback(shape));
    case "overall-height": {
      const sine = Math.sin(shape.angle);
      if (sine < 1e-9) return fail("At this angle the leg gains no height: measure its length another way.");
      return ok((length - bendHeight(shape)) / sine);
    }
  }
}

/** How high, square to the parent, a bend stands before its leg begins. */
function bendHeight({ t, r, angle }: BendShape): number {
  const rise = 1 - Math.cos(angle);
  return Math.max((r + t) * rise, t + r * rise);
}

/** The length that leaves a straight leg of exactly nothing. */
export function leastLength(lengthTo: LengthTo, shape: BendShape): number {
  if (lengthTo === "overall-height") return bendHeight(shape);
  const leg = straightLeg(lengthTo, 0, shape);
  return leg.ok ? -leg.value : 0;
}

/** The stated length that gives a straight leg of `leg`: the inverse of `straightLeg`, for handles. */
export function lengthForLeg(lengthTo: LengthTo, leg: number, shape: BendShape): number {
  if (lengthTo === "overall-height") return leg * Math.sin(shape.angle) + bendHeight(shape);
  return leg + leastLength(lengthTo, shape);
}
