import { basename, isAbsolute, join } from "node:path";
import { pathToFileURL } from "node:url";
import {
  type BatchOrder,
  type BendQuestion,
  BUILT_IN_PRESETS,
  COMPARE_WITHIN,
  compareFile,
  DEFAULT_PATTERN,
  dimensionOf,
  documentSchema,
  examineFully,
  examinePart,
  FILE_FORMATS,
  FOLDED_VIEWS,
  isStopped,
  librarySchema,
  notChecked,
  type Outline,
  type PartBuild,
  type PartDocument,
  patternProblem,
  type ReportedFinding,
  reportFindings,
  type SolvedOutline,
  sarifLog,
  summarize,
  toDegrees,
  type Why,
  type WhyLine,
  whyBend,
  whyBlankArea,
  whyBlankSize,
  whyMass,
} from "@hillcrest/core";
import { Command, InvalidArgumentError, Option } from "commander";
import { comparisonReport, describeComparison } from "./compare-report.ts";
import { editPart, readCommandArguments, replaceFile } from "./edit-part.ts";
import { exportTogether, exportZip, readWanted } from "./export-many.ts";
import { readOutlines, readPart, readShopRules, readText, UnreadableFile } from "./read-part.ts";
import {
  formatNamed,
  type PresetOptions,
  presetFor,
  print,
  save,
  type WriteOptions,
  writePart,
} from "./write-files.ts";

const FINE = 0;
const STOPPED = 1;
const UNREADABLE = 2;

const program = new Command("hillcrest")
  .description("Flat patterns and files from Hillcrest part documents, without a server or a browser.")
  .showHelpAfterError()
  .exitOverride((error) => process.exit(error.exitCode === 0 ? FINE : UNREADABLE));

const presetOptions = (command: Command): Command =>
  command
    .option(
      "--preset <file|name>",
      `how files are written: ${BUILT_IN_PRESETS.map((p) => p.id).join(", ")}, or a file`,
    )
    .addOption(new Option("--dxf-version <version>", "version of DXF").choices(["r12", "r2000"]))
    .addOption(new Option("--units <unit>", "units that files are written in").choices(["mm", "in"]));

presetOptions(
  program
    .command("blank")
    .description("work out the flat pattern of one or more parts")
    .argument("<file...>", "part documents")
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
    .option("--dots <width>", "how wide a picture is", readWhole, 1600)
    .option("--json", "print numbers as JSON: an object for one file, a list for several")
    .option("--check", "ask every check, also whether plates and bends stand in one another")
    .option("--anyway", "write files also of a part that findings stop; a DXF then says so"),
).action(async (files: string[], options: BlankOptions) => {
  const targets = [options.dxf, options.out, options.to].filter((t) => t !== undefined);
  if (targets.length > 1) throw new UnreadableFile("Give one of --dxf, --to and --out.");
  const single = options.dxf ?? options.to;
  if (single && files.length > 1)
    throw new UnreadableFile(`${options.dxf ? "--dxf" : "--to"} takes one part; use --out DIR for several.`);
  const format = formatNamed(options.dxf ? "dxf" : options.format);
  const parts = files.map((file) => ({ file, document: readPart(file) }));
  const examine = options.check ? examineFully : examinePart;
  const results = parts.map(({ file, document }) => ({ file, document, build: examine(document) }));
  const names = uniqueNames(files);
  const write = { ...options, fold: options.at };
  let refused = false;
  for (const [i, { document, build }] of results.entries()) {
    const path = single ?? (options.out ? join(options.out, `${names[i]}.${format.ending}`) : undefined);
    if (path && !(await writePart(path, format, document, build, write))) refused = true;
  }
  if (options.json) {
    const summaries = results.map(({ document, build }) => summarize(document.name, build));
    print(JSON.stringify(summaries.length === 1 ? summaries[0] : summaries, null, 2));
  } else for (const { document, build } of results) print(describe(document, build));
  const stopped = results.some(({ build }) => isStopped(build) || !build.blank);
  process.exitCode = stopped || refused ? STOPPED : FINE;
});

interface BlankOptions extends WriteOptions {
  readonly dxf?: string;
  readonly out?: string;
  readonly to?: string;
  readonly format: string;
  readonly at: number;
  readonly json?: boolean;
  readonly check?: boolean;
}

