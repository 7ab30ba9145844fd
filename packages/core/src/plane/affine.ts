type Place = readonly [number, number];

/** An affine map of the plane: x' = a·x + c·y + e, y' = b·x + d·y + f. */
export type Affine = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

/** Leaves everything where it is. */
export const UNMOVED: Affine = [1, 0, 0, 1, 0, 0];

/** First `inner`, then `outer`. */
export const after = ([a, b, c, d, e, f]: Affine, [g, h, i, j, k, l]: Affine): Affine => [
  a * g + c * h,
  b * g + d * h,
  a * i + c * j,
  b * i + d * j,
  a * k + c * l + e,
  b * k + d * l + f,
];

/** Where a place comes to lie. */
export const placeOn = ([a, b, c, d, e, f]: Affine, [x, y]: Place): Place => [
  a * x + c * y + e,
  b * x + d * y + f,
];
/** A direction is turned and stretched, and stands nowhere. */
export const wayOn = ([a, b, c, d]: Affine, [x, y]: Place): Place => [a * x + c * y, b * x + d * y];

/** What a drawing is scaled by where that is the same in all directions; nothing where it is not. */
export function evenScale([a, b, c, d]: Affine): number | undefined {
  const [p, q] = [Math.hypot(a, b), Math.hypot(c, d)];
  const size = Math.max(p, q);
  return Math.abs(p - q) <= 1e-12 * size && Math.abs(a * c + b * d) <= 1e-12 * size * size ? p : undefined;
}

/** Whether left and right change places. */
export const flips = ([a, b, c, d]: Affine): boolean => a * d - b * c < 0;
