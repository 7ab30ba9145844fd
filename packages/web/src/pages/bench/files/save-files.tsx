import { FILE_FORMATS, safeName, stops } from "@hillcrest/core";
import { ChevronDown } from "lucide-react";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { findingsOf, openBuild } from "../../../state/build-slice.ts";
import { download } from "../../../state/download.ts";
import { partPreset, saveFile } from "../../../state/exporting.ts";
import type { HowSaved, SaveOutcome } from "../../../state/exporting-slice.ts";
import { openPart } from "../../../state/part-slice.ts";
import { useStock } from "../../../state/stock.ts";
import { type State, type Thunk, useApp, useSend } from "../../../state/store.ts";
import { Button } from "../../../ui/button.tsx";
import { FindingMark } from "../../../ui/finding-mark.tsx";
import { Popover } from "../../../ui/popover.tsx";
import { LiveProof } from "../../blank/file-panel.tsx";
import { SaveOutcomeLine } from "../../blank/save-outcome.tsx";

/** Whether a finding stops the part, one of a collision too. */
const partIsStopped = (s: State): boolean => findingsOf(openBuild(s)).some(stops);

/** Whether there is something to write: the latest build, never the last good shape of before a mistake. */
const isWritable = (s: State): boolean => {
  const { latest, stale } = openBuild(s);
  return !stale && latest?.sheet !== undefined && latest.blank !== undefined;
};

/** Save DXF at one click (or Ctrl + E); behind the arrow, its proof, other files, and the page of the blank. */
export function SaveFiles() {
  useStock();
  const writable = useApp(isWritable);
  const [open, setOpen] = useState(false);
  const outcome = useApp((s) => s.exporting.outcome);
  const waiting = useApp((s) => s.exporting.waiting);
  const refused = outcome && "refused" in outcome ? outcome : undefined;
  const send = useSend();
  const stopped = useApp(partIsStopped);
  const save = async (key: string, how?: HowSaved) => {
    const saved = await send(saveFile(key, how));
    // What was asked about is answered: the card no longer stands over what is worked on.
    if (saved && how?.anyway) setOpen(false);
  };
  // Why nothing was saved is told where it was asked for, by whatever hand.
  useEffect(() => {
    if (refused) setOpen(true);
  }, [refused]);
  return (
    <div className="flex shrink-0">
      <Button
        kind="primary"
        className="rounded-r-none"
        disabled={!writable}
        aria-busy={waiting}
        title={
          waiting
            ? "Looking for collisions before it is saved"
            : writable
              ? "Save the blank as DXF (Ctrl + E)"
              : "There is nothing to cut yet, or a step is wrong"
        }
        onClick={() => void save("dxf")}
      >
        {stopped && <span title="Findings stop this part from being made as it stands">■</span>}
        {waiting ? "Save DXF…" : "Save DXF"}
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
            aria-label="The file's proof, and other files"
          >
            <ChevronDown size={15} />
          </Button>
        }
      >
        <FilesCard writable={writable} refused={refused} onSave={(key, how) => void save(key, how)} />
      </Popover>
    </div>
  );
}

interface FilesCardProps {
  readonly writable: boolean;
  readonly refused?: SaveOutcome;
  readonly onSave: (key: string, how?: HowSaved) => void;
}

/** The DXF as it is read back, the other files, and where more is said of them. */
function FilesCard({ writable, refused, onSave }: FilesCardProps) {
  const send = useSend();
  const stopped = useApp(partIsStopped);
  const id = useApp((s) => openPart(s).id);
  const { preset } = useApp(partPreset);
  return (
    <div className="w-[300px]">
      <h2 className="mb-1.5 flex items-baseline justify-between gap-3 font-bold">
        The DXF, read back
        <Link className="font-semibold text-moss" to={`/parts/${id}/blank`}>
          {preset.name}…
        </Link>
      </h2>
      {refused && (
        <div className="mb-2">
          <SaveOutcomeLine outcome={refused} onAnyway={(key, how) => onSave(key, how)} />
        </div>
      )}
      {writable && <LiveProof preset={preset} />}
      {stopped && !refused && (
        <p className="mt-2 leading-snug">
          <FindingMark level="stop" /> Findings stop this part from being made as it stands.
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button disabled={!writable} onClick={() => onSave("dxf")}>
          DXF blank
        </Button>
        {FILE_FORMATS.filter((f) => ["stl", "3mf", "glb"].includes(f.key)).map((f) => (
          <Button key={f.key} disabled={!writable} onClick={() => onSave(f.key)}>
            {f.label} folded
          </Button>
        ))}
        <Button onClick={() => send(saveDocument())}>Document</Button>
      </div>
    </div>
  );
}

const saveDocument = (): Thunk => (_send, getState) => {
  const { document } = openPart(getState());
  if (document)
    download(`${safeName(document.name)}.json`, JSON.stringify(document, null, 2), "application/json");
};
