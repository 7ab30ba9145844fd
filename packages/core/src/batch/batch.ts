import { examinePart, isStopped } from "../check/check.ts";
import { choicesOf } from "../fields/field-kinds.ts";
import { csvText } from "../formats/csv/csv.ts";
import { type BlankToDraw, drawBlank, isDrawable } from "../formats/drawing/draw-blank.ts";
import type { DrawnBlank } from "../formats/drawing/drawing.ts";
import type { ProofLine } from "../formats/dxf/prove-dxf.ts";
import { fileFormat } from "../formats/registry.ts";
import { type BlankFacts, blankFacts } from "../part/blank-facts.ts";
import { orientationOf } from "../part/blank-settings.ts";
import type { PartDocument } from "../part/document.ts";
import { STOCK_FIELDS, stockRaw } from "../part/stock.ts";
import type { ExportPreset } from "../stock/export-preset.ts";
import { formatFixed, formatShort } from "../units/quantity.ts";
import { distinctNames, type NameWord, nameBy } from "./file-names.ts";

/** One part of many that leave at once. */
export interface BatchPart {
  readonly document: PartDocument;
  readonly quantity: number;
}

/** How many parts leave. */
export interface BatchOrder {
  /** The key of a file format. */
  readonly format: string;
  readonly preset: ExportPreset;
  /** Whether a part of several pieces leaves as a file for each. */
  readonly apart: boolean;
  /** Whether parts that findings stop leave all the same. */
  readonly anyway: boolean;
}

/** A file of a part, and what its name is made of. */
export interface BatchFile {
  readonly words: Readonly<Record<NameWord, string>>;
  readonly content: string | Uint8Array;
  readonly proof: readonly ProofLine[];
}

/** What a cut list says of one part. Lengths in mm, area in mm², mass in kg. */
export interface CutListRow {
  readonly part: string;
  readonly material: string;
  readonly thickness: number;
  readonly quantity: number;
  readonly width?: number;
  readonly height?: number;
  readonly area?: number;
  readonly cutting?: number;
  readonly openings?: number;
  readonly bends?: number;
  readonly mass?: number;
  readonly grain?: string;
  readonly side?: string;
  /** Why there is no file of it. */
  readonly refused?: string;
}

export interface BatchAnswer {
  readonly files: readonly BatchFile[];
  readonly row: CutListRow;
  /** What the blank is, in numbers, where there is a file of it. */
  readonly facts?: BlankFacts;
}

/** The material of a part, as it is called. */
export const materialOfPart = (document: PartDocument): string =>
  choicesOf(STOCK_FIELDS, stockRaw(document.stock)).material ?? "";

/** A part that can be drawn, or why there is no file of it. */
function readyPart({ document, quantity }: BatchPart, anyway: boolean) {
  const build = examinePart(document);
  const { stock, blank, folded } = build;
  const head = {
    part: document.name,
    material: materialOfPart(document),
    thickness: stock?.thickness ?? 0,
    quantity,
  };
  if (!isDrawable(build)) return { row: { ...head, refused: "there is no blank to cut" } };
  const row: CutListRow = {
    ...head,
    width: blank!.width,
    height: blank!.height,
    area: blank!.area,
    cutting: blank!.lengths.cutting,
    openings: blank!.openings.length,
    bends: build.bends.length,
    mass: folded?.mass ?? 0,
    grain: stock?.grain ? `along ${stock.grain.toUpperCase()}` : "",
    side: orientationOf(document, stock).side,
  };
  if (isStopped(build) && !anyway) {
    const why = build.findings.find((f) => f.level === "stop" && !f.accepted)?.message ?? "";
    return { row: { ...row, refused: `a finding stops it: ${why}` } };
  }
  return { row, build };
}

