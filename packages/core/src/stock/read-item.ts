import {
  type BendChart,
  CHART_METHODS,
  type ChartRow,
  type ChartRule,
  MOST_CHART_POINTS,
  MOST_CHART_ROWS,
} from "../bend/chart.ts";
import { expressionValue } from "../bend/chart-look-up.ts";
import { checkChartRows } from "../bend/chart-rows.ts";
import {
  type DocumentProblem,
  ITEM_ID,
  isNumber,
  isPlain,
  type Plain,
  type Say,
} from "../fields/checking.ts";
import { checkFields } from "../fields/field-kinds.ts";
import { outlineProblems } from "../outline/read-outline.ts";
import { evaluateExpression } from "../units/expression.ts";
import { formatShort } from "../units/quantity.ts";
import { checkPreset, type ExportPreset } from "./export-preset.ts";
import { checkForm } from "./forms/check-form.ts";
import { ITEM_FIELDS } from "./item-fields.ts";
import { checkGroup } from "./kept-group.ts";
import type { GaugeList, Material, StockItem, StockSection } from "./library.ts";

const n = (v: number) => formatShort(v, 4);

/** Everything that is wrong with one item of a library, each with its place. */
export function itemProblems(section: StockSection, value: unknown, path = ""): DocumentProblem[] {
  const problems: DocumentProblem[] = [];
  const say: Say = (at, message) => problems.push({ path: at, message });
  if (!isPlain(value)) return [{ path, message: "This must be an object." }];
  if (typeof value.id !== "string" || !ITEM_ID.test(value.id))
    say(`${path}/id`, `"id" must be 1 to 64 letters, digits, - or _.`);
  checkFields(ITEM_FIELDS[section], value, path, { say, sparse: false });
  if (problems.length > 0) return problems;
  const item = value as unknown as StockItem;
  if (section === "materials") checkMaterial(item as Material, path, say);
  if (section === "gauges") checkGauges(item as GaugeList, path, say);
  if (section === "cards") checkReliefs(value, path, say);
  if (section === "charts") checkChart(value, path, say);
  if (section === "presets") checkPreset(item as ExportPreset, path, say);
  if (section === "groups") checkGroup(value, path, say);
  if (section === "forms") checkForm(value, path, say);
  if (section === "outlines") problems.push(...outlineProblems(value.outline, `${path}/outline`));
  return problems;
}

function checkMaterial(material: Material, path: string, say: Say) {
  if (material.yield > material.tensile)
    say(
      `${path}/yield`,
      `A yield strength of ${n(material.yield)} MPa cannot be above the tensile strength.`,
    );
  if (material.leastRadiusAcross > material.leastRadiusAlong)
    say(
      `${path}/leastRadiusAcross`,
      "Across the grain sheet bends tighter than along it: this cannot be the greater one.",
    );
}

function checkGauges(list: GaugeList, path: string, say: Say) {
  const seen = new Map<string, number>();
  list.rows.forEach((row, i) => {
    const before = seen.get(row.name.trim());
    if (before !== undefined)
      say(
        `${path}/rows/${i}/name`,
        `Row ${i + 1}, called: "${row.name}" stands in row ${before + 1} too. Remove one of them.`,
      );
    seen.set(row.name.trim(), i);
  });
  // A list of numbered gauges may fall where a metric one rises, but not both.
  const { rows } = list;
  const way = rows.length > 1 ? Math.sign(rows[rows.length - 1].thickness - rows[0].thickness) : 0;
  for (let i = 1; i < rows.length; i++) {
    const step = Math.sign(rows[i].thickness - rows[i - 1].thickness);
    if (step === way && step !== 0) continue;
    const what = `Row ${i + 1}, thickness: ${n(rows[i].thickness)} stands after ${n(rows[i - 1].thickness)}`;
    const all = way < 0 ? "fall" : "rise";
    return say(`${path}/rows/${i}/thickness`, `${what}; the others ${all}. Put the rows in order.`);
  }
}

function checkReliefs(card: Plain, path: string, say: Say) {
  const known = ["t", "r", "K"];
  for (const key of ["reliefWidth", "reliefDepth"] as const) {
    const result = evaluateExpression(card[key] as string, {
      dimension: "length",
      known,
      names: (name) =>
        known.includes(name)
          ? { ok: true, value: { value: 1, dimension: name === "K" ? "number" : "length" } }
          : undefined,
    });
    if (!result.ok) say(`${path}/${key}`, result.error);
  }
}

/** Everything that is wrong with a chart beyond its plain fields; table cells are named by row and column. */
function checkChart(value: Plain, path: string, say: Say) {
  if (
    value.testBends !== undefined &&
    (typeof value.testBends !== "string" || !ITEM_ID.test(value.testBends))
  )
    say(`${path}/testBends`, "This must be the id of a set of test bends.");
  const { rule } = value;
  const at = `${path}/rule`;
  if (!isPlain(rule)) return say(at, `"rule" must be an object.`);
  const reason = String(value.reason ?? "");
  switch (rule.method) {
    case "one K":
      return checkK(rule.k, `${at}/k`, reason, say);
    case "K by r/t":
      return checkPoints(rule, at, reason, say);
    case "DIN 6935":
      if (rule.carryOn !== undefined && typeof rule.carryOn !== "boolean")
        say(`${at}/carryOn`, `"carryOn" must be true or false.`);
      return;
    case "table":
      if (checkGiving(rule, at, say)) checkTable(rule, at, reason, say);
      return;
    case "expression":
      if (checkGiving(rule, at, say)) checkExpression(rule, at, reason, say);
      return;
    default:
      return say(`${at}/method`, `"${String(rule.method)}" is not one of ${CHART_METHODS.join(", ")}.`);
  }
}

