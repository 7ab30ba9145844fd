import { readLibraryText } from "@hillcrest/core";
import { Download, Upload } from "lucide-react";
import { useState } from "react";
import { Refused } from "../../api/ask.ts";
import { stockApi } from "../../api/stock-api.ts";
import { download } from "../../state/download.ts";
import { loadStock } from "../../state/stock.ts";
import { Button } from "../../ui/button.tsx";
import { FileButton } from "../../ui/file-button.tsx";
import { type Told, ToldDialog } from "../../ui/told-dialog.tsx";

/** The whole stock library as one file, out and in. */
export function LibraryFiles() {
  const [told, setTold] = useState<Told>();
  const fail = (title: string, error: unknown) => {
    const errors = error instanceof Refused ? error.problem.errors : undefined;
    const lines = errors?.map((e) => `${e.pointer.replace(/^\/library/, "")} ${e.detail}`.trim());
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
      <FileButton accept=".json,application/json" purpose="library" onFiles={([file]) => take(file)}>
        <Upload size={14} /> Import library
      </FileButton>
      <Button onClick={() => void save()}>
        <Download size={14} /> Export library
      </Button>
      <ToldDialog told={told} onClose={() => setTold(undefined)} />
    </>
  );
}
