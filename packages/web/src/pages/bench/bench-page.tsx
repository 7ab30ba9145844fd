import { broughtUpToDate, type PartDocument } from "@hillcrest/core";
import { useEffect, useState } from "react";
import { Link, useLocation, useNavigate, useParams } from "react-router";
import { Refused } from "../../api/ask.ts";
import { partsApi, type StoredPart } from "../../api/parts-api.ts";
import { edit } from "../../state/edits.ts";
import { openPart, partActions } from "../../state/part-slice.ts";
import { readDraft, saveNow } from "../../state/saving.ts";
import { useApp, useAsk, useSend } from "../../state/store.ts";
import { viewActions } from "../../state/view-slice.ts";
import { StepsColumn } from "../../steps/column/steps-column.tsx";
import { Button } from "../../ui/button.tsx";
import { useTitle } from "../../ui/theme.ts";
import { bendChange } from "./bend-change.ts";
import { ConflictDialog } from "./conflict-dialog.tsx";
import { Drawer } from "./drawer/drawer.tsx";
import { useBenchKeys } from "./keys/use-bench-keys.ts";
import { TopLine } from "./top-line.tsx";
import { ViewsPane } from "./views-pane.tsx";

/** The page on which a part is made. */
export function BenchPage() {
  const { id = "" } = useParams();
  const open = useApp((s) => (openPart(s).id === id ? openPart(s).document : undefined));
  const send = useSend();
  const [problem, setProblem] = useState<string>();
  const [attempt, setAttempt] = useState(0);
  useTitle(open?.name);

  // biome-ignore lint/correctness/useExhaustiveDependencies: trying again reads anew
  useEffect(() => {
    let left = false;
    setProblem(undefined);
    send(viewActions.benchEntered());
    partsApi
      .read(id)
      .then(async (part) => {
        const draft = readDraft(id, part.document);
        const unsaved = draft ?? (await followed(part));
        if (left) return;
        // A draft from an older revision is saved against that one, so that the server tells of the newer.
        const revision = unsaved?.revision ?? part.revision;
        const { document } = part;
        send(partActions.opened({ id, revision, document, unsaved: unsaved?.document }));
        if (unsaved) void saveNow(id);
      })
      .catch(
        (error) =>
          !left &&
          setProblem(error instanceof Refused && error.status === 404 ? "gone" : (error as Error).message),
      );
    return () => {
      left = true;
      void saveNow(id);
      send(partActions.closed(undefined, id));
    };
  }, [id, attempt, send]);

  if (problem) return <CannotOpen problem={problem} onRetry={() => setAttempt(attempt + 1)} />;
  if (!open) return <p className="p-8 text-quiet">Opening…</p>;
  return <Bench />;
}

/** A part that follows another opens with what has changed there since; nothing when it is up to date. */
async function followed(part: StoredPart): Promise<{ revision: number; document: PartDocument } | undefined> {
  const { follows } = part.document;
  if (!follows) return undefined;
  try {
    const source = await partsApi.read(follows.part);
    if (source.revision === follows.revision) return undefined;
    return {
      revision: part.revision,
      document: broughtUpToDate(part.document, source.document, source.revision),
    };
  } catch {
    // The other part is gone, or out of reach: this one stays as it was.
    return undefined;
  }
}

/** Takes over what the Bend study said about a bend, as a step that can be undone. */
function useBendChange(): void {
  const { state } = useLocation();
  const send = useSend();
  const ask = useAsk();
  const navigate = useNavigate();
  const asked = (state as { bendChange?: { bend: string; change: Record<string, unknown> } } | null)
    ?.bendChange;
  useEffect(() => {
    if (!asked) return;
    // Once only: going back and forth must not add it again.
    navigate(".", { replace: true, state: null });
    if (Object.keys(asked.change).length === 0) return;
    const { document } = ask(openPart);
    if (!document) return;
    const { command, step } = bendChange(document, asked.bend, asked.change);
    edit(command, { step });
    send(viewActions.stepOpened(step));
    send(viewActions.picked({ pick: { kind: "bend", id: asked.bend }, add: false }));
  }, [asked, navigate, send, ask]);
}

function Bench() {
  useBenchKeys();
  useBendChange();
  return (
    <div className="flex h-full flex-col overflow-hidden">
      <TopLine />
      <div className="flex min-h-0 grow">
        <div className="flex min-w-0 grow flex-col">
          <ViewsPane />
          <Drawer />
        </div>
        <div className="w-[344px] shrink-0">
          <StepsColumn />
        </div>
      </div>
      <ConflictDialog />
    </div>
  );
}

function CannotOpen({ problem, onRetry }: { problem: string; onRetry: () => void }) {
  const gone = problem === "gone";
  return (
    <main className="mx-auto max-w-md p-12 leading-relaxed">
      <h1 className="mb-2 text-[18px] font-bold">
        {gone ? "There is no such part" : "The part cannot be opened"}
      </h1>
      <p className="mb-4">{gone ? "Its address may be wrong, or it belongs to another Shelf." : problem}</p>
      <div className="flex items-center gap-3">
        {!gone && (
          <Button kind="primary" onClick={onRetry}>
            Try again
          </Button>
        )}
        <Link
          className="font-semibold text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
          to="/"
        >
          To the Shelf
        </Link>
      </div>
    </main>
  );
}
