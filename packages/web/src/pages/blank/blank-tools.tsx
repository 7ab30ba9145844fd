import {
  BLANK_TURNS,
  type BlankDimension,
  type BlankShow,
  type BlankTurn,
  DEFAULT_SHOWS,
  type DimensionAlong,
  type PlacedBlank,
} from "@hillcrest/core";
import { ChevronDown, Trash2 } from "lucide-react";
import { useState } from "react";
import { blankSettings, setBlank } from "../../state/exporting.ts";
import { useApp, useSend } from "../../state/store.ts";
import { Button } from "../../ui/button.tsx";
import { FileButton } from "../../ui/file-button.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { NumberBox } from "../../ui/number-box.tsx";
import { Popover } from "../../ui/popover.tsx";

/** What the pointer is for on the page of the blank. */
export type BlankTool = "look" | "dimension" | "datum" | "edge";

const TURN_WORDS: Readonly<Record<BlankTurn, string>> = {
  modelled: "as modelled",
  longest: "longest edge level",
  smallest: "smallest rectangle",
  grain: "grain level",
  angle: "by an angle",
  edge: "a picked edge level",
};

export const sayTurn = (turn: BlankTurn = "modelled"): string => TURN_WORDS[turn];

interface BlankToolsProps {
  readonly placed: PlacedBlank;
  readonly tool: BlankTool;
  readonly onTool: (tool: BlankTool) => void;
  readonly onPrint: () => void;
  readonly onCompare: (file: File) => void;
}

/** How the blank lies, what is shown with it, and what can be done on it. */
export function BlankTools({ placed, tool, onTool, onPrint, onCompare }: BlankToolsProps) {
  const send = useSend();
  const settings = useApp(blankSettings);
  return (
    <div className="flex flex-wrap items-center gap-2" data-blank-tools>
      <label className="flex h-8 items-center gap-2 rounded-md border border-hairline bg-panel px-2.5">
        <span className="text-quiet">Lies</span>
        <select
          aria-label="How the blank lies"
          className="bg-transparent font-semibold outline-none"
          value={settings.turn ?? "modelled"}
          onChange={(e) => {
            const turn = e.currentTarget.value as BlankTurn;
            send(setBlank({ turn: turn === "modelled" ? undefined : turn }));
            onTool(turn === "edge" ? "edge" : "look");
          }}
        >
          {BLANK_TURNS.map((turn) => (
            <option key={turn} value={turn}>
              {TURN_WORDS[turn]}
            </option>
          ))}
        </select>
        {settings.turn === "angle" && (
          <span className="w-16">
            <NumberBox
              label="Angle that the blank is turned by"
              field="turn-angle"
              value={settings.angle ?? 0}
              dimension="angle"
              bare
              problem={(v) => (Math.abs(v) <= 360 ? undefined : "It must be from -360° to 360°.")}
              onChange={(angle, mark) => send(setBlank({ angle }, mark))}
            />
          </span>
        )}
        {settings.turn === "edge" && (
          <button type="button" className="font-semibold text-moss" onClick={() => onTool("edge")}>
            {settings.edge ? "another" : "pick it"}
          </button>
        )}
      </label>
      <Button
        title="See the blank from its other side: bends up are then bends down, text stays readable"
        onClick={() => send(setBlank({ side: placed.side === "B" ? "A" : "B" }))}
      >
        Side {placed.side} up
      </Button>
      <Shows />
      <Button
        aria-pressed={tool === "dimension"}
        className={tool === "dimension" ? "border-moss bg-moss-soft" : ""}
        title="Click two things; the same one twice for its own size (D)"
        onClick={() => onTool(tool === "dimension" ? "look" : "dimension")}
      >
        Dimension
      </Button>
      <Button
        aria-pressed={tool === "datum"}
        className={tool === "datum" ? "border-moss bg-moss-soft" : ""}
        title="Pick the edge that distances of bend lines are taken from"
        onClick={() => onTool(tool === "datum" ? "look" : "datum")}
      >
        Datum edges
      </Button>
      <Button onClick={onPrint}>Print…</Button>
      <FileButton accept=".dxf" purpose="returned" onFiles={([file]) => onCompare(file)}>
        Compare a DXF
      </FileButton>
      {placed.problem && (
        <span role="alert" className="rounded bg-panel px-2 py-1">
          <FindingMark level="warn" /> {placed.problem}
        </span>
      )}
    </div>
  );
}

const SHOW_WORDS: readonly (readonly [BlankShow, string])[] = [
  ["bends", "Bend lines"],
  ["letters", "Letters of plates"],
  ["numbers", "Numbers of bends"],
  ["notes", "Angle and radius at bends"],
  ["tangents", "Tangent lines"],
  ["innerMould", "Inner mould lines"],
  ["outerMould", "Outer mould lines"],
  ["ordinates", "Distances of bend lines"],
  ["marks", "What is engraved"],
  ["grain", "Grain"],
];

/** What is drawn with the blank. */
function Shows() {
  const send = useSend();
  const [open, setOpen] = useState(false);
  const { shows = DEFAULT_SHOWS } = useApp(blankSettings);
  return (
    <Popover
      label="What is shown"
      open={open}
      onOpenChange={setOpen}
      trigger={
        <Button>
          Shown <ChevronDown size={14} />
        </Button>
      }
    >
      <div className="w-56">
        {SHOW_WORDS.map(([key, label]) => (
          <label key={key} className="flex items-center gap-2 py-1">
            <input
              type="checkbox"
              data-show={key}
              className="accent-moss"
              checked={shows.includes(key)}
              onChange={(e) =>
                send(
                  setBlank({
                    shows: e.currentTarget.checked ? [...shows, key] : shows.filter((s) => s !== key),
                  }),
                )
              }
            />
            {label}
          </label>
        ))}
      </div>
    </Popover>
  );
}

const ALONG: readonly (readonly [DimensionAlong, string])[] = [
  ["shortest", "shortest"],
  ["level", "across"],
  ["upright", "up"],
];

interface DimensionCardProps {
  readonly dimension: BlankDimension;
  readonly text?: string;
  readonly onChange: (next: BlankDimension) => void;
  readonly onRemove: () => void;
}

/** The dimension that is picked: how it is measured, and taking it away. */
export function DimensionCard({ dimension, text, onChange, onRemove }: DimensionCardProps) {
  return (
    <div
      data-dimension-card
      className="flex items-center gap-3 rounded-lg border border-hairline bg-panel px-3 py-1.5 shadow-card"
    >
      <b>Dimension</b>
      <span className="num">{text ?? "cannot be measured so"}</span>
      {dimension.to && (
        <fieldset className="flex gap-1">
          <legend className="sr-only">Measured</legend>
          {ALONG.map(([along, label]) => (
            <Button
              key={along}
              kind="quiet"
              aria-pressed={dimension.along === along}
              className={dimension.along === along ? "bg-moss-soft text-ink" : ""}
              onClick={() => onChange({ ...dimension, along })}
            >
              {label}
            </Button>
          ))}
        </fieldset>
      )}
      <Button kind="icon" aria-label="Remove this dimension" title="Remove (Delete)" onClick={onRemove}>
        <Trash2 size={15} />
      </Button>
    </div>
  );
}
