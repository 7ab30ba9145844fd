import { OrderedMap } from "immutable";

/**
 * Records by name, in the order in which they came; none is ever taken out. A copy shares all that stays the same with
 * what it was made from, so that keeping what a sheet was after each of thousands of steps costs what they changed.
 */
export class Records<T extends object> {
  private all: OrderedMap<string, T>;
  /** Names that were given a record since this was copied. */
  private readonly given = new Set<string>();

  constructor(from?: Records<T>) {
    this.all = from?.all ?? OrderedMap();
  }

  get size(): number {
    return this.all.size;
  }

  get(name: string): T | undefined {
    return this.all.get(name);
  }

  has(name: string): boolean {
    return this.all.has(name);
  }

  set(name: string, record: T): void {
    this.all = this.all.set(name, record);
    this.given.add(name);
  }

  /** All of them as they are now: what is set meanwhile is not among them. */
  values(): IterableIterator<T> {
    return this.all.values();
  }

  keys(): IterableIterator<string> {
    return this.all.keys();
  }

  [Symbol.iterator](): IterableIterator<[string, T]> {
    return this.all.entries();
  }

  /** Takes back whatever was set: they are those of another again, of which this is a copy or which is a copy of it. */
  become(other: Records<T>): void {
    this.all = other.all;
  }

  /** The names whose records are not those that `before`, of which this is a copy, has for them. */
  changedFrom(before: Records<T>): string[] {
    return this.all === before.all
      ? []
      : [...this.given].filter((name) => this.get(name) !== before.get(name));
  }
}
