import { createHash } from "node:crypto";
import {
  type BatchOrder,
  type BatchPart,
  batchDrawing,
  batchPart,
  type CutListRow,
  cutListCsv,
  namedFiles,
  proofsText,
  togetherFiles,
} from "@hillcrest/core";
import { strToU8, type Zippable, zipSync } from "fflate";
import { dotsOf } from "./dots.ts";
import { formatNamed, save, tell } from "./write-files.ts";

export interface ManyOptions {
  readonly pattern: string;
  /** Between blanks that lie side by side, mm. */
  readonly spacing: number;
  /** Side by side: a file for each stock, or each stock in a group of one file. */
  readonly stocks: "files" | "groups";
}

const sha256 = (content: string | Uint8Array): string => createHash("sha256").update(content).digest("hex");

/** Writes many parts into one zip, with their cut list and their proofs. How many were not written. */
export async function exportZip(
  path: string,
  parts: readonly BatchPart[],
  order: BatchOrder,
  { pattern }: ManyOptions,
): Promise<number> {
  const format = formatNamed(order.format);
  const answers = parts.map((p) => batchPart(p, order));
  const { files, rows } = namedFiles(answers, pattern, format.ending);
  const zip: Zippable = {};
  const proofs: { name: string; proof: (typeof files)[number]["proof"]; sha256: string }[] = [];
  for (const { name, content: made, proof } of files) {
    const content = format.asDots ? await dotsOf(made as string, 1600) : made;
    zip[name] = typeof content === "string" ? strToU8(content) : content;
    proofs.push({ name, proof, sha256: sha256(content) });
  }
  zip["cut list.csv"] = strToU8(cutListCsv(rows));
  if (proofs.some((p) => p.proof.length > 0)) zip["proofs.txt"] = strToU8(proofsText(proofs));
  save(path, zipSync(zip, { level: 6, mtime: new Date("2000-01-01T00:00:00Z") }));
  return tellRows(rows);
}

/** Writes many parts side by side: one DXF, or one for each stock beside it. How many parts were not written. */
export function exportTogether(
  path: string,
  parts: readonly BatchPart[],
  order: BatchOrder,
  { spacing, stocks }: ManyOptions,
): number {
  const answers = parts.map((p) => batchDrawing(p, order));
  const refused = tellRows(answers.map((a) => a.row));
  const wanted = answers.flatMap(({ drawn, row }) => (drawn ? [{ drawn, row }] : []));
  const made = togetherFiles(wanted, { preset: order.preset, spacing, stocks });
  if (!made.ok) {
    tell(`${path}: not written. ${made.error}`);
    return parts.length;
  }
  const files = made.value;
  for (const { name, text, proof } of files) {
    save(files.length === 1 ? path : path.replace(/(\.\w+)?$/, ` ${name}$1`), text);
    for (const line of proof) tell(`  ${line.text}`);
  }
  return refused;
}

/** Says which parts were not written, and which were although findings stop them. How many were not. */
function tellRows(rows: readonly CutListRow[]): number {
  for (const r of rows) if (r.stopped) tell(`${r.part}: written although a finding stops it: ${r.stopped}`);
  const refused = rows.filter((r) => r.refused);
  for (const r of refused) tell(`${r.part}: not written, ${r.refused}`);
  return refused.length;
}

/** `part.json` or `part.json=4`: a file, and how often the part is wanted. */
export function readWanted(argument: string): { readonly file: string; readonly quantity: number } {
  const found = /^(.+)=(\d{1,5})$/.exec(argument);
  return found
    ? { file: found[1], quantity: Math.max(1, Number(found[2])) }
    : { file: argument, quantity: 1 };
}
