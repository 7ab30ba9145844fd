import { firstPlace } from "../first-place.ts";
import type { Curve } from "./curve.ts";
import { type Bounds, boundsMeet, EMPTY_BOUNDS, joinBounds, type Point } from "./point.ts";
import { spansInside } from "./span.ts";

/** So many rows at most; of fewer things so many that a few stand in each. */
const MOST_ROWS = 4096;

/** Shorter rows are gone through; a few comparisons cost less than to keep them in order. */
const LONG_ROW = 32;
/** What is so many times as long as the usual thing of its row is looked at in any case. */
const UNUSUAL = 4;

/** The things of a row by where they begin along it. */
interface Ordered {
  /** Their numbers in the row, and where each begins, of those that are not unusually long; none is longer than `longest`. */
  readonly order: readonly number[];
  readonly lows: Float64Array;
  readonly longest: number;
  readonly unusual: readonly number[];
}

/** Things with boxes in the plane, found by where they lie: in rows across their longer way, and along those. */
export class NearCurves<T extends { readonly box: Bounds }> {
  private readonly rows: T[][];
  private readonly ordered: (Ordered | undefined)[] = [];
  private readonly upright: boolean;
  private readonly low: number;
  private readonly step: number;

  constructor(things: readonly T[]) {
    const all = things.reduce((b, t) => joinBounds(b, t.box), EMPTY_BOUNDS);
    this.upright = all.maxY - all.minY > all.maxX - all.minX;
    const [low, high] = this.span(all);
    // Rows narrower than most things would have each of them stand in many.
    const usual =
      things.reduce((sum, t) => sum + this.span(t.box)[1] - this.span(t.box)[0], 0) / things.length;
    const fit = usual > 0 ? Math.ceil((high - low) / usual) : MOST_ROWS;
    const count = Math.max(1, Math.min(MOST_ROWS, things.length >> 2, fit));
    this.low = low;
    this.step = (high - low) / count || 1;
    this.rows = Array.from({ length: count }, () => []);
    for (const t of things) {
      const [from, to] = this.span(t.box);
      for (let r = this.row(from); r <= this.row(to); r++) this.rows[r].push(t);
    }
  }

  private span(b: Bounds): readonly [number, number] {
    return this.upright ? [b.minY, b.maxY] : [b.minX, b.maxX];
  }

  /** The other way: along the rows. */
  private along(b: Bounds): readonly [number, number] {
    return this.upright ? [b.minX, b.maxX] : [b.minY, b.maxY];
  }

  private inOrder(r: number): Ordered {
    const spans = this.rows[r].map((t) => this.along(t.box));
    const lengths = spans.map(([from, to]) => to - from).sort((p, q) => p - q);
    const longest = UNUSUAL * lengths[lengths.length >> 1];
    const isUnusual = (i: number) => spans[i][1] - spans[i][0] > longest;
    const order = spans
      .map((_, i) => i)
      .filter((i) => !isUnusual(i))
      .sort((p, q) => spans[p][0] - spans[q][0]);
    return {
      order,
      lows: Float64Array.from(order, (i) => spans[i][0]),
      longest,
      unusual: spans.map((_, i) => i).filter(isUnusual),
    };
  }

  /** Those of a row that may meet a box, in the order in which they stand in it; all of them where that is as quick. */
  private candidates(r: number, box: Bounds): readonly T[] {
    const row = this.rows[r];
    if (row.length < LONG_ROW) return row;
    this.ordered[r] ??= this.inOrder(r);
    const { order, lows, longest, unusual } = this.ordered[r];
    const [from, to] = this.along(box);
    const first = firstPlace(lows.length, (i) => lows[i] >= from - longest);
    const last = firstPlace(lows.length, (i) => lows[i] > to);
    if ((last - first + unusual.length) * 4 > row.length) return row;
    return [...order.slice(first, last), ...unusual].sort((p, q) => p - q).map((i) => row[i]);
  }

  private row(at: number): number {
    return Math.max(0, Math.min(this.rows.length - 1, Math.floor((at - this.low) / this.step)));
  }

  /** Each thing whose box meets another, once. */
  near(box: Bounds): T[] {
    const found: T[] = [];
    this.some(box, (thing) => {
      found.push(thing);
      return false;
    });
    return found;
  }

  /** Whether something is so of a thing whose box meets another; none is looked at after the first of which it is. */
  some(box: Bounds, isSo: (thing: T) => boolean): boolean {
    const [from, to] = this.span(box);
    const [first, last] = [this.row(from), this.row(to)];
    for (let r = first; r <= last; r++)
      // What stands in several rows is taken in the first that is looked at.
      for (const t of this.candidates(r, box))
        if (boundsMeet(t.box, box) && (r === first || this.row(this.span(t.box)[0]) === r) && isSo(t))
          return true;
    return false;
  }

  /** Whether a point is inside the closed borders that all the things make together; only one row of them is looked at. */
  covers(p: Point, curveOf: (thing: T) => Curve): boolean {
    const [across, way]: [Bounds, Point] = this.upright
      ? [
          { minX: -Infinity, maxX: Infinity, minY: p.y, maxY: p.y },
          { x: 1, y: 0 },
        ]
      : [
          { minX: p.x, maxX: p.x, minY: -Infinity, maxY: Infinity },
          { x: 0, y: 1 },
        ];
    return spansInside([this.near(across).map(curveOf)], p, way).some(([a, b]) => a <= 0 && b >= 0);
  }
}
