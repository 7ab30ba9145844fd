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
  proveDxf,
  sideBySide,
  tooManyTogether,
  writeDxf,
} from "@hillcrest/core";
import { strToU8, type Zippable, zipSync } from "fflate";
import { dotsOf } from "./dots.ts";
import { formatNamed, save, tell } from "./write-files.ts";

export interface ManyOptions {
  readonly pattern: string;
  /** Between blanks that lie side by side, mm. */
  readonly spacing: number;
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
  return tellRefused(rows);
}

/** Writes many parts side by side into one DXF, proven as a whole. How many were not written. */
export function exportTogether(
  path: string,
  parts: readonly BatchPart[],
  order: BatchOrder,
  { spacing }: ManyOptions,
): number {
  const answers = parts.map((p) => ({ ...batchDrawing(p, order), quantity: p.quantity }));
  const wanted = answers.flatMap(({ drawn, quantity }) => (drawn ? [{ drawn, quantity }] : []));
  if (wanted.length === 0) {
    tell(`${path}: not written, none of the parts can be cut`);
    return tellRefused(answers.map((a) => a.row));
  }
  const tooMany = tooManyTogether(wanted);
  if (tooMany) {
    tell(`${path}: not written. ${tooMany}`);
    return parts.length;
  }
  const drawn = sideBySide(wanted, spacing / wanted[0].drawn.unit);
  const { version } = order.preset;
  const text = writeDxf(drawn.drawing, { version, remarks: drawn.stops });
  const proof = proveDxf(text, drawn, version);
  const wrong = proof.lines.filter((l) => !l.holds);
  if (wrong.length > 0) {
    tell(`${path}: not written, read back it is not what was drawn: ${wrong.map((l) => l.text).join("; ")}`);
    return parts.length;
  }
  save(path, text);
  for (const line of proof.lines) tell(`  ${line.text}`);
  return tellRefused(answers.map((a) => a.row));
}

function tellRefused(rows: readonly CutListRow[]): number {
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
