import { readFileSync } from "node:fs";
import { type PartDocument, readDocumentText } from "@hillcrest/core";

/** A file that cannot be read as a part. The message names the file and the place in it. */
export class UnreadableFile extends Error {}

/** Reads a part document from disk; every problem is told with its place. */
export function readPart(path: string): PartDocument {
  let text: string;
  try {
    text = readFileSync(path, "utf8");
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    const why: Record<string, string> = {
      ENOENT: "there is no such file",
      EISDIR: "this is a folder",
      EACCES: "it may not be read",
    };
    throw new UnreadableFile(`${path}: ${why[code ?? ""] ?? (error as Error).message}`);
  }
  const result = readDocumentText(text);
  if (result.ok) return result.value;
  throw new UnreadableFile(
    result.error.map((p) => `${path}${p.path ? ` at ${p.path}` : ""}: ${p.message}`).join("\n"),
  );
}
