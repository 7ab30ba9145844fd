import { type DocumentProblem, type Result, safeName } from "@hillcrest/core";
import { useState } from "react";
import { download } from "../../state/download.ts";
import { Button } from "../../ui/button.tsx";
import { FileButton } from "../../ui/file-button.tsx";

interface ItemFileProps<T> {
  readonly name: string;
  /** What the file is for: the input's `data-files`. */
  readonly purpose: string;
  readonly document: () => unknown;
  readonly read: (text: string) => Result<T, DocumentProblem[]>;
  readonly onRead: (value: T) => void;
}

/** An item of the stock as a document: given to others, and taken in from them; what is wrong with one is told. */
export function ItemFile<T>({ name, purpose, document, read, onRead }: ItemFileProps<T>) {
  const [told, setTold] = useState<readonly string[]>([]);
  const readIn = async ([file]: readonly File[]) => {
    const found = read(await file.text());
    setTold(
      found.ok ? [] : found.error.map((p) => `${file.name}${p.path ? ` at ${p.path}` : ""}: ${p.message}`),
    );
    if (found.ok) onRead(found.value);
  };
  return (
    <>
      <div className="flex items-center gap-4">
        <FileButton accept=".json,application/json" purpose={purpose} onFiles={readIn}>
          Read another in
        </FileButton>
        <Button
          kind="quiet"
          onClick={() =>
            download(`${safeName(name)}.json`, `${JSON.stringify(document(), null, 2)}\n`, "application/json")
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
    </>
  );
}
