import { firstPlace } from "../first-place.ts";
import { cross, dot, type Point, SAME } from "./point.ts";

/** A piece of a straight line: from `origin` in the unit direction `axis`, `width` millimetres long. */
export interface Stretch {
  readonly origin: Point;
  readonly axis: Point;
  readonly width: number;
}

interface Placed<T> {
  readonly item: T;
  /** Its place among all that were given. */
  readonly order: number;
  readonly from: number;
  readonly to: number;
}

/** What lies on one line, by where it begins. */
interface Row<T> {
  readonly placed: Placed<T>[];
  longest: number;
}

interface Direction<T> {
  readonly axis: Point;
  /** By the line's distance from the origin of the plane, in steps of `STEP`. */
  readonly rows: Map<number, Row<T>>;
}

/** What is off its line by less still counts as on it, wherever in its step either of them lies. */
const NEAR = SAME * 40;
const STEP = NEAR * 2;

/**
 * Stretches of lines, found by where they lie: flanges side by side share a line, and of a thousand
 * on it only those at a place are looked at. What is found is a little more than what is asked for;
 * whoever asks looks at it by his own measure.
 */
export class Stretches<T extends Stretch> {
  private readonly directions: Direction<T>[] = [];

  constructor(readonly items: readonly T[]) {
    items.forEach((item, order) => {
      const direction = this.directionOf(item.axis);
      const s = dot(item.origin, direction.axis);
      const end = s + item.width * Math.sign(dot(item.axis, direction.axis));
      const key = Math.round(cross(direction.axis, item.origin) / STEP);
      const row = direction.rows.get(key) ?? { placed: [], longest: 0 };
      direction.rows.set(key, row);
      row.placed.push({ item, order, from: Math.min(s, end), to: Math.max(s, end) });
      row.longest = Math.max(row.longest, item.width);
    });
    for (const { rows } of this.directions)
      for (const row of rows.values()) row.placed.sort((a, b) => a.from - b.from);
  }

  private directionOf(axis: Point): Direction<T> {
    const known = this.directions.find((d) => Math.abs(cross(d.axis, axis)) < 1e-12);
    if (known) return known;
    const made: Direction<T> = { axis, rows: new Map() };
    this.directions.push(made);
    return made;
  }

  /** Stretches that reach a point, or that a straight border from one point to another runs along, in the order given. */
  reaching(p: Point, q: Point = p): readonly T[] {
    // Asked for every border and corner, and mostly answered by nothing: written so that nothing is made on the way.
    let found: Placed<T>[] | undefined;
    for (let d = 0; d < this.directions.length; d++) {
      const { axis, rows } = this.directions[d];
      const op = axis.x * p.y - axis.y * p.x;
      const sp = p.x * axis.x + p.y * axis.y;
      const oq = q === p ? op : axis.x * q.y - axis.y * q.x;
      const sq = q === p ? sp : q.x * axis.x + q.y * axis.y;
      if (Math.abs(op - oq) > NEAR + 1e-9 * Math.abs(sp - sq)) continue;
      const from = Math.min(sp, sq) - NEAR;
      const to = Math.max(sp, sq) + NEAR;
      // One row or two could hold what is so far from the origin; counted, as beyond 2^53 a number plus one is the same.
      const first = Math.round((op - NEAR) / STEP);
      const more = Math.min(1, Math.round((op + NEAR) / STEP) - first);
      for (let k = 0; k <= more; k++) {
        const row = rows.get(first + k);
        if (!row) continue;
        const { placed, longest } = row;
        const begin = firstPlace(placed.length, (i) => placed[i].from >= from - longest);
        for (let i = begin; i < placed.length && placed[i].from <= to; i++)
          if (placed[i].to >= from) {
            if (found) found.push(placed[i]);
            else found = [placed[i]];
          }
      }
    }
    if (!found) return NOTHING;
    return (found.length === 1 ? found : found.sort((a, b) => a.order - b.order)).map((f) => f.item);
  }
}

const NOTHING: readonly never[] = [];
