import { hypotenuse } from "../plane/point.ts";
import { fail, ok, type Result } from "../result.ts";

/** A jog's numbers: two equal and opposite bends of inside radius `r`, with a straight leg between. */
export interface JogNumbers {
  /** Radians. */
  readonly angle: number;
  /** Straight leg between the bends, mm. */
  readonly middle: number;
  /** How far it takes the sheet on, measured along the plate, mm. */
  readonly run: number;
}

/** Between which faces a jog's offset is measured. */
export type OffsetBetween = "like" | "outer" | "inner";

/** The offset between like faces from an offset measured between outer or inner faces. */
export const likeOffset = (offset: number, between: OffsetBetween, t: number): number =>
  offset + { like: 0, outer: -t, inner: t }[between];

/** The smallest offset between like faces: the two bends follow each other at once. (2r+t)(1−cosθ). */
export const leastOffset = (t: number, r: number, angle: number): number =>
  (2 * r + t) * (1 - Math.cos(angle));

/** A jog from its offset between like faces and its angle: H = (2r+t)(1−cosθ) + m·sinθ. */
export function jogFromAngle(
  t: number,
  r: number,
  angle: number,
  offset: number,
): Result<JogNumbers, number> {
  const least = leastOffset(t, r, angle);
  if (offset < least - 1e-9) return fail(least);
  const middle = Math.max(0, (offset - least) / Math.sin(angle));
  return ok({ angle, middle, run: (2 * r + t) * Math.sin(angle) + middle * Math.cos(angle) });
}

/**
 * A joggle from its depth between like faces and its run along the plate. With R = 2r + t the two
 * equations for depth and run give run·sinθ + (R − depth)·cosθ = R. The error is the shortest run
 * at this depth.
 */
export function joggleFromRun(t: number, r: number, depth: number, run: number): Result<JogNumbers, number> {
  const reach = 2 * r + t;
  // At the shortest run the bends follow each other at once: 1 − cosθ = depth/R. Deeper than R is steeper than 90°.
  const shortest = depth < reach ? Math.sqrt(depth * (2 * reach - depth)) : reach;
  if (run < shortest - 1e-9) return fail(shortest);
  const span = hypotenuse(run, reach - depth);
  const angle = Math.asin(Math.min(1, reach / span)) - Math.atan2(reach - depth, run);
  const middle = Math.max(0, (depth - reach * (1 - Math.cos(angle))) / Math.sin(angle));
  return ok({ angle, middle, run });
}
