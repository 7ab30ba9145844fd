import { type CheckedBuild, examineFully } from "../check/check.ts";
import { choicesOf } from "../fields/field-kinds.ts";
import { csvText } from "../formats/csv/csv.ts";
import { type BlankToDraw, isDrawable } from "../formats/drawing/draw-blank.ts";
import type { DrawnBlank } from "../formats/drawing/drawing.ts";
import type { ProofLine } from "../formats/dxf/prove-dxf.ts";
import { fileFormat } from "../formats/registry.ts";
import { type BlankFacts, blankFacts } from "../part/blank-facts.ts";
import { orientationOf } from "../part/blank-settings.ts";
import type { PartDocument } from "../part/document.ts";
import { STOCK_FIELDS, stockRaw } from "../part/stock.ts";
import { type Finding, stops } from "../steps/finding.ts";
import type { ExportPreset } from "../stock/export-preset.ts";
import { formatFixed, formatShort } from "../units/quantity.ts";
import { distinctNames, type NameWord, nameBy } from "./file-names.ts";
import { drawToLeave, makeFile } from "./part-file.ts";

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
  /** What stops it, where it left anyway. */
  readonly stopped?: string;
}

export interface BatchAnswer {
  readonly files: readonly BatchFile[];
  readonly row: CutListRow;
  /** What the blank is, in numbers, where there is a file of it. */
  readonly facts?: BlankFacts;
  /** What the search for collisions found in it. */
  readonly collisions: readonly Finding[];
}

/** The material of a part, as it is called. */
export const materialOfPart = (document: PartDocument): string =>
  choicesOf(STOCK_FIELDS, stockRaw(document.stock)).material ?? "";

/** What a cut list says of a part whose blank is known. */
function rowOf({ document, quantity }: BatchPart, build: CheckedBuild): CutListRow {
  const { stock, blank, folded } = build;
  const head = {
    part: document.name,
    material: materialOfPart(document),
    thickness: stock?.thickness ?? 0,
    quantity,
  };
  if (!isDrawable(build)) return head;
  return {
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
}

/** A row of a part that leaves although findings stop it. */
const withStop = (row: CutListRow, build: CheckedBuild): CutListRow => {
  const [first] = build.findings.filter(stops);
  return first ? { ...row, stopped: first.message } : row;
};

/**
 * Makes the files of one part, or says why there are none.
 *
 * @param known what an earlier search for collisions found in this very document
 */
export function batchPart(part: BatchPart, order: BatchOrder, known?: readonly Finding[]): BatchAnswer {
  const { document, quantity } = part;
  const build = examineFully(document, undefined, known);
  const row = rowOf(part, build);
  const { collisions } = build;
  const outlines = build.blank?.outlines ?? [];
  const count = order.apart && fileFormat(order.format)?.of === "blank" ? outlines.length : 1;
  const pieces = count > 1 ? outlines.map((_, i) => i) : [undefined];
  const files: BatchFile[] = [];
  for (const piece of pieces) {
    const made = makeFile(document, build, { ...order, piece });
    if (!made.ok) return { files: [], row: { ...row, refused: made.error.why }, collisions };
    files.push({
      words: {
        part: document.name,
        material: row.material,
        thickness: formatShort(row.thickness, 3),
        quantity: String(quantity),
        piece: piece === undefined ? "1" : String(piece + 1),
        number: "",
      },
      content: made.value.content,
      proof: made.value.proof?.lines ?? [],
    });
  }
  return { files, row: withStop(row, build), facts: blankFacts(build as BlankToDraw["build"]), collisions };
}

/** Draws one part for a file that all parts share, or says why it is not in it. */
export function batchDrawing(
  part: BatchPart,
  order: BatchOrder,
  known?: readonly Finding[],
): {
  readonly drawn?: DrawnBlank;
  readonly row: CutListRow;
  readonly facts?: BlankFacts;
  readonly collisions: readonly Finding[];
} {
  const build = examineFully(part.document, undefined, known);
  const row = rowOf(part, build);
  const { collisions } = build;
  const drawn = drawToLeave(part.document, build, order);
  return drawn.ok
    ? {
        row: withStop(row, build),
        drawn: drawn.value,
        facts: blankFacts(build as BlankToDraw["build"]),
        collisions,
      }
    : { row: { ...row, refused: drawn.error.why }, collisions };
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
      "written although",
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
      r.stopped ?? "",
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
