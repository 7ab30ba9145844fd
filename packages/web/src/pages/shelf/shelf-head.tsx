import { Plus, Search, Upload } from "lucide-react";
import { useRef } from "react";
import { Button } from "../../ui/button.tsx";
import { PageHead } from "../../ui/page-head.tsx";

interface ShelfHeadProps {
  readonly bin: boolean;
  readonly search: string;
  readonly onSearch: (text: string) => void;
  readonly onBin: () => void;
  readonly onImport: (files: FileList | null) => Promise<unknown>;
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
      <ImportButton onImport={onImport} />
      <Button kind="primary" onClick={onMake}>
        <Plus size={15} /> New part
      </Button>
    </PageHead>
  );
}

function ImportButton({ onImport }: Pick<ShelfHeadProps, "onImport">) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept=".json,application/json"
        multiple
        hidden
        data-import
        onChange={async (e) => {
          const chosen = e.currentTarget;
          await onImport(chosen.files);
          // The same file can then be chosen again.
          chosen.value = "";
        }}
      />
      <Button onClick={() => input.current?.click()}>
        <Upload size={14} /> Import
      </Button>
    </>
  );
}
