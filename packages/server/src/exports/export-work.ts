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
  type ExportPreset,
  examineFully,
  examinePart,
  type FoldedView,
  fileFormat,
  makeFile,
  type NameWord,
  type PartDocument,
  type ProofLine,
  type TogetherFile,
  type TogetherOrder,
  type TogetherPart,
  togetherFiles,
} from "@hillcrest/core";
import { strToU8, Zip, ZipDeflate } from "fflate";
import type { Checked, ToCheck } from "../builds/checked.ts";
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

export async function makePartFile(q: FileQuestion & ToCheck): Promise<Checked<FileAnswer>> {
  const build = examineFully(q.document, undefined, q.known);
  const { collisions } = build;
  const made = makeFile(q.document, build, q);
  if (!made.ok) {
    const { why, stopped } = made.error;
    return { made: { refused: stopped ? `${why} Ask with anyway=1 to have it anyway` : why }, collisions };
  }
  const { content, proof } = made.value;
  const written = fileFormat(q.format)!.asDots ? await dotsOf(content as string, q.dots) : content;
  return { made: { content: written, proof: proof?.lines ?? [] }, collisions };
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

export async function batchFiles({
  part,
  order,
  folder,
  number,
  known,
}: BatchQuestion & Pick<ToCheck, "known">): Promise<Checked<BatchWritten>> {
  const { files, row, facts, collisions } = batchPart(part, order, known);
  const format = fileFormat(order.format)!;
  const written: WrittenFile[] = [];
  for (const [k, { words, proof, content }] of files.entries()) {
    const bytes = format.asDots ? await dotsOf(content as string, 1600) : content;
    const path = join(folder, `${number}-${k}`);
    writeFileSync(path, bytes);
    written.push({ path, words, proof, sha256: sha256(bytes) });
  }
  return { made: { files: written, row, ...(facts ? { facts } : {}) }, collisions };
}

export type DrawQuestion = Pick<BatchQuestion, "part" | "order">;
export type Drawn = Omit<ReturnType<typeof batchDrawing>, "collisions">;

export function drawOne({ part, order, known }: DrawQuestion & Pick<ToCheck, "known">): Checked<Drawn> {
  const { collisions, ...made } = batchDrawing(part, order, known);
  return { made, collisions };
}

export interface TogetherQuestion {
  readonly parts: readonly TogetherPart[];
  readonly order: TogetherOrder;
  readonly folder: string;
}

/** A file of many blanks as it lies in the folder. */
export type TogetherWritten = Omit<TogetherFile, "text"> & { readonly path: string; readonly sha256: string };

/** Blanks side by side, each file proven as a whole; none is written where one does not hold. */
export function drawTogether({
  parts,
  order,
  folder,
}: TogetherQuestion): { readonly files: readonly TogetherWritten[] } | { readonly refused: string } {
  const made = togetherFiles(parts, order);
  if (!made.ok) return { refused: made.error };
  return {
    files: made.value.map(({ text, ...file }, i) => {
      const path = join(folder, `together-${i}`);
      writeFileSync(path, text);
      return { ...file, path, sha256: sha256(text) };
    }),
  };
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
