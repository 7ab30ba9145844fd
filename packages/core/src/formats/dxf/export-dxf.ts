import { type BlankToDraw, drawBlank } from "../drawing/draw-blank.ts";
import type { DrawnBlank } from "../drawing/drawing.ts";
import { writeDxf } from "./dxf.ts";
import { type Proof, proveDxf } from "./prove-dxf.ts";

/** A blank as the text of a DXF file, and what reading that back has shown. */
export interface DxfExport {
  readonly text: string;
  readonly proof: Proof;
  readonly drawn: DrawnBlank;
}

/** Draws a blank, writes it, and reads it back. Whoever offers the file asks first whether its proof holds. */
export function exportDxf(job: BlankToDraw): DxfExport {
  const { version } = job.preset;
  const drawn = drawBlank(job);
  const text = writeDxf(drawn.drawing, { version, remarks: drawn.stops });
  return { text, drawn, proof: proveDxf(text, drawn, version) };
}
