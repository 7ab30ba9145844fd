import { useEffect, useState } from "react";
import { Link } from "react-router";
import { stockApi, type TakeOverEntry, type TakeOverState } from "../../api/stock-api.ts";
import { useApp, useSend } from "../../state/store.ts";
import { shownTakeOvers, takeOverActions } from "../../state/take-over-slice.ts";
import { cancelTakeOver, useTakeOvers } from "../../state/taking-over.ts";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { ProgressBar } from "../../ui/progress-bar.tsx";
import { counted } from "./impact-dialog.tsx";

/** Changes of stock that parts are taking over, and what came of the last: the server's work, seen from any page of Stock. */
export function TakeOverBars() {
  useTakeOvers();
  const takeOvers = useApp((s) => s.takeOvers);
  return shownTakeOvers(takeOvers).map((job) => (
    <TakeOverBar key={job.id} job={job} unknown={takeOvers.problem} />
  ));
}

interface TakeOverBarProps {
  readonly job: TakeOverEntry;
  /** Why nothing newer is known. */
  readonly unknown?: string;
}

function TakeOverBar({ job, unknown }: TakeOverBarProps) {
  const send = useSend();
  const [open, setOpen] = useState(false);
  const working = job.state === "working";
  const trouble = working ? (unknown ?? job.problem) : undefined;
  return (
    <div
      role="status"
      data-taking-over={job.state}
      className="flex items-center gap-3 border-b border-hairline bg-panel px-4 py-1.5"
    >
      {working && (
        <ProgressBar
          label="Parts that took the change over"
          done={job.done}
          of={job.total}
          className="h-1 w-40"
        />
      )}
      <span className="min-w-0 grow truncate">
        {(trouble || job.skipped > 0) && <FindingMark level="warn" />} {saying(job)}
        {trouble && ` ${trouble}`}
      </span>
      {job.done > 0 && (
        <Button kind="quiet" onClick={() => setOpen(true)}>
          Show the parts
        </Button>
      )}
      {working ? (
        <Button kind="quiet" onClick={() => void send(cancelTakeOver(job.id))}>
          Cancel
        </Button>
      ) : (
        <Button kind="quiet" onClick={() => send(takeOverActions.takeOverClosed(job.id))}>
          Close
        </Button>
      )}
      {open && <TakenParts job={job} onClose={() => setOpen(false)} />}
    </div>
  );
}

/** How far it is, or what came of it. */
function saying({ state, done, total, changed, skipped }: TakeOverEntry): string {
  if (state === "working") return `Stock change: ${done} of ${counted(total)} done. You may leave this page.`;
  const unchanged = skipped > 0 ? `, ${skipped} left unchanged` : "";
  const result = `${counted(changed)} updated${unchanged}.`;
  return state === "cancelled"
    ? `Stock change cancelled after ${done} of ${counted(total)}: ${result}`
    : `Stock change: ${result}`;
}

interface TakenPartsProps {
  readonly job: TakeOverEntry;
  readonly onClose: () => void;
}

/** Exactly which parts were changed, and which were not and why. */
function TakenParts({ job: { id, done, startedAt }, onClose }: TakenPartsProps) {
  const [parts, setParts] = useState<TakeOverState>();
  const [failed, setFailed] = useState<string>();
  // While it goes on the list grows with it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: how many are done says that there is more to read
  useEffect(() => {
    let left = false;
    stockApi.takeOverParts(id).then(
      (now) => !left && setParts(now),
      (error: Error) => !left && setFailed(error.message),
    );
    return () => {
      left = true;
    };
  }, [id, done]);
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={`Stock change of ${new Date(startedAt).toLocaleString()}`}
      actions={
        <Button kind="primary" onClick={onClose}>
          All right
        </Button>
      }
    >
      {failed && (
        <p role="alert">
          <FindingMark level="warn" /> {failed}
        </p>
      )}
      {!parts && !failed && <p className="text-quiet">Reading the parts…</p>}
      {parts && <PartLists {...parts} />}
    </Dialog>
  );
}

function PartLists({ changedParts, skippedParts }: TakeOverState) {
  return (
    <>
      {skippedParts.length > 0 && (
        <>
          <p className="font-bold">Left unchanged: {counted(skippedParts.length)}</p>
          <ul className="mb-3" data-skipped>
            {skippedParts.map((p) => (
              <li key={p.id} className="break-words">
                {p.name}: <span className="text-quiet">{p.why}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="font-bold">Updated: {counted(changedParts.length)}</p>
      <ul data-changed>
        {changedParts.map((p) => (
          <li key={p.id} className="flex items-baseline gap-2">
            <Link
              className="min-w-0 truncate text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
              to={`/parts/${p.id}`}
            >
              {p.name}
            </Link>
            <span className="num shrink-0 text-quiet">now revision {p.revision}</span>
          </li>
        ))}
      </ul>
    </>
  );
}
