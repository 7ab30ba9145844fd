import { readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import {
  type AppliedAll,
  applyCommands,
  type PartCommand,
  type PartDocument,
  readCommandText,
  sayAll,
} from "@hillcrest/core";
import { UnreadableFile } from "./unreadable-file.ts";

/** What came of some commands: the part, what takes them back, and what each did in words. */
export interface Edited extends AppliedAll {
  readonly said: readonly string[];
}

/** Reads commands from arguments, each one command or a list of them as JSON; `-` is standard input, `@FILE` a file. */
export function readCommandArguments(texts: readonly string[]): PartCommand[] {
  return texts.flatMap((text, i) => {
    const from =
      text === "-" ? "standard input" : text.startsWith("@") ? text.slice(1) : `--command ${i + 1}`;
    const read = readCommandText(sourceOf(text));
    if (read.ok) return read.value;
    throw new UnreadableFile(
      read.error.map((p) => `${from}${p.path ? ` at ${p.path}` : ""}: ${p.message}`).join("\n"),
    );
  });
}

function sourceOf(text: string): string {
  if (text !== "-" && !text.startsWith("@")) return text;
  try {
    return readFileSync(text === "-" ? 0 : text.slice(1), "utf8");
  } catch (error) {
    throw new UnreadableFile(
      `${text.slice(text === "-" ? 0 : 1)}: it cannot be read (${(error as Error).message})`,
    );
  }
}

/** Does commands to a part; all of them, or none. */
export function editPart(file: string, document: PartDocument, commands: readonly PartCommand[]): Edited {
  const done = applyCommands(document, commands);
  if (!done.ok) throw new UnreadableFile(`${file}: not changed, ${done.error}`);
  return { ...done.value, said: sayAll(commands, document) };
}

/** Puts a file in the place of another in one move: what stands there is the old one or the new, whole. */
export function replaceFile(path: string, content: string): void {
  const beside = `${path}.${process.pid}.new`;
  try {
    writeFileSync(beside, content, { flush: true });
    renameSync(beside, path);
  } catch (error) {
    rmSync(beside, { force: true });
    throw new UnreadableFile(`${path}: it cannot be written (${(error as Error).message})`);
  }
}
