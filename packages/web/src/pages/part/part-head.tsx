import { Link } from "react-router";
import { openPart, partActions } from "../../state/part-slice.ts";
import { useApp, useSend } from "../../state/store.ts";
import { Logo } from "../../ui/logo.tsx";
import { UndoButtons } from "../../ui/undo-buttons.tsx";

/** The way back to all parts. */
export const ShelfLink = () => (
  <Link to="/" className="flex items-center gap-3 rounded text-quiet hover:text-ink" aria-label="Shelf">
    <Logo />
    <span>Shelf</span>
  </Link>
);

/** A step back and on again in what was done to the open part, on whichever of its pages. */
export function PartUndo() {
  const send = useSend();
  const canUndo = useApp((s) => openPart(s).trail.past.length > 0);
  const canRedo = useApp((s) => openPart(s).trail.future.length > 0);
  return (
    <UndoButtons
      canUndo={canUndo}
      canRedo={canRedo}
      onUndo={() => send(partActions.undone())}
      onRedo={() => send(partActions.redone())}
    />
  );
}
