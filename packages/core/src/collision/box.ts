import { dotV, type Vector } from "../space/vector.ts";

/** A box that stands askew in space. */
export interface Box3 {
  readonly centre: Vector;
  /** Three unit directions square to one another, and how far it reaches along each from its centre, mm. */
  readonly axes: readonly [Vector, Vector, Vector];
  readonly half: Vector;
  /** Its limits along the axes of space. */
  readonly min: Vector;
  readonly max: Vector;
}

/** A box from its two farthest corners in a frame of three axes about an origin. */
export function boxIn(axes: Box3["axes"], origin: Vector, low: Vector, high: Vector): Box3 {
  const [x, y, z] = axes;
  const half: Vector = [(high[0] - low[0]) / 2, (high[1] - low[1]) / 2, (high[2] - low[2]) / 2];
  const m = [(high[0] + low[0]) / 2, (high[1] + low[1]) / 2, (high[2] + low[2]) / 2];
  const centre = [0, 1, 2].map((k) => origin[k] + x[k] * m[0] + y[k] * m[1] + z[k] * m[2]);
  const reach = [0, 1, 2].map(
    (k) => Math.abs(x[k]) * half[0] + Math.abs(y[k]) * half[1] + Math.abs(z[k]) * half[2],
  );
  return {
    axes,
    half,
    centre: centre as unknown as Vector,
    min: [centre[0] - reach[0], centre[1] - reach[1], centre[2] - reach[2]],
    max: [centre[0] + reach[0], centre[1] + reach[1], centre[2] + reach[2]],
  };
}

/** The eight corners of a box: 4·y + 2·x + z, each 0 where it is least along that axis. */
export function cornersOf({ axes: [x, y, z], half, centre }: Box3): Vector[] {
  return [0, 1, 2, 3, 4, 5, 6, 7].map((i) => {
    const [a, b, c] = [i & 2 ? half[0] : -half[0], i & 4 ? half[1] : -half[1], i & 1 ? half[2] : -half[2]];
    const at = (k: 0 | 1 | 2) => centre[k] + a * x[k] + b * y[k] + c * z[k];
    return [at(0), at(1), at(2)];
  });
}

/** The squared sine below which two directions are one. */
const PARALLEL = 1e-12;

/**
 * How far two boxes are apart along the best of the fifteen directions that can part them, mm: their distance is no
 * less. Less than nothing where they overlap. It may be told too small once it is `enough`.
 */
export function boxGap(p: Box3, q: Box3, enough = 0): number {
  const [px, py, pz] = p.axes;
  const [qx, qy, qz] = q.axes;
  const [a0, a1, a2] = p.half;
  const [b0, b1, b2] = q.half;
  const d: Vector = [q.centre[0] - p.centre[0], q.centre[1] - p.centre[1], q.centre[2] - p.centre[2]];
  // Cosines between the axes of both; written out, for this is asked more often than anything else.
  const [c00, c01, c02] = [dotV(px, qx), dotV(px, qy), dotV(px, qz)];
  const [c10, c11, c12] = [dotV(py, qx), dotV(py, qy), dotV(py, qz)];
  const [c20, c21, c22] = [dotV(pz, qx), dotV(pz, qy), dotV(pz, qz)];
  const [m00, m01, m02] = [Math.abs(c00), Math.abs(c01), Math.abs(c02)];
  const [m10, m11, m12] = [Math.abs(c10), Math.abs(c11), Math.abs(c12)];
  const [m20, m21, m22] = [Math.abs(c20), Math.abs(c21), Math.abs(c22)];
  const [d0, d1, d2] = [dotV(d, px), dotV(d, py), dotV(d, pz)];
  let best = Math.max(
    Math.abs(d0) - a0 - m00 * b0 - m01 * b1 - m02 * b2,
    Math.abs(d1) - a1 - m10 * b0 - m11 * b1 - m12 * b2,
    Math.abs(d2) - a2 - m20 * b0 - m21 * b1 - m22 * b2,
    Math.abs(dotV(d, qx)) - b0 - m00 * a0 - m10 * a1 - m20 * a2,
    Math.abs(dotV(d, qy)) - b1 - m01 * a0 - m11 * a1 - m21 * a2,
    Math.abs(dotV(d, qz)) - b2 - m02 * a0 - m12 * a1 - m22 * a2,
  );
  if (best >= enough) return best;
  // Square to one axis of each: the cosine tells the length of their product.
  const across = (along: number, reach: number, cosine: number) => {
    const sine = 1 - cosine * cosine;
    if (sine > PARALLEL) best = Math.max(best, (Math.abs(along) - reach) / Math.sqrt(sine));
  };
  across(d2 * c10 - d1 * c20, a1 * m20 + a2 * m10 + b1 * m02 + b2 * m01, c00);
  across(d2 * c11 - d1 * c21, a1 * m21 + a2 * m11 + b0 * m02 + b2 * m00, c01);
  across(d2 * c12 - d1 * c22, a1 * m22 + a2 * m12 + b0 * m01 + b1 * m00, c02);
  across(d0 * c20 - d2 * c00, a0 * m20 + a2 * m00 + b1 * m12 + b2 * m11, c10);
  across(d0 * c21 - d2 * c01, a0 * m21 + a2 * m01 + b0 * m12 + b2 * m10, c11);
  across(d0 * c22 - d2 * c02, a0 * m22 + a2 * m02 + b0 * m11 + b1 * m10, c12);
  across(d1 * c00 - d0 * c10, a0 * m10 + a1 * m00 + b1 * m22 + b2 * m21, c20);
  across(d1 * c01 - d0 * c11, a0 * m11 + a1 * m01 + b0 * m22 + b2 * m20, c21);
  across(d1 * c02 - d0 * c12, a0 * m12 + a1 * m02 + b0 * m21 + b1 * m20, c22);
  return best;
}