function checkK(k: unknown, at: string, reason: string, say: Say) {
  if (!isNumber(k)) return say(at, "K must be a number.");
  if (k < -5 || k > 5) return say(at, `K ${n(k)} must be from −5 to 5.`);
  if ((k < 0 || k > 1) && reason.trim() === "")
    say(at, `K ${n(k)} lies outside 0 to 1. Correct it, or give the chart a reason why it is meant.`);
}

function checkGiving(rule: Plain, at: string, say: Say): boolean {
  const choices: Readonly<Record<string, readonly string[]>> = {
    gives: ["K", "BA", "BD"],
    angleIs: ["bend angle", "opening angle"],
    deductionTo: ["mould points", "outermost tangents"],
  };
  let fine = true;
  for (const [key, options] of Object.entries(choices)) {
    if (options.includes(rule[key] as string)) continue;
    say(`${at}/${key}`, `"${String(rule[key])}" is not one of ${options.join(", ")}.`);
    fine = false;
  }
  return fine;
}

function checkPoints(rule: Plain, at: string, reason: string, say: Say) {
  if (rule.between !== "linear" && rule.between !== "stepwise")
    say(`${at}/between`, `"between" must be linear or stepwise.`);
  const { points } = rule;
  if (!Array.isArray(points) || points.length === 0)
    return say(`${at}/points`, "Give at least one point of r/t and K.");
  if (points.length > MOST_CHART_POINTS)
    return say(`${at}/points`, `There can be at most ${MOST_CHART_POINTS} points.`);
  for (const [i, point] of points.entries()) {
    const place = `${at}/points/${i}`;
    if (!Array.isArray(point) || !isNumber(point[0]) || !isNumber(point[1]))
      return say(place, `Row ${i + 1}: r/t and K must be two numbers.`);
    const [ratio, k] = point as number[];
    if (ratio < 0 || ratio > 10000)
      return say(`${place}/0`, `Row ${i + 1}, r/t: ${n(ratio)} must be from 0 to 10000.`);
    const before = i > 0 ? (points[i - 1] as number[])[0] : -1;
    if (ratio === before) say(`${place}/0`, `Row ${i + 1}, r/t: ${n(ratio)} stands in the row before too.`);
    else if (ratio < before)
      say(`${place}/0`, `Row ${i + 1}, r/t: ${n(ratio)} stands after ${n(before)}. Ratios must rise.`);
    checkK(k, `${place}/1`, reason, (p, message) => say(p, `Row ${i + 1}, K: ${message}`));
  }
}

function checkTable(rule: Plain, at: string, reason: string, say: Say) {
  if (typeof rule.acrossThickness !== "boolean")
    say(`${at}/acrossThickness`, `"acrossThickness" must be true or false.`);
  const { rows } = rule;
  if (!Array.isArray(rows) || rows.length === 0)
    return say(
      `${at}/rows`,
      "The table has no rows. Give at least one of thickness, radius, angle and value.",
    );
  if (rows.length > MOST_CHART_ROWS)
    return say(`${at}/rows`, `A chart can have at most ${MOST_CHART_ROWS} rows; here are ${rows.length}.`);
  const odd = rows.findIndex((r) => !Array.isArray(r) || r.length !== 4 || !r.every(isNumber));
  if (odd >= 0)
    return say(
      `${at}/rows/${odd}`,
      `Row ${odd + 1}: thickness, radius, angle and value must be four numbers.`,
    );
  const table = rule as unknown as Extract<ChartRule, { method: "table" }>;
  const { numbers } = rule;
  const named = Array.isArray(numbers) && numbers.length === rows.length && numbers.every(Number.isInteger);
  if (numbers !== undefined && numbers !== null && !named)
    return say(`${at}/numbers`, `"numbers" must name each row by a whole number.`);
  for (const p of checkChartRows(rows as ChartRow[], { ...table, reason }).problems)
    say(`${at}/rows/${p.row - 1}`, `Row ${p.row}, ${p.column}: ${p.message}`);
}

function checkExpression(rule: Plain, at: string, reason: string, say: Say) {
  checkK(rule.k, `${at}/k`, reason, say);
  if (typeof rule.expression !== "string" || rule.expression.trim() === "")
    return say(`${at}/expression`, "Give an expression of t, r, angle and K.");
  if (!isNumber(rule.k)) return;
  const table = rule as unknown as Extract<ChartRule, { method: "expression" }>;
  const tried = expressionValue(table, { t: 1, r: 1, angle: Math.PI / 2 });
  if (!tried.ok) say(`${at}/expression`, tried.error);
}

/** What is allowed in a chart but should be looked at: a K outside 0 to 1 that has a reason. */
export function chartWarnings(chart: BendChart): string[] {
  const { rule } = chart;
  switch (rule.method) {
    case "table":
      return checkChartRows(rule.rows, { ...rule, reason: chart.reason }).warnings.map(
        (w) => `Row ${w.row}, ${w.column}: ${w.message}`,
      );
    case "K by r/t":
      return rule.points.flatMap(([, k], i) =>
        k < 0 || k > 1 ? [`Row ${i + 1}, K: ${n(k)} lies outside 0 to 1.`] : [],
      );
    case "one K":
    case "expression":
      return rule.k < 0 || rule.k > 1 ? [`K ${n(rule.k)} lies outside 0 to 1.`] : [];
    case "DIN 6935":
      return [];
  }
}
