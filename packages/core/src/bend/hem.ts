import { fail, ok, type Result } from "../result.ts";

/** A hem's numbers: inside radius and straight lip in mm, angle in radians. */
export interface HemNumbers {
  readonly radius: number;
  readonly angle: number;
  readonly lip: number;
}

/** A hem folded flat on itself, closed (gap 0) or open; `length` from its outermost tangent to its tip. */
export function flatHem(t: number, gap: number, length: number): Result<HemNumbers, number> {
  const radius = gap / 2;
  const least = radius + t;
  return length < least - 1e-9
    ? fail(least)
    : ok({ radius, angle: Math.PI, lip: Math.max(0, length - least) });
}

/**
 * A teardrop: θ = 180° + φ, and the lip's inner corner touches the parent, so lip = r(1+cosφ)/sinφ =
 * r·cot(φ/2). With the lip from the length, φ = 2·atan(r/lip).
 */
export function teardropHem(t: number, radius: number, length: number): Result<HemNumbers, number> {
  const lip = length - radius - t;
  // A lip shorter than the radius would turn by more than 90° beyond the half turn: a roll, not a drop.
  if (lip < radius - 1e-9) return fail(2 * radius + t);
  return ok({ radius, angle: Math.PI + 2 * Math.atan(radius / lip), lip });
}

/** The longest lip that a bend past 180° can carry before its inner corner meets the parent. */
export function longestLip(radius: number, angle: number): number {
  const phi = angle - Math.PI;
  return phi <= 1e-9 ? Number.POSITIVE_INFINITY : radius / Math.tan(phi / 2);
}
