import { createHash } from "node:crypto";
import { closeSync, openSync, readFileSync, writeFileSync, writeSync } from "node:fs";
import { join } from "node:path";
import {
  type BatchOrder,
  type BatchPart,
  type BlankFacts,
  batchDrawing,
  batchPart,
  type Comparison,
  type CutListRow,
  compareFile,
  type DrawnBlank,
  type ExportPreset,
  examinePart,
  type FoldedView,
  fileFormat,
  isDrawable,
  isStopped,
  type NameWord,
  type PartDocument,
  type ProofLine,
  proveDxf,
  sideBySide,
  writeDxf,
} from "@hillcrest/core";
import { strToU8, Zip, ZipDeflate } from "fflate";
import { dotsOf } from "./dots.ts";

const sha256 = (content: string | Uint8Array): string => createHash("sha256").update(content).digest("hex");

/** One file of a part. */
export interface FileQuestion {
  readonly document: PartDocument;
  readonly format: string;
  readonly preset: ExportPreset;
  readonly fold: number;
  readonly view?: FoldedView;
  readonly dots: number;
  readonly anyway: boolean;
}

export type FileAnswer =
  | { readonly content: string | Uint8Array; readonly proof: readonly ProofLine[] }
  | { readonly refused: string };

export async function makeFile(q: FileQuestion): Promise<FileAnswer> {
  const format = fileFormat(q.format);
  const build = examinePart(q.document);
  if (!format) return { refused: `there is no format ${q.format}` };
  if (!isDrawable(build)) return { refused: "there is no blank yet" };
  if (format.of === "blank" && isStopped(build) && !q.anyway)
    return { refused: "findings stop the part; ask with anyway=1 to have it all the same" };
  const { document, preset, fold, view } = q;
  const { content, proof } = format.make({ document, build, preset, fold, view });
  const wrong = proof?.lines.filter((l) => !l.holds) ?? [];
  if (wrong.length > 0)
    return { refused: `read back, it is not the blank: ${wrong.map((l) => l.text).join("; ")}` };
  return {
    content: format.asDots ? await dotsOf(content as string, q.dots) : content,
    proof: proof?.lines ?? [],
  };
}

export interface CompareQuestion {
  readonly document: PartDocument;
  readonly preset: ExportPreset;
  readonly dxf: string;
  readonly within?: number;
}

/** Holds a file that came back to the blank of a part, or says why it cannot. */
export function compare({
  document,
  dxf,
  ...rest
}: CompareQuestion): Comparison | { readonly refused: string } {
  const found = compareFile({ document, build: examinePart(document), text: dxf, ...rest });
  return found.ok ? found.value : { refused: found.error };
}

/** A part of many, whose files go into a folder. */
export interface BatchQuestion {
  readonly part: BatchPart;
  readonly order: BatchOrder;
  readonly folder: string;
  readonly number: number;
}

/** A file as it lies in the folder until all are there. */
export interface WrittenFile {
  readonly path: string;
  readonly words: Readonly<Record<NameWord, string>>;
  readonly proof: readonly ProofLine[];
  readonly sha256: string;
}

export interface BatchWritten {
  readonly files: readonly WrittenFile[];
  readonly row: CutListRow;
  readonly facts?: BlankFacts;
}

export async function batchFiles({ part, order, folder, number }: BatchQuestion): Promise<BatchWritten> {
  const { files, row, facts } = batchPart(part, order);
  const format = fileFormat(order.format)!;
  const written: WrittenFile[] = [];
  for (const [k, { words, proof, content }] of files.entries()) {
    const bytes = format.asDots ? await dotsOf(content as string, 1600) : content;
    const path = join(folder, `${number}-${k}`);
    writeFileSync(path, bytes);
    written.push({ path, words, proof, sha256: sha256(bytes) });
  }
  return { files: written, row, ...(facts ? { facts } : {}) };
}

export const drawOne = ({ part, order }: Pick<BatchQuestion, "part" | "order">) => batchDrawing(part, order);

export interface TogetherQuestion {
  readonly wanted: readonly { readonly drawn: DrawnBlank; readonly quantity: number }[];
  readonly spacing: number;
  readonly version: ExportPreset["version"];
  readonly path: string;
}

/** All blanks in one file, proven as a whole; nothing is written where the proof does not hold. */
export function drawTogether({ wanted, spacing, version, path }: TogetherQuestion): {
  readonly proof: readonly ProofLine[];
  readonly sha256: string;
} {
  const drawn = sideBySide(wanted, spacing / wanted[0].drawn.unit);
  const text = writeDxf(drawn.drawing, { version, remarks: drawn.stops });
  const { holds, lines } = proveDxf(text, drawn, version);
  if (holds) writeFileSync(path, text);
  return { proof: lines, sha256: sha256(text) };
}

export interface ZipQuestion {
  readonly path: string;
  readonly files: readonly { readonly name: string; readonly path: string }[];
  readonly texts: readonly { readonly name: string; readonly text: string }[];
}

/** Puts files into a zip one after another, none of them but the one at hand in memory. */
export function zipFiles({ path, files, texts }: ZipQuestion): void {
  const out = openSync(path, "w");
  try {
    const zip = new Zip((error, chunk) => {
      if (error) throw error;
      writeSync(out, chunk);
    });
    const add = (name: string, content: Uint8Array) => {
      const entry = new ZipDeflate(name, { level: 6 });
      zip.add(entry);
      entry.push(content, true);
    };
    for (const { name, path: from } of files) add(name, readFileSync(from));
    for (const { name, text } of texts) add(name, strToU8(text));
    zip.end();
  } finally {
    closeSync(out);
  }
}
