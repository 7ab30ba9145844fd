import { useState } from "react";
import { partsApi } from "../../api/parts-api.ts";
import { once } from "../../state/once.ts";
import { openPart, partActions } from "../../state/part-slice.ts";
import { saveNow } from "../../state/saving.ts";
import { useApp, useSend } from "../../state/store.ts";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";

/** When the part was saved elsewhere meanwhile: keep mine, keep the other, or both. */
export function ConflictDialog() {
  const conflict = useApp((s) => openPart(s).conflict);
  const id = useApp((s) => openPart(s).id);
  const mine = useApp((s) => openPart(s).document);
  const send = useSend();
  const [problem, setProblem] = useState<string>();
  const settle = (keep: "mine" | "theirs") => {
    send(partActions.conflictSettled({ keep }));
    setProblem(undefined);
    if (keep === "mine") void saveNow(id!);
  };
  const both = async () => {
    try {
      await partsApi.create({ ...mine!, name: `${mine!.name.slice(0, 185)} (mine)` });
      settle("theirs");
    } catch (error) {
      setProblem(`The copy was not saved: ${(error as Error).message} Nothing was changed.`);
    }
  };
  const steps = (n: number | undefined) => `${n ?? 0} ${n === 1 ? "step" : "steps"}`;
  return (
    <Dialog
      open={conflict !== undefined}
      title="This part was saved elsewhere too"
      actions={
        <>
          <Button onClick={() => void once("keep both", both)}>Keep both</Button>
          <Button onClick={() => settle("theirs")}>Take the other</Button>
          <Button kind="primary" onClick={() => settle("mine")}>
            Keep mine
          </Button>
        </>
      }
    >
      <p>
        Another window or person saved <b>{conflict?.document.name}</b> (revision {conflict?.revision},{" "}
        {steps(conflict?.document.steps.length)}) after you began. Yours has {steps(mine?.steps.length)}.
      </p>
      <p className="mt-2 text-quiet">
        “Keep both” puts yours on the Shelf as a part of its own. After “Take the other”, undo brings yours
        back.
      </p>
      {problem && (
        <p role="alert" className="mt-2 text-stop">
          {problem}
        </p>
      )}
    </Dialog>
  );
}
