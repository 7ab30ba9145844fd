import { groupOf, type KeptGroup, type StepDocument, stepKind } from "@hillcrest/core";
import { useState } from "react";
import { stockApi } from "../../api/stock-api.ts";
import { openPart } from "../../state/part-slice.ts";
import { freshItemId, loadStock } from "../../state/stock.ts";
import { useApp } from "../../state/store.ts";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";

interface KeepGroupProps {
  /** The step that was open: it is of the group unless it is taken out. */
  readonly step: StepDocument;
  readonly onClose: () => void;
}

/** Keeps some steps of the part on Stock under a name, so that they can be put into other parts. */
export function KeepGroup({ step, onClose }: KeepGroupProps) {
  const document = useApp((s) => openPart(s).document);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set([step.id]));
  const [name, setName] = useState(step.name ?? stepKind(step.kind)?.title ?? "Group");
  const [told, setTold] = useState<string>();
  const [busy, setBusy] = useState(false);
  if (!document) return null;
  const steps = document.steps;
  const content = groupOf(document, chosen);
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    setChosen(next);
  };
  const keep = async () => {
    const called = name.trim().slice(0, 100);
    const group: KeptGroup = { id: freshItemId("groups", called), name: called, note: "", ...content };
    setBusy(true);
    try {
      await stockApi.save("groups", 0, group);
      await loadStock();
      onClose();
    } catch (error) {
      setTold((error as Error).message);
      setBusy(false);
    }
  };
  const wanting = chosen.size === 0 || name.trim() === "";
  return (
    <Dialog
      open
      onClose={onClose}
      title="Keep steps for other parts"
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="primary" disabled={wanting || busy} data-keep-group onClick={() => void keep()}>
            Keep {chosen.size === 1 ? "1 step" : `${chosen.size} steps`}
          </Button>
        </>
      }
    >
      <label className="mb-3 flex items-baseline gap-3">
        Name
        <input
          data-group-name
          className="grow rounded border border-hairline bg-raised px-1.5 py-0.5"
          value={name}
          maxLength={100}
          onChange={(e) => setName(e.currentTarget.value)}
          onKeyDown={(e) => {
            if (e.key === "Enter" && !wanting && !busy) void keep();
          }}
        />
      </label>
      <ul>
        {steps.map((s, i) => (
          <li key={s.id}>
            <label className="flex items-baseline gap-2">
              <input
                type="checkbox"
                data-grouped={s.id}
                checked={chosen.has(s.id)}
                onChange={() => toggle(s.id)}
              />
              <span className="num w-5 text-right text-quiet">{i + 1}</span>{" "}
              {stepKind(s.kind)?.title ?? s.kind}
              {s.name ? `: ${s.name}` : ""}
            </label>
          </li>
        ))}
      </ul>
      {content.variables.length > 0 && (
        <p className="mt-2 text-quiet">
          The values that they use go along: {content.variables.map((v) => String(v.name)).join(", ")}
        </p>
      )}
      <p className="mt-2 leading-snug text-quiet">
        What they stand on besides one another is picked anew where they are put.
      </p>
      {told && (
        <p role="alert" className="mt-2 text-stop">
          {told}
        </p>
      )}
    </Dialog>
  );
}
