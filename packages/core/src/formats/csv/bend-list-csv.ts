import type { BendListRow } from "../../part/bend-list.ts";
import { INCH } from "../../units/display.ts";
import { formatFixed, formatShort, toDegrees } from "../../units/quantity.ts";
import { csvText } from "./csv.ts";

const CSV_HEAD = (unit: string): readonly string[] => [
  "number",
  "forming",
  "joins",
  "direction",
  "bend angle °",
  "opening angle °",
  `radius ${unit}`,
  "K",
  "K from",
  `BA ${unit}`,
  `BD ${unit}`,
  `length ${unit}`,
  `pieces ${unit}`,
  `outside 1 ${unit}`,
  `outside 2 ${unit}`,
  `across ${unit}`,
  `up ${unit}`,
  "die",
  "force kN",
];

/** The bend list as CSV, in mm or in inches; each column says its unit; last, a row for each thing that stops the part. */
export function bendListCsv(
  rows: readonly BendListRow[],
  units: "mm" | "in",
  stopped: readonly string[] = [],
): string {
  const f = units === "mm" ? 1 : 1 / INCH;
  const length = (v: number | undefined) => (v === undefined ? "" : formatFixed(v * f, 6));
  const several = (list: readonly number[]) => list.map((v) => length(v)).join(" / ");
  return csvText([
    CSV_HEAD(units),
    ...rows.map((b) => [
      b.number,
      b.forming ?? "",
      b.between.join("/"),
      b.seenUp ? "up" : "down",
      formatShort(toDegrees(b.angle), 6),
      formatShort(toDegrees(b.opening), 6),
      length(b.radius),
      formatShort(b.k, 6),
      b.kSource.label,
      length(b.allowance),
      length(b.deduction),
      length(b.length),
      b.pieces.map((v) => length(v)).join(" + "),
      length(b.legs[0]),
      length(b.legs[1]),
      several(b.across),
      several(b.upwards),
      b.force?.dieName ?? "",
      b.force ? formatFixed(b.force.total, 3) : "",
    ]),
    ...stopped.map((said) => ["stopped", said]),
  ]);
}
