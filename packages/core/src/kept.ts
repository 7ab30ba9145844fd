/**
 * What core keeps from one build to the next, all by one rule. Records are replaced and never changed, so what was
 * found about one stands as long as the record itself, and goes with it. What an answer hangs on besides its record,
 * such as how fine a curve is drawn, is given with the question: asked with something else, it is found anew and that
 * is kept. Nothing else makes an answer void, and nothing outside this file keeps one.
 */
export class Kept<R extends object, T, C = void> {
  private readonly answers = new WeakMap<R, { readonly by: C; readonly answer: T }>();

  constructor(
    private readonly find: (record: R, by: C) => T,
    private readonly same: (before: C, now: C) => boolean = Object.is,
  ) {}

  /** The answer about a record, found once. */
  of(record: R, by: C): T {
    const known = this.answers.get(record);
    if (known && this.same(known.by, by)) return known.answer;
    const answer = this.find(record, by);
    this.answers.set(record, { by, answer });
    return answer;
  }

  /** Makes the answer about a record out of a kept one about an earlier record, where that can be done. */
  from(record: R, earlier: R, make: (answer: T) => T | undefined): void {
    const known = this.answers.get(earlier);
    const answer = known && make(known.answer);
    if (answer !== undefined) this.answers.set(record, { by: known!.by, answer });
  }

  /** Lets a record have the answer of another that says the same in all that the answer hangs on. */
  like(record: R, other: R, saysTheSame: () => boolean): void {
    if (record === other || this.answers.has(record)) return;
    const known = this.answers.get(other);
    if (known && saysTheSame()) this.answers.set(record, known);
  }
}