presetOptions(
  program
    .command("export")
    .description("write many parts at once, with a cut list and the proof of every file")
    .argument("<part...>", "part documents; FILE=4 for four of one")
    .option("--zip <path>", "a file for each part, in this zip")
    .option("--together <path>", "all side by side in this one DXF")
    .option("--format <key>", "kind of file in the zip", "dxf")
    .option("--pattern <text>", "how files in the zip are called", DEFAULT_PATTERN)
    .option("--spacing <mm>", "between blanks that lie side by side", readSpacing, 5)
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

interface ExportOptions extends PresetOptions {
  readonly zip?: string;
  readonly together?: string;
  readonly format: string;
  readonly pattern: string;
  readonly spacing: number;
  readonly apart?: boolean;
  readonly anyway?: boolean;
}

program
  .command("compare")
  .description("hold a DXF that came back against the blank; ends with 1 where they differ")
  .argument("<file>", "part document")
  .argument("<returned>", "the DXF")
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

program
  .command("check")
  .description("say what the checks find on one or more parts; ends with 1 where a finding stops one")
  .argument("<file...>", "part documents")
  .option("--rules <path>", "shop rules to go by in the place of those that the parts carry")
  .option("--json", "print the findings as JSON: a list with an element for each file, in their order")
  .option("--sarif <path>", "write the findings as a SARIF 2.1.0 log, for pipelines; - prints it")
  .action((files: string[], options: { json?: boolean; sarif?: string; rules?: string }) => {
    if (options.json && options.sarif === "-")
      throw new UnreadableFile("--json and --sarif - would both print; give --sarif a file.");
    const parts = files.map((file) => ({ file, document: readPart(file) }));
    const rules = options.rules === undefined ? undefined : readShopRules(options.rules);
    const results = parts.map(({ file, document }) => ({ file, build: examineFully(document, rules) }));
    const checked = results.map(({ file, build }) => ({ file, findings: reportFindings(build) }));
    if (options.sarif) {
      const log = sarifLog(checked.map(({ file, findings }) => ({ uri: uriOf(file), findings })));
      const text = `${JSON.stringify(log, null, 2)}\n`;
      if (options.sarif === "-") process.stdout.write(text);
      else save(options.sarif, text);
    }
    if (options.json) print(JSON.stringify(checked, null, 2));
    else if (options.sarif !== "-")
      checked.forEach(({ file, findings }, i) => {
        print(describeFindings(file, findings));
        const left = notChecked(results[i].build);
        if (left) print(`  ${left}`);
      });
    process.exitCode = results.some(({ build }) => isStopped(build)) ? STOPPED : FINE;
  });

/** A path as a reference that stands in a URI: relative ones stay relative to where the command ran. */
const uriOf = (file: string) =>
  isAbsolute(file) ? pathToFileURL(file).href : file.split(/[\\/]/).map(encodeURIComponent).join("/");

function describeFindings(file: string, findings: readonly ReportedFinding[]): string {
  if (findings.length === 0) return `${file}: nothing found`;
  const lines = findings.map(
    (f) =>
      `  ${f.accepted ? "accepted " : ""}${f.level}: ${f.message}${f.pieces.length > 0 ? `  (${f.pieces.join(", ")})` : ""}${f.accepted ? `  – ${f.accepted.reason} (${f.accepted.by})` : ""}`,
  );
  return [`${file}:`, ...lines].join("\n");
}

program
  .command("fold")
  .description("write the folded part as STL; `blank --format` writes other kinds")
  .argument("<file>", "part document")
  .requiredOption("--stl <path>", "the STL file to write")
  .option("--at <share>", "how far to fold, 0 flat to 1 folded", readShare, 1)
  .action(async (file: string, options: { stl: string; at: number }) => {
    const document = readPart(file);
    const build = examinePart(document);
    tellFindings(document, build);
    if (build.sheet) await writePart(options.stl, formatNamed("stl"), document, build, { fold: options.at });
    process.exitCode = isStopped(build) || !build.sheet ? STOPPED : FINE;
  });

const QUESTIONS: readonly BendQuestion[] = [
  "allowance",
  "deduction",
  "k",
  "angle",
  "radius",
  "length",
  "force",
];

program
  .command("why")
  .description("say where a number comes from: the chain of formulas, down to chart row, card and step")
  .argument("<file>", "part document")
  .option("--bend <number>", "a bend, by its number in the bend list", readWhole)
  .addOption(new Option("--of <what>", "what of the bend; everything if nothing is said").choices(QUESTIONS))
  .addOption(new Option("--blank <side>", "a side of the blank").choices(["width", "height", "area"]))
  .option("--mass", "the mass of the part")
  .option("--json", "print the chains as JSON")
  .action((file: string, options: WhyOptions) => {
    const document = readPart(file);
    const build = examinePart(document);
    const chains = whyChains(document, build, options);
    if (options.json) print(JSON.stringify(chains, null, 2));
    else print(chains.map(describeWhy).join("\n\n"));
    tellFindings(document, build);
    process.exitCode = isStopped(build) ? STOPPED : FINE;
  });

interface WhyOptions {
  readonly bend?: number;
  readonly of?: BendQuestion;
  readonly blank?: "width" | "height" | "area";
  readonly mass?: boolean;
  readonly json?: boolean;
}

function whyChains(document: PartDocument, build: PartBuild, options: WhyOptions): Why[] {
  const { bend, of, blank, mass } = options;
  if (bend === undefined && !blank && !mass)
    throw new UnreadableFile("Say what to explain: --bend NUMBER, --blank width, or --mass.");
  if ((blank || mass) && !build.blank)
    throw new UnreadableFile(`“${document.name}” has no blank yet, so there is nothing to explain.`);
  const chains: Why[] = [];
  if (bend !== undefined) {
    const row = build.bends.find((b) => b.number === bend);
    if (!row) {
      const numbers = build.bends.map((b) => b.number).join(", ");
      throw new UnreadableFile(
        `“${document.name}” has no bend ${bend}; ${numbers ? `there are ${numbers}` : "it has none"}.`,
      );
    }
    // A bend of 180° has no deduction, one of unknown strength no force.
    const asked = QUESTIONS.filter(
      (q) => (q !== "deduction" || row.deduction !== undefined) && (q !== "force" || row.force),
    );
    for (const question of of ? [of] : asked) chains.push(whyBend(document, build, row, question));
  }
  if (blank)
    chains.push(blank === "area" ? whyBlankArea(document, build) : whyBlankSize(document, build, blank));
  if (mass) chains.push(whyMass(document, build));
  return chains;
}

const describeWhy = ({ title, result, lines }: Why): string =>
  [
    `${title}: ${result}`,
    ...lines.map((l) => `  ${l.text}${l.source ? `  (${l.source}${addressOf(l)})` : ""}`),
  ].join("\n");

/** Which thing of the stock a line leads to, by its id. */
const addressOf = ({ link }: WhyLine): string =>
  link && "id" in link && link.to !== "step" ? ` · ${link.id}` : "";

program
  .command("edit")
  .description("change a part by commands, all of them or none, and say what they did")
  .argument("<file>", "part document; it is changed in its place unless --out is given")
  .requiredOption(
    "--command <json>",
    "a command or a list of them as JSON, @FILE for those in a file, or - for standard input; may be given again",
    (text: string, before: readonly string[] = []) => [...before, text],
  )
  .option("--out <path>", "write the changed part here and leave the file as it is")
  .option("--undo <path>", "write the command that takes the changes back")
  .option("--json", "print what was done, and the command that takes it back, as JSON")
  .action((file: string, options: EditOptions) => {
    const { document, undo, said } = editPart(file, readPart(file), readCommandArguments(options.command));
    const build = examinePart(document);
    replaceFile(options.out ?? file, `${JSON.stringify(document, null, 2)}\n`);
    if (options.undo) replaceFile(options.undo, `${JSON.stringify(undo)}\n`);
    if (options.json) print(JSON.stringify({ said, undo, findings: build.findings }, null, 2));
    else for (const words of said) print(words);
    tellFindings(document, build);
    process.exitCode = isStopped(build) ? STOPPED : FINE;
  });

interface EditOptions {
  readonly command: readonly string[];
  readonly out?: string;
  readonly undo?: string;
  readonly json?: boolean;
}

program
  .command("schema")
  .description("print the JSON Schema of part documents, or of stock libraries")
  .option("--stock", "that of stock libraries")
  .option("--write <path>", "write it to a file instead")
  .action((options: { write?: string; stock?: boolean }) => {
    const text = JSON.stringify(options.stock ? librarySchema() : documentSchema(), null, 2);
    if (options.write) save(options.write, `${text}\n`);
    else print(text);
  });

program
  .command("outlines")
  .description("solve the outlines of a file, and say what is free and what disagrees")
  .argument("<file>", 'an outline, several under "outlines", or a part with outlines')
  .option("--json", "print a list: an object for each outline, in their order")
  .action((file: string, options: { json?: boolean }) => {
    const solved = readOutlines(file);
    if (options.json)
      print(
        JSON.stringify(
          solved.map(({ outline, made }) => outlineReport(outline, made)),
          null,
          2,
        ),
      );
    else for (const { outline, made } of solved) sayOutline(outline, made);
    process.exitCode = solved.some(({ made }) => made.state === "conflict") ? STOPPED : FINE;
  });

/** An outline as programs read it: lengths in mm, angles in degrees. */
function outlineReport(outline: Outline, made: SolvedOutline) {
  const angles = new Set(outline.dimensions.flatMap((d) => (dimensionOf(d.kind) === "angle" ? [d.id] : [])));
  const spoken = ([id, value]: [string, number]) => [id, angles.has(id) ? toDegrees(value) : value];
  return {
    name: outline.name,
    state: made.state,
    free: made.free,
    conflicts: made.conflicts,
    repeats: made.repeats,
    points: made.points,
    radii: made.radii,
    values: Object.fromEntries(Object.entries(made.values).map(spoken)),
    problems: made.problems,
  };
}

function sayOutline({ name }: Outline, { state, free, conflicts, repeats, problems }: SolvedOutline): void {
  const said = {
    fixed: "fixed",
    free: `${free} left free`,
    conflict: conflicts.length > 0 ? `these do not go together: ${conflicts.join(", ")}` : "cannot be solved",
  }[state];
  print(`${name}: ${said}`);
  for (const list of repeats)
    print(`  ${list[list.length - 1]} only repeats ${list.slice(0, -1).join(", ") || "what is there"}`);
  for (const p of problems) print(`  ${p.message}`);
}

program
  .command("validate")
  .description("say whether a part document can be read and built")
  .argument("<file>", "part document")
  .action((file: string) => {
    const document = readPart(file);
    const build = examinePart(document);
    tellFindings(document, build);
    const steps = `${document.steps.length} ${document.steps.length === 1 ? "step" : "steps"}`;
    print(
      `${file}: a part document, version ${document.version}, ${steps}, ${build.findings.length} findings`,
    );
    process.exitCode = isStopped(build) ? STOPPED : FINE;
  });

function readWhole(text: string): number {
  const whole = Number(text);
  if (!(Number.isInteger(whole) && whole > 0))
    throw new InvalidArgumentError("It must be a whole number from 1.");
  return whole;
}

function readSpacing(text: string): number {
  const length = Number(text);
  if (!(length >= 0 && length <= 10_000))
    throw new InvalidArgumentError("It must be a number of mm from 0 to 10000.");
  return length;
}

function readShare(text: string): number {
  const share = Number(text);
  if (!(share >= 0 && share <= 1)) throw new InvalidArgumentError("It must be a number from 0 to 1.");
  return share;
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

function describe(document: PartDocument, build: PartBuild): string {
  const { blank, folded } = build;
  const lines = [document.name];
  if (blank && folded) {
    const box = folded.box.max.map((v, k) => (v - folded.box.min[k]).toFixed(2)).join(" × ");
    lines.push(
      `  blank   ${blank.width.toFixed(2)} × ${blank.height.toFixed(2)} mm, ${blank.openings.length} openings`,
    );
    lines.push(`  folded  ${box} mm, ${folded.mass.toFixed(3)} kg`);
    lines.push(`  bends   ${build.bends.length}`);
  } else lines.push("  nothing to cut yet");
  for (const f of build.findings) lines.push(`  ${f.level}: ${f.message}`);
  return lines.join("\n");
}

function tellFindings(document: PartDocument, build: PartBuild): void {
  for (const f of build.findings) process.stderr.write(`${document.name}: ${f.level}: ${f.message}\n`);
}

try {
  await program.parseAsync();
} catch (error) {
  if (!(error instanceof UnreadableFile)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = UNREADABLE;
}
