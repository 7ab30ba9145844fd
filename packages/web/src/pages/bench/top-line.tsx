import { History } from "lucide-react";
import { Link } from "react-router";
import { openPart, partActions } from "../../state/part-slice.ts";
import { useApp, useSend } from "../../state/store.ts";
import { Logo } from "../../ui/logo.tsx";
import { ThemeSwitch } from "../../ui/page-head.tsx";
import { UndoButtons } from "../../ui/undo-buttons.tsx";
import { PartName } from "../part/part-name.tsx";
import { SavingState } from "../part/saving-state.tsx";
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
          to={`/parts/${id}/blank`}
          title="The blank large: how it lies, its dimensions, its files"
          className="grid h-8 place-items-center rounded px-2 font-semibold text-quiet hover:bg-moss-soft hover:text-ink"
        >
          Blank…
        </Link>
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
