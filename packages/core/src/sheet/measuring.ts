import { flattenCurve } from "../plane/curve.ts";
import { distance, type Point } from "../plane/point.ts";
import { regionLoops } from "../plane/region.ts";
import { dotV, turnV, type Vector } from "../space/vector.ts";
import { sheetCorners } from "./corners.ts";
import { type Folding, foldPoint } from "./fold.ts";
import { findEdge, type Sheet } from "./sheet.ts";

/** Something that can be measured from: a stable name, and which face when the thickness counts. */
export interface MeasureEnd {
  readonly kind: "edge" | "plate" | "bend" | "corner" | "hole";
  readonly name: string;
  /** Side A, side B; where neither is given, whichever is nearer. */
  readonly face?: "A" | "B";
}

export interface Measured {
  /** Shortest distance in the fold state asked for, mm. */
  readonly distance: number;
  /** The same two places in space. */
  readonly from: Vector;
  readonly to: Vector;
  /** Between the directions of two edges, or the faces of two plates, radians; none for points. */
  readonly angle?: number;
  /** Along the flat sheet between the two places, mm; none when they lie on different pieces. */
  readonly alongSheet?: number;
}

interface Place {
  readonly owner: number;
  readonly flat: Point;
}

interface Thing {
  /** Straight runs in developed coordinates, each on a plate or bend. */
  readonly runs: readonly (readonly [Place, Place])[];
  /** A direction in developed coordinates: of an edge, or square to a plate. */
  readonly direction?: { readonly owner: number; readonly v: Vector };
}

const CHORD = 0.02;

function findThing(sheet: Sheet, end: MeasureEnd): Thing | undefined {
  const runs = (owner: number, points: readonly Point[]): [Place, Place][] =>
    points.slice(1).map((p, i) => [
      { owner, flat: points[i] },
      { owner, flat: p },
    ]);
  switch (end.kind) {
    case "edge": {
      const found = findEdge(sheet, end.name);
      if (!found) return undefined;
      const owner = sheet.plates.indexOf(found.plate);
      const { left, right } = found.edge;
      const length = found.length || 1;
      const v: Vector = [(right.x - left.x) / length, (right.y - left.y) / length, 0];
      return { runs: runs(owner, [left, right]), direction: { owner, v } };
    }
    case "corner": {
      const corner = sheetCorners(sheet).find((c) => c.name === end.name);
      return corner && { runs: runs(corner.owner, [corner.at, corner.at]) };
    }
    case "plate": {
      const owner = sheet.plates.findIndex((p) => p.id === end.name);
      if (owner < 0) return undefined;
      const loops = sheet.plates[owner].regions.flatMap(regionLoops);
      const all = loops.flatMap((l) => {
        const points = l.flatMap((c) => flattenCurve(c, CHORD));
        return runs(owner, [...points, points[0]]);
      });
      return { runs: all, direction: { owner, v: [0, 0, 1] } };
    }
    case "hole": {
      const [plate, key] = end.name.split(" ");
      const owner = sheet.plates.findIndex((p) => p.id === plate);
      if (owner < 0) return undefined;
      const arc = sheet.plates[owner].regions
        .flatMap(regionLoops)
        .flat()
        .find((c) => c.kind === "arc" && c.name === `hole:${key}`);
      return arc?.kind === "arc" ? { runs: runs(owner, [arc.c, arc.c]) } : undefined;
    }
    case "bend": {
      const j = sheet.bends.findIndex((b) => b.id === end.name);
      if (j < 0) return undefined;
      const b = sheet.bends[j];
      const at = (s: number): Point => ({
        x: b.origin.x + b.axis.x * s + (b.out.x * b.allowance) / 2,
        y: b.origin.y + b.axis.y * s + (b.out.y * b.allowance) / 2,
      });
      const owner = sheet.plates.length + j;
      return { runs: runs(owner, [at(0), at(b.width)]), direction: { owner, v: [b.axis.x, b.axis.y, 0] } };
    }
  }
}

/**
 * Measures between two things of a sheet in a fold state: the shortest distance between them, the
 * angle between edges or faces, and the distance along the flat sheet. Nothing when one is gone.
 * A hole is measured from its centre, a bend from its centre line.
 */
export function measureBetween(
  sheet: Sheet,
  folding: Folding,
  a: MeasureEnd,
  b: MeasureEnd,
): Measured | undefined {
  const [p, q] = [findThing(sheet, a), findThing(sheet, b)];
  if (!p || !q || p.runs.length === 0 || q.runs.length === 0) return undefined;
  let best: { d: number; from: Vector; to: Vector; fromFlat: Point; toFlat: Point } | undefined;
  for (const wa of heights(a, sheet.t))
    for (const wb of heights(b, sheet.t))
      for (const u of p.runs)
        for (const v of q.runs) {
          const [u0, u1] = u.map((e) => foldPoint(folding, e.owner, [e.flat.x, e.flat.y, wa]));
          const [v0, v1] = v.map((e) => foldPoint(folding, e.owner, [e.flat.x, e.flat.y, wb]));
          const { s, t, d, from, to } = closest(u0, u1, v0, v1);
          if (best && d >= best.d - 1e-12) continue;
          best = {
            d,
            from,
            to,
            fromFlat: mix(u[0].flat, u[1].flat, s),
            toFlat: mix(v[0].flat, v[1].flat, t),
          };
        }
  const angle = p.direction && q.direction && angleBetween(folding, p.direction, q.direction);
  return {
    distance: best!.d,
    from: best!.from,
    to: best!.to,
    ...(angle === undefined ? {} : { angle }),
    alongSheet: distance(best!.fromFlat, best!.toFlat),
  };
}

const heights = (end: MeasureEnd, t: number): number[] =>
  end.face === "A" ? [0] : end.face === "B" ? [t] : [0, t];

const mix = (a: Point, b: Point, f: number): Point => ({
  x: a.x + (b.x - a.x) * f,
  y: a.y + (b.y - a.y) * f,
});

function angleBetween(
  folding: Folding,
  a: { owner: number; v: Vector },
  b: { owner: number; v: Vector },
): number | undefined {
  const count = folding.plates.length;
  const turned = ({ owner, v }: { owner: number; v: Vector }): Vector =>
    turnV(owner < count ? folding.plates[owner] : folding.bends[owner - count].parent, v);
  const cosine = Math.abs(dotV(turned(a), turned(b)));
  return Math.acos(Math.min(1, cosine));
}

/** The two nearest places of two straight runs in space. */
function closest(p0: Vector, p1: Vector, q0: Vector, q1: Vector) {
  const sub = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
  const at = (a: Vector, d: Vector, f: number): Vector => [a[0] + d[0] * f, a[1] + d[1] * f, a[2] + d[2] * f];
  const clamp = (v: number) => Math.max(0, Math.min(1, v));
  const [u, v, w] = [sub(p1, p0), sub(q1, q0), sub(p0, q0)];
  const [a, b, c, d, e] = [dotV(u, u), dotV(u, v), dotV(v, v), dotV(u, w), dotV(v, w)];
  const det = a * c - b * b;
  let s = det > 1e-12 * Math.max(1, a * c) ? clamp((b * e - c * d) / det) : 0;
  let t = c > 1e-18 ? clamp((b * s + e) / c) : 0;
  s = a > 1e-18 ? clamp((b * t - d) / a) : 0;
  t = c > 1e-18 ? clamp((b * s + e) / c) : t;
  const [from, to] = [at(p0, u, s), at(q0, v, t)];
  const g = sub(from, to);
  return { s, t, d: Math.hypot(g[0], g[1], g[2]), from, to };
}
