import { examineFully, isStopped } from "@hillcrest/core";
import type { Command } from "commander";
import { FINE, STOPPED } from "../ends.ts";
import { readPart } from "../read-part.ts";
import { tellFindings } from "../tell-part.ts";
import { print } from "../write-files.ts";

/** What `hillcrest validate` takes and does. */
export function setUp(command: Command): void {
  command.action((file: string) => {
    const document = readPart(file);
    const build = examineFully(document);
    tellFindings(document, build);
    const steps = `${document.steps.length} ${document.steps.length === 1 ? "step" : "steps"}`;
    print(
      `${file}: a part document, version ${document.version}, ${steps}, ${build.findings.length} findings`,
    );
    process.exitCode = isStopped(build) ? STOPPED : FINE;
  });
}
