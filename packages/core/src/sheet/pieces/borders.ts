import { type Arc, arcCovers } from "../../plane/curve.ts";
import { type Isometry, moveCurve, moveLoop } from "../../plane/isometry.ts";
import { hypotenuse } from "../../plane/point.ts";
import type { Region } from "../../plane/region.ts";
import type { Motion } from "../../space/vector.ts";
import type { Mark } from "./flat-pieces.ts";
import type { PieceStrokes, Take } from "./piece-kind.ts";

export const AXES = [0, 1, 2] as const;

export const moveRegions = (m: Isometry, regions: readonly Region[]): Region[] =>
  regions.map((r) => ({ outer: moveLoop(m, r.outer), holes: r.holes.map((h) => moveLoop(m, h)) }));

export const moveMarks = (m: Isometry, marks: readonly Mark[]): readonly Mark[] =>
  marks.length === 0
    ? marks
    : marks.map((mark) => ({ ...mark, curves: mark.curves.map((c) => moveCurve(m, c)) }));

/** Of a piece whose metal shows nothing on the blank but its borders and its marks. */
export const ownMarks = ({ marks }: { readonly marks: readonly Mark[] }): PieceStrokes => ({
  marks,
  slits: [],
});

/** Along axis k an arc is farthest where the axis, seen in the plate's plane, points straight away from its centre. */
export function takeFlatArc(c: Arc, m: Motion, take: Take): void {
  for (const k of AXES) {
    const [gx, gy] = [m.x[k], m.y[k]];
    const g = hypotenuse(gx, gy);
    if (g < 1e-12) continue;
    for (const way of [1, -1]) {
      const p = { x: c.c.x + (way * c.r * gx) / g, y: c.c.y + (way * c.r * gy) / g };
      if (arcCovers(c, Math.atan2(p.y - c.c.y, p.x - c.c.x))) take(p.x, p.y);
    }
  }
}

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
