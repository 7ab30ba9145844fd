import { newPart, type RawValues } from "@hillcrest/core";
import { stockApi } from "../../../api/stock-api.ts";

const LAST_CARD = "hillcrest:last-card";

/** The next new part begins with this card. */
export const rememberCard = (id: string): void => localStorage.setItem(LAST_CARD, id);

/** The card that a new part begins with: the one picked last, else the first there is. */
export async function stockOfNewPart(): Promise<RawValues> {
  const fallback = newPart("New part").stock;
  try {
    const cards = (await stockApi.list()).filter((e) => e.section === "cards");
    const last = localStorage.getItem(LAST_CARD);
    const first = cards.find((c) => c.item.id === last) ?? cards[0];
    return first ? { card: await stockApi.snapshot(first.item.id) } : fallback;
  } catch {
    // Without the stock a part can still be made; it says its own values.
    return fallback;
  }
}
