import { ACCEPTED_WITHIN, type Finding } from "@hillcrest/core";
import { useId, useState } from "react";
import { acceptFinding, lastName, takeBackAcceptance } from "../../../state/mending.ts";
import { useSend } from "../../../state/store.ts";
import { Button } from "../../../ui/button.tsx";
import { Popover } from "../../../ui/popover.tsx";

const LONGEST = 500;
const INPUT = "w-full rounded border border-hairline bg-raised px-2 py-1";

/** Why a finding is taken as it is, and who says so: then it blocks nothing, and counts for nothing. */
export function Accept({ finding }: { finding: Finding }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover
      label="Accept this finding"
      align="end"
      open={open}
      onOpenChange={setOpen}
      trigger={
        <button
          type="button"
          data-accept
          className="mr-3.5 shrink-0 whitespace-nowrap text-quiet hover:text-ink hover:underline"
        >
          accept …
        </button>
      }
    >
      <AcceptForm finding={finding} onDone={() => setOpen(false)} />
    </Popover>
  );
}

function AcceptForm({ finding, onDone }: { finding: Finding; onDone: () => void }) {
  const send = useSend();
  const [reason, setReason] = useState("");
  const [by, setBy] = useState(lastName);
  const id = useId();
  const measures = finding.found !== undefined || finding.collision?.depth !== undefined;
  const ready = reason.trim() !== "" && by.trim() !== "";
  return (
    <form
      className="w-[300px] space-y-2"
      onKeyDown={(e) => e.stopPropagation()}
      onSubmit={(e) => {
        e.preventDefault();
        if (!ready) return;
        send(acceptFinding(finding, reason.trim(), by.trim()));
        onDone();
      }}
    >
      <h2 className="font-bold">Take it as it is</h2>
      <label className="block" htmlFor={`${id}-reason`}>
        Reason
        <input
          id={`${id}-reason`}
          data-reason
          className={INPUT}
          value={reason}
          maxLength={LONGEST}
          onChange={(e) => setReason(e.currentTarget.value)}
        />
      </label>
      <label className="block" htmlFor={`${id}-by`}>
        Name
        <input
          id={`${id}-by`}
          data-by
          className={INPUT}
          value={by}
          maxLength={100}
          onChange={(e) => setBy(e.currentTarget.value)}
        />
      </label>
      <p className="text-[12px] leading-snug text-quiet">
        It then stops nothing and stays listed as accepted.
        {measures && ` It comes back when what it measures changes by more than ${ACCEPTED_WITHIN}.`}
      </p>
      <Button kind="primary" type="submit" data-accept-it disabled={!ready}>
        Accept
      </Button>
    </form>
  );
}

/** Who took a finding as it is and why, with the way back. */
export function Accepted({ accepted }: { accepted: NonNullable<Finding["accepted"]> }) {
  const send = useSend();
  return (
    <span className="mr-3.5 ml-2 shrink-0 text-quiet" data-accepted>
      accepted: {accepted.reason} ({accepted.by}){" "}
      <button
        type="button"
        className="font-semibold text-moss hover:underline"
        onClick={() => send(takeBackAcceptance(accepted.key))}
      >
        take back
      </button>
    </span>
  );
}
