import { readLibraryText } from "@hillcrest/core";
import { Download, Upload } from "lucide-react";
import { useRef, useState } from "react";
import { Refused } from "../../api/ask.ts";
import { stockApi } from "../../api/stock-api.ts";
import { loadStock } from "../../state/stock.ts";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { download } from "../../ui/error-boundary.tsx";

interface Told {
  readonly title: string;
  readonly lines: readonly string[];
}

/** The whole stock library as one file, out and in. */
export function LibraryFiles() {
  const input = useRef<HTMLInputElement>(null);
  const [told, setTold] = useState<Told>();
  const fail = (title: string, error: unknown) => {
    const problems = error instanceof Refused ? error.body.problems : undefined;
    const lines = problems?.map((p) => `${p.path.replace(/^\/library/, "")} ${p.message}`.trim());
    setTold({ title, lines: lines ?? [(error as Error).message] });
  };
  const save = async () => {
    try {
      const library = await stockApi.library();
      download("stock-library.json", JSON.stringify(library, null, 1), "application/json");
    } catch (error) {
      fail("The library cannot be saved", error);
    }
  };
  const take = async (file: File) => {
    const read = readLibraryText(await file.text());
    const title = `Nothing was imported from “${file.name}”`;
    if (!read.ok) return setTold({ title, lines: read.error.map((p) => `${p.path} ${p.message}`.trim()) });
    try {
      const { added, replaced } = await stockApi.take(read.value);
      await loadStock();
      const lines = [
        `${added} added, ${replaced} replaced by what the file says.`,
        "Parts keep the state of their cards until it is taken over.",
      ];
      setTold({ title: "The library is imported", lines });
    } catch (error) {
      fail(title, error);
    }
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        accept=".json,application/json"
        hidden
        data-import-library
        onChange={async (e) => {
          const target = e.currentTarget;
          if (target.files?.[0]) await take(target.files[0]);
          target.value = "";
        }}
      />
      <Button onClick={() => input.current?.click()}>
        <Upload size={14} /> Import library
      </Button>
      <Button onClick={() => void save()}>
        <Download size={14} /> Export library
      </Button>
      <ToldDialog told={told} onClose={() => setTold(undefined)} />
    </>
  );
}

/** What came of a file. */
const ToldDialog = ({ told, onClose }: { told: Told | undefined; onClose: () => void }) => (
  <Dialog
    open={told !== undefined}
    onClose={onClose}
    title={told?.title ?? ""}
    actions={
      <Button kind="primary" onClick={onClose}>
        All right
      </Button>
    }
  >
    <ul className="space-y-1">
      {told?.lines.map((l) => (
        <li key={l} className="break-words">
          {l}
        </li>
      ))}
    </ul>
  </Dialog>
);
