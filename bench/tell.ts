import { appendFileSync } from "node:fs";

/** One figure of the bench: what it is, what it came to, and the most that it may be. */
export interface Row {
  readonly name: string;
  readonly value: number;
  readonly most: number;
  readonly unit: "×" | "exponent" | "ms" | "MB" | "kB" | "µs";
  readonly detail?: string;
}

/** Shows a figure, and keeps it for a later run to be compared with where BENCH_ROWS names a file. */
export function tell(row: Row): void {
  const { name, value, most, unit, detail } = row;
  const said =
    unit === "exponent" ? `exponent ${value.toFixed(2)}` : `${value.toFixed(value < 10 ? 2 : 1)} ${unit}`;
  const verdict = value <= most ? "OK  " : "OVER";
  process.stdout.write(`${verdict} ${name}: ${said}, at most ${most}${detail ? ` (${detail})` : ""}\n`);
  if (process.env.BENCH_ROWS) appendFileSync(process.env.BENCH_ROWS, `${JSON.stringify(row)}\n`);
}

/** Whether only what takes little time is measured. */
export const QUICK = process.env.BENCH_QUICK === "1";
