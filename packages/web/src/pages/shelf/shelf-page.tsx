import { formatShort, newPart, readDocumentText } from "@hillcrest/core";
import { ArchiveRestore, Copy, CopyPlus, Plus, Search, Trash2, Upload } from "lucide-react";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { type PartEntry, type PartPictures, partsApi } from "../../api/parts-api.ts";
import { lastSaves } from "../../state/saving.ts";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { PageHead } from "../../ui/page-head.tsx";
import { PartPicture } from "../../ui/part-picture.tsx";
import { useTheme, useTitle } from "../../ui/theme.ts";
import { stockOfNewPart } from "../bench/card-pick.tsx";
import { CardGrid } from "./card-grid.tsx";

/** The page of all parts. */
export function ShelfPage() {
  useTitle(undefined);
  useTheme();
  const navigate = useNavigate();
  const [bin, setBin] = useState(false);
  const [parts, setParts] = useState<readonly PartEntry[]>();
  const [problem, setProblem] = useState<string>();
  const [search, setSearch] = useState("");
  const [undo, setUndo] = useState<PartEntry>();
  const [unread, setUnread] = useState<{ file: string; problems: readonly string[] }>();

  const load = useCallback(async () => {
    try {
      // A part that was just left is shown as it was left.
      await lastSaves();
      setParts(await partsApi.list(bin));
      setProblem(undefined);
    } catch (error) {
      setProblem((error as Error).message);
    }
  }, [bin]);
  useEffect(() => void load(), [load]);
  // What was just saved or imported is pictured after it: it is looked for again until it is there.
  useEffect(() => {
    if (!parts?.some((p) => p.pictured !== p.revision)) return;
    const again = setTimeout(() => void load(), 600);
    return () => clearTimeout(again);
  }, [parts, load]);

  const attempt = async (work: () => Promise<unknown>) => {
    try {
      await work();
      setProblem(undefined);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const change = (work: () => Promise<unknown>) =>
    attempt(async () => {
      await work();
      await load();
    });
  const make = () =>
    attempt(async () => {
      const part = { ...newPart("New part"), stock: await stockOfNewPart() };
      navigate(`/parts/${(await partsApi.create(part)).id}`);
    });
  const importFiles = (files: FileList | null) =>
    attempt(async () => {
      for (const file of files ?? []) {
        const read = readDocumentText(await file.text());
        if (!read.ok) {
          setUnread({
            file: file.name,
            problems: read.error.map((p) => (p.path ? `${p.path}: ${p.message}` : p.message)),
          });
          break;
        }
        await partsApi.create(read.value);
      }
      await load();
    });

  const shown = useMemo(() => {
    const words = search.toLowerCase().split(/\s+/).filter(Boolean);
    return parts?.filter((p) =>
      words.every((w) => `${p.name} ${p.summary?.stock ?? ""}`.toLowerCase().includes(w)),
    );
  }, [parts, search]);
  const importer = useRef<HTMLInputElement>(null);

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: dropping a file is a second way to what Import does
    <div
      className="min-h-full pb-16"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        void importFiles(e.dataTransfer.files);
      }}
    >
      <PageHead here={bin ? "Bin" : "Shelf"}>
        <label className="ml-2 flex h-8 w-60 items-center gap-2 rounded-md border border-hairline bg-raised px-2.5 text-quiet focus-within:border-moss">
          <Search size={14} />
          <input
            aria-label="Search parts"
            placeholder="Search by name or stock"
            className="grow bg-transparent text-ink outline-none placeholder:text-quiet"
            value={search}
            onChange={(e) => setSearch(e.currentTarget.value)}
            onKeyDown={(e) => e.key === "Escape" && setSearch("")}
          />
        </label>
        <span className="grow" />
        <Button kind="quiet" onClick={() => setBin(!bin)}>
          {bin ? "Back to the Shelf" : "Bin"}
        </Button>
        <input
          ref={importer}
          type="file"
          accept=".json,application/json"
          multiple
          hidden
          data-import
          onChange={async (e) => {
            const input = e.currentTarget;
            await importFiles(input.files);
            // The same file can then be chosen again.
            input.value = "";
          }}
        />
        <Button onClick={() => importer.current?.click()}>
          <Upload size={14} /> Import
        </Button>
        <Button kind="primary" onClick={() => void make()}>
          <Plus size={15} /> New part
        </Button>
      </PageHead>
      <main className="mx-auto max-w-[1280px] px-6 pt-6">
        {problem && (
          <p
            role="alert"
            className="mb-4 flex items-center gap-3 rounded-md border border-stop/50 bg-panel px-3 py-2"
          >
            <FindingMark level="stop" /> {problem}
            <Button kind="quiet" onClick={() => void load()}>
              Try again
            </Button>
          </p>
        )}
        {!shown && !problem && <p className="text-quiet">Looking through the Shelf…</p>}
        {shown && parts?.length === 0 && (
          <Empty bin={bin} onMake={() => void make()} onDemo={() => void change(() => partsApi.addDemo())} />
        )}
        {shown && shown.length === 0 && (parts?.length ?? 0) > 0 && (
          <p className="py-10 text-center text-quiet">
            No part matches “{search}”.{" "}
            <button type="button" className="font-semibold text-moss" onClick={() => setSearch("")}>
              Show all {parts?.length}
            </button>
          </p>
        )}
        {shown && (
          <CardGrid count={shown.length}>
            {(i) => (
              <PartCard
                key={shown[i].id}
                part={shown[i]}
                bin={bin}
                onCopy={(follows) => void change(() => partsApi.copy(shown[i].id, follows))}
                onBin={() => void change(() => partsApi.bin(shown[i].id)).then(() => setUndo(shown[i]))}
                onRestore={() => void change(() => partsApi.restore(shown[i].id))}
              />
            )}
          </CardGrid>
        )}
      </main>
      {undo && (
        <div
          role="status"
          className="fixed bottom-6 left-1/2 flex -translate-x-1/2 items-center gap-3 rounded-lg border border-hairline bg-panel px-4 py-2 shadow-card"
        >
          <span className="max-w-80 truncate">“{undo.name}” is in the bin.</span>
          <Button
            kind="quiet"
            onClick={() =>
              void attempt(async () => {
                await partsApi.restore(undo.id);
                setUndo(undefined);
                await load();
              })
            }
          >
            Put it back
          </Button>
        </div>
      )}
      <Dialog
        open={unread !== undefined}
        onClose={() => setUnread(undefined)}
        title={`“${unread?.file}” cannot be read`}
        actions={
          <Button kind="primary" onClick={() => setUnread(undefined)}>
            All right
          </Button>
        }
      >
        <p className="mb-1">Nothing was imported from it. What is wrong:</p>
        <ul className="list-disc pl-5">
          {unread?.problems.map((p) => (
            <li key={p} className="break-words">
              {p}
            </li>
          ))}
        </ul>
      </Dialog>
    </div>
  );
}

