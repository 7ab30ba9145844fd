/** One bend's metal: thickness `t`, inside radius `r` (mm) and bend angle `angle` (radians, 0 = flat). */
export interface BendShape {
  readonly t: number;
  readonly r: number;
  readonly angle: number;
}

/** Developed length of the bend: the neutral axis lies K·t from the inside face. BA = θ (r + K t). */
export const bendAllowance = ({ t, r, angle }: BendShape, k: number): number => angle * (r + k * t);

/** Tangent line to outer mould point, tan(θ/2)(r + t); none at or beyond 180°. */
export const outerSetback = ({ t, r, angle }: BendShape): number | undefined =>
  angle < Math.PI - 1e-12 ? Math.tan(angle / 2) * (r + t) : undefined;

/** Tangent line to inner mould point, tan(θ/2) r; none at or beyond 180°. */
export const innerSetback = ({ r, angle }: BendShape): number | undefined =>
  angle < Math.PI - 1e-12 ? Math.tan(angle / 2) * r : undefined;

/** BD = 2 OSSB − BA, so that flat = A + B − BD with both legs to the outer mould point; none at or beyond 180°. */
export function bendDeduction(shape: BendShape, k: number): number | undefined {
  const setback = outerSetback(shape);
  return setback === undefined ? undefined : 2 * setback - bendAllowance(shape, k);
}

/** The neutral-axis ratio that gives an allowance: K = (BA/θ − r)/t. */
export const kFromAllowance = ({ t, r, angle }: BendShape, allowance: number): number =>
  (allowance / angle - r) / t;
