import { distance, type Point } from "./point.ts";

/** Something at a place. */
export interface Placed<T> {
  readonly at: Point;
  readonly thing: T;
}

/** Things at places in the plane, found by where they are: in square cells of a width. */
export class NearPlaces<T> {
  /** By column, then by row. */
  private readonly cells = new Map<number, Map<number, Placed<T>[]>>();

  constructor(private readonly cell: number) {}

  add(at: Point, thing: T): void {
    const [i, j] = [this.index(at.x), this.index(at.y)];
    const column = this.cells.get(i) ?? new Map<number, Placed<T>[]>();
    this.cells.set(i, column);
    const list = column.get(j);
    if (list) list.push({ at, thing });
    else column.set(j, [{ at, thing }]);
  }

  /** What is no farther from a place than `within`, which is a cell's width at most, in no order. */
  near(p: Point, within: number): Placed<T>[] {
    const found: Placed<T>[] = [];
    for (const i of this.reached(p.x, within)) {
      const column = this.cells.get(i);
      if (!column) continue;
      for (const j of this.reached(p.y, within))
        for (const one of column.get(j) ?? []) if (distance(one.at, p) <= within) found.push(one);
    }
    return found;
  }

  private index(v: number): number {
    return Math.floor(v / this.cell);
  }

  /** The cells within a distance: one mostly, three at most. Beyond 2^53 a cell and its neighbours have one number. */
  private reached(v: number, within: number): number[] {
    const here = this.index(v);
    const cells = [here];
    // A hair farther than that: a quotient is rounded.
    if (Math.floor((v - within) / this.cell - 1e-6) < here && here - 1 !== here) cells.push(here - 1);
    if (Math.floor((v + within) / this.cell + 1e-6) > here && here + 1 !== here) cells.push(here + 1);
    return cells;
  }
}

/** Places by number: those within a distance of one another are one. */
export class NumberedPlaces {
  readonly at: Point[] = [];
  private readonly known: NearPlaces<number>;

  constructor(private readonly within: number) {
    this.known = new NearPlaces(within);
  }

  of(p: Point): number {
    const [found] = this.known.near(p, this.within);
    if (found) return found.thing;
    const id = this.at.push(p) - 1;
    this.known.add(p, id);
    return id;
  }
}
