import { Command, CommanderError } from "commander";
import { FINE, UNREADABLE } from "./ends.ts";
import { UnreadableFile } from "./unreadable-file.ts";

interface CommandEntry {
  readonly name: string;
  readonly does: string;
  /** Arguments, each with what it is. */
  readonly takes: readonly (readonly [string, string])[];
  readonly load: () => Promise<{ setUp: (command: Command) => void }>;
}

/** All commands. What one needs is loaded when it is asked for: help does not wait for the geometry. */
const COMMANDS: readonly CommandEntry[] = [
  {
    name: "blank",
    does: "work out the flat pattern of one or more parts",
    takes: [["<file...>", "part documents"]],
    load: () => import("./commands/blank.ts"),
  },
  {
    name: "export",
    does: "write many parts at once, with a cut list and the proof of every file",
    takes: [["<part...>", "part documents; FILE=4 for four of one"]],
    load: () => import("./commands/export.ts"),
  },
  {
    name: "compare",
    does: "hold a DXF that came back against the blank; ends with 1 where they differ",
    takes: [
      ["<file>", "part document"],
      ["<returned>", "the DXF"],
    ],
    load: () => import("./commands/compare.ts"),
  },
  {
    name: "check",
    does: "say what the checks find on one or more parts; ends with 1 where a finding stops one",
    takes: [["<file...>", "part documents"]],
    load: () => import("./commands/check.ts"),
  },
  {
    name: "fold",
    does: "write the folded part as STL; `blank --format` writes other kinds",
    takes: [["<file>", "part document"]],
    load: () => import("./commands/fold.ts"),
  },
  {
    name: "why",
    does: "say where a number comes from: the chain of formulas, down to chart row, card and step",
    takes: [["<file>", "part document"]],
    load: () => import("./commands/why.ts"),
  },
  {
    name: "edit",
    does: "change a part by commands, all of them or none, and say what they did",
    takes: [["<file>", "part document; it is changed in its place unless --out is given"]],
    load: () => import("./commands/edit.ts"),
  },
  {
    name: "schema",
    does: "print the JSON Schema of part documents, or of stock libraries",
    takes: [],
    load: () => import("./commands/schema.ts"),
  },
  {
    name: "outlines",
    does: "solve the outlines of a file, and say what is free and what disagrees",
    takes: [["<file>", 'an outline, several under "outlines", or a part with outlines']],
    load: () => import("./commands/outlines.ts"),
  },
  {
    name: "validate",
    does: "say whether a part document can be read and built",
    takes: [["<file>", "part document"]],
    load: () => import("./commands/validate.ts"),
  },
];

/**
 * Does what the arguments say and leaves how it ended in the exit code of the process. Nothing but an error of this program
 * itself is thrown.
 */
export async function run(args: readonly string[]): Promise<void> {
  const program = new Command("hillcrest")
    .description("Flat patterns and files from Hillcrest part documents, without a server or a browser.")
    .configureHelp({ subcommandTerm: (command) => `${command.name()} ${command.usage()}` })
    .showHelpAfterError()
    .exitOverride();
  const [first, second] = args;
  const asked = first === "help" ? second : first;
  try {
    for (const { name, does, takes, load } of COMMANDS) {
      const command = program.command(name).description(does);
      for (const [argument, what] of takes) command.argument(argument, what);
      if (name === asked) (await load()).setUp(command);
    }
    await program.parseAsync(args, { from: "user" });
  } catch (error) {
    if (error instanceof CommanderError) {
      process.exitCode = error.exitCode === 0 ? FINE : UNREADABLE;
      return;
    }
    if (!(error instanceof UnreadableFile)) throw error;
    process.stderr.write(`${error.message}\n`);
    process.exitCode = UNREADABLE;
  }
}
