/** One bend's metal: thickness `t`, inside radius `r` (mm) and bend angle `angle` (radians, 0 = flat). */
export interface BendShape {
  readonly t: number;
  readonly r: number;
  readonly angle: number;
}

/** Developed length of the bend: the neutral axis lies K·t from the inside face. BA = θ (r + K t). */
export const bendAllowance = ({ t, r, angle }: BendShape, k: number): number => angle * (r + k * t);

/** Angles (radians) this close are the same: typed degrees do not come out exact. */
const SAME_ANGLE = 1e-12;

/** From a bend's tangent line to where tangents to a circle of radius `rho` meet: tan(θ/2) ρ; none at or beyond 180°. */
const setbackAt = (rho: number, angle: number): number | undefined =>
  angle < Math.PI - SAME_ANGLE ? Math.tan(angle / 2) * rho : undefined;

/** Tangent line to outer mould point, tan(θ/2)(r + t); none at or beyond 180°. */
export const outerSetback = ({ t, r, angle }: BendShape): number | undefined => setbackAt(r + t, angle);

/** Tangent line to inner mould point, tan(θ/2) r; none at or beyond 180°. */
export const innerSetback = ({ r, angle }: BendShape): number | undefined => setbackAt(r, angle);

/** Tangent line to where the middle of the thickness would meet, tan(θ/2)(r + t/2); none at or beyond 180°. */
export const middleSetback = ({ t, r, angle }: BendShape): number | undefined => setbackAt(r + t / 2, angle);

/** From a right angle on, the outermost tangent of a bend is square to its leg. */
const isRightOrObtuse = (angle: number): boolean => angle >= Math.PI / 2 - SAME_ANGLE;

/** Tangent line to the outermost tangent: r + t from 90° on, below it the outer mould point. */
export const outermostSetback = (shape: BendShape): number =>
  (isRightOrObtuse(shape.angle) ? undefined : outerSetback(shape)) ?? shape.r + shape.t;

/** BD = 2 OSSB − BA, so that flat = A + B − BD with both legs to the outer mould point; none at or beyond 180°. */
export function bendDeduction(shape: BendShape, k: number): number | undefined {
  const setback = outerSetback(shape);
  return setback === undefined ? undefined : 2 * setback - bendAllowance(shape, k);
}

/** The neutral-axis ratio that gives an allowance: K = (BA/θ − r)/t. */
export const kFromAllowance = ({ t, r, angle }: BendShape, allowance: number): number =>
  (allowance / angle - r) / t;
