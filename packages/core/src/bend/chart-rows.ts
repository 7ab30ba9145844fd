import Papa from "papaparse";
import { Kept } from "../kept.ts";
import { fail, ok, type Result } from "../result.ts";
import { evaluateExpression } from "../units/expression.ts";
import { formatShort, toRadians } from "../units/quantity.ts";
import { kFromAllowance } from "./allowance.ts";
import { allowanceOf, type ChartRow, chartAngle, MOST_CHART_ROWS, type TableRule } from "./chart.ts";

/** Something wrong in a table, by its row (from 1) and column. */
export interface CellProblem {
  readonly row: number;
  readonly column: string;
  readonly message: string;
}

/** What a table's values mean, and what may be mended while it is read. */
export interface RowsReading extends Pick<TableRule, "gives" | "angleIs" | "deductionTo"> {
  /** Whether the chart says why a K outside 0 to 1 is meant. */
  readonly reason: string;
  /** Take 1,5 for 1.5. */
  readonly decimalCommas?: boolean;
  /** Bring rows into rising order instead of refusing them. */
  readonly sort?: boolean;
}

export interface RowsRead {
  readonly rows: readonly ChartRow[];
  /** What is allowed but should be looked at. */
  readonly warnings: readonly CellProblem[];
}

/** Of very many problems only these are told. */
const MOST_TOLD = 50;

const PLAIN = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i;
const COMMA = /^[+-]?\d+,\d+$/;

const columnNames = (gives: string): readonly string[] => ["thickness", "radius", "angle", gives];

/** How a header may call each column, in lower case and without unit. */
const HEADERS: readonly (readonly string[])[] = [
  ["t", "thickness", "gauge"],
  ["r", "radius", "inside radius", "inner radius"],
  ["angle", "bend angle", "opening angle", "a"],
  ["k", "ba", "bd", "value", "allowance", "deduction", "bend allowance", "bend deduction", "k-factor"],
];

/**
 * Reads a table by thickness × radius × angle from text as a spreadsheet copies it or a CSV file
 * holds it: commas, semicolons or tabs between columns, a header or none. Nothing is taken when
 * anything is wrong; every problem is named by its row and column. Lengths in mm unless a cell says
 * another unit; angles in degrees.
 */
export function readChartText(text: string, reading: RowsReading): Result<RowsRead, CellProblem[]> {
  const columns = columnNames(reading.gives);
  const whole = (message: string): Result<RowsRead, CellProblem[]> => fail([{ row: 0, column: "", message }]);
  if (text.trim() === "")
    return whole(
      `There is nothing in it. Give one row for each bend: ${columns.join(", ")}; for example 1.5, 1.5, 90, 0.42.`,
    );
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), {
    skipEmptyLines: "greedy",
    delimiter: delimiterOf(text),
  });
  const lines = parsed.data;
  const header = lines.length > 0 && lines[0].every((cell) => !/^[+-]?[\d.]/.test(cell.trim()));
  const order = header ? headerOrder(lines[0]) : [0, 1, 2, 3];
  if (typeof order === "string") return whole(`${order} The columns are ${columns.join(", ")}.`);
  const body = header ? lines.slice(1) : lines;
  if (body.length === 0)
    return whole(`There is a header, and no row below it. Give rows of ${columns.join(", ")}.`);
  if (body.length > MOST_CHART_ROWS)
    return whole(`A chart can have at most ${MOST_CHART_ROWS} rows; here are ${body.length}.`);
  return readCells(body, order, reading, header ? 2 : 1);
}

function delimiterOf(text: string): string {
  const line = text.trimStart().split("\n", 1)[0];
  return line.includes("\t") ? "\t" : line.includes(";") ? ";" : ",";
}

