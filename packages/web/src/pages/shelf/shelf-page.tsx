import { useState } from "react";
import { type PartEntry, partsApi } from "../../api/parts-api.ts";
import type { ReadDrawing } from "../../drawing-files/read-drawing.ts";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { useTheme, useTitle } from "../../ui/theme.ts";
import { type Told, ToldDialog } from "../../ui/told-dialog.tsx";
import { CardGrid } from "./card-grid.tsx";
import { Choosing } from "./choosing.tsx";
import type { Chosen } from "./chosen.ts";
import { PartCard } from "./part-card.tsx";
import { ShelfHead } from "./shelf-head.tsx";
import { type Having, type UnreadFile, useFound, useShelf } from "./use-shelf.ts";

/** The page of all parts. */
export function ShelfPage() {
  useTitle(undefined);
  useTheme();
  const [bin, setBin] = useState(false);
  const [search, setSearch] = useState("");
  const [undo, setUndo] = useState<PartEntry>();
  const { parts, problem, load, change, make, copy, addDemo, importFiles, ...imported } = useShelf(bin);
  const [having, setHaving] = useState<Having>("all");
  const shown = useFound(parts, search, having);
  const [chosen, setChosen] = useState<Chosen>();
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: dropping a file is a second way to what Import does
    <div
      className="min-h-full pb-16"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        void importFiles([...e.dataTransfer.files]);
      }}
    >
      <ShelfHead
        bin={bin}
        search={search}
        onSearch={setSearch}
        having={having}
        onHaving={setHaving}
        onBin={() => setBin(!bin)}
        onImport={importFiles}
        onMake={() => void make()}
        choosing={chosen !== undefined}
        onChoose={() => setChosen(chosen ? undefined : new Map())}
      />
      <main className="mx-auto max-w-[1280px] px-6 pt-6">
        {problem && <Problem text={problem} onRetry={() => void load()} />}
        {!shown && !problem && <p className="text-quiet">Looking through the Shelf…</p>}
        {parts?.length === 0 && <Empty bin={bin} onMake={() => void make()} onDemo={() => void addDemo()} />}
        {shown?.length === 0 && parts && parts.length > 0 && (
          <NoMatch
            search={search}
            count={parts.length}
            onAll={() => {
              setSearch("");
              setHaving("all");
            }}
          />
        )}
        {shown && (
          <Cards
            parts={shown}
            bin={bin}
            change={change}
            copy={copy}
            onBinned={setUndo}
            chosen={chosen}
            onChosen={setChosen}
          />
        )}
      </main>
      {chosen && !bin && <Choosing chosen={chosen} shown={shown ?? []} onChange={setChosen} />}
      {undo && (
        <Binned
          name={undo.name}
          onBack={() =>
            void change(async () => {
              await partsApi.restore(undo.id);
              setUndo(undefined);
            })
          }
        />
      )}
      <Imported {...imported} />
    </div>
  );
}

interface CardsProps {
  readonly parts: readonly PartEntry[];
  readonly bin: boolean;
  readonly change: (work: () => Promise<unknown>) => Promise<void>;
  readonly copy: (id: string, follows: boolean) => Promise<void>;
  readonly onBinned: (part: PartEntry) => void;
  readonly chosen?: Chosen;
  readonly onChosen: (chosen: Chosen) => void;
}

/** The parts as cards; while parts are chosen each says how many are wanted of it. */
const Cards = ({ parts, bin, change, copy, onBinned, chosen, onChosen }: CardsProps) => (
  <CardGrid count={parts.length}>
    {(i) => (
      <PartCard
        key={parts[i].id}
        part={parts[i]}
        bin={bin}
        {...(chosen && {
          wanted: {
            quantity: chosen.get(parts[i].id),
            onChange: (quantity) => onChosen(withQuantity(chosen, parts[i].id, quantity)),
          },
        })}
        onCopy={(follows) => void copy(parts[i].id, follows)}
        onBin={() => void change(() => partsApi.bin(parts[i].id)).then(() => onBinned(parts[i]))}
        onRestore={() => void change(() => partsApi.restore(parts[i].id))}
      />
    )}
  </CardGrid>
);

/** What is chosen when one part is wanted so often; none is not at all. */
function withQuantity(chosen: Chosen, id: string, quantity: number | undefined): Chosen {
  const next = new Map(chosen);
  if (quantity === undefined) next.delete(id);
  else next.set(id, quantity);
  return next;
}

interface ImportedProps {
  readonly unscaled?: ReadDrawing;
  readonly takeUnit: (scale: number | undefined) => void;
  readonly unread?: UnreadFile;
  readonly forget: () => void;
}

/** What is asked and told of files that are taken in. */
const Imported = ({ unscaled, takeUnit, unread, forget }: ImportedProps) => (
  <>
    <WhichUnit name={unscaled?.name} onTake={takeUnit} />
    <ToldDialog told={unread && unreadTold(unread)} onClose={forget} />
  </>
);

/** A drawing that says nothing of its units is asked about: a guess would be 25.4 times too large or too small. */
const WhichUnit = ({
  name,
  onTake,
}: {
  name: string | undefined;
  onTake: (scale: number | undefined) => void;
}) => (
  <Dialog
    open={name !== undefined}
    onClose={() => onTake(undefined)}
    title={`In what is ${name ?? "it"} drawn?`}
    actions={
      <>
        <Button kind="quiet" onClick={() => onTake(25.4)}>
          Inches
        </Button>
        <Button kind="primary" onClick={() => onTake(1)}>
          Millimetres
        </Button>
      </>
    }
  >
    <p>The file does not say what one unit of it is.</p>
  </Dialog>
);

const Problem = ({ text, onRetry }: { text: string; onRetry: () => void }) => (
  <p
    role="alert"
    className="mb-4 flex items-center gap-3 rounded-md border border-stop/50 bg-panel px-3 py-2"
  >
    <FindingMark level="stop" /> {text}
    <Button kind="quiet" onClick={onRetry}>
      Try again
    </Button>
  </p>
);

const NoMatch = ({ search, count, onAll }: { search: string; count: number; onAll: () => void }) => (
  <p className="py-10 text-center text-quiet">
    {search === "" ? "No part is like that." : `No part matches “${search}”.`}{" "}
    <button type="button" className="font-semibold text-moss" onClick={onAll}>
      Show all {count}
    </button>
  </p>
);

const Binned = ({ name, onBack }: { name: string; onBack: () => void }) => (
  <div
    role="status"
    className="fixed bottom-6 left-1/2 flex -translate-x-1/2 items-center gap-3 rounded-lg border border-hairline bg-panel px-4 py-2 shadow-card"
  >
    <span className="max-w-80 truncate">“{name}” is in the bin.</span>
    <Button kind="quiet" onClick={onBack}>
      Put it back
    </Button>
  </div>
);

/** A file that is no part: nothing of it was taken in, and why. */
const unreadTold = ({ file, problems, imported }: UnreadFile): Told =>
  imported
    ? { title: `“${file}” is on the Shelf`, lead: "On the way:", lines: problems }
    : {
        title: `“${file}” cannot be read`,
        lead: "Nothing was imported from it. What is wrong:",
        lines: problems,
      };

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