function Empty({ bin, onMake, onDemo }: { bin: boolean; onMake: () => void; onDemo: () => void }) {
  if (bin) return <p className="py-16 text-center text-quiet">The bin is empty.</p>;
  return (
    <div className="mx-auto max-w-md py-20 text-center">
      <svg
        width="150"
        height="80"
        viewBox="0 0 150 80"
        fill="none"
        aria-hidden="true"
        className="mx-auto mb-5 text-quiet opacity-70"
      >
        <path d="M10 70h130M24 70V34h40v36M84 70V22h42v48" stroke="currentColor" strokeDasharray="5 4" />
      </svg>
      <h2 className="mb-1 text-[17px] font-bold">The Shelf is empty</h2>
      <p className="mb-5 text-quiet">
        Make a part from nothing, import a document, or look at the parts of the Fernhollow Ridge weather
        station.
      </p>
      <div className="flex justify-center gap-2">
        <Button kind="primary" onClick={onMake}>
          New part
        </Button>
        <Button onClick={onDemo}>Open the demo</Button>
      </div>
    </div>
  );
}

interface PartCardProps {
  readonly part: PartEntry;
  readonly bin: boolean;
  readonly onCopy: (follows: boolean) => void;
  readonly onBin: () => void;
  readonly onRestore: () => void;
}