function headerOrder(cells: readonly string[]): number[] | string {
  const names = cells.map((c) =>
    c
      .toLowerCase()
      .replace(/[([].*$/, "")
      .replace(/\b(mm|deg|in|degrees)\b|°/g, "")
      .trim(),
  );
  const order: number[] = [];
  for (const [i, known] of HEADERS.entries()) {
    const at = names.findIndex((name) => known.includes(name));
    if (at < 0) return `The header has no column for ${["thickness", "radius", "angle", "the value"][i]}.`;
    order.push(at);
  }
  return order;
}

function readCells(
  body: readonly (readonly string[])[],
  order: readonly number[],
  reading: RowsReading,
  firstRow: number,
): Result<RowsRead, CellProblem[]> {
  const columns = columnNames(reading.gives);
  const problems: CellProblem[] = [];
  const rows: { row: ChartRow; line: number }[] = [];
  for (const [i, cells] of body.entries()) {
    const line = i + firstRow;
    if (problems.length >= MOST_TOLD) break;
    const most = Math.max(...order);
    const extra = cells.findIndex((c, at) => at > most && c.trim() !== "");
    if (extra >= 0 && order.length === 4 && most === 3) {
      problems.push({
        row: line,
        column: `column ${extra + 1}`,
        message: `"${cells[extra]}" is one column too many; there are ${columns.join(", ")}. A comma in a number counts as a new column.`,
      });
      continue;
    }
    const values = order.map((at, c) => readCell(cells[at] ?? "", c, reading, line, columns[c], problems));
    if (values.every((v) => v !== undefined)) rows.push({ row: values as unknown as ChartRow, line });
  }
  if (problems.length > 0) return fail(problems);
  if (reading.sort) rows.sort((a, b) => compareRows(a.row, b.row));
  const checked = checkChartRows(
    rows.map((r) => r.row),
    reading,
    rows.map((r) => r.line),
  );
  if (checked.problems.length > 0) return fail([...checked.problems]);
  return ok({ rows: rows.map((r) => r.row), warnings: checked.warnings });
}

function readCell(
  text: string,
  column: number,
  reading: RowsReading,
  row: number,
  name: string,
  problems: CellProblem[],
): number | undefined {
  let cell = text.trim();
  if (PLAIN.test(cell)) return Number(cell);
  const say = (message: string) => {
    problems.push({ row, column: name, message });
    return undefined;
  };
  if (cell === "") return say("There is no value.");
  if (COMMA.test(cell)) {
    if (!reading.decimalCommas)
      return say(`"${cell}" has a decimal comma. Write a point, or have commas read as points.`);
    cell = cell.replace(",", ".");
    return Number(cell);
  }
  const length = column < 2 || (column === 3 && reading.gives !== "K");
  const result = evaluateExpression(cell, {
    dimension: length ? "length" : column === 2 ? "angle" : "number",
  });
  if (!result.ok) return say(`"${cell}" is not a number.`);
  return column === 2 ? (result.value * 180) / Math.PI : result.value;
}

/** The order rows stand in: by thickness, radius, angle. */
export const compareRows = (a: ChartRow, b: ChartRow): number => a[0] - b[0] || a[1] - b[1] || a[2] - b[2];

const n = (v: number) => formatShort(v, 4);

/**
 * Holds rows to a table's rules: sizes that make sense, rising order, nothing twice, metal left in
 * every bend. `lines` says what to call each row; its place from 1 if nothing is given.
 */
export function checkChartRows(
  rows: readonly ChartRow[],
  reading: TableRules,
  lines?: readonly number[],
): RowsChecked {
  if (lines) return checkRows(rows, reading, lines);
  return checked.of(rows, reading);
}

type TableRules = Pick<RowsReading, "gives" | "angleIs" | "deductionTo" | "reason">;

export interface RowsChecked {
  readonly problems: readonly CellProblem[];
  readonly warnings: readonly CellProblem[];
}

// A long table is asked about by all that shows it; rows are never changed in place.
const checked = new Kept(
  (rows: readonly ChartRow[], reading: TableRules) => checkRows(rows, reading, undefined),
  (before, now) => nameOf(before) === nameOf(now),
);
const nameOf = ({ gives, angleIs, deductionTo, reason }: TableRules): string =>
  [gives, angleIs, deductionTo, reason.trim() !== ""].join();

function checkRows(
  rows: readonly ChartRow[],
  reading: TableRules,
  lines: readonly number[] | undefined,
): RowsChecked {
  const columns = columnNames(reading.gives);
  const problems: CellProblem[] = [];
  const warnings: CellProblem[] = [];
  const say = (i: number, column: number, message: string) =>
    problems.push({ row: lines?.[i] ?? i + 1, column: columns[column], message });
  for (let i = 0; i < rows.length && problems.length < MOST_TOLD; i++) {
    const [t, r, angle, value] = rows[i];
    const told = problems.length;
    if (!(t > 0 && t <= 50)) say(i, 0, `${n(t)} must be more than 0 and at most 50 mm.`);
    if (!(r >= 0 && r <= 2000)) say(i, 1, `${n(r)} must be from 0 to 2000 mm.`);
    const bend = chartAngle(reading.angleIs, angle);
    if (!(bend > 1e-9 && bend < 360 - 1e-9))
      say(
        i,
        2,
        reading.angleIs === "bend angle"
          ? `${n(angle)}° is no bend; it must be more than 0° and less than 360°.`
          : `${n(angle)}° is no bend; an opening angle must be less than 180° and more than −180°.`,
      );
    if (problems.length > told) continue;
    checkOrder(rows, i, say);
    checkValue([t, r, bend, value], i, reading, say, warnings, lines);
  }
  return { problems, warnings };
}

type SayCell = (row: number, column: number, message: string) => void;

function checkOrder(rows: readonly ChartRow[], i: number, say: SayCell): void {
  if (i === 0) return;
  const [t0, r0, a0] = rows[i - 1];
  const [t, r, a] = rows[i];
  if (Math.abs(t - t0) < 1e-6 && Math.abs(r - r0) < 1e-6 && Math.abs(a - a0) < 1e-6)
    say(i, 2, `Thickness ${n(t)}, radius ${n(r)}, ${n(a)}° stand in the row before too. Remove one of them.`);
  else if (t < t0 - 1e-6)
    say(i, 0, `${n(t)} stands after ${n(t0)}. Thicknesses must rise; have the rows sorted.`);
  else if (Math.abs(t - t0) < 1e-6 && r < r0 - 1e-6)
    say(i, 1, `${n(r)} stands after ${n(r0)}. Radii of one thickness must rise; have the rows sorted.`);
  else if (Math.abs(t - t0) < 1e-6 && Math.abs(r - r0) < 1e-6 && a < a0)
    say(i, 2, `${n(a)}° stands after ${n(a0)}°. Angles of one radius must rise; have the rows sorted.`);
}

function checkValue(
  [t, r, bend, value]: ChartRow,
  i: number,
  reading: Pick<RowsReading, "gives" | "deductionTo" | "reason">,
  say: SayCell,
  warnings: CellProblem[],
  lines: readonly number[] | undefined,
) {
  const shape = { t, r, angle: toRadians(bend) };
  const allowance = allowanceOf(reading, shape, value);
  if (allowance === undefined)
    return say(
      i,
      3,
      `At ${n(bend)}° there is no mould point to deduct to. Count legs to the outermost tangents, or give BA.`,
    );
  if (!(allowance > 0))
    return say(
      i,
      3,
      `${reading.gives} ${n(value)} leaves the bend ${n(allowance)} mm of metal; it must be more than nothing.`,
    );
  const k = kFromAllowance(shape, allowance);
  if (k >= -1e-9 && k <= 1 + 1e-9) return;
  const what = `${reading.gives === "K" ? "" : `${reading.gives} ${n(value)} amounts to `}K ${n(k)}, outside 0 to 1`;
  if (reading.reason.trim() === "")
    return say(i, 3, `${what}. Correct it, or give the chart a reason why it is meant.`);
  warnings.push({ row: lines?.[i] ?? i + 1, column: columnNames(reading.gives)[3], message: `${what}.` });
}

/** Rows as CSV with a header, numbers as they are held. */
export const writeChartText = (rule: Pick<TableRule, "gives" | "rows">): string =>
  Papa.unparse(
    { fields: [...columnNames(rule.gives)], data: rule.rows.map((r) => [...r]) },
    { newline: "\n" },
  );
