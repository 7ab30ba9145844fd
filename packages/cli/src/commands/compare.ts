import { COMPARE_WITHIN, compareFile, examinePart } from "@hillcrest/core";
import type { Command } from "commander";
import { comparisonReport, describeComparison } from "../compare-report.ts";
import { FINE, STOPPED } from "../ends.ts";
import { readSpacing } from "../read-numbers.ts";
import { readPart, readText } from "../read-part.ts";
import { UnreadableFile } from "../unreadable-file.ts";
import { presetFor, print } from "../write-files.ts";

/** What `hillcrest compare` takes and does. */
export function setUp(command: Command): void {
  command
    .option("--within <mm>", "what is off by no more than this is the same", readSpacing, COMPARE_WITHIN)
    .option("--json", "print what differs as JSON")
    .action((file: string, returned: string, options: { within: number; json?: boolean }) => {
      const document = readPart(file);
      const preset = presetFor(document, {});
      const { within } = options;
      const read = compareFile({
        document,
        build: examinePart(document),
        preset,
        text: readText(returned),
        within,
      });
      if (!read.ok) throw new UnreadableFile(`${returned}: ${read.error}`);
      const found = read.value;
      print(options.json ? JSON.stringify(comparisonReport(found), null, 2) : describeComparison(found));
      process.exitCode = found.same ? FINE : STOPPED;
    });
}
