import { readdirSync, readFileSync } from "node:fs";
import { type PartDocument, readDocumentText } from "@hillcrest/core";

const FOLDER = new URL("../../../demo/", import.meta.url);

/** The documents of the demo, by the names of their files. */
export const demoDocuments: readonly (readonly [file: string, document: PartDocument])[] = readdirSync(FOLDER)
  .filter((file) => file.endsWith(".json"))
  .map((file) => {
    const read = readDocumentText(readFileSync(new URL(file, FOLDER), "utf8"));
    if (!read.ok) throw new Error(file);
    return [file, read.value];
  });
