import { basename, join } from "node:path";
import { examineFully, FILE_FORMATS, FOLDED_VIEWS, isStopped, summarize } from "@hillcrest/core";
import { type Command, Option } from "commander";
import { FINE, STOPPED } from "../ends.ts";
import { presetOptions } from "../preset-options.ts";
import { readDots, readShare } from "../read-numbers.ts";
import { readPart } from "../read-part.ts";
import { describePart } from "../tell-part.ts";
import { UnreadableFile } from "../unreadable-file.ts";
import { formatNamed, print, type WriteOptions, writePart } from "../write-files.ts";

/** What `hillcrest blank` takes and does. */
export function setUp(command: Command): void {
  presetOptions(
    command
      .option("--dxf <path>", "write the blank of a single part to this DXF file")
      .option("--out <dir>", "write a file for each part into this folder")
      .option("--to <path>", "write a single part to this file, of the kind that --format says")
      .option(
        "--format <key>",
        `kind of file for --out and --to: ${FILE_FORMATS.map((f) => f.key).join(", ")}`,
        "dxf",
      )
      .option("--at <share>", "how far to fold where the part is shown folded, 0 flat to 1", readShare, 1)
      .addOption(new Option("--view <view>", "from where a folded picture is seen").choices(FOLDED_VIEWS))
      .option("--dots <width>", "how wide a picture is", readDots, 1600)
      .option("--json", "print numbers as JSON: an object for one file, a list for several")
      .option("--anyway", "write files also of a part that findings stop; which then say so"),
  ).action(async (files: string[], options: BlankOptions) => {
    const targets = [options.dxf, options.out, options.to].filter((t) => t !== undefined);
    if (targets.length > 1) throw new UnreadableFile("Give one of --dxf, --to and --out.");
    const single = options.dxf ?? options.to;
    if (single && files.length > 1)
      throw new UnreadableFile(
        `${options.dxf ? "--dxf" : "--to"} takes one part; use --out DIR for several.`,
      );
    const format = formatNamed(options.dxf ? "dxf" : options.format);
    // All are read before the first is written: a file that cannot be read leaves nothing half done.
    const documents = files.map(readPart);
    const names = uniqueNames(files);
    const write = { ...options, fold: options.at };
    const summaries: unknown[] = [];
    let fine = true;
    // One part is built, written and told before the next: of thousands only one is held.
    for (const [i, document] of documents.entries()) {
      const build = examineFully(document);
      const path = single ?? (options.out ? join(options.out, `${names[i]}.${format.ending}`) : undefined);
      const written = !path || (await writePart(path, format, document, build, write));
      if (!written || isStopped(build) || !build.blank) fine = false;
      if (options.json) summaries.push(summarize(document.name, build));
      else print(describePart(document, build));
    }
    if (options.json) print(JSON.stringify(summaries.length === 1 ? summaries[0] : summaries, null, 2));
    process.exitCode = fine ? FINE : STOPPED;
  });
}

interface BlankOptions extends WriteOptions {
  readonly dxf?: string;
  readonly out?: string;
  readonly to?: string;
  readonly format: string;
  readonly at: number;
  readonly json?: boolean;
}

/** File names without their ending; a number is added where two would write to one place. */
function uniqueNames(files: readonly string[]): string[] {
  const seen = new Map<string, number>();
  return files.map((file) => {
    const name = basename(file).replace(/\.json$/i, "");
    const count = (seen.get(name) ?? 0) + 1;
    seen.set(name, count);
    return count === 1 ? name : `${name}-${count}`;
  });
}
