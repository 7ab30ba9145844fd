const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** Up to an age (ms) one revision is kept in each span of so many ms; 0 keeps all. */
const STAGES: readonly { readonly age: number; readonly span: number }[] = [
  { age: 12 * HOUR, span: 0 },
  { age: 7 * DAY, span: HOUR },
  { age: 90 * DAY, span: DAY },
  { age: Number.POSITIVE_INFINITY, span: 7 * DAY },
];

/** What decides whether a revision stays. */
export interface Dated {
  readonly number: number;
  readonly madeAt: string;
  readonly name: string | null;
}

/**
 * The numbers of the revisions that go: of the last hours none, later all but the last of an hour, of a
 * day, of a week. The first, the newest and those with a name stay for ever.
 *
 * @param revisions in the order of their numbers
 * @param now ms since 1970
 */
export function thinnedOut(revisions: readonly Dated[], now: number): number[] {
  const spanOf = ({ madeAt }: Dated): string | undefined => {
    const at = Date.parse(madeAt);
    const { span } = STAGES.find((s) => now - at <= s.age)!;
    return span === 0 ? undefined : `${span}:${Math.floor(at / span)}`;
  };
  return revisions.flatMap((r, i) => {
    const next = revisions[i + 1];
    if (i === 0 || !next || r.name !== null || Number.isNaN(Date.parse(r.madeAt))) return [];
    const span = spanOf(r);
    // The last of its span stays: one after it in the same span takes its place.
    return span !== undefined && span === spanOf(next) ? [r.number] : [];
  });
}
