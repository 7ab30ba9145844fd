import { formSurface } from "../../forming/form-surface.ts";
import { Kept } from "../../kept.ts";
import { type Curve, curveBounds, line } from "../../plane/curve.ts";
import { intersectCurves } from "../../plane/intersect.ts";
import { loopsBounds } from "../../plane/loop.ts";
import { NearCurves } from "../../plane/near-curves.ts";
import { hypotenuse, type Point } from "../../plane/point.ts";
import { type Region, regionLoops } from "../../plane/region.ts";
import { addV, crossV, dotV, scaleV, type Vector } from "../../space/vector.ts";
import { AXES } from "../pieces/borders.ts";
import { kindOf } from "../pieces/piece-kinds.ts";
import { type Piece, pieceIndex, type Sheet } from "../sheet.ts";
import { type Folding, unfoldPoint } from "./fold.ts";
import { type Box, emptyBox, growBox } from "./folded-box.ts";

/** Where a ray first meets a folded sheet. */
export interface RayHit {
  /** Its place in `sheet.pieces`; what is formed out of a plate is met as that plate. */
  readonly piece: number;
  /** The developed point (u, v, w) that is met, mm. */
  readonly at: Vector;
  /** How far along the ray, in lengths of its direction. */
  readonly along: number;
}

/** The metal of one piece: whether a developed point is in it, and the borders that are near. */
const metal = new Kept((regions: readonly Region[]) => {
  const curves = regions
    .flatMap(regionLoops)
    .flat()
    .map((curve: Curve) => ({ curve, box: curveBounds(curve) }));
  return new NearCurves(curves);
});

const regionsOf = (piece: Piece) => kindOf(piece).regions(piece);

const covers = (piece: Piece, p: Point): boolean =>
  metal.of(regionsOf(piece)).covers(p, ({ curve }) => curve);

/** Boxes of the pieces in space. */
const boxes = new Kept((folding: Folding, sheet: Sheet): readonly Box[] =>
  sheet.pieces.map((piece, i) => {
    const box = emptyBox();
    growBox(box, piece, folding.pieces[i], folding.t);
    return box;
  }),
);

/** From where to where a ray is within a box; nothing where it passes by. */
function within({ min, max }: Box, from: Vector, way: Vector): [number, number] | undefined {
  let [first, last] = [0, Infinity];
  for (const k of AXES) {
    const [low, high] = [min[k] - 1e-6, max[k] + 1e-6];
    if (Math.abs(way[k]) < 1e-15) {
      if (from[k] < low || from[k] > high) return undefined;
      continue;
    }
    const [a, b] = [(low - from[k]) / way[k], (high - from[k]) / way[k]];
    first = Math.max(first, Math.min(a, b));
    last = Math.min(last, Math.max(a, b));
  }
  return first <= last ? [first, last] : undefined;
}

/**
 * Where a ray first meets the metal of a folded sheet: a side or a cut edge. It is found on the true shape and not on
 * triangles, so that the developed point is right to 1e-9 mm on plates and 1e-7 mm on bends. Only pieces whose box the
 * ray passes through are looked at, and of their borders only those beside it.
 *
 * @param from Where the ray begins, and `way` its direction, of any length.
 */
export function rayHit(sheet: Sheet, folding: Folding, from: Vector, way: Vector): RayHit | undefined {
  const all = boxes.of(folding, sheet);
  const near: { piece: number; span: [number, number] }[] = [];
  for (let i = 0; i < sheet.pieces.length; i++) {
    // A rib is met as the legs and the strip that it is pressed into.
    const span = sheet.pieces[i].kind === "rib" ? undefined : within(all[i], from, way);
    if (span) near.push({ piece: i, span });
  }
  near.sort((p, q) => p.span[0] - q.span[0]);
  let best: RayHit | undefined;
  for (const { piece, span } of near) {
    if (best && span[0] > best.along) break;
    const ray: Ray = { sheet, folding, piece, from, way };
    const { kind } = sheet.pieces[piece];
    const along =
      kind === "plate" ? plateHit(ray) : kind === "formed" ? formedHit(ray) : curledHit(ray, span);
    if (along !== undefined && (!best || along < best.along))
      best = { piece: hostOf(sheet, piece), along, at: developedAt(ray, along) };
  }
  return best;
}

interface Ray {
  readonly sheet: Sheet;
  readonly folding: Folding;
  readonly piece: number;
  readonly from: Vector;
  readonly way: Vector;
}

const developedAt = ({ folding, piece, from, way }: Ray, s: number): Vector =>
  unfoldPoint(folding, piece, addV(from, scaleV(way, s)));

/** What is formed out of a plate is met as a place of the plate. */
function hostOf(sheet: Sheet, i: number): number {
  const piece = sheet.pieces[i];
  return piece.kind === "formed" ? pieceIndex(sheet, "plate", piece.host) : i;
}

/** How fine the surface of something formed is looked at, mm. */
const FORMED_CHORD = 0.05;

/** Formed metal is met on the triangles of its surface: its developed place is that of the plate below or above it. */
function formedHit(ray: Ray): number | undefined {
  const piece = ray.sheet.pieces[ray.piece];
  if (piece.kind !== "formed") return undefined;
  const { sideA, sideB, faces, walls } = formSurface(piece, ray.sheet.t, FORMED_CHORD);
  const from = developedAt(ray, 0);
  const to = developedAt(ray, 1);
  const way: Vector = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
  let best: number | undefined;
  const look = (a: Vector, b: Vector, c: Vector) => {
    const s = meetsTriangle(from, way, a, b, c);
    if (s !== undefined && s >= 0 && (best === undefined || s < best)) best = s;
  };
  for (let i = 0; i < faces.length; i += 3)
    for (const side of [sideA, sideB]) look(side[faces[i]], side[faces[i + 1]], side[faces[i + 2]]);
  for (let i = 0; i < walls.length; i += 2) {
    const [p, q] = [walls[i], walls[i + 1]];
    look(sideA[p], sideA[q], sideB[q]);
    look(sideA[p], sideB[q], sideB[p]);
  }
  return best;
}

