import { mkdirSync, writeFileSync } from "node:fs";
import { dirname } from "node:path";
import {
  BUILT_IN_PRESETS,
  type ExportPreset,
  FILE_FORMATS,
  type FileFormat,
  type FoldedView,
  fileFormat,
  isDrawable,
  isStopped,
  type PartBuild,
  type PartDocument,
  presetOf,
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

/**
 * Writes a part as a file of some kind, but for one that findings stop, or whose file does not hold what the blank is:
 * nobody should cut what cannot be made unawares. Whether it was written.
 */
export async function writePart(
  path: string,
  format: FileFormat,
  document: PartDocument,
  build: PartBuild,
  options: WriteOptions,
): Promise<boolean> {
  const refuse = (why: string) => {
    tell(`${path}: not written, ${why}`);
    return false;
  };
  if (!isDrawable(build)) return refuse("there is no blank");
  if (format.of === "blank" && isStopped(build) && !options.anyway)
    return refuse("findings stop the part; --anyway writes it all the same");
  const { fold, view, dots = 1600 } = options;
  const { content, proof } = format.make({
    document,
    build,
    preset: presetFor(document, options),
    fold,
    view,
  });
  const wrong = proof?.lines.filter((l) => !l.holds) ?? [];
  if (wrong.length > 0)
    return refuse(`read back, it is not the blank: ${wrong.map((l) => l.text).join("; ")}`);
  save(path, format.asDots ? await dotsOf(content as string, dots) : content);
  return true;
}
