import { broughtUpToDate, type PartDocument } from "@hillcrest/core";
import { useEffect, useState } from "react";
import { Link, Outlet, useParams } from "react-router";
import { Refused } from "../../api/ask.ts";
import { partsApi, type StoredPart } from "../../api/parts-api.ts";
import { openPart, partActions } from "../../state/part-slice.ts";
import "../../state/part-tools.ts";
import { readDraft } from "../../state/read-draft.ts";
import { saveNow } from "../../state/saving.ts";
import { useApp, useSend } from "../../state/store.ts";
import { viewActions } from "../../state/view-slice.ts";
import { Button } from "../../ui/button.tsx";
import { useTitle } from "../../ui/theme.ts";
import { ConflictDialog } from "../bench/conflict-dialog.tsx";
import type { PartLink } from "./part-links.ts";

/** The pages that one part is worked on: it stays open, with all that can be undone, from one to the other. */
export function PartPages({ links }: { links: readonly PartLink[] }) {
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
        const draft = readDraft(id, part.document, part.revision);
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
  return (
    <>
      <Outlet context={links} />
      <ConflictDialog />
    </>
  );
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
