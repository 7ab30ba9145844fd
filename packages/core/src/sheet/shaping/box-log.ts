import { cellKey } from "../../plane/cell-key.ts";
import type { Bounds } from "../../plane/point.ts";

/** So few boxes are gone through one by one as quickly as any other way. */
const FEW = 64;
/** Boxes that are smaller than this share cells: a thousandth of a millimetre, as `Math.log2` of it. */
const LOWEST = -10;

/** Boxes of one size, none twice as large as another. */
interface Level {
  readonly all: number[];
  /** By the cell of that size that each begins in. */
  readonly cells: Map<number, number[]>;
}

/**
 * Boxes that are written down one after the other, each with its number, and found by where they lie. They come as
 * differently large as a plate and the relief of a bend: each stands among those of its own size.
 */
export class BoxLog {
  count = 0;
  /** minX, minY, maxX, maxY of each in turn. */
  private numbers: Float64Array;
  /** By how large they are; not before there are some. */
  private levels: Map<number, Level> | undefined;

  constructor(expected: number) {
    this.numbers = new Float64Array(Math.max(4, expected) * 4);
  }

  write({ minX, minY, maxX, maxY }: Bounds): void {
    const at = this.count * 4;
    if (at + 4 > this.numbers.length) {
      const wider = new Float64Array(this.numbers.length * 2);
      wider.set(this.numbers);
      this.numbers = wider;
    }
    this.numbers[at] = minX;
    this.numbers[at + 1] = minY;
    this.numbers[at + 2] = maxX;
    this.numbers[at + 3] = maxY;
    if (this.levels) this.file(this.levels, this.count);
    this.count++;
  }

  /** The numbers of those among the first so many that meet a box, in order. */
  near(box: Bounds, among: number): number[] {
    const found: number[] = [];
    const take = (i: number) => {
      if (i < among && this.meets(i, box)) found.push(i);
    };
    if (among <= FEW) {
      for (let i = 0; i < among; i++) take(i);
      return found;
    }
    if (!this.levels) {
      this.levels = new Map();
      for (let i = 0; i < this.count; i++) this.file(this.levels, i);
    }
    for (const [level, { all, cells }] of this.levels) {
      const size = 2 ** level;
      // What begins up to one cell before the box may reach into it.
      const [x0, x1] = [Math.floor(box.minX / size) - 1, Math.floor(box.maxX / size)];
      const [y0, y1] = [Math.floor(box.minY / size) - 1, Math.floor(box.maxY / size)];
      const over = (x1 - x0 + 1) * (y1 - y0 + 1);
      // Over more cells than there are boxes of this size, they are gone through; a box of no number is over none.
      if (!(over <= all.length)) for (const i of all) take(i);
      else
        for (let a = 0; a <= x1 - x0; a++)
          for (let b = 0; b <= y1 - y0; b++)
            for (const i of cells.get(cellKey(x0 + a, y0 + b)) ?? NONE) take(i);
    }
    found.sort((p, q) => p - q);
    // Two cells may share a key.
    return found.filter((i, k) => k === 0 || i !== found[k - 1]);
  }

  private meets(i: number, box: Bounds): boolean {
    const { numbers } = this;
    const at = i * 4;
    return (
      numbers[at] <= box.maxX &&
      numbers[at + 2] >= box.minX &&
      numbers[at + 1] <= box.maxY &&
      numbers[at + 3] >= box.minY
    );
  }

  private file(levels: Map<number, Level>, i: number): void {
    const at = i * 4;
    const [x, y] = [this.numbers[at], this.numbers[at + 1]];
    const large = Math.max(this.numbers[at + 2] - x, this.numbers[at + 3] - y);
    const level = large > 0 ? Math.max(LOWEST, Math.ceil(Math.log2(large))) : LOWEST;
    const { all, cells }: Level = levels.get(level) ?? { all: [], cells: new Map() };
    levels.set(level, { all, cells });
    all.push(i);
    const size = 2 ** level;
    const key = cellKey(Math.floor(x / size), Math.floor(y / size));
    const list = cells.get(key);
    if (list) list.push(i);
    else cells.set(key, [i]);
  }
}

const NONE: readonly number[] = [];
