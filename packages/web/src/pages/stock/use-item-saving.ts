import { itemProblems, type StockItem, type StockSection } from "@hillcrest/core";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { Refused } from "../../api/ask.ts";
import { stockApi } from "../../api/stock-api.ts";
import { loadStock } from "../../state/stock.ts";
import { draftName, stockActions } from "../../state/stock-slice.ts";
import { useApp, useSend } from "../../state/store.ts";
import { takeOverActions } from "../../state/take-over-slice.ts";
import { useImpact } from "./use-impact.ts";

/** Saving and removing an item, and what has to be asked or told on the way. */
export function useItemSaving(section: StockSection, item: StockItem, revision: number | undefined) {
  const name = draftName(section, item.id);
  const draft = useApp((s) => s.stock.drafts[name]);
  const send = useSend();
  const navigate = useNavigate();
  const [told, setTold] = useState<string>();
  const { impact, look, letGo } = useImpact();
  const [doing, setDoing] = useState<string>();
  const [stale, setStale] = useState<{ message: string; revision: number }>();
  const attempt = async (work: () => Promise<void>) => {
    setDoing("Saving…");
    setTold(undefined);
    try {
      await work();
    } catch (error) {
      const current = error instanceof Refused && error.status === 409 ? error.problem.current : undefined;
      if (current)
        setStale({ message: (error as Error).message, revision: (current as { revision: number }).revision });
      else setTold((error as Error).message);
    }
    setDoing(undefined);
  };
  /** Saves it, and brings some parts to it. */
  const store = (parts: readonly string[]) =>
    attempt(async () => {
      letGo();
      const { takeOver } = await stockApi.save(section, draft?.revision ?? 0, item, parts);
      send(stockActions.draftDropped(name));
      if (takeOver) send(takeOverActions.takeOverTold(takeOver));
      await loadStock();
    });
  /** Saves it, unless parts would change by it: that is asked first. */
  const save = () => {
    if (!draft || doing !== undefined) return;
    const wrong = document.querySelector<HTMLElement>('[data-editor] [aria-invalid="true"]');
    if (wrong) {
      wrong.focus();
      return setTold("A value cannot be read yet: mend it, or press Escape in it.");
    }
    if (itemProblems(section, item).length > 0)
      return setTold("It can be saved when what is listed below is mended.");
    void attempt(async () => {
      setDoing("Looking…");
      const parts = revision === undefined ? [] : await look({ section, item });
      if (parts.length === 0) await store([]);
    });
  };
  const remove = () =>
    attempt(async () => {
      if (revision !== undefined) await stockApi.remove(section, item.id);
      send(stockActions.draftDropped(name));
      await loadStock();
      navigate(`/stock/${section}`);
    });
  /** Goes on from what another saved meanwhile: with the own changes, or without them; or leaves it for later. */
  const settle = (keep: "mine" | "theirs" | "open") => {
    if (keep === "mine") send(stockActions.draftRebased({ name, revision: stale!.revision }));
    if (keep === "theirs") {
      send(stockActions.draftDropped(name));
      void loadStock();
    }
    setStale(undefined);
  };
  return { told, impact, doing, stale, save, store, remove, settle, forget: letGo };
}

/** Ctrl + S saves, Ctrl + Z and Ctrl + Shift + Z go back and forth. */
export function useItemKeys(section: StockSection, id: string, save: () => void): void {
  const send = useSend();
  const name = draftName(section, id);
  const now = useRef(save);
  now.current = save;
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (!(e.ctrlKey || e.metaKey)) return;
      const key = e.key.toLowerCase();
      if (!["s", "z", "y"].includes(key)) return;
      e.preventDefault();
      if (key === "s") now.current();
      else send(key === "y" || e.shiftKey ? stockActions.itemRedone(name) : stockActions.itemUndone(name));
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [name, send]);
}
