import { arcAngles, arcCovers, type Curve, curveBounds, directionAt, pointAt, reversed } from "./curve.ts";
import { intersectCurves } from "./intersect.ts";
import { type Loop, loopArea, simplifyLoop } from "./loop.ts";
import { type Bounds, dot, type Point, SAME, subtract } from "./point.ts";
import type { Region } from "./region.ts";
import { groupRegions, PointTable, stitchLoops } from "./stitch.ts";

/** A curve of one operand, small enough in turn that it rises or falls all the way. */
interface Piece {
  readonly curve: Curve;
  readonly operand: number;
  readonly box: Bounds;
}

/** Splits an arc at its highest and lowest points. */
function monotone(c: Curve): Curve[] {
  if (c.kind === "line") return [c];
  const { start, sweep } = arcAngles(c);
  const cuts: number[] = [];
  for (const at of [Math.PI / 2, -Math.PI / 2]) {
    if (!arcCovers(c, at, 0)) continue;
    const turned =
      ((((c.ccw ? at - start : start - at) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI)) / Math.abs(sweep);
    if (turned > 1e-9 && turned < 1 - 1e-9) cuts.push(turned);
  }
  return splitAt(
    c,
    cuts.map((f) => pointAt(c, f)),
  );
}

function placeOn(c: Curve, p: Point): number {
  if (c.kind === "line") return dot(subtract(p, c.a), subtract(c.b, c.a));
  const { start } = arcAngles(c);
  const angle = Math.atan2(p.y - c.c.y, p.x - c.c.x);
  const turned = c.ccw ? angle - start : start - angle;
  const full = 2 * Math.PI;
  const wrapped = ((turned % full) + full) % full;
  return wrapped > full - 1e-9 ? 0 : wrapped;
}

/** Cuts a curve at points that lie on it. */
export function splitAt(c: Curve, points: readonly Point[]): Curve[] {
  if (points.length === 0) return [c];
  const sorted = points
    .map((p) => ({ p, f: placeOn(c, p) }))
    .sort((u, v) => u.f - v.f)
    .map((u) => u.p);
  const out: Curve[] = [];
  let a = c.a;
  for (const p of [...sorted, c.b]) {
    if (Math.abs(p.x - a.x) <= SAME * 2 && Math.abs(p.y - a.y) <= SAME * 2) continue;
    out.push({ ...c, a, b: p });
    a = p;
  }
  if (out.length === 0) return [c];
  if (out[out.length - 1].b !== c.b) out[out.length - 1] = { ...out[out.length - 1], b: c.b };
  return out;
}

/** All places where pieces meet, as points to cut each piece at. A sweep over x keeps it near linear. */
function crossings(pieces: readonly Piece[]): Point[][] {
  const cuts: Point[][] = pieces.map(() => []);
  const order = pieces.map((_, i) => i).sort((i, j) => pieces[i].box.minX - pieces[j].box.minX);
  let active: number[] = [];
  for (const i of order) {
    const box = pieces[i].box;
    active = active.filter((j) => pieces[j].box.maxX >= box.minX - SAME);
    for (const j of active) {
      const other = pieces[j].box;
      if (other.minY > box.maxY + SAME || other.maxY < box.minY - SAME) continue;
      for (const p of intersectCurves(pieces[i].curve, pieces[j].curve)) {
        cuts[i].push(p);
        cuts[j].push(p);
      }
    }
    active.push(i);
  }
  return cuts;
}

/** Answers how often each operand winds around a point, from the pieces that a ray to the right crosses. */
class WindingIndex {
  private readonly rows: Int32Array[];
  private readonly minY: number;
  private readonly step: number;
  private readonly pieces: readonly Piece[];
  // Ends and right-hand limits of the pieces, packed: this is asked for every fragment.
  private readonly ay: Float64Array;
  private readonly by: Float64Array;
  private readonly maxX: Float64Array;

  constructor(pieces: readonly Piece[]) {
    this.pieces = pieces;
    this.ay = Float64Array.from(pieces, (p) => p.curve.a.y);
    this.by = Float64Array.from(pieces, (p) => p.curve.b.y);
    this.maxX = Float64Array.from(pieces, (p) => p.box.maxX);
    let [minY, maxY] = [Infinity, -Infinity];
    for (const p of pieces) {
      minY = Math.min(minY, p.box.minY);
      maxY = Math.max(maxY, p.box.maxY);
    }
    const count = Math.max(1, Math.min(1024, pieces.length));
    this.minY = minY;
    this.step = (maxY - minY) / count || 1;
    const rows: number[][] = Array.from({ length: count }, () => []);
    pieces.forEach((p, i) => {
      if (p.curve.a.y === p.curve.b.y) return;
      for (let r = this.row(p.box.minY, count); r <= this.row(p.box.maxY, count); r++) rows[r].push(i);
    });
    // The farthest to the right first: a ray may stop at the first piece that ends left of it.
    this.rows = rows.map((row) => Int32Array.from(row.sort((i, j) => this.maxX[j] - this.maxX[i])));
  }

  private row(y: number, count: number): number {
    return Math.max(0, Math.min(count - 1, Math.floor((y - this.minY) / this.step)));
  }

  at(p: Point, operands: number): number[] {
    const windings = new Array<number>(operands).fill(0);
    const ay = this.ay;
    const by = this.by;
    const maxX = this.maxX;
    for (const i of this.rows[this.row(p.y, this.rows.length)]) {
      if (maxX[i] < p.x) break;
      const up = ay[i] <= p.y && by[i] > p.y;
      if (!up && !(by[i] <= p.y && ay[i] > p.y)) continue;
      const { curve, operand, box } = this.pieces[i];
      if (box.minX > p.x || abscissa(curve, p.y) > p.x) windings[operand] += up ? 1 : -1;
    }
    return windings;
  }
}

function abscissa(c: Curve, y: number): number {
  if (c.kind === "line") return c.a.x + ((y - c.a.y) / (c.b.y - c.a.y)) * (c.b.x - c.a.x);
  const half = Math.sqrt(Math.max(0, c.r * c.r - (y - c.c.y) ** 2));
  // A piece never passes its circle's top or bottom, so it lies wholly right or left of the centre.
  return pointAt(c, 0.5).x >= c.c.x ? c.c.x + half : c.c.x - half;
}

/**
 * Combines areas bounded by lines and arcs, exactly: pieces are cut where they meet, and those with
 * material on one side only become the new outlines. Arcs stay arcs and keep their names.
 *
 * `operands` are sets of closed loops, `keep` says of the winding numbers of all operands at a
 * place whether there is material. Loops come back counter-clockwise around material, clockwise
 * around openings.
 *
 * @example combine([[plate], [hole]], ([p, h]) => p > 0 && h === 0)
 */
export function combine(
  operands: readonly (readonly Loop[])[],
  keep: (windings: readonly number[]) => boolean,
): Loop[] {
  const table = new PointTable();
  const snap = (p: Point) => table.points[table.idOf(p)];
  const snapped = (c: Curve): Curve => ({ ...c, a: snap(c.a), b: snap(c.b) });
  const pieces: Piece[] = operands.flatMap((loops, operand) =>
    loops.flatMap((loop) =>
      loop
        .flatMap(monotone)
        .map(snapped)
        .filter((c) => c.a !== c.b)
        .map((curve) => ({ curve, operand, box: curveBounds(curve) })),
    ),
  );
  if (pieces.length === 0) return [];
  const cuts = crossings(pieces);
  const winding = new WindingIndex(pieces);
  const groups = new Map<string, { curve: Curve; deltas: number[] }>();
  pieces.forEach((piece, i) => {
    for (const fragment of splitAt(piece.curve, cuts[i].map(snap))) {
      addFragment(groups, table, fragment, piece.operand, operands.length);
    }
  });
  const edges: Curve[] = [];
  for (const { curve, deltas } of groups.values()) {
    const mid = pointAt(curve, 0.5);
    const d = directionAt(curve, 0.5);
    const step = SAME * 20;
    const right = winding.at({ x: mid.x + d.y * step, y: mid.y - d.x * step }, operands.length);
    const left = right.map((w, k) => w + deltas[k]);
    const onRight = keep(right);
    if (keep(left) !== onRight) edges.push(onRight ? reversed(curve) : curve);
  }
  const passes = new Map<Point, number>();
  for (const { a } of edges) passes.set(a, (passes.get(a) ?? 0) + 1);
  const touching = new Set([...passes].filter(([, n]) => n > 1).map(([p]) => p));
  return stitchLoops(edges)
    .loops.map((loop) => simplifyLoop(loop, touching))
    .filter((loop) => Math.abs(loopArea(loop)) > SAME);
}

/** Fragments that lie on each other count as one edge; each operand adds how often it runs along it. */
function addFragment(
  groups: Map<string, { curve: Curve; deltas: number[] }>,
  table: PointTable,
  fragment: Curve,
  operand: number,
  operands: number,
): void {
  const i = table.idOf(fragment.a);
  const j = table.idOf(fragment.b);
  if (i === j) return;
  const bow = fragment.kind === "line" ? "" : `:${table.idOf(pointAt(fragment, 0.5))}`;
  const key = i < j ? `${i},${j}${bow}` : `${j},${i}${bow}`;
  let group = groups.get(key);
  if (!group) {
    group = { curve: i < j ? fragment : reversed(fragment), deltas: new Array<number>(operands).fill(0) };
    groups.set(key, group);
  }
  group.deltas[operand] += i < j ? 1 : -1;
}

const areas = (operands: readonly (readonly Loop[])[], keep: (w: readonly number[]) => boolean): Region[] =>
  groupRegions(combine(operands, keep));

/** `from` without `cut`, as regions. */
export const subtractLoops = (from: readonly Loop[], cut: readonly Loop[]): Region[] =>
  areas([from, cut], ([p, q]) => p > 0 && q === 0);

/** Where at least two of the loops' areas lie over each other. */
export const overlapOf = (loops: readonly Loop[]): Region[] => areas([loops], ([p]) => p > 1);

/** Where both areas are, as regions. */
export const intersectLoops = (p: readonly Loop[], q: readonly Loop[]): Region[] =>
  areas([p, q], ([a, b]) => a > 0 && b > 0);
