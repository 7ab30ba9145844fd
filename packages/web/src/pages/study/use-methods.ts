import type { BendChart, CardSnapshot } from "@hillcrest/core";
import { useEffect, useMemo } from "react";
import { stockApi } from "../../api/stock-api.ts";
import { useItems } from "../../state/stock.ts";
import { stockActions } from "../../state/stock-slice.ts";
import { useApp, useSend } from "../../state/store.ts";
import { byChart, DIN, type FoundBy, type Method, unreadChart } from "./study-methods.ts";

/** The ways to find K: the standard, and the shop's charts, of which `wanted` is read whole when it is very long. */
export function useMethods(own: CardSnapshot | undefined, wanted: Method): readonly FoundBy[] {
  const charts = useItems("charts");
  const drafts = useApp((s) => s.stock.drafts);
  const send = useSend();
  const unread = charts.find((c) => `chart:${c.id}` === wanted && !isRead(c) && own?.chart.id !== c.id)?.id;
  useEffect(() => {
    if (unread)
      stockApi
        .read("charts", unread)
        .then((entry) => send(stockActions.entryRead(entry)))
        .catch((error) => send(stockActions.stockFailed((error as Error).message)));
  }, [unread, send]);
  return useMemo(() => {
    // A part's own state of a chart goes before what the stock says by now, unless that is being changed.
    const all = charts.map((c) => (own?.chart.id === c.id && !drafts[`charts/${c.id}`] ? own.chart : c));
    const carried = own && !charts.some((c) => c.id === own.chart.id) ? [own.chart] : [];
    const named = [...all, ...carried];
    const standard = named.some((c) => c.rule.method === "DIN 6935") ? [] : [DIN];
    return [...standard, ...named.map((c) => (isRead(c) ? byChart(c) : unreadChart(c)))];
  }, [charts, own, drafts]);
}

const isRead = ({ rule }: BendChart): boolean => rule.method !== "table" || rule.rows.length > 0;
