import { Plus, Search, Upload } from "lucide-react";
import { Button } from "../../ui/button.tsx";
import { FileButton } from "../../ui/file-button.tsx";
import { PageHead } from "../../ui/page-head.tsx";

interface ShelfHeadProps {
  readonly bin: boolean;
  readonly search: string;
  readonly onSearch: (text: string) => void;
  readonly onBin: () => void;
  readonly onImport: (files: readonly File[]) => Promise<void>;
  readonly onMake: () => void;
}

/** The Shelf's head: looking for parts, the bin, and how parts come to be. */
export function ShelfHead({ bin, search, onSearch, onBin, onImport, onMake }: ShelfHeadProps) {
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
      <span className="grow" />
      <Button kind="quiet" onClick={onBin}>
        {bin ? "Back to the Shelf" : "Bin"}
      </Button>
      <FileButton accept=".json,application/json" multiple purpose="parts" onFiles={onImport}>
        <Upload size={14} /> Import
      </FileButton>
      <Button kind="primary" onClick={onMake}>
        <Plus size={15} /> New part
      </Button>
    </PageHead>
  );
}
