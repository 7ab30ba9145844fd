import { examinePart, isStopped } from "@hillcrest/core";
import type { Command } from "commander";
import { FINE, STOPPED } from "../ends.ts";
import { readShare } from "../read-numbers.ts";
import { readPart } from "../read-part.ts";
import { tellFindings } from "../tell-part.ts";
import { formatNamed, writePart } from "../write-files.ts";

/** What `hillcrest fold` takes and does. */
export function setUp(command: Command): void {
  command
    .requiredOption("--stl <path>", "the STL file to write")
    .option("--at <share>", "how far to fold, 0 flat to 1 folded", readShare, 1)
    .action(async (file: string, options: { stl: string; at: number }) => {
      const document = readPart(file);
      const build = examinePart(document);
      tellFindings(document, build);
      if (build.sheet)
        await writePart(options.stl, formatNamed("stl"), document, build, { fold: options.at });
      process.exitCode = isStopped(build) || !build.sheet ? STOPPED : FINE;
    });
}
