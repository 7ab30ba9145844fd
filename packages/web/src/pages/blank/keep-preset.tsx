import { BUILT_IN_PRESETS, type ExportPreset } from "@hillcrest/core";
import { useState } from "react";
import { stockApi } from "../../api/stock-api.ts";
import { setBlank } from "../../state/exporting.ts";
import { once } from "../../state/once.ts";
import { freshItemId, loadStock } from "../../state/stock.ts";
import { useApp, useSend } from "../../state/store.ts";
import { Button } from "../../ui/button.tsx";
import { Popover } from "../../ui/popover.tsx";

/** Keeps how this part is written as a preset of the shop: a new one, or in the place of the one it came from. */
export function KeepPreset({ preset }: { preset: ExportPreset }) {
  const send = useSend();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [told, setTold] = useState<string>();
  const entry = useApp((s) =>
    s.stock.entries?.find((e) => e.section === "presets" && e.item.id === preset.id),
  );
  const keep = (item: ExportPreset, revision: number) =>
    once(`preset ${item.id}`, async () => {
      try {
        await stockApi.save("presets", revision, item);
        await loadStock();
        send(setBlank({ preset: item.id, changes: undefined }));
        setOpen(false);
      } catch (error) {
        setTold((error as Error).message);
      }
    });
  const title = name.trim();
  return (
    <Popover
      label="Keep as a preset"
      open={open}
      onOpenChange={setOpen}
      trigger={<Button kind="quiet">Keep as preset…</Button>}
    >
      <form
        className="w-[280px] space-y-2"
        onKeyDown={(e) => e.stopPropagation()}
        onSubmit={(e) => {
          e.preventDefault();
          if (title) void keep({ ...preset, id: freshItemId("presets", title), name: title }, 0);
        }}
      >
        <label className="block">
          Name
          <input
            aria-label="Name of the preset"
            className="mt-0.5 h-8 w-full rounded border border-hairline bg-raised px-2"
            value={name}
            maxLength={100}
            placeholder="such as the laser that reads it"
            onChange={(e) => setName(e.currentTarget.value)}
          />
        </label>
        <div className="flex flex-wrap gap-2">
          <Button kind="primary" type="submit" disabled={!title}>
            Keep as new
          </Button>
          {entry && !BUILT_IN_PRESETS.some((p) => p.id === preset.id) && (
            <Button onClick={() => void keep(preset, entry.revision)}>Change “{entry.item.name}”</Button>
          )}
        </div>
        {told && (
          <p role="alert" className="text-stop">
            {told}
          </p>
        )}
      </form>
    </Popover>
  );
}
