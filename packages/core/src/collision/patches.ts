import { monotone } from "../plane/boolean.ts";
import { type Arc, type Curve, pointAt } from "../plane/curve.ts";
import { type Isometry, intoAxes, moveCurve } from "../plane/isometry.ts";
import { hypotenuse, type Point } from "../plane/point.ts";
import { type Region, regionLoops } from "../plane/region.ts";
import type { Bow } from "../sheet/pieces/piece-kind.ts";

/** A border of a piece that goes up all the way, in the piece's own frame: across is x, along is y. */
interface Side {
  /** Which of its piece's borders it is. */
  readonly number: number;
  readonly low: number;
  readonly high: number;
  readonly least: number;
  readonly most: number;
  readonly curve: Curve;
  /** Whether an arc stands to the right of its centre. */
  readonly right: boolean;
}

/** A line that bounds a patch: a border of the piece, or a line along at one x. */
type Limit = Side | number;

/** A piece of metal between two limits from one height to another, in the frame of its piece. */
export interface Patch {
  readonly y0: number;
  readonly y1: number;
  readonly left: Limit;
  readonly right: Limit;
}

/** A rectangle in the frame of a piece. */
export interface Zone {
  readonly x0: number;
  readonly x1: number;
  readonly y0: number;
  readonly y1: number;
}

const HAIR = 1e-9;

const isLevel = (c: Curve): boolean => Math.abs(c.a.y - c.b.y) <= HAIR;

function sideOf(c: Curve, number: number): Side {
  const [low, high] = c.a.y < c.b.y ? [c.a.y, c.b.y] : [c.b.y, c.a.y];
  const ends: [number, number] = [Math.min(c.a.x, c.b.x), Math.max(c.a.x, c.b.x)];
  if (c.kind === "line") return { number, low, high, least: ends[0], most: ends[1], curve: c, right: false };
  const right = pointAt(c, 0.5).x >= c.c.x;
  // Level with its centre the arc is farthest.
  if (low < c.c.y && high > c.c.y) {
    if (right) ends[1] = c.c.x + c.r;
    else ends[0] = c.c.x - c.r;
  }
  return { number, low, high, least: ends[0], most: ends[1], curve: c, right };
}

/** Where a limit stands at a height. */
export function limitAt(limit: Limit, y: number): number {
  if (typeof limit === "number") return limit;
  const c = limit.curve;
  if (c.kind === "line") return c.a.x + ((y - c.a.y) / (c.b.y - c.a.y)) * (c.b.x - c.a.x);
  const half = Math.sqrt(Math.max(0, c.r * c.r - (y - c.c.y) ** 2));
  return limit.right ? c.c.x + half : c.c.x - half;
}

/** How far an arc bows out to the right of its chord between two heights; less than nothing to the left. */
export function bulge(limit: Limit, y0: number, y1: number): number {
  if (typeof limit === "number" || limit.curve.kind === "line") return 0;
  const { r } = limit.curve as Arc;
  const half = hypotenuse(y1 - y0, limitAt(limit, y1) - limitAt(limit, y0)) / 2;
  const sagitta = r - Math.sqrt(Math.max(0, r * r - half * half));
  return limit.right ? sagitta : -sagitta;
}

/** Heights at which a border stands at one x. */
function crossingsOf({ curve, low, high, right }: Side, x: number): number[] {
  let at: number[];
  if (curve.kind === "line") {
    const dx = curve.b.x - curve.a.x;
    at = Math.abs(dx) < HAIR ? [] : [curve.a.y + ((x - curve.a.x) / dx) * (curve.b.y - curve.a.y)];
  } else {
    const dx = x - curve.c.x;
    const half = Math.sqrt(curve.r * curve.r - dx * dx);
    at = Number.isNaN(half) || dx > 0 !== right ? [] : [curve.c.y - half, curve.c.y + half];
  }
  return at.filter((y) => y > low && y < high);
}

/** So many rows that borders stand in a few of them each. */
const MOST_ROWS = 512;

/** The borders of a piece, found by height. */
export class Outline {
  private readonly rows: Side[][];
  /** Borders that run level, by the row that they stand in. */
  private readonly levels: Curve[][];
  readonly low: number;
  private readonly step: number;
  readonly extent: Zone;
  readonly toFrame: Isometry;

  constructor(regions: readonly Region[], { origin, across, along }: Bow) {
    const m = intoAxes(origin, across, along);
    this.toFrame = m;
    const curves = regions
      .flatMap(regionLoops)
      .flatMap((loop) => loop.flatMap((c) => monotone(moveCurve(m, c))));
    const sides = curves.filter((c) => !isLevel(c)).map(sideOf);
    this.extent = sides.reduce<Zone>(
      (z, s) => ({
        x0: Math.min(z.x0, s.least),
        x1: Math.max(z.x1, s.most),
        y0: Math.min(z.y0, s.low),
        y1: Math.max(z.y1, s.high),
      }),
      { x0: Infinity, x1: -Infinity, y0: Infinity, y1: -Infinity },
    );
    const { y0, y1 } = this.extent;
    const count = Math.max(1, Math.min(MOST_ROWS, Math.ceil(sides.length / 8)));
    this.low = y0;
    this.step = (y1 - y0) / count || 1;
    this.rows = Array.from({ length: count }, () => []);
    for (const s of sides) for (let r = this.row(s.low); r <= this.row(s.high); r++) this.rows[r].push(s);
    this.levels = this.rows.map(() => []);
    for (const c of curves.filter(isLevel)) this.levels[this.row(c.a.y)].push(c);
  }

