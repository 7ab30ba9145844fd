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

/**
 * How far two boxes are apart along the best of the fifteen directions that can part them, mm: their distance is no
 * less. Less than nothing where they overlap. Looking stops once it is `enough`.
 */
export function boxGap(p: Box3, q: Box3, enough = 0): number {
  const d: Vector = [q.centre[0] - p.centre[0], q.centre[1] - p.centre[1], q.centre[2] - p.centre[2]];
  // turn[i][j]: the cosine between axis i of the first and axis j of the second.
  const turn = p.axes.map((a) => q.axes.map((b) => dotV(a, b)));
  let best = -Infinity;
  for (let i = 0; i < 3; i++) {
    const [a, b, c] = turn[i];
    const reach = p.half[i] + Math.abs(a) * q.half[0] + Math.abs(b) * q.half[1] + Math.abs(c) * q.half[2];
    best = Math.max(best, Math.abs(dotV(d, p.axes[i])) - reach);
  }
  if (best >= enough) return best;
  for (let j = 0; j < 3; j++) {
    const reach =
      q.half[j] +
      Math.abs(turn[0][j]) * p.half[0] +
      Math.abs(turn[1][j]) * p.half[1] +
      Math.abs(turn[2][j]) * p.half[2];
    best = Math.max(best, Math.abs(dotV(d, q.axes[j])) - reach);
  }
  if (best >= enough) return best;
  const along = p.axes.map((a) => dotV(d, a));
  for (let i = 0; i < 3; i++)
    for (let j = 0; j < 3; j++) {
      const sine = Math.sqrt(Math.max(0, 1 - turn[i][j] * turn[i][j]));
      if (sine < 1e-6) continue;
      const [i1, i2, j1, j2] = [(i + 1) % 3, (i + 2) % 3, (j + 1) % 3, (j + 2) % 3];
      const reach =
        p.half[i1] * Math.abs(turn[i2][j]) +
        p.half[i2] * Math.abs(turn[i1][j]) +
        q.half[j1] * Math.abs(turn[i][j2]) +
        q.half[j2] * Math.abs(turn[i][j1]);
      const gap = Math.abs(along[i2] * turn[i1][j] - along[i1] * turn[i2][j]) - reach;
      best = Math.max(best, gap / sine);
      if (best >= enough) return best;
    }
  return best;
}
