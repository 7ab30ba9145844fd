import { readFileSync } from "node:fs";
import {
  DOCUMENT_FORMAT,
  type DocumentProblem,
  type ExportPreset,
  examinePart,
  type Outline,
  type PartDocument,
  type Result,
  readDocumentText,
  readOutlinesText,
  readPresetText,
  readRulesText,
  type ShopRules,
  type SolvedOutline,
  solveOutline,
} from "@hillcrest/core";
import { UnreadableFile } from "./unreadable-file.ts";

/** Reads a part document from disk; every problem is told with its place. */
export const readPart = (path: string): PartDocument => read(path, readDocumentText);

/** An outline, and how it comes out. */
export interface Solved {
  readonly outline: Outline;
  readonly made: SolvedOutline;
}

/** Reads the outlines of a file, likewise, and solves them: those of a part over the part's own values. */
export function readOutlines(path: string): readonly Solved[] {
  if (isPart(readText(path)))
    return (examinePart(readPart(path)).outlines ?? []).map(({ outline, solved }) => ({
      outline,
      made: solved,
    }));
  return read(path, readOutlinesText).map((outline) => ({ outline, made: solveOutline(outline) }));
}

/** Whether a text says that it is a part document; whether it is one is another matter. */
function isPart(text: string): boolean {
  try {
    return JSON.parse(text)?.format === DOCUMENT_FORMAT;
  } catch {
    return false;
  }
}

/** Reads an export preset from disk, likewise. */
export const readPreset = (path: string): ExportPreset => read(path, readPresetText);

/** Reads a set of shop rules from disk, likewise. */
export const readShopRules = (path: string): ShopRules => read(path, readRulesText);

/** The text of a file; what keeps it from being read is told with its name. */
export function readText(path: string): string {
  try {
    return readFileSync(path, "utf8");
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    const why: Record<string, string> = {
      ENOENT: "there is no such file",
      EISDIR: "this is a folder",
      EACCES: "it may not be read",
    };
    throw new UnreadableFile(`${path}: ${why[code ?? ""] ?? (error as Error).message}`);
  }
}

function read<T>(path: string, reader: (text: string) => Result<T, DocumentProblem[]>): T {
  const result = reader(readText(path));
  if (result.ok) return result.value;
  throw new UnreadableFile(
    result.error.map((p) => `${path}${p.path ? ` at ${p.path}` : ""}: ${p.message}`).join("\n"),
  );
}
