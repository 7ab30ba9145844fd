import { Redo2, Undo2 } from "lucide-react";
import { Button } from "./button.tsx";

interface UndoButtonsProps {
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly onUndo: () => void;
  readonly onRedo: () => void;
}

/** A step back and a step on again, as everywhere. */
export const UndoButtons = ({ canUndo, canRedo, onUndo, onRedo }: UndoButtonsProps) => (
  <>
    <Button kind="icon" disabled={!canUndo} aria-label="Undo" title="Undo (Ctrl + Z)" onClick={onUndo}>
      <Undo2 size={16} />
    </Button>
    <Button
      kind="icon"
      disabled={!canRedo}
      aria-label="Redo"
      title="Redo (Ctrl + Shift + Z)"
      onClick={onRedo}
    >
      <Redo2 size={16} />
    </Button>
  </>
);
