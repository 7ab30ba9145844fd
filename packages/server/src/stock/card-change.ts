import { type CardSnapshot, examinePart, type PartBuild, type PartDocument, stops } from "@hillcrest/core";

/** The numbers of a part that a change of its card may move. mm, kg. */
export interface PartNumbers {
  readonly blank: readonly [number, number] | null;
  readonly mass: number | null;
  readonly stops: number;
  readonly warnings: number;
}

/** What taking a card over does to a part. */
export interface CardChange {
  readonly before: PartNumbers;
  readonly after: PartNumbers;
  /** The greatest change of any bend's BA, mm. */
  readonly allowance: number;
}

export const withCard = (document: PartDocument, card: CardSnapshot): PartDocument => ({
  ...document,
  stock: { ...document.stock, card },
});

function numbersOf({ blank, folded, findings }: PartBuild): PartNumbers {
  return {
    blank: blank ? [blank.width, blank.height] : null,
    mass: folded?.mass ?? null,
    stops: findings.filter(stops).length,
    warnings: findings.filter((f) => f.level === "warn" && !f.accepted).length,
  };
}

/** Builds a part as it is and as it would be by another state of its card. */
export function changeByCard(document: PartDocument, card: CardSnapshot): CardChange {
  const before = examinePart(document);
  const after = examinePart(withCard(document, card));
  const allowance = Math.max(
    0,
    ...after.bends.map((b, i) => Math.abs(b.allowance - (before.bends[i]?.allowance ?? b.allowance))),
  );
  return { before: numbersOf(before), after: numbersOf(after), allowance };
}
