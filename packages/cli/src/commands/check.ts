import { isAbsolute } from "node:path";
import { pathToFileURL } from "node:url";
import {
  examineFully,
  isStopped,
  notChecked,
  type ReportedFinding,
  reportFindings,
  sarifLog,
} from "@hillcrest/core";
import type { Command } from "commander";
import { FINE, STOPPED } from "../ends.ts";
import { readPart, readShopRules } from "../read-part.ts";
import { UnreadableFile } from "../unreadable-file.ts";
import { print, save } from "../write-files.ts";

/** What `hillcrest check` takes and does. */
export function setUp(command: Command): void {
  command
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
}

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
