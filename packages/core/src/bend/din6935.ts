import { type BendShape, bendAllowance, outermostSetback } from "./allowance.ts";

/** DIN 6935's correction factor: 0.65 + 0.5·log10(r/t) up to r/t = 5, 1 beyond, never below 0. */
export function din6935Factor(t: number, r: number): number {
  const ratio = r / t;
  if (ratio > 5) return 1;
  return ratio <= 0 ? 0 : Math.max(0, 0.65 + 0.5 * Math.log10(ratio));
}

/** The neutral-axis ratio that DIN 6935 amounts to: half its factor. */
export const din6935K = (t: number, r: number): number => din6935Factor(t, r) / 2;

/** Up to this bend angle the standard takes the compensation as nothing: an opening angle of 165° and more. */
export const DIN6935_SLIGHT = Math.PI / 12;

/** Whether a bend is so slight that the standard's formula is not taken: BA is twice the outer setback. */
export const isSlight = (angle: number): boolean => angle > 1e-9 && angle < DIN6935_SLIGHT - 1e-12;

/**
 * DIN 6935's compensation value v, so that flat = a + b + v. Legs are measured to the outer mould
 * point, and to the outermost tangent where the opening angle is 90° or less.
 */
export function din6935Compensation(shape: BendShape): number {
  const { t, r } = shape;
  if (isSlight(shape.angle)) return 0;
  return bendAllowance(shape, din6935K(t, r)) - 2 * outermostSetback(shape);
}
