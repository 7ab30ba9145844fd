import type { BendShape } from "./allowance.ts";

/** A V-die for air bending. Lengths in mm, angle in degrees, greatest force in kN per metre. */
export interface Die {
  readonly id: string;
  readonly name: string;
  readonly v: number;
  /** The opening of the V. */
  readonly angle: number;
  /** Radius of its shoulders. */
  readonly radius: number;
  readonly length: number;
  /** kN per metre of die. */
  readonly mostForce: number;
}

/** Three-point bending of a strip to its ultimate moment: the constant of the force formula. */
export const FORCE_CONSTANT = 1.33;

export const FORCE_FORMULA = "F/L = 1.33·Rm·t²/V";
export const FORCE_SOURCE = "text books on sheet-metal forming: air bending as three-point bending";
export const RADIUS_FORMULA = "r = share·V";
export const RADIUS_SOURCE =
  "shop practice of air bending: the radius is a share of the V-width, by material";
export const LEAST_LEG_FORMULA = "least leg = V / (2·cos(θ/2)) + R";
export const LEAST_LEG_SOURCE = "geometry: the leg must still lie on the shoulder of the V at the full angle";

/** Inside radius that air bending over a V of this width makes by itself, mm. */
export const naturalRadius = (v: number, radiusOverV: number): number => v * radiusOverV;

/** The V-width that makes this inside radius by itself, mm. */
export const naturalV = (radius: number, radiusOverV: number): number => radius / radiusOverV;

/**
 * Least leg to the outer mould point that still lies on the die's shoulder when the bend is finished:
 * half the V, seen along a leg that leans by θ/2, and the shoulder's radius. mm and radians; only below 180°.
 */
export function leastLeg(die: Pick<Die, "v" | "radius">, angle: number): number | undefined {
  if (angle >= Math.PI - 1e-9) return undefined;
  return die.v / (2 * Math.cos(angle / 2)) + die.radius;
}

/** Bending force per metre of bend, kN/m: 1.33·Rm·t²/V with Rm in MPa, t and V in mm (N/mm is kN/m). */
export const forcePerMetre = (t: number, v: number, tensile: number): number =>
  (FORCE_CONSTANT * tensile * t * t) / v;

/**
 * The die for a bend: the one whose own radius in this material is nearest to the bend's, if it is
 * within a quarter of it and its V is less acute than the bend needs.
 */
export function dieFor(dies: readonly Die[], shape: BendShape, radiusOverV: number): Die | undefined {
  let best: Die | undefined;
  let least = 0.25;
  for (const die of dies) {
    const opening = 180 - (shape.angle * 180) / Math.PI;
    if (die.angle > opening + 1e-9) continue;
    const off = Math.abs(naturalRadius(die.v, radiusOverV) - shape.r) / Math.max(shape.r, 1e-9);
    if (off < least) {
      best = die;
      least = off;
    }
  }
  return best;
}
