import type { PartBuild } from "../../part/build.ts";
import type { PartDocument } from "../../part/document.ts";
import { fail, ok, type Result } from "../../result.ts";
import type { ExportPreset } from "../../stock/export-preset.ts";
import { drawBlank, isDrawable } from "../drawing/draw-blank.ts";
import { readDxfShapes } from "../dxf/read-shapes.ts";
import { type Comparison, compareBlank } from "./compare-blank.ts";

/** A part and the text of a DXF that came back. */
export interface ReturnedFile {
  readonly document: PartDocument;
  readonly build: PartBuild;
  /** What of the drawing is known and no difference: what the part's own preset writes. */
  readonly preset: ExportPreset;
  readonly text: string;
  readonly within?: number;
}

/** Holds a DXF that came back against the blank as it lies on the part's page; says why it cannot. */
export function compareFile({ document, build, preset, text, within }: ReturnedFile): Result<Comparison> {
  if (!isDrawable(build)) return fail(`“${document.name}” has no blank to compare with.`);
  const read = readDxfShapes(text);
  if (!read.ok) return fail(`The file cannot be read as a DXF: ${read.error}`);
  const drawn = drawBlank({
    document,
    build,
    preset: { ...preset, units: "mm", turn: "page", origin: "corner" },
  });
  return ok(compareBlank(drawn, read.value, within === undefined ? {} : { within }));
}
