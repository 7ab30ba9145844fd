import type { CardSnapshot, StockItem, StockLibrary, StockSection } from "@hillcrest/core";
import type { ImpactLine, PartBehind, PartChange, StockEntry } from "@hillcrest/server";
import { ask, askLines } from "./ask.ts";

export type { PartBehind, PartChange, StockEntry };

/** An item as it would be, or a card as it is. */
export type ImpactAsked =
  | { readonly section: StockSection; readonly item: StockItem }
  | { readonly card: string };

/** So many parts are brought to their cards at once: each is a save of its own. */
const TAKEN_AT_ONCE = 20;

/** Brings parts to the present state of their cards, some at a time; `tell` hears how many are done. */
async function takeOver(
  parts: readonly string[],
  tell: (done: number) => void,
): Promise<{ changed: number; skipped: string[] }> {
  const all = { changed: 0, skipped: [] as string[] };
  for (let done = 0; done < parts.length; done += TAKEN_AT_ONCE) {
    tell(done);
    const next = { parts: parts.slice(done, done + TAKEN_AT_ONCE) };
    try {
      const { changed, skipped } = await ask<typeof all>("POST", "/stock/take-over", next);
      all.changed += changed;
      all.skipped.push(...skipped);
    } catch (error) {
      const of = `${all.changed} of ${parts.length} parts have taken it over`;
      throw new Error(`${(error as Error).message} ${of}; the others can on the page of their card.`);
    }
  }
  return all;
}

export const stockApi = {
  list: () => ask<StockEntry[]>("GET", "/stock"),
  read: (section: StockSection, id: string) => ask<StockEntry>("GET", `/stock/${section}/${id}`),
  save: (section: StockSection, revision: number, item: StockItem) =>
    ask<{ revision: number; updatedAt: string }>("PUT", `/stock/${section}/${item.id}`, { revision, item }),
  remove: (section: StockSection, id: string) => ask<void>("DELETE", `/stock/${section}/${id}`),
  snapshot: (card: string) => ask<CardSnapshot>("GET", `/stock/cards/${card}/snapshot`),
  /** What taking over the cards as they are, or as they would be after a change, would do to parts. */
  impact: (
    asked: ImpactAsked,
    how: { readonly signal: AbortSignal; readonly onLines: (lines: readonly ImpactLine[]) => void },
  ) => askLines<ImpactLine>("/stock/impact", asked, how),
  takeOver,
  library: () => ask<StockLibrary>("GET", "/stock/library"),
  take: (library: unknown) => ask<{ added: number; replaced: number }>("POST", "/stock/library", { library }),
};
