import { useState } from "react";
import { Link } from "react-router";
import type { TakeOverState } from "../../api/stock-api.ts";
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
  readonly job: TakeOverState;
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
        {(trouble || job.skipped.length > 0) && <FindingMark level="warn" />} {saying(job)}
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
      <TakenParts job={job} open={open} onClose={() => setOpen(false)} />
    </div>
  );
}

/** How far it is, or what came of it. */
function saying({ state, done, total, changed, skipped }: TakeOverState): string {
  if (state === "working") return `Stock change: ${done} of ${counted(total)} done. You may leave this page.`;
  const unchanged = skipped.length > 0 ? `, ${skipped.length} left unchanged` : "";
  const result = `${counted(changed.length)} updated${unchanged}.`;
  return state === "cancelled"
    ? `Stock change cancelled after ${done} of ${counted(total)}: ${result}`
    : `Stock change: ${result}`;
}

interface TakenPartsProps {
  readonly job: TakeOverState;
  readonly open: boolean;
  readonly onClose: () => void;
}

/** Exactly which parts were changed, and which were not and why. */
function TakenParts({ job: { changed, skipped, startedAt }, open, onClose }: TakenPartsProps) {
  return (
    <Dialog
      open={open}
      wide
      onClose={onClose}
      title={`Stock change of ${new Date(startedAt).toLocaleString()}`}
      actions={
        <Button kind="primary" onClick={onClose}>
          All right
        </Button>
      }
    >
      {skipped.length > 0 && (
        <>
          <p className="font-bold">Left unchanged: {counted(skipped.length)}</p>
          <ul className="mb-3" data-skipped>
            {skipped.map((p) => (
              <li key={p.id} className="break-words">
                {p.name}: <span className="text-quiet">{p.why}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="font-bold">Updated: {counted(changed.length)}</p>
      <ul data-changed>
        {changed.map((p) => (
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
    </Dialog>
  );
}
