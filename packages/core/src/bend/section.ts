import type { Point } from "../plane/point.ts";

/**
 * A point of a bend in section, mm: its first tangent line stands at x = 0, the inside face of its parent at y = 0, and it
 * turns up. `rho` is the distance from its centre, `turned` the angle from the first tangent line, radians.
 */
export const sectionPoint = (r: number, rho: number, turned: number): Point => ({
  x: rho * Math.sin(turned),
  y: r - rho * Math.cos(turned),
});
