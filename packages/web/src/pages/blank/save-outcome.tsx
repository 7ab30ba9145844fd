import type { HowSaved, SaveOutcome } from "../../state/exporting-slice.ts";
import { Button } from "../../ui/button.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";

interface Props {
  readonly outcome: SaveOutcome;
  /** Saves what was refused, although findings stop the part. */
  readonly onAnyway: (format: string, how: HowSaved) => void;
}

/** What came of asking for a file: that it is saved, or why not, and the way to have it anyway. */
export function SaveOutcomeLine({ outcome, onAnyway }: Props) {
  if ("saved" in outcome)
    return (
      <p role="status" data-saved className="leading-snug">
        {outcome.saved} is saved.
      </p>
    );
  const { refused, stopped } = outcome;
  return (
    <div className="space-y-2">
      <p role="alert" data-saved={false} className="leading-snug [overflow-wrap:anywhere]">
        <FindingMark level="stop" /> Not saved. {refused}
      </p>
      {stopped && (
        <Button
          data-save-anyway
          title="The file then says what stops the part"
          onClick={() => onAnyway(stopped.format, { ...stopped.how, anyway: true })}
        >
          Save anyway
        </Button>
      )}
    </div>
  );
}
