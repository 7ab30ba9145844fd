import { type Outline, outlineFromShapes, readOutlinesText } from "@hillcrest/core";
import { useState } from "react";
import { FileButton } from "../../../ui/file-button.tsx";
import { type DxfShapes, readDxfShapes } from "./dxf-shapes.ts";

/** A drawing file may be so large, bytes. */
const LARGEST_FILE = 40_000_000;

interface ReadOutlinesProps {
  readonly onRead: (outlines: readonly Outline[]) => void;
}

/** Reads outlines from a file: one of our own, or what a DXF draws. Says what was done to it, or why it is none. */
export function ReadOutlines({ onRead }: ReadOutlinesProps) {
  const [told, setTold] = useState<readonly string[]>([]);
  const [unscaled, setUnscaled] = useState<{ readonly name: string; readonly drawn: DxfShapes }>();
  const takeShapes = (name: string, { shapes, others }: DxfShapes, scale: number) => {
    setUnscaled(undefined);
    const made = outlineFromShapes(name, shapes, { scale });
    if (!made.ok) return setTold([`${name}: ${made.error}`]);
    const left = [...others].map(([kind, count]) => `${count} ${kind}`).join(", ");
    setTold([...made.value.notes, ...(left ? [`Left out, for they are no lines or arcs: ${left}.`] : [])]);
    onRead([made.value.outline]);
  };
  const readDxf = async (file: File) => {
    const name = file.name.replace(/\.\w+$/, "").slice(0, 100);
    try {
      const drawn = readDxfShapes(await file.text());
      // Of a file that draws nothing no unit need be known.
      if (drawn.scale === undefined && drawn.shapes.length > 0) setUnscaled({ name, drawn });
      else takeShapes(name, drawn, drawn.scale ?? 1);
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      setTold([`${file.name} cannot be read as a DXF: ${why}`]);
    }
  };
  const readIn = async ([file]: readonly File[]) => {
    setTold([]);
    setUnscaled(undefined);
    if (file.size > LARGEST_FILE)
      return setTold([
        `${file.name} is larger than ${LARGEST_FILE / 1e6} MB: save only what is wanted of it.`,
      ]);
    if (/\.dxf$/i.test(file.name)) return readDxf(file);
    const read = readOutlinesText(await file.text());
    if (read.ok) onRead(read.value);
    else setTold(read.error.map((p) => `${file.name}${p.path ? ` at ${p.path}` : ""}: ${p.message}`));
  };
  const unit = (said: string, scale: number) => (
    <button
      type="button"
      className="font-semibold text-moss hover:underline"
      onClick={() => unscaled && takeShapes(unscaled.name, unscaled.drawn, scale)}
    >
      {said}
    </button>
  );
  return (
    <div className="mt-2">
      <FileButton accept=".json,.dxf,application/json" purpose="outlines" onFiles={readIn}>
        Read an outline in
      </FileButton>
      {unscaled && (
        <p className="mt-2 leading-snug" data-which-units>
          The file does not say in what it is drawn. One unit is {unit("a millimetre", 1)} or{" "}
          {unit("an inch", 25.4)}.
        </p>
      )}
      {told.slice(0, 6).map((line) => (
        <p key={line} role="alert" className="mt-1 leading-snug text-warn">
          {line}
        </p>
      ))}
    </div>
  );
}
