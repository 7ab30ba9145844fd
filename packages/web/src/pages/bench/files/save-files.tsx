import {
  DEFAULT_DXF_LAYERS,
  DXF_LAYERS,
  type DxfLayer,
  evenState,
  type PartBuild,
  partStl,
  stops,
  writeDxf,
} from "@hillcrest/core";
import { ChevronDown } from "lucide-react";
import { useState } from "react";
import { findingsOf, openBuild } from "../../../state/build-slice.ts";
import { openPart } from "../../../state/part-slice.ts";
import { type State, type Thunk, useApp, useSend } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";
import { Button } from "../../../ui/button.tsx";
import { download, fileName } from "../../../ui/error-boundary.tsx";
import { FindingMark } from "../../../ui/finding-mark.tsx";
import { Popover } from "../../../ui/popover.tsx";
import { type ProofLine, proveDxf } from "./prove-dxf.ts";

const LAYER_WORDS: Readonly<Record<DxfLayer, string>> = {
  outline: "Outline",
  openings: "Openings",
  bendsUp: "Bends up ▲",
  bendsDown: "Bends down ▼",
  tangents: "Tangent lines",
};

/** The build to write: the latest, never the last good shape of before a mistake. */
const writable = (build: PartBuild | undefined, stale: boolean) =>
  build?.sheet && build.blank && !stale ? build : undefined;

/** Whether a finding stops the part, one of a collision too. */
const partIsStopped = (s: State): boolean => findingsOf(openBuild(s)).some(stops);

/** Save DXF at one click (or Ctrl + E); behind the arrow, what goes into it, its proof, and other files. */
export function SaveFiles() {
  const build = useApp((s) => writable(openBuild(s).latest, openBuild(s).stale));
  const [layers, setLayers] = useState<readonly DxfLayer[]>(DEFAULT_DXF_LAYERS);
  const [open, setOpen] = useState(false);
  const send = useSend();
  const stopped = useApp(partIsStopped);
  return (
    <div className="flex shrink-0">
      <Button
        kind="primary"
        className="rounded-r-none"
        disabled={!build}
        title={build ? "Save the blank as DXF (Ctrl + E)" : "There is nothing to cut yet, or a step is wrong"}
        onClick={() => send(saveDxf(layers))}
      >
        {stopped && <span title="Findings stop this part from being made as it stands">■</span>}
        Save DXF
      </Button>
      <Popover
        label="Files"
        align="end"
        open={open}
        onOpenChange={setOpen}
        trigger={
          <Button
            kind="primary"
            className="rounded-l-none border-l border-panel/40 px-1.5"
            aria-label="What goes into the file, and other files"
          >
            <ChevronDown size={15} />
          </Button>
        }
      >
        <FilesCard build={build} layers={layers} onLayers={setLayers} />
      </Popover>
    </div>
  );
}

interface FilesCardProps {
  readonly build: PartBuild | undefined;
  readonly layers: readonly DxfLayer[];
  readonly onLayers: (layers: readonly DxfLayer[]) => void;
}

/** What goes into the DXF, its proof, and the other files. */
function FilesCard({ build, layers, onLayers }: FilesCardProps) {
  const send = useSend();
  const inches = useUnits() !== "mm";
  const stopped = useApp(partIsStopped);
  return (
    <div className="w-[290px]">
      <h2 className="mb-1.5 font-bold">What goes into the DXF</h2>
      {inches && (
        <p className="mb-1.5 max-w-72 leading-snug text-quiet">
          The file is in millimetres, and says so in its header, also where the part is shown in inches.
        </p>
      )}
      {DXF_LAYERS.map((layer) => (
        <label key={layer} className="flex items-center gap-2 border-t border-hairline/70 py-1.5">
          <input
            type="checkbox"
            className="accent-moss"
            checked={layers.includes(layer)}
            onChange={(e) =>
              onLayers(e.currentTarget.checked ? [...layers, layer] : layers.filter((l) => l !== layer))
            }
          />
          {LAYER_WORDS[layer]}
        </label>
      ))}
      {build && <Proof build={build} layers={layers} />}
      {stopped && (
        <p className="mt-2 leading-snug">
          <FindingMark level="stop" /> Findings stop this part from being made as it stands.
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button disabled={!build} onClick={() => send(saveDxf(layers))}>
          DXF blank
        </Button>
        <Button disabled={!build} onClick={() => send(saveStl())}>
          STL folded
        </Button>
        <Button onClick={() => send(saveDocument())}>Document</Button>
      </div>
    </div>
  );
}

/** The file as another program reads it, compared with the blank, before it is saved. */
function Proof({ build, layers }: { build: PartBuild; layers: readonly DxfLayer[] }) {
  const lines: readonly ProofLine[] = proveDxf(
    writeDxf(build.sheet!, build.blank!, { layers }),
    build.blank!,
    layers,
  );
  return (
    <div className="mt-2 rounded-md border border-hairline bg-moss-soft p-2.5">
      <h3 className="mb-1 text-[12px] font-semibold text-quiet">Read back from the file</h3>
      {lines.map((l) => (
        <p key={l.text} data-proof={l.holds} className="num leading-relaxed">
          <span className={l.holds ? "text-moss" : "text-stop"}>{l.holds ? "✓" : "✗"}</span> {l.text}
        </p>
      ))}
    </div>
  );
}

/** Saves the blank as DXF; nothing where there is none to write. */
export const saveDxf =
  (layers: readonly DxfLayer[] = DEFAULT_DXF_LAYERS): Thunk =>
  (_send, getState) => {
    const { now, document } = toWrite(getState());
    if (!now || !document) return;
    const dxf = writeDxf(now.sheet!, now.blank!, { layers });
    download(`${fileName(document.name)}.dxf`, dxf, "application/dxf");
  };

/** The build to write and the document that it is of. */
function toWrite(state: State) {
  const { latest, stale } = openBuild(state);
  return { now: writable(latest, stale), document: openPart(state).document };
}

const STL_CHORD = 0.02;

const saveStl = (): Thunk => (_send, getState) => {
  const { now, document } = toWrite(getState());
  if (!now || !document) return;
  const stl = partStl(now.sheet!, evenState(now.sheet!, 1), document.anchor, STL_CHORD);
  download(`${fileName(document.name)}.stl`, stl, "model/stl");
};

const saveDocument = (): Thunk => (_send, getState) => {
  const { document } = openPart(getState());
  if (document)
    download(`${fileName(document.name)}.json`, JSON.stringify(document, null, 2), "application/json");
};
