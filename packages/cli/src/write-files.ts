import { mkdirSync, writeFileSync } from "node:fs";
import { dirname } from "node:path";
import {
  BUILT_IN_PRESETS,
  type CheckedBuild,
  type ExportPreset,
  FILE_FORMATS,
  type FileFormat,
  type FoldedView,
  fileFormat,
  makeFile,
  type PartDocument,
  presetOf,
  STOP_WORDS,
  stops,
} from "@hillcrest/core";
import { dotsOf } from "./dots.ts";
import { readPreset } from "./read-part.ts";
import { UnreadableFile } from "./unreadable-file.ts";

export const tell = (text: string) => process.stderr.write(`${text}\n`);
export const print = (text: string) => process.stdout.write(`${text}\n`);

/** Writes a file, with the folders that it stands in. */
export function save(path: string, content: string | Uint8Array): void {
  try {
    mkdirSync(dirname(path), { recursive: true });
    writeFileSync(path, content);
  } catch (error) {
    throw new UnreadableFile(`${path}: it cannot be written (${(error as Error).message})`);
  }
  tell(`wrote ${path}`);
}

/** What of a preset is said at the command line. */
export interface PresetOptions {
  readonly preset?: string;
  readonly dxfVersion?: "r12" | "r2000";
  readonly units?: "mm" | "in";
}

/** The preset that a part leaves by: one that is named or in a file, else its own; with what the command line says. */
export function presetFor(document: PartDocument, options: PresetOptions): ExportPreset {
  const { preset, dxfVersion, units } = options;
  const named = BUILT_IN_PRESETS.find(
    (p) => p.id === preset || p.name.toLowerCase() === preset?.toLowerCase(),
  );
  const base =
    preset === undefined ? presetOf(document, BUILT_IN_PRESETS).preset : (named ?? readPreset(preset));
  return { ...base, ...(dxfVersion ? { version: dxfVersion } : {}), ...(units ? { units } : {}) };
}

/** A kind of file by its key; the error says which there are. */
export function formatNamed(key: string): FileFormat {
  const format = fileFormat(key);
  if (!format)
    throw new UnreadableFile(
      `There is no format "${key}"; there are ${FILE_FORMATS.map((f) => f.key).join(", ")}.`,
    );
  return format;
}

export interface WriteOptions extends PresetOptions {
  readonly anyway?: boolean;
  readonly fold?: number;
  readonly view?: FoldedView;
  /** How wide a picture is, in dots. */
  readonly dots?: number;
}

/** Writes a part as a file of some kind, or says why it may not leave. Whether it was written. */
export async function writePart(
  path: string,
  { key, asDots }: FileFormat,
  document: PartDocument,
  build: CheckedBuild,
  options: WriteOptions,
): Promise<boolean> {
  const { fold, view, dots = 1600, anyway = false } = options;
  const made = makeFile(document, build, {
    format: key,
    preset: presetFor(document, options),
    fold,
    view,
    anyway,
  });
  if (!made.ok) {
    const { why, stopped } = made.error;
    tell(`${path}: not written, ${why}${stopped ? " --anyway writes it anyway." : ""}`);
    return false;
  }
  const { content, proof } = made.value;
  save(path, asDots ? await dotsOf(content as string, dots) : content);
  if (build.findings.some(stops))
    for (const line of proof?.lines ?? []) if (line.text.startsWith(STOP_WORDS)) tell(`  ${line.text}`);
  return true;
}
