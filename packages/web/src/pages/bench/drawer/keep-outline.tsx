import { type KeptOutline, outlineChanges, type PartOutline, takenOver } from "@hillcrest/core";
import { useState } from "react";
import { stockApi } from "../../../api/stock-api.ts";
import { outlinesOf, setOutlines } from "../../../state/drawing.ts";
import { once } from "../../../state/once.ts";
import { openPart } from "../../../state/part-slice.ts";
import { freshItemId, loadStock, useItems } from "../../../state/stock.ts";
import { useApp, useAsk } from "../../../state/store.ts";
import { Button } from "../../../ui/button.tsx";
import { FindingMark } from "../../../ui/finding-mark.tsx";

/** Keeps an outline of the part on Stock, or takes over there what was changed here and the other way round. */
export function KeepOutline({ entry }: { entry: PartOutline }) {
  const ask = useAsk();
  const saved = useApp((s) =>
    s.stock.entries?.find((e) => e.section === "outlines" && e.item.id === entry.kept?.id),
  );
  const [told, setTold] = useState<string>();
  const put = (change: Partial<PartOutline>) =>
    setOutlines(ask(outlinesOf).map((o) => (o.key === entry.key ? { ...o, ...change } : o)));
  const save = (id: string, revision: number, item: Omit<KeptOutline, "id" | "outline">) =>
    once(`outline ${id}`, async () => {
      const part = ask(openPart).id;
      try {
        const done = await stockApi.save("outlines", revision, { ...item, id, outline: entry.outline });
        // Meanwhile it may have been drawn on, or another part been opened.
        if (ask(openPart).id === part) put({ kept: { id, revision: done.revision } });
        setTold(undefined);
        await loadStock();
      } catch (error) {
        setTold((error as Error).message);
      }
    });
  const keep = () => {
    const name = entry.outline.name.trim().slice(0, 100) || "Outline";
    void save(freshItemId("outlines", name), 0, { name, note: "" });
  };
  const kept = saved?.item as KeptOutline | undefined;
  const newer = saved && entry.kept && saved.revision > entry.kept.revision;
  const own = kept && takenOver(kept.outline, entry.outline);
  const changes = own ? outlineChanges(entry.outline, own) : [];
  return (
    <>
      {!kept && (
        <Button kind="quiet" data-keep title="So that other parts can use it" onClick={keep}>
          Keep on Stock
        </Button>
      )}
      {kept && !newer && changes.length > 0 && (
        <Button
          kind="quiet"
          data-keep-changes
          title={`Kept as “${kept.name}”; here it has ${changes.join(", ")}`}
          onClick={() => void save(kept.id, saved!.revision, kept)}
        >
          Keep the changes too
        </Button>
      )}
      {newer && own && (
        <span className="flex items-baseline gap-2" data-kept-newer>
          <FindingMark level="note" /> “{kept?.name}” was changed on Stock
          {changes.length > 0 ? `: ${changes.join(", ")}.` : ", but not in what this part has of it."}
          <Button
            kind="quiet"
            data-take-over
            onClick={() => put({ outline: own, kept: { id: saved.item.id, revision: saved.revision } })}
          >
            Take it over
          </Button>
          <Button kind="quiet" onClick={() => put({ kept: { id: saved.item.id, revision: saved.revision } })}>
            Leave it
          </Button>
        </span>
      )}
      {told && (
        <span role="alert" className="text-stop">
          <FindingMark level="stop" /> {told}
        </span>
      )}
    </>
  );
}

/** Takes a kept outline of the shop into the part. */
export function TakeKept({ onTake }: { onTake: (entry: Omit<PartOutline, "key">) => void }) {
  const items = useItems("outlines");
  const entries = useApp((s) => s.stock.entries);
  const there = items.filter((i) => i.outline.curves.length > 0);
  if (there.length === 0) return null;
  return (
    <select
      aria-label="Take a kept outline"
      data-take-kept
      className="mt-2 w-full rounded border border-hairline bg-raised px-1 py-0.5"
      value=""
      onChange={(e) => {
        const item = there.find((i) => i.id === e.currentTarget.value);
        const revision = entries?.find((n) => n.section === "outlines" && n.item.id === item?.id)?.revision;
        if (item) onTake({ outline: item.outline, ...(revision ? { kept: { id: item.id, revision } } : {}) });
      }}
    >
      <option value="">Take a kept one…</option>
      {there.map((i) => (
        <option key={i.id} value={i.id}>
          {i.name}
        </option>
      ))}
    </select>
  );
}
