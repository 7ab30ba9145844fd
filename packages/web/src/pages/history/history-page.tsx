import { ArrowLeft } from "lucide-react";
import { type KeyboardEvent, useCallback, useEffect, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { Refused } from "../../api/ask.ts";
import { partsApi, type RevisionEntry, type StoredPart } from "../../api/parts-api.ts";
import { lastSaves } from "../../state/saving.ts";
import { Button } from "../../ui/button.tsx";
import { PageHead } from "../../ui/page-head.tsx";
import { useTitle } from "../../ui/theme.ts";
import { dayOf, timeOf } from "./moments.ts";
import { RevisionView } from "./revision-view.tsx";

/** What was saved of a part: when, what changed, how it was, and taking it back. */
export function HistoryPage() {
  const { id = "" } = useParams();
  const { part, list, all, problem, load, more, takeBack, call } = useRevisions(id);
  const [picked, setChosen] = useState<number>();
  useTitle(part && `History of ${part.document.name}`);
  // The newest is looked at until another is chosen.
  const chosen = picked ?? list?.[0]?.number;
  const entry = list?.find((r) => r.number === chosen);

  return (
    <div className="flex h-full flex-col">
      <PageHead here="History">
        <Link
          to={`/parts/${id}`}
          className="flex min-w-0 grow items-center gap-1.5 rounded font-semibold text-moss hover:underline"
        >
          <ArrowLeft size={15} className="shrink-0" />
          <span className="truncate">{part?.document.name ?? "Back to the part"}</span>
        </Link>
      </PageHead>
      {problem && (
        <p role="alert" className="border-b border-hairline bg-amber-soft px-4 py-2">
          {problem}{" "}
          <button type="button" className="font-semibold text-moss" onClick={() => void load()}>
            Look again
          </button>
        </p>
      )}
      <main className="flex min-h-0 grow">
        <RevisionList list={list} chosen={chosen} onChoose={setChosen}>
          {list && !all && <Button onClick={() => void more()}>Earlier ones</Button>}
        </RevisionList>
        {entry && part && (
          <RevisionView
            key={entry.number}
            part={part}
            entry={entry}
            onTakeBack={() => takeBack(entry.number)}
            onCall={(name) => call(entry.number, name)}
          />
        )}
      </main>
    </div>
  );
}

/** The revisions of a part, and what can be done with them. */
function useRevisions(id: string) {
  const navigate = useNavigate();
  const [part, setPart] = useState<StoredPart>();
  const [list, setList] = useState<readonly RevisionEntry[]>();
  const [all, setAll] = useState(false);
  const [problem, setProblem] = useState<string>();

  const attempt = useCallback(async (work: () => Promise<void>) => {
    try {
      await work();
      setProblem(undefined);
    } catch (error) {
      const gone = error instanceof Refused && error.status === 404;
      setProblem(gone ? "There is no such part, or no such revision of it." : (error as Error).message);
    }
  }, []);
  const load = useCallback(
    () =>
      attempt(async () => {
        // What was done on the Bench just now is the newest revision.
        await lastSaves();
        const [now, first] = await Promise.all([partsApi.read(id), partsApi.revisions(id)]);
        setPart(now);
        setList(first);
        setAll(first.at(-1)?.number === 1 || first.length < 200);
      }),
    [id, attempt],
  );
  useEffect(() => void load(), [load]);

  const more = () =>
    attempt(async () => {
      const next = await partsApi.revisions(id, list!.at(-1)!.number);
      setList([...list!, ...next]);
      setAll(next.length === 0 || next.at(-1)!.number === 1);
    });
  const takeBack = (number: number) =>
    attempt(async () => {
      await partsApi.takeBack(id, part!.revision, number);
      navigate(`/parts/${id}`);
    });
  const call = (number: number, name: string | null) =>
    attempt(async () => {
      await partsApi.callRevision(id, number, name);
      setList(list!.map((r) => (r.number === number ? { ...r, name } : r)));
    });
  return { part, list, all, problem, load, more, takeBack, call };
}

interface RevisionListProps {
  readonly list?: readonly RevisionEntry[];
  readonly chosen?: number;
  readonly onChoose: (number: number) => void;
  readonly children?: React.ReactNode;
}

/** The revisions by day, the newest first; the arrow keys go through them. */
function RevisionList({ list, chosen, onChoose, children }: RevisionListProps) {
  const host = useRef<HTMLElement>(null);
  const step = (e: KeyboardEvent) => {
    const way = { ArrowDown: 1, ArrowUp: -1 }[e.key];
    if (!way || !list) return;
    e.preventDefault();
    const next = list[list.findIndex((r) => r.number === chosen) + way];
    if (!next) return;
    onChoose(next.number);
    host.current?.querySelector<HTMLElement>(`[data-revision="${next.number}"]`)?.focus();
  };
  return (
    <nav
      ref={host}
      aria-label="Revisions"
      className="scroll-quiet flex w-[380px] shrink-0 flex-col overflow-auto border-r border-hairline bg-panel pb-4"
      onKeyDown={step}
    >
      {!list && <p className="p-4 text-quiet">Looking…</p>}
      {list?.map((r, i) => {
        const day = dayOf(r.madeAt);
        const first = i === 0 || dayOf(list[i - 1].madeAt) !== day;
        const current = r.number === chosen;
        return (
          <div key={r.number}>
            {first && <h2 className="px-4 pt-4 pb-1 text-[12px] font-bold text-quiet">{day}</h2>}
            <button
              type="button"
              data-revision={r.number}
              aria-current={current}
              className={`grid w-full grid-cols-[3.2rem_1fr] gap-x-2 px-4 py-1.5 text-left leading-snug ${current ? "bg-moss-soft" : "hover:bg-ground"}`}
              onClick={() => onChoose(r.number)}
            >
              <span className="num text-quiet">{timeOf(r.madeAt)}</span>
              <span className="min-w-0">
                {r.name && <b className="block truncate">{r.name}</b>}
                {r.said.slice(0, 3).map((words, k) => (
                  <span key={k} className="block break-words">
                    {words}
                  </span>
                ))}
                {r.said.length > 3 && <span className="text-quiet">and {r.said.length - 3} more</span>}
              </span>
            </button>
          </div>
        );
      })}
      {children && <div className="px-4 pt-3">{children}</div>}
    </nav>
  );
}
