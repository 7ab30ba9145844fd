/**
 * What core keeps from one build to the next, all by one rule. Records are replaced and never changed, so what was
 * found about one stands as long as the record itself, and goes with it. What an answer hangs on besides its record,
 * such as how fine a curve is drawn, is given with the question: asked with something else, it is found anew and that
 * is kept. Nothing else makes an answer void, and nothing outside this file keeps one.
 */
export class Kept<R extends object, T, C = void> {
  private readonly answers = new WeakMap<R, { readonly by: C; readonly answer: T }>();

  /**
   * @param find The answer about a record.
   * @param same Whether an answer that hangs on one thing stands for another.
   * @param revise The answer about a record out of that about the one before it, where that is less work than to find
   * it; nothing where it cannot be done.
   */
  constructor(
    private readonly find: (record: R, by: C) => T,
    private readonly same: (before: C, now: C) => boolean = Object.is,
    private readonly revise?: (record: R, by: C, before: R, answer: T) => T | undefined,
  ) {}

  /** The answer about a record, found once. */
  of(record: R, by: C): T {
    const known = this.answers.get(record);
    if (known && this.same(known.by, by)) return known.answer;
    const answer = this.revised(record, by) ?? this.find(record, by);
    this.answers.set(record, { by, answer });
    return answer;
  }

  /** The answer about a record if it was asked for before. */
  known(record: R): T | undefined {
    return this.answers.get(record)?.answer;
  }

  private revised(record: R, by: C): T | undefined {
    const before = this.revise && (earlier.get(record) as R | undefined);
    const known = before && this.answers.get(before);
    return known && this.same(known.by, by) ? this.revise!(record, by, before, known.answer) : undefined;
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

/**
 * What is kept of texts, which unlike records go with nothing: so many at most. All are let go of at once: what is in use
 * is found again by the next edit, and no list of what was used when is kept for it.
 */
export class KeptTexts<T> {
  private readonly answers = new Map<string, T>();

  constructor(
    private readonly find: (text: string) => T,
    private readonly most: number,
  ) {}

  of(text: string): T {
    const known = this.answers.get(text);
    if (known !== undefined) return known;
    if (this.answers.size >= this.most) this.answers.clear();
    const answer = this.find(text);
    this.answers.set(text, answer);
    return answer;
  }
}

/** The record in whose place another came. */
const earlier = new WeakMap<object, object>();

/** Says that a record has come in the place of another, from which it may differ little: answers may be made out of its. */
export function comesAfter(record: object, before: object | undefined): void {
  if (!before || before === record) return;
  earlier.set(record, before);
  // One step back is enough, and what came before that may go.
  earlier.delete(before);
}
