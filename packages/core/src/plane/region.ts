import { curvesBounds } from "./curve.ts";
import { type Loop, loopArea } from "./loop.ts";
import type { Bounds } from "./point.ts";

/** A connected piece of sheet: a counter-clockwise outline and clockwise openings in it. */
export interface Region {
  readonly outer: Loop;
  readonly holes: readonly Loop[];
}

export const regionArea = (r: Region): number =>
  loopArea(r.outer) + r.holes.reduce((sum, h) => sum + loopArea(h), 0);

export const regionLoops = (r: Region): Loop[] => [r.outer, ...r.holes];
export const regionBounds = (r: Region): Bounds => curvesBounds(r.outer);
