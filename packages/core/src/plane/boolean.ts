import {
  arcAngles,
  type Curve,
  covers,
  curveBounds,
  directionAt,
  pointAt,
  reversed,
  withEnds,
} from "./curve.ts";
import { intersectCurves } from "./intersect.ts";
import { type Loop, loopArea, type NameChoice, simplifyLoop } from "./loop.ts";
import { type Bounds, dot, type Point, SAME, subtract } from "./point.ts";
import type { Region } from "./region.ts";
import { type Ends, groupRegions, PointTable, stitchLoops } from "./stitch.ts";

/** A curve of one operand, small enough in turn that it rises or falls all the way. */
interface Piece {
  readonly curve: Curve;
  readonly operand: number;
  readonly box: Bounds;
  /** The numbers of its ends. */
  readonly ends: Ends;
}

/** Splits an arc at its highest and lowest points. */
export function monotone(c: Curve): Curve[] {
  if (c.kind === "line") return [c];
  const angles = arcAngles(c);
  const { start, sweep } = angles;
  const cuts: number[] = [];
  for (const at of [Math.PI / 2, -Math.PI / 2]) {
    if (!covers(angles, at, 0)) continue;
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
  // Most meet only what goes on from them, at their own ends.
  if (points.every((p) => p === c.a || p === c.b)) return [c];
  const sorted = points
    .map((p) => ({ p, f: placeOn(c, p) }))
    .sort((u, v) => u.f - v.f)
    .map((u) => u.p);
  const out: Curve[] = [];
  let a = c.a;
  for (const p of [...sorted, c.b]) {
    if (Math.abs(p.x - a.x) <= SAME * 2 && Math.abs(p.y - a.y) <= SAME * 2) continue;
    out.push(withEnds(c, a, p));
    a = p;
  }
  if (out.length === 0) return [c];
  const last = out[out.length - 1];
  if (last.b !== c.b) out[out.length - 1] = withEnds(last, last.a, c.b);
  return out;
}

/** Whether two lines only go on from one another: they share an end, and no other end lies on either. */
function goOn({ curve: p }: Piece, { curve: q }: Piece): boolean {
  if (p.kind !== "line" || q.kind !== "line") return false;
  if (p.a !== q.a && p.a !== q.b && p.b !== q.a && p.b !== q.b) return false;
  const [ux, uy, vx, vy] = [p.b.x - p.a.x, p.b.y - p.a.y, q.b.x - q.a.x, q.b.y - q.a.y];
  return (
    Math.abs(ux * vy - uy * vx) >
    SAME * 4 * Math.max(Math.abs(ux) + Math.abs(uy), Math.abs(vx) + Math.abs(vy))
  );
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
      if (goOn(pieces[i], pieces[j])) continue;
      for (const p of intersectCurves(pieces[i].curve, pieces[j].curve)) {
        cuts[i].push(p);
        cuts[j].push(p);
      }
    }
    active.push(i);
  }
  return cuts;
}

/** Splits an arc at its rightmost and leftmost points, so that it goes right or left all the way. */
function monotoneAcross(c: Curve): Curve[] {
  if (c.kind === "line") return [c];
  const { start, sweep } = arcAngles(c);
  const full = 2 * Math.PI;
  const cuts = [0, Math.PI].flatMap((at) => {
    const turned = ((((c.ccw ? at - start : start - at) % full) + full) % full) / Math.abs(sweep);
    return turned > 1e-9 && turned < 1 - 1e-9 ? [pointAt(c, turned)] : [];
  });
  return splitAt(c, cuts);
}

/** A piece as pieces that go right or left all the way: itself, where it is straight. */
const across = (p: Piece): Piece | Piece[] =>
  p.curve.kind === "line"
    ? p
    : monotoneAcross(p.curve).map((curve) => ({ ...p, curve, box: curveBounds(curve) }));

const MOST_ROWS = 1024;

/**
 * Answers how often each operand winds around a point, from the pieces that a ray crosses. The ray goes
 * to the right, or upwards where the pieces stand side by side and a ray to the right would meet them all.
 */
class WindingIndex {
  private readonly upwards: boolean;
  private readonly rows: number[][];
  private readonly low: number;
  private readonly step: number;
  private readonly curves: readonly Curve[];
  private readonly operands: Int32Array;
  // Ends and limits of the pieces, packed: this is asked for every fragment. `u` is where the rows lie, `v` along the ray.
  private readonly au: Float64Array;
  private readonly bu: Float64Array;
  private readonly minV: Float64Array;
  private readonly maxV: Float64Array;

