import { problemAt } from "./dxf-problem.ts";

/** A group with code 0 and all groups up to the next one: a section's head, an entity, a layer. */
export interface DxfRecord {
  readonly type: string;
  /** The line of its type in the file, counted from 1. */
  readonly line: number;
  readonly codes: readonly number[];
  readonly values: readonly string[];
}

/** Texts in messages are cut to this. */
const MOST_SAID = 40;
const said = (text: string) =>
  JSON.stringify(text.length > MOST_SAID ? `${text.slice(0, MOST_SAID)}…` : text);

/**
 * Splits the text of a DXF into its records. Lines come in pairs, a group code and its value; each step takes one pair, so
 * that it ends with the text whatever that is. Throws a `DxfProblem` with the line.
 */
export function recordsOf(text: string): DxfRecord[] {
  if (text.trim() === "") problemAt(1, "there is nothing in the file.");
  if (text.slice(0, 200).includes("\0")) problemAt(1, "this is a binary file; save it as a DXF of text.");
  const lines = text.split(/\r\n|\n|\r/);
  const records: DxfRecord[] = [];
  let codes: number[] = [];
  let values: string[] = [];
  for (let i = 0; i < lines.length; i += 2) {
    const head = lines[i].trim();
    if (head === "" && i + 2 > lines.length) break;
    const code = Number(head);
    if (head === "" || !Number.isInteger(code))
      problemAt(i + 1, `${said(head)} is no group code; a DXF has a whole number here.`);
    if (i + 1 >= lines.length) problemAt(i + 1, "the file ends in the middle.");
    if (code === 0) {
      [codes, values] = [[], []];
      const type = lines[i + 1].trim().toUpperCase();
      records.push({ type, line: i + 2, codes, values });
      if (type === "EOF") return records;
    } else if (code !== 999) {
      codes.push(code);
      values.push(lines[i + 1]);
    }
  }
  problemAt(lines.length, "the file ends without EOF: it is not whole.");
}

/** Coordinates beyond this are no drawing, in its own units. */
const FARTHEST = 1e9;

/** The value of a code, as text; nothing where the record has none. */
export function textOf({ codes, values }: DxfRecord, code: number): string | undefined {
  const at = codes.indexOf(code);
  return at < 0 ? undefined : values[at].trim();
}

/** A text as a finite number within reach; what it is not is said with the record's line. */
export function readNumber(record: DxfRecord, code: number, text: string): number {
  const value = text.trim() === "" ? Number.NaN : Number(text);
  if (!Number.isFinite(value))
    problemAt(record.line, `${said(text.trim())} in a ${record.type} (group ${code}) is no number.`);
  if (Math.abs(value) > FARTHEST)
    problemAt(record.line, `${said(text.trim())} in a ${record.type} (group ${code}) is too large.`);
  return value;
}

/** The number of a code; `otherwise` where the record has none. */
export function numberOf(record: DxfRecord, code: number, otherwise: number): number {
  const at = record.codes.indexOf(code);
  return at < 0 ? otherwise : readNumber(record, code, record.values[at]);
}

/** The number of a code that the record must have; `what` names it in the message. */
export function numberNeeded(record: DxfRecord, code: number, what: string): number {
  const at = record.codes.indexOf(code);
  if (at < 0) problemAt(record.line, `this ${record.type} has no ${what} (group ${code}).`);
  return readNumber(record, code, record.values[at]);
}

/** All numbers of a code, in their order. */
export function numbersOf(record: DxfRecord, code: number): number[] {
  const out: number[] = [];
  record.codes.forEach((c, i) => {
    if (c === code) out.push(readNumber(record, code, record.values[i]));
  });
  return out;
}
