import { BUILT_IN_PRESETS } from "@hillcrest/core";
import { type Command, Option } from "commander";

/** Adds what a command takes about how files are written. */
export const presetOptions = (command: Command): Command =>
  command
    .option(
      "--preset <file|name>",
      `how files are written: ${BUILT_IN_PRESETS.map((p) => p.id).join(", ")}, or a file`,
    )
    .addOption(new Option("--dxf-version <version>", "version of DXF").choices(["r12", "r2000"]))
    .addOption(new Option("--units <unit>", "units that files are written in").choices(["mm", "in"]));
