/**
 * Numbers that come one after the other, side by side in memory: lists of hundreds of thousands grow without being
 * copied again and again by the collector, and are given away without being read once more.
 */
export class GrowingNumbers<A extends Float64Array | Uint32Array> {
  length = 0;
  private values: A;

  constructor(private readonly make: (length: number) => A) {
    this.values = make(64);
  }

  /** Puts a number at the end. Returns its place. */
  push(value: number): number {
    if (this.length === this.values.length) {
      const wider = this.make(this.values.length * 2);
      wider.set(this.values);
      this.values = wider;
    }
    this.values[this.length] = value;
    return this.length++;
  }

  at(i: number): number {
    return this.values[i];
  }

  /** All of them, as long as they are many. */
  all(): A {
    return this.values.slice(0, this.length) as A;
  }
}

export const growingFloats = () => new GrowingNumbers((length) => new Float64Array(length));
export const growingWholes = () => new GrowingNumbers((length) => new Uint32Array(length));
