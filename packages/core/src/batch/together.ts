import { sideBySide, tooManyTogether, type Wanted } from "../formats/drawing/side-by-side.ts";
import { writeDxf } from "../formats/dxf/dxf.ts";
import { type ProofLine, proveDxf } from "../formats/dxf/prove-dxf.ts";
import { fail, ok, type Result } from "../result.ts";
import { type ExportPreset, layerFor } from "../stock/export-preset.ts";
import { formatShort } from "../units/quantity.ts";
import type { CutListRow } from "./batch.ts";
import { safeName } from "./file-names.ts";

/** A blank that lies beside others: what is said of it, and its drawing. */
export interface TogetherPart {
  readonly row: CutListRow;
  readonly drawn: Wanted["drawn"];
}

export interface TogetherOrder {
  readonly preset: ExportPreset;
  /** Between blanks, mm. */
  readonly spacing: number;
  /** A file for each stock, or all in one with each stock in a group of its own. */
  readonly stocks: "files" | "groups";
}

/** A DXF of blanks side by side, proven as a whole. */
export interface TogetherFile {
  /** What it is of: one stock, or all. */
  readonly name: string;
  readonly text: string;
  readonly proof: readonly ProofLine[];
  /** Which of the parts are in it, by their places in the list. */
  readonly parts: readonly number[];
}

/** Material and thickness, as a sheet is asked for: blanks of one are cut from one sheet. */
export const stockOfRow = ({ material, thickness }: CutListRow): string =>
  `${material} ${formatShort(thickness, 3)} mm`.trim();

/** Lays blanks side by side, never two stocks in one heap; says why that cannot be. */
export function togetherFiles(
  parts: readonly TogetherPart[],
  { preset, spacing, stocks }: TogetherOrder,
): Result<readonly TogetherFile[]> {
  if (parts.length === 0) return fail("None of these parts can be written.");
  const all = parts.map(({ row, drawn }, i) => ({
    i,
    drawn,
    quantity: row.quantity,
    stock: stockOfRow(row),
    label: `${row.part}, ${stockOfRow(row)}`,
  }));
  const kinds = [...new Set(all.map((w) => w.stock))];
  const heaps = stocks === "files" ? kinds.map((k) => all.filter((w) => w.stock === k)) : [all];
  const tooMany = heaps.map(tooManyTogether).find((why) => why !== undefined);
  if (tooMany) return fail(tooMany);
  const files: TogetherFile[] = [];
  for (const heap of heaps) {
    const { unit } = heap[0].drawn;
    const drawn = sideBySide(heap, spacing / unit, {
      layer: layerFor(preset, "notes"),
      height: preset.textHeight / unit,
      text: preset.text,
    });
    const text = writeDxf(drawn.drawing, { version: preset.version, remarks: drawn.stops });
    const proof = proveDxf(text, drawn, preset.version);
    const wrong = proof.lines.find((l) => !l.holds);
    if (wrong) return fail(`Read back, the file is not what was drawn: ${wrong.text}`);
    const name = heaps.length > 1 ? safeName(heap[0].stock) : "parts";
    files.push({ name, text, proof: proof.lines, parts: heap.map((w) => w.i) });
  }
  return ok(files);
}
