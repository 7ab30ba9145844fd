import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { readDocumentText, readLibraryText } from "@hillcrest/core";
import type { PartService } from "./parts/part-service.ts";
import type { StockService } from "./stock/stock-service.ts";

/**
 * Puts the parts of a folder of documents on the Shelf, where they then stand by their names: what was put there last
 * stands first. A file that cannot be read stops with its name, before there is any part.
 */
export async function addDemoParts(parts: PartService, folder: string): Promise<number> {
  const files = readdirSync(folder).filter((f) => f.endsWith(".json"));
  const documents = files.map((file) => {
    const read = readDocumentText(readFileSync(join(folder, file), "utf8"));
    if (!read.ok) throw new Error(`${file}: ${read.error[0].path} ${read.error[0].message}`);
    return read.value;
  });
  for (const document of documents.sort((a, b) => b.name.localeCompare(a.name, "en")))
    await parts.create(document);
  return files.length;
}

/** Takes in the stock library of the demo's shop. */
export async function addDemoStock(stock: StockService, folder: string): Promise<void> {
  const file = join(folder, "stock", "library.json");
  const read = readLibraryText(readFileSync(file, "utf8"));
  if (!read.ok) throw new Error(`${file}: ${read.error[0].path} ${read.error[0].message}`);
  await stock.take(read.value);
}
