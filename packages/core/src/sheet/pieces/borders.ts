import { type Isometry, moveLoop } from "../../plane/isometry.ts";
import type { Region } from "../../plane/region.ts";

export const AXES = [0, 1, 2] as const;

export const moveRegions = (m: Isometry, regions: readonly Region[]): Region[] =>
  regions.map((r) => ({ outer: moveLoop(m, r.outer), holes: r.holes.map((h) => moveLoop(m, h)) }));

const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** Where a function that rises and then falls is highest, by golden sections. */
export function peak(f: (x: number) => number, from: number, to: number): number {
  let [a, b] = [from, to];
  let [p, q] = [b - GOLDEN * (b - a), a + GOLDEN * (b - a)];
  let [fp, fq] = [f(p), f(q)];
  for (let i = 0; i < 48; i++) {
    if (fp > fq) {
      [b, q, fq] = [q, p, fp];
      p = b - GOLDEN * (b - a);
      fp = f(p);
    } else {
      [a, p, fp] = [p, q, fq];
      q = a + GOLDEN * (b - a);
      fq = f(q);
    }
  }
  return (a + b) / 2;
}
