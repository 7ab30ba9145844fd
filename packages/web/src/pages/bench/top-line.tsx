import { LONGEST_NAME } from "@hillcrest/core";
import { History } from "lucide-react";
import { useState } from "react";
import { flushSync } from "react-dom";
import { Link } from "react-router";
import { setPartValues } from "../../state/edits.ts";
import { openPart, partActions } from "../../state/part-slice.ts";
import { saveNow } from "../../state/saving.ts";
import { useApp, useSend } from "../../state/store.ts";
import { Logo } from "../../ui/logo.tsx";
import { ThemeSwitch } from "../../ui/page-head.tsx";
import { UndoButtons } from "../../ui/undo-buttons.tsx";
import { wholeValue } from "../../ui/whole-value.ts";
import { SaveFiles } from "./files/save-files.tsx";
import { KeysCard } from "./keys/keys-card.tsx";
import { StockChip } from "./stock/stock-chip.tsx";

export function TopLine() {
  const send = useSend();
  const id = useApp((s) => openPart(s).id);
  const canUndo = useApp((s) => openPart(s).trail.past.length > 0);
  const canRedo = useApp((s) => openPart(s).trail.future.length > 0);
  return (
    <header className="flex h-11 shrink-0 items-center gap-3 border-b border-hairline bg-panel px-3.5">
      <Link to="/" className="flex items-center gap-3 rounded text-quiet hover:text-ink" aria-label="Shelf">
        <Logo />
        <span>Shelf</span>
      </Link>
      <PartName />
      <SavingState />
      <div className="flex min-w-0 grow justify-center">
        <StockChip />
      </div>
      <div className="flex items-center">
        <UndoButtons
          canUndo={canUndo}
          canRedo={canRedo}
          onUndo={() => send(partActions.undone())}
          onRedo={() => send(partActions.redone())}
        />
        <Link
          to={`/parts/${id}/history`}
          aria-label="History"
          title="History: what was saved, and going back to it"
          className="grid size-8 place-items-center rounded text-quiet hover:bg-moss-soft hover:text-ink"
        >
          <History size={16} />
        </Link>
        <KeysCard />
        <ThemeSwitch />
      </div>
      <SaveFiles />
    </header>
  );
}

/** The name, edited in place. An empty one is not taken. */
function PartName() {
  const name = useApp((s) => openPart(s).document!.name);
  const [draft, setDraft] = useState<string>();
  const keep = () => {
    const next = draft?.trim();
    if (next && next !== name) setPartValues({ name: next });
    setDraft(undefined);
  };
  return (
    <input
      aria-label="Part name"
      title={name}
      value={draft ?? name}
      maxLength={LONGEST_NAME}
      className="field-sizing-content max-w-[300px] min-w-16 shrink truncate rounded bg-transparent px-1 text-[16px] font-bold hover:bg-moss-soft focus:bg-raised"
      {...wholeValue}
      onChange={(e) => setDraft(e.currentTarget.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") e.currentTarget.blur();
        if (e.key === "Escape") {
          // Leaving the field keeps what stands in it: first it must be the old name again.
          flushSync(() => setDraft(undefined));
          e.currentTarget.blur();
        }
      }}
    />
  );
}

function SavingState() {
  const id = useApp((s) => openPart(s).id);
  const saving = useApp((s) => openPart(s).saving);
  const conflict = useApp((s) => openPart(s).conflict);
  let text: string;
  let tone = "text-quiet";
  switch (saving.at) {
    case "saved":
      text = "saved";
      break;
    case "waiting":
    case "saving":
      text = "saving…";
      break;
    case "unreachable":
      text = "not saved yet: no server, trying again";
      tone = "text-warn font-semibold";
      break;
    case "refused":
      text = conflict ? "saved elsewhere too" : `not saved: ${saving.message}`;
      tone = "text-stop font-semibold";
      break;
  }
  return (
    <span data-saving={saving.at} role="status" className={`max-w-64 shrink truncate ${tone}`} title={text}>
      {text}
      {saving.at === "unreachable" && (
        <button type="button" className="ml-2 text-moss underline" onClick={() => void saveNow(id!)}>
          now
        </button>
      )}
    </span>
  );
}
