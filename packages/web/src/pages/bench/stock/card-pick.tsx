import {
  type CardSnapshot,
  cardOf,
  formatShort,
  type PartDocument,
  type RawValues,
  type StockCard,
  sameSnapshot,
  sayLength,
  stockRaw,
} from "@hillcrest/core";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { stockApi } from "../../../api/stock-api.ts";
import { openBuild } from "../../../state/build-slice.ts";
import { setStock, setStockValue } from "../../../state/edits.ts";
import { openPart } from "../../../state/part-slice.ts";
import { useStock } from "../../../state/stock.ts";
import { useApp } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";
import { Button } from "../../../ui/button.tsx";
import { FindingMark } from "../../../ui/finding-mark.tsx";
import { requestSizes } from "../../../worker/build-client.ts";
import type { PartSize } from "../../../worker/build-worker.ts";
import { rememberCard } from "./new-part-stock.ts";

/** A stock without a card, saying the same as the card did. */
function withoutCard(raw: RawValues, k: number): RawValues {
  const values = Object.fromEntries(
    Object.entries(stockRaw(raw)).map(([key, v]) => [key, typeof v === "number" ? formatShort(v, 6) : v]),
  );
  return values.flatBy === "card" ? { ...values, flatBy: "K", k: formatShort(k, 6) } : values;
}

/** Which card the part is made by, and whether that card has changed since. */
export function CardPick() {
  const raw = useApp((s) => openPart(s).document!.stock);
  const entries = useApp((s) => s.stock.entries);
  const problem = useApp((s) => s.stock.problem);
  const k = useApp((s) => openBuild(s).latest?.stock?.k ?? 0.42);
  const [told, setTold] = useState<string>();
  useStock();
  const held = cardOf(raw);
  const cards = (entries ?? []).filter((e) => e.section === "cards").map((e) => e.item as StockCard);
  const known = held && (!entries || cards.some((c) => c.id === held.id));
  const pick = async (id: string) => {
    setTold(undefined);
    if (id === "") return setStock(withoutCard(raw, k));
    try {
      const card = await stockApi.snapshot(id);
      rememberCard(id);
      setStock({ card });
    } catch (error) {
      setTold((error as Error).message);
    }
  };
  return (
    <>
      <label className="flex items-baseline justify-between gap-4">
        <span className="text-quiet">Stock card</span>
        <select
          aria-label="Stock card"
          data-card
          className="min-w-0 rounded border border-hairline bg-raised px-1 py-0.5 font-semibold"
          value={held?.id ?? ""}
          onChange={(e) => void pick(e.currentTarget.value)}
        >
          <option value="">none: own values</option>
          {held && !known && <option value={held.id}>{held.name} (from elsewhere)</option>}
          {held && !entries && <option value={held.id}>{held.name}</option>}
          {cards.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </select>
      </label>
      {(told ?? problem) && (
        <p role="alert" className="mt-1">
          <FindingMark level="stop" /> {told ?? problem}
        </p>
      )}
      {held && (
        <p className="text-right text-[12px] text-quiet">
          as of revision <span className="num">{held.revision}</span> ·{" "}
          <Link
            className="text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
            to={`/stock/cards/${held.id}`}
          >
            open the card
          </Link>
        </p>
      )}
      {held && known && (
        <NewerCard
          held={held}
          revision={entries?.find((e) => e.section === "cards" && e.item.id === held.id)?.revision}
        />
      )}
    </>
  );
}

/** Offers the card's present state with what it would change here. */
function NewerCard({ held, revision }: { held: CardSnapshot; revision?: number }) {
  const document = useApp((s) => openPart(s).document!);
  const units = useUnits();
  const [now, setNow] = useState<CardSnapshot>();
  useEffect(() => {
    let left = false;
    setNow(undefined);
    if (revision !== undefined && revision !== held.revision)
      stockApi
        .snapshot(held.id)
        .then((card) => !left && setNow(card))
        .catch(() => undefined);
    return () => {
      left = true;
    };
  }, [held, revision]);
  const newer = now && !sameSnapshot(now, held) ? now : undefined;
  const change = useChangeBy(document, newer);
  if (!newer || !change) return null;
  const [before, after] = change;
  const brought = after.findings - before.findings;
  const side = (from: number, to: number) =>
    Math.abs(to - from) < 5e-4 ? "±0" : `${to > from ? "+" : "−"}${sayLength(Math.abs(to - from), units)}`;
  return (
    <div data-newer-card className="mt-2 rounded border border-amber bg-amber-soft p-2 leading-snug">
      <p>
        Revision <span className="num">{newer.revision}</span> of this card is there. Taking it over changes
        the blank by <b className="num">{side(before.width, after.width)}</b> ×{" "}
        <b className="num">{side(before.height, after.height)}</b>
        {brought > 0 && `, and brings ${brought} more findings`}.
      </p>
      <Button kind="primary" className="mt-1.5" data-take-over onClick={() => setStockValue("card", newer)}>
        Take it over
      </Button>
    </div>
  );
}

/** How the part is now and with another state of its card; nothing until both are known. */
function useChangeBy(document: PartDocument, card: CardSnapshot | undefined) {
  const id = useApp((s) => openPart(s).id);
  const [change, setChange] = useState<readonly [PartSize, PartSize]>();
  useEffect(() => {
    if (!card) return setChange(undefined);
    let left = false;
    void requestSizes(id, [document, { ...document, stock: { ...document.stock, card } }]).then((outcome) => {
      if (outcome.kind === "result" && !left) setChange([outcome.value[0], outcome.value[1]]);
    });
    return () => {
      left = true;
    };
  }, [id, document, card]);
  return change;
}
