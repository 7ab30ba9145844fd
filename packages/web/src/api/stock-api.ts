import type { CardSnapshot, StockItem, StockLibrary, StockSection } from "@hillcrest/core";
import type {
  ImpactLine,
  PartBehind,
  PartChange,
  StockEntry,
  TakeOverEntry,
  TakeOverState,
} from "@hillcrest/server";
import { ask, askLines } from "./ask.ts";

export type { PartBehind, PartChange, StockEntry, TakeOverEntry, TakeOverState };

/** An item as it would be, or a card as it is. */
export type ImpactAsked =
  | { readonly section: StockSection; readonly item: StockItem }
  | { readonly card: string };

interface StockSaved {
  readonly revision: number;
  readonly updatedAt: string;
  /** How far the parts that take it over are. */
  readonly takeOver?: TakeOverEntry;
}

export const stockApi = {
  list: () => ask<StockEntry[]>("GET", "/stock"),
  read: (section: StockSection, id: string) => ask<StockEntry>("GET", `/stock/${section}/${id}`),
  /** Saves an item and has parts take the change over: both are kept, or neither. */
  save: (section: StockSection, revision: number, item: StockItem, parts: readonly string[] = []) =>
    ask<StockSaved>("PUT", `/stock/${section}/${item.id}`, { revision, item, parts }),
  remove: (section: StockSection, id: string) => ask<void>("DELETE", `/stock/${section}/${id}`),
  snapshot: (card: string) => ask<CardSnapshot>("GET", `/stock/cards/${card}/snapshot`),
  /** What taking over the cards as they are, or as they would be after a change, would do to parts. */
  impact: (
    asked: ImpactAsked,
    how: { readonly signal: AbortSignal; readonly onLines: (lines: readonly ImpactLine[]) => void },
  ) => askLines<ImpactLine>("/stock/impact", asked, how),
  takeOver: (parts: readonly string[]) => ask<TakeOverEntry>("POST", "/stock/take-over", { parts }),
  takeOvers: () => ask<TakeOverEntry[]>("GET", "/stock/take-over"),
  /** One with every part that is done. */
  takeOverParts: (job: string) => ask<TakeOverState>("GET", `/stock/take-over/${job}`),
  cancelTakeOver: (job: string) => ask<TakeOverEntry>("DELETE", `/stock/take-over/${job}`),
  library: () => ask<StockLibrary>("GET", "/stock/library"),
  take: (library: unknown) => ask<{ added: number; replaced: number }>("POST", "/stock/library", { library }),
};
