import type { Backdrop } from "../outline/drawing/place.ts";
import { standOnPart } from "../outline/on-part.ts";
import { outlineRegions } from "../outline/regions.ts";
import { solveOutline } from "../outline/solve.ts";
import type { DrawnOutline } from "../steps/step-kind.ts";
import type { Names } from "../units/expression.ts";
import type { PartDocument, PartOutline } from "./document.ts";

/**
 * A part's outlines as they are solved over its named values, kept from one build to the next by what they say: a
 * document that comes to a worker is a copy, with no record of the one before.
 */
export class SolvedOutlines {
  private kept = new Map<string, { readonly text: string; readonly drawn: DrawnOutline }>();

  /** In the order of the document, by their keys; `said` is all that the names hang on, as text. */
  of({ outlines = [] }: PartDocument, names: Names, said: string): ReadonlyMap<string, DrawnOutline> {
    const next = new Map<string, { readonly text: string; readonly drawn: DrawnOutline }>();
    for (const entry of outlines) {
      const text = JSON.stringify([said, entry]);
      const before = this.kept.get(entry.key);
      next.set(entry.key, before?.text === text ? before : { text, drawn: solved(entry, names) });
    }
    this.kept = next;
    return new Map([...next].map(([key, { drawn }]) => [key, drawn]));
  }
}

/** An outline where a step has placed it: what is drawn on the part stands where that is, and the rest follows. */
export function placeOutline(drawn: DrawnOutline, behind: readonly Backdrop[], names: Names): DrawnOutline {
  const { outline, lost } = standOnPart(drawn.outline, behind);
  if (outline === drawn.outline) return { ...drawn, behind };
  const there = solveOutline(outline, names);
  return {
    ...drawn,
    outline: drawn.outline,
    solved: there,
    areas: outlineRegions(outline, there),
    behind,
    lost,
  };
}

function solved(entry: PartOutline, names: Names): DrawnOutline {
  const outline = solveOutline(entry.outline, names);
  return { ...entry, solved: outline, areas: outlineRegions(entry.outline, outline) };
}