  get isEmpty(): boolean {
    return this.extent.x0 > this.extent.x1;
  }

  private row(y: number): number {
    return Math.max(0, Math.min(this.rows.length - 1, Math.floor((y - this.low) / this.step)));
  }

  private between(y0: number, y1: number): Side[] {
    const [first, last] = [this.row(y0), this.row(y1)];
    const found: Side[] = [];
    for (let r = first; r <= last; r++)
      for (const s of this.rows[r]) {
        if (s.low >= y1 || s.high <= y0) continue;
        // A border that stands in several rows is taken in the first that is looked at.
        if (r === first || this.row(s.low) === r) found.push(s);
      }
    return found;
  }

  /**
   * The metal within a zone, as patches: each between the same two borders from where one of them begins there to
   * where one ends, and none taller than `tallest`.
   */
  patches(zone: Zone, tallest = Infinity): Patch[] {
    const { extent } = this;
    const [x0, x1] = [Math.max(zone.x0, extent.x0), Math.min(zone.x1, extent.x1)];
    const [y0, y1] = [Math.max(zone.y0, extent.y0), Math.min(zone.y1, extent.y1)];
    if (!(x0 < x1 && y0 < y1)) return [];
    const sides = this.between(y0, y1).sort((p, q) => p.low - q.low);
    const stops = this.stopsOf(sides, { x0, x1, y0, y1 });
    const made: Patch[] = [];
    // Patches that go on, by the borders that they stand between.
    let open = new Map<string, Patch>();
    let active: Side[] = [];
    let next = 0;
    for (let i = 0; i + 1 < stops.length; i++) {
      const [low, high] = [stops[i], stops[i + 1]];
      if (high - low <= HAIR) continue;
      const mid = (low + high) / 2;
      // Half open: where one border before the zone ends another begins, and one of them stands there.
      for (; next < sides.length && sides[next].low <= mid; next++) active.push(sides[next]);
      active = active.filter((s) => s.high > mid);
      const going = new Map<string, Patch>();
      for (const [left, right] of runsAt(active, mid, x0, x1)) {
        const key = `${nameOf(left)} ${nameOf(right)}`;
        going.set(key, { y0: open.get(key)?.y0 ?? low, y1: high, left, right });
        open.delete(key);
      }
      made.push(...open.values());
      open = going;
    }
    made.push(...open.values());
    return made.flatMap((p) => inSteps(p, tallest));
  }

  /** Heights within a zone at which a border that stands in it begins, ends, or leaves it sideways. */
  private stopsOf(sides: readonly Side[], { x0, x1, y0, y1 }: Zone): number[] {
    const stops = [y0, y1];
    const stop = (y: number) => y > y0 && y < y1 && stops.push(y);
    for (const s of sides) {
      if (s.most <= x0 || s.least >= x1) continue;
      stop(s.low);
      stop(s.high);
      if (s.least < x0) crossingsOf(s, x0).forEach(stop);
      if (s.most > x1) crossingsOf(s, x1).forEach(stop);
    }
    // What lies before the zone matters in it only where a level border leads in from there.
    for (let r = this.row(y0); r <= this.row(y1); r++)
      for (const { a, b } of this.levels[r])
        if (Math.min(a.x, b.x) < x1 && Math.max(a.x, b.x) > x0) stop(a.y);
    return stops.sort((a, b) => a - b);
  }
}

const nameOf = (limit: Limit): string => (typeof limit === "number" ? `at ${limit}` : String(limit.number));

/** Where there is metal at a height between two places across: from border to border. */
function* runsAt(active: readonly Side[], y: number, x0: number, x1: number): Generator<[Limit, Limit]> {
  let isMetal = false;
  const crossed: { side: Side; x: number }[] = [];
  for (const side of active) {
    if (side.most <= x0) isMetal = !isMetal;
    else if (side.least < x1) crossed.push({ side, x: limitAt(side, y) });
  }
  crossed.sort((a, b) => a.x - b.x);
  let left: Limit = x0;
  for (const { side, x } of crossed) {
    if (isMetal && x > x0) yield [left, x >= x1 ? x1 : side];
    isMetal = !isMetal;
    left = x <= x0 ? x0 : side;
    if (x >= x1) return;
  }
  if (isMetal) yield [left, x1];
}

/** A patch in pieces that are no taller than so much, all alike. */
function inSteps(patch: Patch, tallest: number): Patch[] {
  const { y0, y1 } = patch;
  const n = Math.max(1, Math.ceil((y1 - y0) / tallest - 1e-9));
  if (n === 1) return [patch];
  const at = (i: number) => (i === n ? y1 : y0 + ((y1 - y0) * i) / n);
  return Array.from({ length: n }, (_, i) => ({ ...patch, y0: at(i), y1: at(i + 1) }));
}

/** The two halves of a patch, one above the other. */
export function halves({ y0, y1, left, right }: Patch): [Patch, Patch] {
  const mid = (y0 + y1) / 2;
  return [
    { y0, y1: mid, left, right },
    { y0: mid, y1, left, right },
  ];
}

/** The developed point at a place in the frame of a piece. */
export const developedAt = ({ origin, across, along }: Bow, x: number, y: number): Point => ({
  x: origin.x + across.x * x + along.x * y,
  y: origin.y + across.y * x + along.y * y,
});
