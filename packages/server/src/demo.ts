import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { readDocumentText, readLibraryText } from "@hillcrest/core";
import type { PartService } from "./parts/part-service.ts";
import type { StockService } from "./stock/stock-service.ts";

/** Puts the parts of a folder of documents on the Shelf; a file that cannot be read stops with its name. */
export async function addDemoParts(parts: PartService, folder: string): Promise<number> {
  const files = readdirSync(folder)
    .filter((f) => f.endsWith(".json"))
    .sort()
    .reverse();
  for (const file of files) {
    const read = readDocumentText(readFileSync(join(folder, file), "utf8"));
    if (!read.ok) throw new Error(`${file}: ${read.error[0].path} ${read.error[0].message}`);
    await parts.create(read.value);
  }
  return files.length;
}

/** Takes in the stock library of the demo's shop. */
export async function addDemoStock(stock: StockService, folder: string): Promise<void> {
  const file = join(folder, "stock", "library.json");
  const read = readLibraryText(readFileSync(file, "utf8"));
  if (!read.ok) throw new Error(`${file}: ${read.error[0].path} ${read.error[0].message}`);
  await stock.take(read.value);
}
