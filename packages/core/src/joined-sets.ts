/**
 * Things, by number from 0, that are joined one to one another and asked which belong together (a disjoint-set forest
 * with path halving): near enough constant time for each join and question.
 */
export class JoinedSets {
  private readonly home: Int32Array;

  constructor(count: number) {
    this.home = Int32Array.from({ length: count }, (_, i) => i);
  }

  /** The one that stands for all that belong together with this. */
  find(i: number): number {
    const { home } = this;
    let at = i;
    while (home[at] !== at) {
      home[at] = home[home[at]];
      at = home[at];
    }
    return at;
  }

  /** Makes what belongs to either belong together; the second's stands for them. */
  join(i: number, j: number): void {
    this.home[this.find(i)] = this.find(j);
  }
}