  constructor(given: readonly Piece[]) {
    let [minX, maxX, minY, maxY] = [Infinity, -Infinity, Infinity, -Infinity];
    let [widths, heights] = [0, 0];
    for (const { box } of given) {
      [minX, maxX] = [Math.min(minX, box.minX), Math.max(maxX, box.maxX)];
      [minY, maxY] = [Math.min(minY, box.minY), Math.max(maxY, box.maxY)];
      widths += box.maxX - box.minX;
      heights += box.maxY - box.minY;
    }
    const shares = { x: widths / (maxX - minX || 1), y: heights / (maxY - minY || 1) };
    this.upwards = shares.x < shares.y;
    const pieces: Piece[] = this.upwards ? given.flatMap(across) : [...given];
    const far = this.upwards ? ({ box }: Piece) => box.maxY : ({ box }: Piece) => box.maxX;
    // The farthest along the ray first: it may stop at the first piece that ends before it.
    pieces.sort((p, q) => far(q) - far(p));
    const n = pieces.length;
    this.curves = pieces.map((p) => p.curve);
    this.operands = new Int32Array(n);
    this.au = new Float64Array(n);
    this.bu = new Float64Array(n);
    this.minV = new Float64Array(n);
    this.maxV = new Float64Array(n);
    for (let i = 0; i < n; i++) {
      const { curve, operand, box } = pieces[i];
      this.operands[i] = operand;
      this.au[i] = this.rowPlace(curve.a);
      this.bu[i] = this.rowPlace(curve.b);
      this.minV[i] = this.upwards ? box.minY : box.minX;
      this.maxV[i] = far(pieces[i]);
    }
    const [low, high] = this.upwards ? [minX, maxX] : [minY, maxY];
    const share = this.upwards ? shares.x : shares.y;
    // So many rows that pieces stand in four of them on average.
    const count = Math.max(
      1,
      Math.min(MOST_ROWS, pieces.length, Math.floor((3 * pieces.length) / (share || 1))),
    );
    this.low = low;
    this.step = (high - low) / count || 1;
    this.rows = Array.from({ length: count }, () => []);
    for (let i = 0; i < pieces.length; i++) {
      const [a, b] = [this.au[i], this.bu[i]];
      if (a === b) continue;
      const last = this.row(Math.max(a, b));
      for (let r = this.row(Math.min(a, b)); r <= last; r++) this.rows[r].push(i);
    }
  }

  private rowPlace(p: Point): number {
    return this.upwards ? p.x : p.y;
  }

  private row(u: number): number {
    return Math.max(0, Math.min(this.rows.length - 1, Math.floor((u - this.low) / this.step)));
  }

  at(p: Point, operands: number): number[] {
    const windings = new Array<number>(operands).fill(0);
    const { au, bu, upwards } = this;
    const [u, v] = upwards ? [p.x, p.y] : [p.y, p.x];
    for (const i of this.rows[this.row(u)]) {
      if (this.maxV[i] < v) break;
      const forth = au[i] <= u && bu[i] > u;
      if (!forth && !(bu[i] <= u && au[i] > u)) continue;
      // Seen along the other axis the same turn goes the other way round.
      const way = forth === upwards ? -1 : 1;
      if (this.minV[i] > v || this.meets(this.curves[i], u) > v) windings[this.operands[i]] += way;
    }
    return windings;
  }

  /** Where along the ray a piece crosses it. */
  private meets(c: Curve, u: number): number {
    return this.upwards ? ordinate(c, u) : abscissa(c, u);
  }
}

function abscissa(c: Curve, y: number): number {
  if (c.kind === "line") return c.a.x + ((y - c.a.y) / (c.b.y - c.a.y)) * (c.b.x - c.a.x);
  const half = Math.sqrt(Math.max(0, c.r * c.r - (y - c.c.y) ** 2));
  // A piece never passes its circle's top or bottom, so it lies wholly right or left of the centre: right of it
  // where it rises the way the circle does.
  return c.b.y > c.a.y === c.ccw ? c.c.x + half : c.c.x - half;
}