/** Makes the files of one part: none where it has no blank, findings stop it, or a file's proof does not hold. */
export function batchPart(part: BatchPart, order: BatchOrder): BatchAnswer {
  const { document, quantity } = part;
  const { row, build } = readyPart(part, order.anyway);
  const format = fileFormat(order.format);
  if (!build || !format)
    return { files: [], row: format ? row : { ...row, refused: `there is no format ${order.format}` } };
  const count = order.apart && format.of === "blank" ? build.blank.outlines.length : 1;
  const pieces = count > 1 ? build.blank.outlines.map((_, i) => i) : [undefined];
  const files = pieces.map((piece): BatchFile => {
    const job: BlankToDraw = { document, build, preset: order.preset, piece };
    const { content, proof } = format.make(job);
    return {
      words: {
        part: document.name,
        material: row.material,
        thickness: formatShort(row.thickness, 3),
        quantity: String(quantity),
        piece: piece === undefined ? "1" : String(piece + 1),
        number: "",
      },
      content,
      proof: proof?.lines ?? [],
    };
  });
  const wrong = files.flatMap((f) => f.proof).find((l) => !l.holds);
  return wrong
    ? { files: [], row: { ...row, refused: `its proof does not hold: ${wrong.text}` } }
    : { files, row, facts: blankFacts(build) };
}

/** Draws one part for a file that all parts share. */
export function batchDrawing(
  part: BatchPart,
  order: BatchOrder,
): { drawn?: DrawnBlank; row: CutListRow; facts?: BlankFacts } {
  const { row, build } = readyPart(part, order.anyway);
  return build
    ? {
        row,
        drawn: drawBlank({ document: part.document, build, preset: order.preset }),
        facts: blankFacts(build),
      }
    : { row };
}

/** The cut list as CSV: what is to be cut of what, how often, and why something is not. */
export function cutListCsv(rows: readonly NamedRow[]): string {
  const length = (v: number | undefined, places = 3) => (v === undefined ? "" : formatFixed(v, places));
  return csvText([
    [
      "file",
      "part",
      "material",
      "thickness mm",
      "quantity",
      "width mm",
      "height mm",
      "area mm²",
      "cutting length mm",
      "openings",
      "bends",
      "mass kg",
      "grain",
      "side up",
      "not written because",
    ],
    ...rows.map((r) => [
      r.file,
      r.part,
      r.material,
      formatShort(r.thickness, 3),
      r.quantity,
      length(r.width),
      length(r.height),
      length(r.area),
      length(r.cutting),
      r.openings ?? "",
      r.bends ?? "",
      length(r.mass),
      r.grain ?? "",
      r.side ?? "",
      r.refused ?? "",
    ]),
  ]);
}

/** What parts have come to, each with its files in their order. */
export interface FilesOfPart<F> {
  readonly row: CutListRow;
  readonly files: readonly F[];
}

/** Names for the files of many parts, by a pattern and none twice, and the rows of their cut list. */
export function namedFiles<F extends Pick<BatchFile, "words">>(
  parts: readonly FilesOfPart<F>[],
  pattern: string,
  ending: string,
): { readonly files: readonly (F & { readonly name: string })[]; readonly rows: readonly NamedRow[] } {
  const all = parts.flatMap((p) => p.files);
  const names = distinctNames(
    all.map(({ words }, i) => nameBy(pattern, { ...words, number: String(i + 1) })),
  ).map((name) => `${name}.${ending}`);
  let at = 0;
  const rows = parts.map(({ row, files }): NamedRow => {
    const own = names.slice(at, at + files.length);
    at += own.length;
    return { ...row, file: own.join(" ") };
  });
  return { files: all.map((f, i) => ({ ...f, name: names[i] })), rows };
}

/** A row of a cut list with the names of its files. */
export type NamedRow = CutListRow & { readonly file: string };

/** The proofs of many files, as one text. */
export function proofsText(
  files: readonly { readonly name: string; readonly proof: readonly ProofLine[]; readonly sha256?: string }[],
): string {
  return files
    .map(({ name, proof, sha256 }) =>
      [
        name,
        ...(sha256 ? [`  sha256 ${sha256}`] : []),
        ...proof.map((l) => `  ${l.holds ? "holds" : "DOES NOT HOLD"}: ${l.text}`),
      ].join("\n"),
    )
    .join("\n\n")
    .concat("\n");
}
