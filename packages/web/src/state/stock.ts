import type { StockItem, StockItems, StockSection } from "@hillcrest/core";
import { useEffect, useMemo } from "react";
import { stockApi } from "../api/stock-api.ts";
import { itemsNow, stockActions } from "./stock-slice.ts";
import { store, useApp } from "./store.ts";

/** Reads the shop's stock anew. */
export async function loadStock(): Promise<void> {
  try {
    store.dispatch(stockActions.stockLoaded(await stockApi.list()));
  } catch (error) {
    store.dispatch(stockActions.stockFailed((error as Error).message));
  }
}

/** Has the shop's stock read when a page that needs it is opened. */
export function useStock(): void {
  useEffect(() => void loadStock(), []);
}

/** The items of one section, drafts included. */
export function useItems<S extends StockSection>(section: S): StockItems[S][] {
  const state = useApp((s) => s.stock);
  return useMemo(() => itemsNow(state, section), [state, section]);
}

export const editItem = (section: StockSection, item: StockItem, mark?: string): void => {
  store.dispatch(stockActions.itemEdited({ section, item, mark }));
};

/** A new id that reads like the name it is for. */
export function freshItemId(section: StockSection, name: string): string {
  const taken = new Set(itemsNow(store.getState().stock, section).map((i) => i.id));
  const base =
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 40) || "item";
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base}-${n}`;
    if (!taken.has(id)) return id;
  }
}
