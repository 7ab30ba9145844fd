import type { CardSnapshot, StockItem, StockLibrary, StockSection } from "@hillcrest/core";
import type { StockEntry, StockImpact } from "@hillcrest/server";
import { ask } from "./ask.ts";

export type { StockEntry, StockImpact };

export const stockApi = {
  list: () => ask<StockEntry[]>("GET", "/stock"),
  read: (section: StockSection, id: string) => ask<StockEntry>("GET", `/stock/${section}/${id}`),
  save: (section: StockSection, revision: number, item: StockItem) =>
    ask<{ revision: number; updatedAt: string }>("PUT", `/stock/${section}/${item.id}`, { revision, item }),
  remove: (section: StockSection, id: string) => ask<void>("DELETE", `/stock/${section}/${id}`),
  snapshot: (card: string) => ask<CardSnapshot>("GET", `/stock/cards/${card}/snapshot`),
  /** What taking over the cards as they are, or as they would be after a change, would do to parts. */
  impact: (section?: StockSection, item?: StockItem) =>
    ask<StockImpact[]>("POST", "/stock/impact", section ? { section, item } : {}),
  takeOver: (parts: readonly string[]) =>
    ask<{ changed: number; skipped: string[] }>("POST", "/stock/take-over", { parts }),
  library: () => ask<StockLibrary>("GET", "/stock/library"),
  take: (library: unknown) => ask<{ added: number; replaced: number }>("POST", "/stock/library", { library }),
};
