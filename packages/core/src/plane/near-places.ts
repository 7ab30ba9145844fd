import { distance, type Point } from "./point.ts";

/** Something at a place. */
export interface Placed<T> {
  readonly at: Point;
  readonly thing: T;
}

/** Things at places in the plane, found by where they are: in square cells of a width. */
export class NearPlaces<T> {
  private readonly cells = new Map<string, Placed<T>[]>();

  constructor(private readonly cell: number) {}

  add(at: Point, thing: T): void {
    const key = `${this.index(at.x)} ${this.index(at.y)}`;
    const list = this.cells.get(key);
    if (list) list.push({ at, thing });
    else this.cells.set(key, [{ at, thing }]);
  }

  /** What is no farther from a place than `within`, which is a cell's width at most, in no order. */
  near(p: Point, within: number): Placed<T>[] {
    const found: Placed<T>[] = [];
    for (const i of this.around(p.x))
      for (const j of this.around(p.y))
        for (const one of this.cells.get(`${i} ${j}`) ?? [])
          if (distance(one.at, p) <= within) found.push(one);
    return found;
  }

  private index(v: number): number {
    return Math.floor(v / this.cell);
  }

  /** A cell and its two neighbours; beyond 2^53 they have one number. */
  private around(v: number): ReadonlySet<number> {
    const i = this.index(v);
    return new Set([i - 1, i, i + 1]);
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
