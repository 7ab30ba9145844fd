import { Button } from "./button.tsx";
import { Dialog } from "./dialog.tsx";

export interface Told {
  readonly title: string;
  /** What stands before the lines. */
  readonly lead?: string;
  readonly lines: readonly string[];
}

/** What came of something, to be read and put away. */
export const ToldDialog = ({ told, onClose }: { told: Told | undefined; onClose: () => void }) => (
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
    {told?.lead && <p className="mb-1">{told.lead}</p>}
    <ul className={told?.lead ? "list-disc pl-5" : "space-y-1"}>
      {told?.lines.map((l, i) => (
        <li key={i} className="break-words">
          {l}
        </li>
      ))}
    </ul>
  </Dialog>
);
