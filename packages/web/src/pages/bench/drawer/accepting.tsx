import { ACCEPTED_WITHIN, type Finding } from "@hillcrest/core";
import { useId, useState } from "react";
import { acceptFinding, takeBackAcceptance } from "../../../state/mending.ts";
import { lastName } from "../../../state/own-name.ts";
import { useSend } from "../../../state/store.ts";
import { Button } from "../../../ui/button.tsx";
import { Popover } from "../../../ui/popover.tsx";

const LONGEST = 500;

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
      <Line label="Reason" name="reason" longest={LONGEST} value={reason} onChange={setReason} />
      <Line label="Name" name="by" longest={100} value={by} onChange={setBy} />
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

interface LineProps {
  readonly label: string;
  readonly name: "reason" | "by";
  readonly longest: number;
  readonly value: string;
  readonly onChange: (value: string) => void;
}

/** One line of text with its label. */
function Line({ label, name, longest, value, onChange }: LineProps) {
  const id = useId();
  return (
    <label className="block" htmlFor={id}>
      {label}
      <input
        id={id}
        {...{ [`data-${name}`]: true }}
        className="w-full rounded border border-hairline bg-raised px-2 py-1"
        value={value}
        maxLength={longest}
        onChange={(e) => onChange(e.currentTarget.value)}
      />
    </label>
  );
}

/** Who took a finding as it is and why, with the way back. */
export function Accepted({ accepted }: { accepted: NonNullable<Finding["accepted"]> }) {
  const send = useSend();
  const said = `accepted: ${accepted.reason} (${accepted.by})`;
  return (
    <span className="mr-3.5 ml-2 flex max-w-[45%] shrink-0 gap-1.5 text-quiet" data-accepted>
      <span className="truncate" title={said}>
        {said}
      </span>
      <button
        type="button"
        className="shrink-0 font-semibold text-moss hover:underline"
        onClick={() => send(takeBackAcceptance(accepted.key))}
      >
        take back
      </button>
    </span>
  );
}
