import {
  type CardSnapshot,
  cardOf,
  type PartDocument,
  type StockItem,
  type StockSection,
  sameSnapshot,
} from "@hillcrest/core";
import type { BuildPool } from "../builds/build-pool.ts";
import type { PartService } from "../parts/part-service.ts";
import { type CardChange, withCard } from "./card-change.ts";
import type { StockService } from "./stock-service.ts";

/** A part that is made by an older or other state of its card, and what taking the card over would do. */
export interface StockImpact extends CardChange {
  readonly id: string;
  readonly name: string;
  readonly card: string;
  readonly cardName: string;
  readonly from: number;
  readonly to: number;
  /** Why the numbers are not known. */
  readonly problem?: string;
}

/**
 * The parts on the Shelf that would change if they took over their cards as they are, or as they would
 * be after a change of one item. Parts that follow another take their stock from that one and are left out.
 */
export async function stockImpact(
  parts: PartService,
  stock: StockService,
  pool: BuildPool,
  change?: { section: StockSection; item: StockItem },
): Promise<StockImpact[]> {
  const cards = new Map((await stock.snapshots(change)).map((c) => [c.id, c]));
  const out: StockImpact[] = [];
  for (const { id, name } of await parts.list(false)) {
    const part = await parts.read(id);
    const held = part && cardOf(part.document.stock);
    const now = held && cards.get(held.id);
    if (!part || !held || !now || part.document.follows || sameSnapshot(held, now)) continue;
    out.push({
      id,
      name,
      card: now.id,
      cardName: now.name,
      from: held.revision,
      to: now.revision,
      ...(await changeOf(pool, part.document, now)),
    });
  }
  return out;
}

/** What taking a card over does to a part; of one that cannot be built in time, why that is not known. */
async function changeOf(
  pool: BuildPool,
  document: PartDocument,
  card: CardSnapshot,
): Promise<CardChange & { problem?: string }> {
  const outcome = await pool.cardChange(document, card);
  if (outcome.kind === "result") return outcome.value;
  const none = { blank: null, mass: null, stops: 0, warnings: 0 };
  const problem = outcome.kind === "cancelled" ? "The server is closing." : outcome.message;
  return { before: none, after: none, allowance: 0, problem };
}

/** Brings parts to the present state of their cards. Says how many were, and which could not be. */
export async function takeOver(
  parts: PartService,
  stock: StockService,
  ids: readonly string[],
): Promise<{ changed: number; skipped: string[] }> {
  let changed = 0;
  const skipped: string[] = [];
  for (const id of ids) {
    const part = await parts.read(id);
    const held = part && cardOf(part.document.stock);
    const now = held && (await stock.snapshot(held.id));
    if (!part || !now) {
      skipped.push(part?.document.name ?? id);
      continue;
    }
    const outcome = await parts.save(id, part.revision, withCard(part.document, now));
    if (outcome.kind === "saved") changed++;
    else skipped.push(part.document.name);
  }
  return { changed, skipped };
}
