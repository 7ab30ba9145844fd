import { examineFully, isStopped } from "@hillcrest/core";
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
    .option("--anyway", "write it also of a part that findings stop; it then says so")
    .action(async (file: string, options: FoldOptions) => {
      const document = readPart(file);
      const build = examineFully(document);
      tellFindings(document, build);
      const { at: fold, anyway } = options;
      const written = await writePart(options.stl, formatNamed("stl"), document, build, { fold, anyway });
      process.exitCode = written && !isStopped(build) ? FINE : STOPPED;
    });
}

interface FoldOptions {
  readonly stl: string;
  readonly at: number;
  readonly anyway?: boolean;
}