function ordinate(c: Curve, x: number): number {
  if (c.kind === "line") return c.a.y + ((x - c.a.x) / (c.b.x - c.a.x)) * (c.b.y - c.a.y);
  const half = Math.sqrt(Math.max(0, c.r * c.r - (x - c.c.x) ** 2));
  return c.b.x < c.a.x === c.ccw ? c.c.y + half : c.c.y - half;
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
  const pieces: Piece[] = [];
  const take = (c: Curve, operand: number): void => {
    const [i, j] = [table.idOf(c.a), table.idOf(c.b)];
    if (i === j) return;
    const [a, b] = [table.points[i], table.points[j]];
    const curve = a === c.a && b === c.b ? c : withEnds(c, a, b);
    pieces.push({ curve, operand, box: curveBounds(curve), ends: [i, j] });
  };
  operands.forEach((loops, operand) => {
    for (const loop of loops)
      for (const c of loop) {
        if (c.kind === "line") take(c, operand);
        else for (const part of monotone(c)) take(part, operand);
      }
  });
  if (pieces.length === 0) return [];
  const cuts = crossings(pieces);
  const winding = new WindingIndex(pieces);
  const groups: Groups = new Map();
  pieces.forEach(({ curve, operand, ends }, i) => {
    const fragments = splitAt(curve, cuts[i].map(snap));
    for (const fragment of fragments) {
      const at: Ends = fragment === curve ? ends : [table.idOf(fragment.a), table.idOf(fragment.b)];
      addFragment(groups, table, fragment, at, operand, operands.length);
    }
  });
  const edges: Curve[] = [];
  const ends: Ends[] = [];
  for (const { curve, from, to, deltas } of groups.values()) {
    const mid = pointAt(curve, 0.5);
    const d = directionAt(curve, 0.5);
    const step = SAME * 20;
    const right = winding.at({ x: mid.x + d.y * step, y: mid.y - d.x * step }, operands.length);
    const onRight = keep(right);
    for (let k = 0; k < deltas.length; k++) right[k] += deltas[k];
    if (keep(right) === onRight) continue;
    edges.push(onRight ? reversed(curve) : curve);
    ends.push(onRight ? [to, from] : [from, to]);
  }
  const passes = new Map<number, number>();
  for (const [a] of ends) passes.set(a, (passes.get(a) ?? 0) + 1);
  const touching = new Set<Point>();
  for (const [a, n] of passes) if (n > 1) touching.add(table.points[a]);
  return stitchLoops(edges, ends)
    .loops.map((loop) => simplifyLoop(loop, touching, olderOf(operands)))
    .filter((loop) => Math.abs(loopArea(loop)) > SAME);
}

/** Of two names the one that came first: an edge that is led on keeps its name. A nameless line stays nameless. */
function olderOf(operands: readonly (readonly Loop[])[]): NameChoice {
  let ranks: Map<string, number> | undefined;
  const rank = (name: string): number => {
    if (!ranks) {
      ranks = new Map();
      for (const c of operands.flat(2))
        if (c.name !== undefined && !ranks.has(c.name)) ranks.set(c.name, ranks.size);
    }
    return ranks.get(name) ?? 0;
  };
  return (p, q) =>
    p === q ? p : p === undefined || q === undefined ? undefined : rank(p) <= rank(q) ? p : q;
}

/** Fragments by the numbers of their ends, arcs by that of their middle too. */
type Groups = Map<
  string | number,
  { readonly curve: Curve; readonly from: number; readonly to: number; readonly deltas: number[] }
>;

/** Below so many points two of their numbers make one. */
const PAIRABLE = 2 ** 26;

/** Fragments that lie on each other count as one edge; each operand adds how often it runs along it. */
function addFragment(
  groups: Groups,
  table: PointTable,
  fragment: Curve,
  [i, j]: Ends,
  operand: number,
  operands: number,
): void {
  if (i === j) return;
  const [low, high] = i < j ? [i, j] : [j, i];
  const key =
    fragment.kind === "line" && high < PAIRABLE
      ? low * PAIRABLE + high
      : `${low},${high}${fragment.kind === "line" ? "" : `:${table.idOf(pointAt(fragment, 0.5))}`}`;
  let group = groups.get(key);
  if (!group) {
    const deltas = new Array<number>(operands).fill(0);
    group = { curve: i < j ? fragment : reversed(fragment), from: low, to: high, deltas };
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
