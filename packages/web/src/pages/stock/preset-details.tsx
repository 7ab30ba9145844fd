import { type ExportPreset, presetDocument, readPresetText, type StockItem } from "@hillcrest/core";
import { ItemFile } from "./item-file.tsx";

interface PresetDetailsProps {
  readonly preset: ExportPreset;
  readonly onChange: (item: StockItem, mark?: string) => void;
}

/** A preset as a document: given to others, and taken in from them. */
export const PresetDetails = ({ preset, onChange }: PresetDetailsProps) => (
  <section aria-label="The preset as a file" className="space-y-3" data-preset-file>
    <p className="max-w-[30em] leading-snug text-quiet">
      Parts name a preset on the page of their blank; a change of it counts for all of them at their next
      file.
    </p>
    <ItemFile
      name={preset.name}
      purpose="preset"
      document={() => presetDocument(preset)}
      read={readPresetText}
      onRead={(read) => onChange({ ...read, id: preset.id })}
    />
  </section>
);
