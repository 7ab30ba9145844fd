/** Why a text is no DXF that can be read; the message is a sentence with the line. */
export class DxfProblem extends Error {}

/** Ends reading with a line of the file and what is wrong there. */
export function problemAt(line: number, what: string): never {
  throw new DxfProblem(`line ${line}: ${what}`);
}
