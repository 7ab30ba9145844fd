import { examineFully, isStopped } from "@hillcrest/core";
import type { Command } from "commander";
import { editPart, readCommandArguments, replaceFile } from "../edit-part.ts";
import { FINE, STOPPED } from "../ends.ts";
import { readPart } from "../read-part.ts";
import { tellFindings } from "../tell-part.ts";
import { print } from "../write-files.ts";

/** What `hillcrest edit` takes and does. */
export function setUp(command: Command): void {
  command
    .requiredOption(
      "--command <json>",
      "a command or a list of them as JSON, @FILE for those in a file, or - for standard input; may be given again",
      (text: string, before: readonly string[] = []) => [...before, text],
    )
    .option("--out <path>", "write the changed part here and leave the file as it is")
    .option("--undo <path>", "write the command that takes the changes back")
    .option("--json", "print what was done, and the command that takes it back, as JSON")
    .action((file: string, options: EditOptions) => {
      const { document, undo, said, notes } = editPart(
        file,
        readPart(file),
        readCommandArguments(options.command),
      );
      const build = examineFully(document);
      replaceFile(options.out ?? file, `${JSON.stringify(document, null, 2)}\n`);
      if (options.undo) replaceFile(options.undo, `${JSON.stringify(undo)}\n`);
      if (options.json) print(JSON.stringify({ said, undo, notes, findings: build.findings }, null, 2));
      else for (const words of [...said, ...notes.map((n) => `note: ${n.path}: ${n.message}`)]) print(words);
      tellFindings(document, build);
      process.exitCode = isStopped(build) ? STOPPED : FINE;
    });
}

interface EditOptions {
  readonly command: readonly string[];
  readonly out?: string;
  readonly undo?: string;
  readonly json?: boolean;
}
