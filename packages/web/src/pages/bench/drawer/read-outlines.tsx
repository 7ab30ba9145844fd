import { type DrawnShapes, type Outline, outlineFromShapes, readOutlinesText } from "@hillcrest/core";
import { useState } from "react";
import { isDrawing } from "../../../drawing-files/is-drawing.ts";
import { leftOut, type ReadDrawing, readDrawing } from "../../../drawing-files/read-drawing.ts";
import { FileButton } from "../../../ui/file-button.tsx";

interface ReadOutlinesProps {
  readonly onRead: (outlines: readonly Outline[]) => void;
}

/** Reads outlines from a file: one of our own, or what a DXF or an SVG draws. Says what was done to it, or why it is none. */
export function ReadOutlines({ onRead }: ReadOutlinesProps) {
  const [told, setTold] = useState<readonly string[]>([]);
  const [unscaled, setUnscaled] = useState<ReadDrawing>();
  const takeShapes = (name: string, drawn: DrawnShapes, scale: number) => {
    setUnscaled(undefined);
    const made = outlineFromShapes(name, drawn.shapes, { scale });
    if (!made.ok) return setTold([`${name}: ${made.error}`]);
    setTold([...made.value.notes, ...leftOut(drawn)]);
    onRead([made.value.outline]);
  };
  const readShapes = async (file: File) => {
    const read = await readDrawing(file);
    if (!read.ok) return setTold([read.error]);
    const { name, drawn } = read.value;
    // Of a file that draws nothing no unit need be known.
    if (drawn.scale === undefined && drawn.shapes.length > 0) setUnscaled({ name, drawn });
    else takeShapes(name, drawn, drawn.scale ?? 1);
  };
  const readIn = async ([file]: readonly File[]) => {
    setTold([]);
    setUnscaled(undefined);
    if (isDrawing(file)) return readShapes(file);
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
      <FileButton accept=".json,.dxf,.svg,application/json,image/svg+xml" purpose="outlines" onFiles={readIn}>
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
