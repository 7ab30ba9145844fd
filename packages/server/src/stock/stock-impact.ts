import { setImmediate as immediate } from "node:timers/promises";
import { type CardSnapshot, cardOf, type StockItem, type StockSection, sameSnapshot } from "@hillcrest/core";
import type { BuildPool } from "../builds/build-pool.ts";
import type { Asker } from "../builds/turns.ts";
import { DamagedRow } from "../damaged-row.ts";
import type { PartService } from "../parts/part-service.ts";
import type { CardChange } from "./card-change.ts";
import type { StockService } from "./stock-service.ts";

/** A part that is made by an older or other state of its card. */
export interface PartBehind {
  readonly id: string;
  readonly name: string;
  readonly card: string;
  readonly cardName: string;
  readonly from: number;
  readonly to: number;
}

/** What taking the card over would do to a part, or why its numbers are not known. */
export type PartChange = { readonly id: string } & (CardChange | { readonly problem: string });

/** What is told of an impact, line by line: first the parts, then what it does to each as it is known. */
export type ImpactLine = { readonly parts: readonly PartBehind[] } | PartChange;

/** A part that cannot be read is not changed, and keeps no other from being. */
function skipDamaged(error: unknown): undefined {
  if (!(error instanceof DamagedRow)) throw error;
}

/** So many parts are looked at ahead of the one that is told next. */
const AHEAD = 4;
/** After so many documents others who ask something come in between. */
const TURN = 20;

interface ImpactQuestion {
  /** An item as it would be: only the cards that it alters count. */
  readonly change?: { readonly section: StockSection; readonly item: StockItem };
  /** Only parts of this card. */
  readonly card?: string;
  /** Who asks, for as long as they wait. */
  readonly by: Asker;
}

/**
 * The parts on the Shelf that would change if they took over their cards as they are, or as they would be after a change of
 * one item; then how each would. Parts that follow another take their stock from that one and are left out.
 */
export async function* stockImpact(
  parts: PartService,
  stock: StockService,
  pool: BuildPool,
  { change, card: only, by }: ImpactQuestion,
): AsyncGenerator<ImpactLine> {
  const asTheyAre = new Map(change ? (await stock.snapshots()).map((c) => [c.id, c]) : []);
  const cards = new Map<string, CardSnapshot>();
  for (const card of await stock.snapshots(change)) {
    const was = asTheyAre.get(card.id);
    if ((only === undefined || card.id === only) && !(was && sameSnapshot(was, card)))
      cards.set(card.id, card);
  }
  const behind: PartBehind[] = [];
  for (const [i, { id, name }] of (await parts.list(false)).entries()) {
    if (i % TURN === TURN - 1) await immediate();
    if (by.signal?.aborted) return;
    const part = await parts.read(id).catch(skipDamaged);
    const held = part && cardOf(part.document.stock);
    const now = held && cards.get(held.id);
    if (!part || !held || !now || part.document.follows || sameSnapshot(held, now)) continue;
    behind.push({ id, name, card: now.id, cardName: now.name, from: held.revision, to: now.revision });
  }
  yield { parts: behind };
  const changeOf = async ({ id, card }: PartBehind): Promise<PartChange> => {
    const part = await parts.read(id).catch((error: Error) => error);
    if (part instanceof Error) return { id, problem: part.message };
    if (!part) return { id, problem: "It is not on the Shelf any more." };
    const outcome = await pool.cardChange(part.document, cards.get(card)!, by);
    if (outcome.kind === "result") return { id, ...outcome.value };
    return { id, problem: outcome.kind === "cancelled" ? "The server is closing." : outcome.message };
  };
  const under: Promise<PartChange>[] = [];
  for (const part of behind) {
    if (by.signal?.aborted) return;
    under.push(changeOf(part));
    if (under.length >= AHEAD) yield await under.shift()!;
  }
  for (const one of under) yield await one;
}
