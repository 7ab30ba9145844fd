/** A point or direction in space, in millimetres. */
export type Vector = readonly [number, number, number];

export const addV = (a: Vector, b: Vector): Vector => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const scaleV = (a: Vector, f: number): Vector => [a[0] * f, a[1] * f, a[2] * f];
export const dotV = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const lengthV = (a: Vector): number => Math.sqrt(dotV(a, a));
export const crossV = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/**
 * A rigid motion in space: three columns (where the axes go) and an offset.
 * A point p goes to x·p₀ + y·p₁ + z·p₂ + o.
 */
export interface Motion {
  readonly x: Vector;
  readonly y: Vector;
  readonly z: Vector;
  readonly o: Vector;
}

export const STILL: Motion = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1], o: [0, 0, 0] };

export const turnV = (m: Motion, p: Vector): Vector => [
  m.x[0] * p[0] + m.y[0] * p[1] + m.z[0] * p[2],
  m.x[1] * p[0] + m.y[1] * p[1] + m.z[1] * p[2],
  m.x[2] * p[0] + m.y[2] * p[1] + m.z[2] * p[2],
];

// Asked for every corner of every piece: written out, so that nothing is made on the way.
export const moveV = (m: Motion, p: Vector): Vector => [
  m.x[0] * p[0] + m.y[0] * p[1] + m.z[0] * p[2] + m.o[0],
  m.x[1] * p[0] + m.y[1] * p[1] + m.z[1] * p[2] + m.o[1],
  m.x[2] * p[0] + m.y[2] * p[1] + m.z[2] * p[2] + m.o[2],
];

/** First `inner`, then `outer`. */
export const compose = (outer: Motion, inner: Motion): Motion => ({
  x: turnV(outer, inner.x),
  y: turnV(outer, inner.y),
  z: turnV(outer, inner.z),
  o: moveV(outer, inner.o),
});

export function inverse(m: Motion): Motion {
  const x: Vector = [m.x[0], m.y[0], m.z[0]];
  const y: Vector = [m.x[1], m.y[1], m.z[1]];
  const z: Vector = [m.x[2], m.y[2], m.z[2]];
  const turned = turnV({ x, y, z, o: [0, 0, 0] }, m.o);
  return { x, y, z, o: scaleV(turned, -1) };
}
