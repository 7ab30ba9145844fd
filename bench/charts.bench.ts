// Look-ups in the largest shipped chart against a plain binary search, and the import of a very
// large table against a plain split of the same text, each in the same run.
import {
  type ChartRow,
  chartTable,
  readChartText,
  startingCharts,
  type TableRule,
  tableValue,
  writeChartText,
} from "@hillcrest/core";
import { compare } from "./compare.ts";
import { tell } from "./tell.ts";

const LOOK_UPS = 1_000_000;

const largest = startingCharts()
  .flatMap(({ rule }) => (rule.method === "table" ? [rule] : []))
  .reduce((a, b) => (b.rows.length > a.rows.length ? b : a));

/** Bends all over a table, the same for both sides: thickness of a row, radius and angle near it. */
function bendsIn({ rows }: TableRule, count: number): Float64Array {
  const out = new Float64Array(3 * count);
  let seed = 20261123;
  const random = () => {
    seed = (seed * 1664525 + 1013904223) % 4294967296;
    return seed / 4294967296;
  };
  for (let i = 0; i < count; i++) {
    const [t, r, angle] = rows[Math.floor(random() * rows.length)];
    out.set([t, r + random() * 0.2, 15 + random() * (angle - 15)], 3 * i);
  }
  return out;
}

const sum = { of: 0 };
const bends = bendsIn(largest, LOOK_UPS);
const keys = Float64Array.from(largest.rows, (_, i) => i);
const wanted = Float64Array.from(
  { length: LOOK_UPS },
  (_, i) => bends[3 * i + 2] * (largest.rows.length / 180),
);

/** What any look-up costs at the least: one binary search in a sorted array of as many rows. */
function plainSearch(): void {
  for (let i = 0; i < LOOK_UPS; i++) {
    let low = 0;
    let high = keys.length;
    const x = wanted[i];
    while (high - low > 1) {
      const middle = (low + high) >>> 1;
      if (keys[middle] <= x) low = middle;
      else high = middle;
    }
    sum.of += keys[low];
  }
}

const table = chartTable(largest);
const lookUps = (of = table, list = bends) => {
  for (let i = 0; i < list.length; i += 3) sum.of += tableValue(of, list[i], list[i + 1], list[i + 2]) || 0;
};
compare(
  `${LOOK_UPS} look-ups in the largest shipped chart (${largest.rows.length} rows)`,
  5,
  plainSearch,
  () => lookUps(),
);

const ROWS = 100_000;
const huge: TableRule = {
  ...largest,
  gives: "K",
  rows: Array.from(
    { length: ROWS },
    (_, i): ChartRow => [
      0.5 + 0.1 * Math.floor(i / 2000),
      0.5 + 0.1 * (Math.floor(i / 20) % 100),
      5 + 5 * (i % 20),
      0.3 + (i % 100) / 1000,
    ],
  ),
};
const text = writeChartText(huge);
const rowsIn = () => {
  const read = readChartText(text, { ...huge, reason: "" });
  if (!read.ok || read.value.rows.length !== ROWS) throw new Error("The table was not read whole.");
};
const start = performance.now();
rowsIn();
tell({
  name: `import of ${ROWS} rows the first time`,
  value: performance.now() - start,
  most: 3000,
  unit: "ms",
});
compare(
  `import of ${ROWS} rows`,
  20,
  () => void text.split("\n").map((l) => l.split(",").map(Number)),
  rowsIn,
);

const hugeTable = chartTable(huge);
const few = bendsIn(huge, 100_000);
const from = performance.now();
lookUps(hugeTable, few);
const each = ((performance.now() - from) * 1000) / 100_000;
tell({ name: "a look-up in it", value: each, most: 10, unit: "µs" });
