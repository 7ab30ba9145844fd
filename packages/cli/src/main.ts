import { mkdirSync, writeFileSync } from "node:fs";
import { basename, dirname, join } from "node:path";
import {
  documentSchema,
  evenState,
  examinePart,
  foldMesh,
  foldSheet,
  isStopped,
  meshSheet,
  type PartBuild,
  type PartDocument,
  summarize,
  writeDxf,
  writeStl,
} from "@hillcrest/core";
import { Command, InvalidArgumentError } from "commander";
import { readPart, UnreadableFile } from "./read-part.ts";

const FINE = 0;
const STOPPED = 1;
const UNREADABLE = 2;

const program = new Command("hillcrest")
  .description("Flat patterns and files from Hillcrest part documents, without a server or a browser.")
  .showHelpAfterError()
  .exitOverride((error) => process.exit(error.exitCode === 0 ? FINE : UNREADABLE));

program
  .command("blank")
  .description("work out the flat pattern of one or more parts")
  .argument("<file...>", "part documents")
  .option("--dxf <path>", "write the blank of a single part to this DXF file")
  .option("--out <dir>", "write a DXF for each part into this folder")
  .option("--json", "print numbers as JSON: an object for one file, a list for several")
  .action((files: string[], options: { dxf?: string; out?: string; json?: boolean }) => {
    if (options.dxf && options.out) throw new UnreadableFile("Give either --dxf or --out, not both.");
    if (options.dxf && files.length > 1)
      throw new UnreadableFile("--dxf takes one part; use --out DIR for several.");
    const parts = files.map((file) => ({ file, document: readPart(file) }));
    const results = parts.map(({ file, document }) => ({ file, document, build: examinePart(document) }));
    const names = uniqueNames(files);
    results.forEach(({ build }, i) => {
      const path = options.dxf ?? (options.out ? join(options.out, `${names[i]}.dxf`) : undefined);
      if (path && build.sheet && build.blank) save(path, writeDxf(build.sheet, build.blank));
    });
    if (options.json) {
      const summaries = results.map(({ document, build }) => summarize(document.name, build));
      print(JSON.stringify(summaries.length === 1 ? summaries[0] : summaries, null, 2));
    } else for (const { document, build } of results) print(describe(document, build));
    process.exitCode = results.some(({ build }) => isStopped(build) || !build.blank) ? STOPPED : FINE;
  });

program
  .command("fold")
  .description("write the folded part as STL")
  .argument("<file>", "part document")
  .requiredOption("--stl <path>", "the STL file to write")
  .option("--at <share>", "how far to fold, 0 flat to 1 folded", readShare, 1)
  .action((file: string, options: { stl: string; at: number }) => {
    const document = readPart(file);
    const build = examinePart(document);
    tellFindings(document, build);
    if (build.sheet) {
      const folding = foldSheet(build.sheet, evenState(build.sheet, options.at), document.anchor);
      save(options.stl, writeStl(foldMesh(meshSheet(build.sheet, 0.02), folding)));
    }
    process.exitCode = isStopped(build) || !build.sheet ? STOPPED : FINE;
  });

program
  .command("schema")
  .description("print the JSON Schema of part documents")
  .option("--write <path>", "write it to a file instead")
  .action((options: { write?: string }) => {
    const text = JSON.stringify(documentSchema(), null, 2);
    if (options.write) save(options.write, `${text}\n`);
    else print(text);
  });

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

function save(path: string, content: string | Uint8Array): void {
  try {
    mkdirSync(dirname(path), { recursive: true });
    writeFileSync(path, content);
  } catch (error) {
    throw new UnreadableFile(`${path}: it cannot be written (${(error as Error).message})`);
  }
  process.stderr.write(`wrote ${path}\n`);
}

const print = (text: string) => process.stdout.write(`${text}\n`);

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
  program.parse();
} catch (error) {
  if (!(error instanceof UnreadableFile)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = UNREADABLE;
}
