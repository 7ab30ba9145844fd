import { Plus, Search, Upload } from "lucide-react";
import { Button } from "../../ui/button.tsx";
import { FileButton } from "../../ui/file-button.tsx";
import { PageHead } from "../../ui/page-head.tsx";
import type { Having } from "./use-shelf.ts";

const HAVING: readonly { readonly value: Having; readonly label: string }[] = [
  { value: "all", label: "all parts" },
  { value: "stop", label: "with stops" },
  { value: "warn", label: "with warnings" },
  { value: "note", label: "with notes" },
  { value: "none", label: "without findings" },
];

interface ShelfHeadProps {
  readonly bin: boolean;
  readonly search: string;
  readonly onSearch: (text: string) => void;
  readonly having: Having;
  readonly onHaving: (having: Having) => void;
  readonly onBin: () => void;
  readonly onImport: (files: readonly File[]) => Promise<void>;
  readonly onMake: () => void;
  readonly choosing: boolean;
  readonly onChoose: () => void;
}

/** The Shelf's head: looking for parts, the bin, and how parts come to be. */
export function ShelfHead(props: ShelfHeadProps) {
  const { bin, search, onSearch, having, onHaving, onBin, onImport, onMake, choosing, onChoose } = props;
  return (
    <PageHead here={bin ? "Bin" : "Shelf"}>
      <label className="ml-2 flex h-8 w-60 items-center gap-2 rounded-md border border-hairline bg-raised px-2.5 text-quiet focus-within:border-moss">
        <Search size={14} />
        <input
          aria-label="Search parts"
          placeholder="Search by name or stock"
          className="grow bg-transparent text-ink outline-none placeholder:text-quiet"
          value={search}
          onChange={(e) => onSearch(e.currentTarget.value)}
          onKeyDown={(e) => e.key === "Escape" && onSearch("")}
        />
      </label>
      <select
        aria-label="Parts by what was found on them"
        className="h-8 rounded-md border border-hairline bg-raised px-2"
        value={having}
        onChange={(e) => onHaving(e.currentTarget.value as Having)}
      >
        {HAVING.map(({ value, label }) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </select>
      <span className="grow" />
      {!bin && (
        <Button
          aria-pressed={choosing}
          className={choosing ? "border-moss bg-moss-soft" : ""}
          title="Choose parts, and how many of each, to export at once"
          onClick={onChoose}
        >
          Choose
        </Button>
      )}
      <Button kind="quiet" onClick={onBin}>
        {bin ? "Back to the Shelf" : "Bin"}
      </Button>
      <FileButton
        accept=".json,.dxf,.svg,application/json,image/svg+xml"
        multiple
        purpose="parts"
        onFiles={onImport}
      >
        <Upload size={14} /> Import
      </FileButton>
      <Button kind="primary" onClick={onMake}>
        <Plus size={15} /> New part
      </Button>
    </PageHead>
  );
}
