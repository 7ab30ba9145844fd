import { History } from "lucide-react";
import { Link } from "react-router";
import { openPart } from "../../state/part-slice.ts";
import { useApp } from "../../state/store.ts";
import { ThemeSwitch } from "../../ui/page-head.tsx";
import { PartUndo, ShelfLink } from "../part/part-head.tsx";
import { usePartLinks } from "../part/part-links.ts";
import { PartName } from "../part/part-name.tsx";
import { SavingState } from "../part/saving-state.tsx";
import { SaveFiles } from "./files/save-files.tsx";
import { KeysCard } from "./keys/keys-card.tsx";
import { StockChip } from "./stock/stock-chip.tsx";

export function TopLine() {
  const id = useApp((s) => openPart(s).id);
  const links = usePartLinks();
  return (
    <header className="flex h-11 shrink-0 items-center gap-3 border-b border-hairline bg-panel px-3.5">
      <ShelfLink />
      <PartName />
      <SavingState />
      <div className="flex min-w-0 grow justify-center">
        <StockChip />
      </div>
      <div className="flex items-center">
        <PartUndo />
        {links.map(({ path, label, about }) => (
          <Link
            key={path}
            to={`/parts/${id}/${path}`}
            title={about}
            className="grid h-8 place-items-center rounded px-2 font-semibold text-quiet hover:bg-moss-soft hover:text-ink"
          >
            {label}
          </Link>
        ))}
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
