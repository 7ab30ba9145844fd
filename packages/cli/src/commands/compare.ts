import { COMPARE_WITHIN } from "@hillcrest/core";
import type { Command } from "commander";
import { comparisonReport, describeComparison } from "../compare-report.ts";
import type { Compared, ToCompare } from "../comparing.ts";
import { FINE, STOPPED } from "../ends.ts";
import { readSeconds, readSpacing } from "../read-numbers.ts";
import { readPart, readText } from "../read-part.ts";
import { UnreadableFile } from "../unreadable-file.ts";
import { withinTime } from "../within-time.ts";
import { presetFor, print } from "../write-files.ts";

/** What `hillcrest compare` takes and does. */
export function setUp(command: Command): void {
  command
    .option("--within <mm>", "what is off by no more than this is the same", readSpacing, COMPARE_WITHIN)
    .option("--json", "print what differs as JSON")
    .option("--limit <seconds>", "give up reading after so long", readSeconds, 60)
    .action(async (file: string, returned: string, options: CompareOptions) => {
      const document = readPart(file);
      const preset = presetFor(document, {});
      const { within, limit } = options;
      const question: ToCompare = { document, preset, text: readText(returned), within };
      const program = new URL("../comparing.js", import.meta.url);
      const read = await withinTime<Compared>(program, question, limit, returned);
      if (!read.ok) throw new UnreadableFile(`${returned}: ${read.error}`);
      const found = read.value;
      print(options.json ? JSON.stringify(comparisonReport(found), null, 2) : describeComparison(found));
      process.exitCode = found.same ? FINE : STOPPED;
    });
}

interface CompareOptions {
  readonly within: number;
  readonly limit: number;
  readonly json?: boolean;
}
