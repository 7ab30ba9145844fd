import type { Curve } from "./curve.ts";
import { type Bounds, boundsMeet, EMPTY_BOUNDS, joinBounds, type Point } from "./point.ts";
import { spansInside } from "./span.ts";

/** So many rows at most; of fewer things so many that a few stand in each. */
const MOST_ROWS = 4096;

/** Things with boxes in the plane, found by where they lie: in rows across their longer way. */
export class NearCurves<T extends { readonly box: Bounds }> {
  private readonly rows: T[][];
  private readonly upright: boolean;
  private readonly low: number;
  private readonly step: number;

  constructor(things: readonly T[]) {
    const all = things.reduce((b, t) => joinBounds(b, t.box), EMPTY_BOUNDS);
    this.upright = all.maxY - all.minY > all.maxX - all.minX;
    const [low, high] = this.span(all);
    const count = Math.max(1, Math.min(MOST_ROWS, things.length >> 2));
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
      for (const t of this.rows[r])
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