function PartCard({ part, bin, onCopy, onBin, onRestore }: PartCardProps) {
  const { summary } = part;
  const pictures = usePictures(part);
  const size = summary?.size?.map((v) => formatShort(v, 1)).join(" × ");
  const findings = summary?.findings ?? { stop: 0, warn: 0, note: 0 };
  const level = findings.stop ? "stop" : findings.warn ? "warn" : findings.note ? "note" : undefined;
  const count = findings.stop + findings.warn + findings.note;
  const made = summary === null || summary.size !== null;
  const body = (
    <>
      <div className="grid h-[168px] grid-cols-[1.25fr_1fr] border-b border-hairline bg-ground">
        <PartPicture svg={pictures?.folded} label="Folded" made={made} />
        <PartPicture svg={pictures?.blank} label="Blank" made={made} />
      </div>
      <div className="px-4 py-3">
        <h2 className="truncate text-[15px] font-bold" title={part.name}>
          {part.name}
        </h2>
        <p className="num truncate text-quiet" title={summary?.problem}>
          {summary?.problem ?? (size ? `${size} mm` : summary ? "nothing made yet" : "being drawn…")}
        </p>
        <p className="mt-1 flex items-center gap-2 text-quiet">
          <span className="truncate">{summary?.stock ?? ""}</span>
          <span>·</span>
          <span className="whitespace-nowrap">
            {summary?.bends === 1 ? "1 bend" : `${summary?.bends ?? "?"} bends`}
          </span>
          {level && (
            <span className="ml-auto whitespace-nowrap">
              <FindingMark level={level} /> {count === 1 ? "1 finding" : `${count} findings`}
            </span>
          )}
        </p>
      </div>
    </>
  );
  const action = "grid size-7 place-items-center rounded bg-panel/90 text-quiet hover:text-ink";
  return (
    <div
      data-part={part.name}
      className="group relative overflow-hidden rounded-lg border border-hairline bg-panel transition-shadow hover:shadow-card"
    >
      {bin ? body : <Link to={`/parts/${part.id}`}>{body}</Link>}
      <div className="absolute top-2 right-2 flex gap-1 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100">
        {bin ? (
          <button
            type="button"
            className={action}
            title="Put back on the Shelf"
            aria-label={`Put ${part.name} back`}
            onClick={onRestore}
          >
            <ArchiveRestore size={15} />
          </button>
        ) : (
          <>
            <button
              type="button"
              className={action}
              title="Copy"
              aria-label={`Copy ${part.name}`}
              onClick={() => onCopy(false)}
            >
              <Copy size={15} />
            </button>
            <button
              type="button"
              className={action}
              title="Copy that follows this part"
              aria-label={`Copy that follows ${part.name}`}
              onClick={() => onCopy(true)}
            >
              <CopyPlus size={15} />
            </button>
            <button
              type="button"
              className={action}
              title="Put into the bin"
              aria-label={`Put ${part.name} into the bin`}
              onClick={onBin}
            >
              <Trash2 size={15} />
            </button>
          </>
        )}
      </div>
    </div>
  );
}

/** The pictures of a part as of its last one made, asked for when its card comes into sight and kept by the browser. */
function usePictures({ id, pictured }: PartEntry): PartPictures | undefined {
  const [pictures, setPictures] = useState<PartPictures>();
  useEffect(() => {
    if (pictured === 0) return;
    let left = false;
    partsApi
      .pictures(id, pictured)
      .then((found) => left || setPictures(found))
      // A card without its picture still says everything else.
      .catch(() => undefined);
    return () => {
      left = true;
    };
  }, [id, pictured]);
  return pictures;
}
