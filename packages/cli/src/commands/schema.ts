import { documentSchema, librarySchema } from "@hillcrest/core";
import type { Command } from "commander";
import { print, save } from "../write-files.ts";

/** What `hillcrest schema` takes and does. */
export function setUp(command: Command): void {
  command
    .option("--stock", "that of stock libraries")
    .option("--write <path>", "write it to a file instead")
    .action((options: { write?: string; stock?: boolean }) => {
      const text = JSON.stringify(options.stock ? librarySchema() : documentSchema(), null, 2);
      if (options.write) save(options.write, `${text}\n`);
      else print(text);
    });
}