/** How far along a ray a triangle stands in its way, seen from either side. */
function meetsTriangle(from: Vector, way: Vector, a: Vector, b: Vector, c: Vector): number | undefined {
  const minus = (p: Vector, q: Vector): Vector => [p[0] - q[0], p[1] - q[1], p[2] - q[2]];
  const [e, f] = [minus(b, a), minus(c, a)];
  const h = crossV(way, f);
  const det = dotV(e, h);
  if (Math.abs(det) < 1e-15) return undefined;
  const d = minus(from, a);
  const u = dotV(d, h) / det;
  if (u < -1e-9 || u > 1 + 1e-9) return undefined;
  const q = crossV(d, e);
  const v = dotV(way, q) / det;
  return v < -1e-9 || u + v > 1 + 1e-9 ? undefined : dotV(f, q) / det;
}

/** On a plate the ray is straight in developed coordinates too: it enters by a side, or by a border on its way through. */
function plateHit(ray: Ray): number | undefined {
  const { t, pieces } = ray.sheet;
  const piece = pieces[ray.piece];
  const [a, b] = [developedAt(ray, 0), developedAt(ray, 1)];
  const rise = b[2] - a[2];
  const at = (s: number): Point => ({ x: a[0] + (b[0] - a[0]) * s, y: a[1] + (b[1] - a[1]) * s });
  const through =
    Math.abs(rise) > 1e-15 ? [-a[2] / rise, (t - a[2]) / rise].sort((p, q) => p - q) : undefined;
  if (!through && (a[2] < 0 || a[2] > t)) return undefined;
  const slope = hypotenuse(b[0] - a[0], b[1] - a[1]);
  // A ray along the plate is looked at only as far as its metal goes.
  const reach = slope > 0 ? reachOf(piece, a, slope) : Infinity;
  const first = Math.max(0, through ? through[0] : 0);
  const last = Math.min(through ? through[1] : Infinity, reach);
  if (last < first) return undefined;
  if (covers(piece, at(first))) return first;
  const [p, q] = [at(first), at(last)];
  const run = hypotenuse(q.x - p.x, q.y - p.y);
  if (!(run > 1e-9)) return undefined;
  const walk = line(p, q);
  const box = curveBounds(walk);
  let nearest: number | undefined;
  for (const { curve } of metal.of(regionsOf(piece)).near(box))
    for (const hit of intersectCurves(walk, curve)) {
      const share = ((hit.x - p.x) * (q.x - p.x) + (hit.y - p.y) * (q.y - p.y)) / (run * run);
      if (nearest === undefined || share < nearest) nearest = share;
    }
  return nearest === undefined ? undefined : first + (last - first) * nearest;
}

/** How far along a ray, whose shadow on the plate begins at `a` and is `slope` long, the plate's metal may still be. */
function reachOf(piece: Piece, a: Vector, slope: number): number {
  const { minX, minY, maxX, maxY } = outline.of(regionsOf(piece));
  const far = hypotenuse(
    Math.max(Math.abs(minX - a[0]), Math.abs(maxX - a[0])),
    Math.max(Math.abs(minY - a[1]), Math.abs(maxY - a[1])),
  );
  return (far + 1) / slope;
}

const outline = new Kept((regions: readonly Region[]) => loopsBounds(regions.map((r) => r.outer)));

/** So many places along a ray are looked at on a bend; between two of them what changes is closed in on. */
const LOOKS = 48;

/** On what curls, the ray is followed through its box: into it by a side where it has metal, or by a border within it. */
function curledHit(ray: Ray, [first, last]: readonly [number, number]): number | undefined {
  const { t, pieces } = ray.sheet;
  const piece = pieces[ray.piece];
  if (!kindOf(piece).unfold || !Number.isFinite(last)) return undefined;
  const heightAt = (s: number) => developedAt(ray, s)[2];
  const isMetal = (s: number): boolean => {
    const [u, v, w] = developedAt(ray, s);
    return w > -1e-7 && w < t + 1e-7 && covers(piece, { x: u, y: v });
  };
  /** The place between two where a height is come to. */
  const close = (level: number, from: number, to: number): number => {
    let [a, b] = [from, to];
    const rising = heightAt(b) > heightAt(a);
    for (let i = 0; i < 60 && b - a > 1e-12 * Math.max(1, Math.abs(b)); i++) {
      const m = (a + b) / 2;
      if (heightAt(m) > level === rising) b = m;
      else a = m;
    }
    return (a + b) / 2;
  };
  let before = first;
  let low = heightAt(first);
  if (isMetal(first)) return first;
  for (let i = 1; i <= LOOKS; i++) {
    const s = first + ((last - first) * i) / LOOKS;
    const high = heightAt(s);
    const found = [0, t]
      .filter((level) => low > level !== high > level)
      .map((level) => close(level, before, s))
      .sort((p, q) => p - q)
      .find(isMetal);
    if (found !== undefined) return found;
    if (isMetal(s)) {
      let [a, b] = [before, s];
      for (let k = 0; k < 60 && b - a > 1e-12 * Math.max(1, Math.abs(b)); k++) {
        const m = (a + b) / 2;
        if (isMetal(m)) b = m;
        else a = m;
      }
      return b;
    }
    before = s;
    low = high;
  }
  return undefined;
}
