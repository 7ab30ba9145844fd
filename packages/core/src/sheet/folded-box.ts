import { type Arc, arcAngles, arcCovers, type Line, pointAt } from "../plane/curve.ts";
import { dot, type Point, subtract } from "../plane/point.ts";
import { type Motion, turnV, type Vector } from "../space/vector.ts";
import { type FoldedBend, type Folding, foldPoint } from "./fold.ts";
import type { Sheet } from "./sheet.ts";

export interface Box {
  readonly min: Vector;
  readonly max: Vector;
}

const AXES = [0, 1, 2] as const;
const FLAT = 1e-9;

/** Takes developed points (u, v) on both sides of the sheet into the box. */
type Take = (u: number, v: number) => void;

/**
 * The axis-aligned box of a folded sheet, exact: every outline is a border of straight lines and arcs,
 * and each is followed to where it turns back along an axis of space. A straight border across a bend is
 * a helix there, whose farthest point may lie within; its place is found in closed form. An arc border
 * on a bend is followed numerically, to 1e-9 of its length.
 */
export function foldedBox(sheet: Sheet, folding: Folding): Box {
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  const takeOf =
    (owner: number): Take =>
    (u, v) => {
      for (const w of [0, sheet.t]) {
        const p = foldPoint(folding, owner, [u, v, w]);
        for (const k of AXES) {
          min[k] = Math.min(min[k], p[k]);
          max[k] = Math.max(max[k], p[k]);
        }
      }
    };
  sheet.plates.forEach((plate, i) => {
    const take = takeOf(i);
    for (const c of plate.regions.flatMap((r) => r.outer)) {
      take(c.a.x, c.a.y);
      if (c.kind === "arc") takeFlatArc(c, folding.plates[i], take);
    }
  });
  sheet.bends.forEach((bend, j) => {
    const owner = sheet.plates.length + j;
    const take = takeOf(owner);
    // Across the strip its metal is straight, so that no opening within it reaches farther than its outline.
    for (const c of bend.regions.flatMap((r) => r.outer)) {
      take(c.a.x, c.a.y);
      if (c.kind === "line") takeHelix(c, folding.bends[j], sheet.t, take);
      else takeCurledArc(c, folding, owner, sheet.t, take);
    }
  });
  return { min, max };
}

/** Along axis k an arc is farthest where the axis, seen in the plate's plane, points straight away from its centre. */
function takeFlatArc(c: Arc, m: Motion, take: Take): void {
  for (const k of AXES) {
    const [gx, gy] = [m.x[k], m.y[k]];
    const g = Math.hypot(gx, gy);
    if (g < 1e-12) continue;
    for (const way of [1, -1]) {
      const p = { x: c.c.x + (way * c.r * gx) / g, y: c.c.y + (way * c.r * gy) / g };
      if (arcCovers(c, Math.atan2(p.y - c.c.y, p.x - c.c.x))) take(p.x, p.y);
    }
  }
}

/**
 * A straight border on a bend turned by φ: along axis k it stands at a·s(φ) + ρ(o·sin φ + u·(1 − cos φ)),
 * s running evenly with φ, which turns back where cos(φ − δ) = −a·s′ / (ρ·√(o² + u²)), δ = atan2(u, o).
 */
function takeHelix(c: Line, { bend, angle, radius, parent }: FoldedBend, t: number, take: Take): void {
  if (angle < FLAT) return;
  const place = (p: Point, d: Point) => dot(subtract(p, bend.origin), d);
  const [x0, x1] = [place(c.a, bend.out), place(c.b, bend.out)];
  if (Math.abs(x1 - x0) < 1e-12) return;
  const turnPer = angle / bend.allowance;
  const [from, to] = [Math.min(x0, x1) * turnPer, Math.max(x0, x1) * turnPer];
  const slide = (place(c.b, bend.axis) - place(c.a, bend.axis)) / ((x1 - x0) * turnPer);
  const inSpace = (d: Point) => turnV(parent, [d.x, d.y, 0]);
  const [axis, out, up] = [inSpace(bend.axis), inSpace(bend.out), turnV(parent, [0, 0, bend.up ? 1 : -1])];
  // Sides A and B stand at different distances from the middle the bend turns about.
  for (const rho of [radius, radius + t])
    for (const k of AXES) {
      const reach = rho * Math.hypot(out[k], up[k]);
      const cosine = reach < 1e-12 ? 2 : (-axis[k] * slide) / reach;
      if (Math.abs(cosine) > 1) continue;
      const [delta, half] = [Math.atan2(up[k], out[k]), Math.acos(cosine)];
      for (const way of [half, -half])
        for (let turn = -2; turn <= 2; turn++) {
          const phi = delta + way + turn * 2 * Math.PI;
          if (phi <= from || phi >= to) continue;
          const g = (phi / turnPer - x0) / (x1 - x0);
          take(c.a.x + (c.b.x - c.a.x) * g, c.a.y + (c.b.y - c.a.y) * g);
        }
    }
}

const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** The farthest points of an arc border on a bend: looked for between samples that stand out of their neighbours. */
function takeCurledArc(c: Arc, folding: Folding, owner: number, t: number, take: Take): void {
  const n = Math.max(16, Math.ceil(Math.abs(arcAngles(c).sweep) * 24));
  const at = (f: number, w: number): Vector => {
    const p = pointAt(c, f);
    return foldPoint(folding, owner, [p.x, p.y, w]);
  };
  for (const w of [0, t]) {
    const samples = Array.from({ length: n + 1 }, (_, i) => at(i / n, w));
    for (const k of AXES)
      for (const way of [1, -1])
        for (let i = 0; i <= n; i++) {
          const here = way * samples[i][k];
          const before = i > 0 ? way * samples[i - 1][k] : -Infinity;
          const after = i < n ? way * samples[i + 1][k] : -Infinity;
          if (here < before || here < after) continue;
          const f = peak((g) => way * at(g, w)[k], Math.max(0, (i - 1) / n), Math.min(1, (i + 1) / n));
          const p = pointAt(c, f);
          take(p.x, p.y);
        }
  }
}

/** Where a function that rises and then falls is highest, by golden sections. */
function peak(f: (x: number) => number, from: number, to: number): number {
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
