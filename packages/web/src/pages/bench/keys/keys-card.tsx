import { DRAW_TOOLS } from "@hillcrest/core";
import { Keyboard } from "lucide-react";
import { Fragment } from "react";
import { drawnNow } from "../../../state/drawing.ts";
import { useApp } from "../../../state/store.ts";
import { Button, Key } from "../../../ui/button.tsx";
import { Popover } from "../../../ui/popover.tsx";

const KEYS: readonly (readonly [string, string])[] = [
  ["P", "first plate of an empty part"],
  ["F", "flange on the picked edges, else look from the front"],
  ["O M", "round hole where a plate is pointed at; with its distances from two edges"],
  ["H L D J S", "hem, lug, fold, jog, split from the picked edge"],
  ["C D V P", "there a cut, a drawn cut, a vent, a shape formed out of it"],
  ["R C", "round or chamfer the picked corner"],
  ["W K", "walls all round the picked plate; match what is behind it"],
  ["X", "close the corner of two flanges; an opening over the picked bend"],
  ["H C", "show the picked bend flat; change it"],
  ["A", "all edges or corners like the picked one; keep the picked plate still"],
  ["E", "edit the step of what is picked"],
  ["T R I", "look from the top, the right, obliquely"],
  ["Z", "fit into the views"],
  ["1 2 3", "folded only, both, blank only"],
  ["Space", "fold or unfold"],
  ["L", "letters of the plates"],
  ["B", "bend list"],
  ["F8", "next finding; with Shift the one before"],
  ["Shift + click", "pick more"],
  ["Alt + ↑ ↓", "move the open step"],
  ["Ctrl + C V", "carry the open step along, also to another part or onto the plate pointed at"],
  ["Ctrl + Z", "undo; with Shift redo"],
  ["Ctrl + E", "save the DXF"],
  ["Esc", "let go of everything"],
];

const DRAWING_KEYS: readonly (readonly [string, string])[] = [
  ...DRAW_TOOLS.map((t) => [t.key.toUpperCase(), t.title] as const),
  ["D", "dimension of what is picked"],
  ["1 … 9", "what is offered for what is picked"],
  ["0 … 9", "the tool's first number; Tab goes on, Enter sets the place"],
  ["Q", "only to draw by: what is picked, or what is drawn from now on"],
  ["Alt", "nothing is caught while it is held"],
  ["Delete", "remove what is picked"],
  ["Z", "fit into the view"],
  ["Enter", "the drawing is done"],
];

/** What the keys do: those of the drawing while something is drawn. */
export function KeysCard() {
  const drawing = useApp((s) => drawnNow(s) !== undefined);
  return (
    <Popover
      label="Keys"
      align="end"
      trigger={
        <Button kind="icon" aria-label="Keys" title="Keys">
          <Keyboard size={16} />
        </Button>
      }
    >
      <h2 className="mb-2 font-bold">Keys and mouse</h2>
      <dl
        className={`grid items-baseline gap-x-4 gap-y-1 ${drawing ? "grid-cols-[auto_1fr_auto_1fr]" : "grid-cols-[auto_1fr]"}`}
      >
        {(drawing ? DRAWING_KEYS : KEYS).map(([key, what]) => (
          <Fragment key={key}>
            <dt className="text-right">
              <Key>{key}</Key>
            </dt>
            <dd>{what}</dd>
          </Fragment>
        ))}
      </dl>
      <p className="mt-2 max-w-[330px] border-t border-hairline pt-2 text-quiet">
        {drawing
          ? "Drag what is dashed to move it, nothing to move the view; the wheel zooms to the pointer. "
          : "Folded view: right drag turns, middle drag moves, the wheel zooms to the pointer. Blank: drag moves. "}
        Numbers take expressions and units: 3/4in, 2*t + 1.
      </p>
    </Popover>
  );
}
