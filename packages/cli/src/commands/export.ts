import { type BatchOrder, DEFAULT_PATTERN, patternProblem } from "@hillcrest/core";
import { type Command, Option } from "commander";
import { FINE, STOPPED } from "../ends.ts";
import { exportTogether, exportZip, readWanted } from "../export-many.ts";
import { presetOptions } from "../preset-options.ts";
import { readSpacing } from "../read-numbers.ts";
import { readPart } from "../read-part.ts";
import { UnreadableFile } from "../unreadable-file.ts";
import { formatNamed, type PresetOptions, presetFor } from "../write-files.ts";

/** What `hillcrest export` takes and does. */
export function setUp(command: Command): void {
  presetOptions(
    command
      .option("--zip <path>", "a file for each part, in this zip")
      .option("--together <path>", "all side by side in this DXF")
      .option("--format <key>", "kind of file in the zip", "dxf")
      .option("--pattern <text>", "how files in the zip are called", DEFAULT_PATTERN)
      .option("--spacing <mm>", "between blanks that lie side by side", readSpacing, 5)
      .addOption(
        new Option(
          "--stocks <how>",
          "side by side: a file for each stock, or each stock in a group of one file",
        )
          .choices(["files", "groups"])
          .default("files"),
      )
      .option("--apart", "a file for each piece of a part that falls into several")
      .option("--anyway", "also parts that findings stop"),
  ).action(async (files: string[], options: ExportOptions) => {
    if ((options.zip === undefined) === (options.together === undefined))
      throw new UnreadableFile("Say where to write: --zip FILE.zip, or --together FILE.dxf.");
    const wrong = patternProblem(options.pattern);
    if (wrong) throw new UnreadableFile(`--pattern: ${wrong}`);
    const { format } = options;
    formatNamed(format);
    const parts = files.map(readWanted).map(({ file, quantity }) => ({ document: readPart(file), quantity }));
    const order: BatchOrder = {
      format,
      preset: presetFor(parts[0].document, options),
      apart: options.apart ?? false,
      anyway: options.anyway ?? false,
    };
    const refused = options.zip
      ? await exportZip(options.zip, parts, order, options)
      : exportTogether(options.together!, parts, order, options);
    process.exitCode = refused > 0 ? STOPPED : FINE;
  });
}

interface ExportOptions extends PresetOptions {
  readonly zip?: string;
  readonly together?: string;
  readonly format: string;
  readonly pattern: string;
  readonly spacing: number;
  readonly stocks: "files" | "groups";
  readonly apart?: boolean;
  readonly anyway?: boolean;
}
