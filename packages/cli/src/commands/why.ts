import {
  type BendQuestion,
  examineFully,
  isStopped,
  type PartBuild,
  type PartDocument,
  type Why,
  type WhyLine,
  whyBend,
  whyBlankArea,
  whyBlankSize,
  whyMass,
} from "@hillcrest/core";
import { type Command, Option } from "commander";
import { FINE, STOPPED } from "../ends.ts";
import { readWhole } from "../read-numbers.ts";
import { readPart } from "../read-part.ts";
import { tellFindings } from "../tell-part.ts";
import { UnreadableFile } from "../unreadable-file.ts";
import { print } from "../write-files.ts";

const QUESTIONS: readonly BendQuestion[] = [
  "allowance",
  "deduction",
  "k",
  "angle",
  "radius",
  "length",
  "force",
];

/** What `hillcrest why` takes and does. */
export function setUp(command: Command): void {
  command
    .option("--bend <number>", "a bend, by its number in the bend list", readWhole)
    .addOption(
      new Option("--of <what>", "what of the bend; everything if nothing is said").choices(QUESTIONS),
    )
    .addOption(new Option("--blank <side>", "a side of the blank").choices(["width", "height", "area"]))
    .option("--mass", "the mass of the part")
    .option("--json", "print the chains as JSON")
    .action((file: string, options: WhyOptions) => {
      const document = readPart(file);
      const build = examineFully(document);
      const chains = whyChains(document, build, options);
      if (options.json) print(JSON.stringify(chains, null, 2));
      else print(chains.map(describeWhy).join("\n\n"));
      tellFindings(document, build);
      process.exitCode = isStopped(build) ? STOPPED : FINE;
    });
}

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
