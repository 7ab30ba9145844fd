import { type ExportPreset, presetDocument, readPresetText, type StockItem, safeName } from "@hillcrest/core";
import { useState } from "react";
import { download } from "../../state/download.ts";
import { Button } from "../../ui/button.tsx";
import { FileButton } from "../../ui/file-button.tsx";

interface PresetDetailsProps {
  readonly preset: ExportPreset;
  readonly onChange: (item: StockItem, mark?: string) => void;
}

/** A preset as a document: given to others, and taken in from them. */
export function PresetDetails({ preset, onChange }: PresetDetailsProps) {
  const [told, setTold] = useState<readonly string[]>([]);
  const readIn = async ([file]: readonly File[]) => {
    const read = readPresetText(await file.text());
    setTold(
      read.ok ? [] : read.error.map((p) => `${file.name}${p.path ? ` at ${p.path}` : ""}: ${p.message}`),
    );
    if (read.ok) onChange({ ...read.value, id: preset.id });
  };
  return (
    <section aria-label="The preset as a file" className="space-y-3" data-preset-file>
      <p className="max-w-[30em] leading-snug text-quiet">
        Parts name a preset on the page of their blank; a change of it counts for all of them at their next
        file.
      </p>
      <div className="flex items-center gap-4">
        <FileButton accept=".json,application/json" purpose="preset" onFiles={readIn}>
          Read one in
        </FileButton>
        <Button
          kind="quiet"
          onClick={() =>
            download(
              `${safeName(preset.name)}.json`,
              `${JSON.stringify(presetDocument(preset), null, 2)}\n`,
              "application/json",
            )
          }
        >
          Save as JSON
        </Button>
      </div>
      {told.slice(0, 4).map((line) => (
        <p key={line} role="alert" className="leading-snug text-warn">
          {line}
        </p>
      ))}
    </section>
  );
}
