import type { Curve } from "../../plane/curve.ts";

/**
 * The same text for curves that lie on one another, whichever way round they run: their ends, and of an arc its middle and
 * on which side of its chord it lies, told apart to one part in `steps` of a unit.
 */
export function curveKey(c: Curve, steps: number): string {
  const r = (v: number) => Math.round(v * steps);
  const [a, b] = [`${r(c.a.x)},${r(c.a.y)}`, `${r(c.b.x)},${r(c.b.y)}`];
  const forth = r(c.a.x) < r(c.b.x) || (r(c.a.x) === r(c.b.x) && r(c.a.y) < r(c.b.y));
  const ends = forth ? `${a} ${b}` : `${b} ${a}`;
  return c.kind === "line" ? ends : `${ends} ${r(c.c.x)},${r(c.c.y)} ${c.ccw === forth ? "right" : "left"}`;
}
