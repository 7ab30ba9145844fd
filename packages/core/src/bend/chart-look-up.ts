import { evaluateExpression } from "../units/expression.ts";
import { formatShort, toDegrees, toRadians } from "../units/quantity.ts";
import { mm } from "../units/spoken-length.ts";
import { type BendShape, kFromAllowance, outerSetback } from "./allowance.ts";
import {
  allowanceOf,
  type BendChart,
  type ChartGives,
  type ChartRule,
  chartAngle,
  deductionSetbacks,
} from "./chart.ts";
import { type ChartTable, changesSetback, chartTable, standing, tableValue } from "./chart-table.ts";
import { din6935Factor, din6935K, isSlight } from "./din6935.ts";
import type { KSource, SourceLink, WhyLine } from "./why-line.ts";

/** The neutral-axis ratio that a chart finds for a bend, and how. */
export interface ChartAnswer {
  readonly k: number;
  readonly source: KSource;
}

type Rule<M extends ChartRule["method"]> = Extract<ChartRule, { method: M }>;
type Named = Pick<BendChart, "id" | "name">;

const n = (v: number, places = 4) => formatShort(v, places);
const degreesOf = (shape: BendShape) => toDegrees(shape.angle);

/** How a chart's rule is said in a few words. */
export function sayRule(rule: ChartRule): string {
  switch (rule.method) {
    case "one K":
      return `one K, ${n(rule.k)}`;
    case "K by r/t":
      return `K by r/t, ${rule.points.length} points, ${rule.between}`;
    case "table":
      return `${rule.gives} by thickness × radius × angle, ${rule.rows.length} rows`;
    case "DIN 6935":
      return rule.carryOn ? "DIN 6935, its formula also below 15°" : "DIN 6935";
    case "expression":
      return `${rule.gives} = ${rule.expression}`;
  }
}

/** Finds a bend's K by a chart, with the chain of lines that says how. mm and radians. */
export function kByChart(chart: Named & { readonly rule: ChartRule }, shape: BendShape): ChartAnswer {
  const { rule } = chart;
  const link: SourceLink = { to: "chart", id: chart.id };
  switch (rule.method) {
    case "one K":
      return {
        k: rule.k,
        source: {
          label: chart.name,
          link,
          lines: [{ text: `K = ${n(rule.k)} for every bend`, source: chart.name, link }],
        },
      };
    case "K by r/t":
      return kByRatio(chart, rule, shape);
    case "DIN 6935":
      return kByDin(chart.name, link, shape, rule.carryOn);
    case "table":
      return kByTable(chart, rule, shape);
    case "expression":
      return kByExpression(chart, rule, shape);
  }
}

/** K by DIN 6935, as a chart of that rule and as a stock without a chart both have it. */
export function kByDin(name: string, link: SourceLink, shape: BendShape, carryOn = false): ChartAnswer {
  const { t, r } = shape;
  if (!carryOn && isSlight(shape.angle)) return slightByDin(name, link, shape);
  const factor = din6935Factor(t, r);
  const formula = r / t > 5 ? "k = 1 for r/t above 5" : "k = 0.65 + 0.5·log10(r/t), never below 0";
  const lines: WhyLine[] = [
    { text: formula, source: "DIN 6935" },
    { text: `r/t = ${n(r)} / ${n(t)} = ${n(r / t)}, k = ${n(factor)}` },
    { text: `K = k/2 = ${n(factor / 2)}`, source: name, link },
  ];
  return { k: din6935K(t, r), source: { label: name, link, lines } };
}

/** Above 165° opening the standard adds nothing: flat = a + b, to the outer mould point. What K follows may exceed 1. */
function slightByDin(name: string, link: SourceLink, shape: BendShape): ChartAnswer {
  // Of a bend below 15° there always is a mould point.
  const allowance = 2 * outerSetback(shape)!;
  const k = kFromAllowance(shape, allowance);
  const lines: WhyLine[] = [
    {
      text: `opening angle ${n(180 - degreesOf(shape))}°, above 165°: v = 0, so BD = 0`,
      source: "DIN 6935",
    },
    { text: `BA = 2·tan(θ/2)·(r + t) = ${mm(allowance, 4)}` },
    { text: `K = (BA/θ − r)/t = ${n(k)}`, source: name, link },
  ];
  return { k, source: { label: name, link, lines } };
}

function kByRatio(chart: Named, rule: Rule<"K by r/t">, { t, r }: BendShape): ChartAnswer {
  const ratios = Float64Array.from(rule.points, (p) => p[0]);
  const ratio = r / t;
  const at = standing(ratios, 0, ratios.length, ratio);
  const row = (i: number): SourceLink => ({ to: "chart", id: chart.id, row: i + 1 });
  const point = (i: number): WhyLine => ({
    text: `r/t ${n(rule.points[i][0])} → K = ${n(rule.points[i][1])}`,
    source: `${chart.name}, row ${i + 1}`,
    link: row(i),
  });
  const first = rule.points[at.low][1];
  const linear = rule.between === "linear" && at.share > 0;
  const k = linear ? first + at.share * (rule.points[at.low + 1][1] - first) : first;
  const past = rule.between === "stepwise" && at.low === ratios.length - 1 && ratio > ratios[at.low];
  const lines: WhyLine[] = [{ text: `r/t = ${n(r)} / ${n(t)} = ${n(ratio)}` }, point(at.low)];
  if (linear) lines.push(point(at.low + 1), { text: `between them at ${n(at.share)}: K = ${n(k)}` });
  const outside =
    at.beyond && !past
      ? {
          reason: `r/t ${n(ratio)} lies outside the chart ${chart.name}, whose nearest is row ${at.low + 1} (r/t ${n(ratios[at.low])})`,
          instead: `its K ${n(first)} is used`,
        }
      : undefined;
  const rows = `${chart.name}, row ${at.low + 1}${linear ? `–${at.low + 2}` : ""}`;
  const label = outside ? `outside chart (${rows})` : rows;
  return { k, source: { label, link: row(at.low), lines, outside } };
}

/** A chart's value with its unit. */
const said = (gives: ChartGives, value: number): string => (gives === "K" ? n(value) : mm(value, 4));

function kByTable(chart: Named, rule: Rule<"table">, shape: BendShape): ChartAnswer {
  const table = chartTable(rule);
  const value = tableValue(table, shape.t, shape.r, degreesOf(shape));
  // A bend that is not bent has no allowance in any chart, and needs none.
  if (Number.isNaN(value)) return shape.angle < 1e-9 ? flat(chart, rule) : nearestK(chart, table, shape);
  const lines = rowsBehind(chart, table, shape, value);
  const k = kFromValue(rule, shape, value, lines.lines);
  return { k, source: { label: lines.label, link: lines.link, lines: lines.lines } };
}

const flat = (chart: Named, rule: Rule<"table">): ChartAnswer => ({
  k: rule.gives === "K" && rule.rows.length > 0 ? rule.rows[0][3] : 0.5,
  source: { label: chart.name, lines: [{ text: "angle 0: BA = 0" }], link: { to: "chart", id: chart.id } },
});

/** Turns a chart's value into K, saying each turn. */
function kFromValue(
  rule: Pick<Rule<"table">, "gives" | "deductionTo">,
  shape: BendShape,
  value: number,
  lines: WhyLine[],
): number {
  if (rule.gives === "K") return value;
  const allowance = allowanceOf(rule, shape, value) ?? Number.NaN;
  if (rule.gives === "BD") {
    const outermost = rule.deductionTo === "outermost tangents" && shape.angle > Math.PI / 2;
    const setbacks = deductionSetbacks(shape, rule.deductionTo) ?? Number.NaN;
    lines.push({
      text: `BA = ${outermost ? "2(r + t)" : "2·tan(θ/2)·(r + t)"} − BD = ${mm(setbacks, 4)} − ${mm(value, 4)} = ${mm(allowance, 4)}`,
      source: outermost ? "legs to the outermost tangents" : "legs to the outer mould point",
    });
  }
  const k = kFromAllowance(shape, allowance);
  lines.push({ text: `K = (BA/θ − r)/t = ${n(k)}` });
  return k;
}

interface Behind {
  readonly lines: WhyLine[];
  readonly label: string;
  readonly link: SourceLink;
}

/** The rows that a look-up stood on, and how the value came from them. */
function rowsBehind(chart: Named, table: ChartTable, shape: BendShape, value: number): Behind {
  const { rule, thicknesses, radii, radiusStart, angleStart, angles, rowOf } = table;
  const degrees = degreesOf(shape);
  const lines: WhyLine[] = [];
  const used: number[] = [];
  let crossed = false;
  const at = standing(thicknesses, 0, thicknesses.length, shape.t);
  for (const i of at.share > 0 ? [at.low, at.low + 1] : [at.low]) {
    const radius = standing(radii, radiusStart[i], radiusStart[i + 1], shape.r);
    for (const j of radius.share > 0 ? [radius.low, radius.low + 1] : [radius.low]) {
      const angle = standing(angles, angleStart[j], angleStart[j + 1], degrees);
      if (angle.share > 0 && changesSetback(table, angle.low)) crossed = true;
      for (const l of angle.share > 0 ? [angle.low, angle.low + 1] : [angle.low]) used.push(rowOf[l]);
    }
  }
  for (const i of used) lines.push(rowLine(chart, rule, i));
  const numbers = used.map((i) => rowNumber(rule, i)).sort((a, b) => a - b);
  if (used.length > 1) {
    const ways = [
      ...(at.share > 0 ? [`thickness ${mm(shape.t, 4)}`] : []),
      `radius ${mm(shape.r, 4)}`,
      `angle ${n(chartAngle(rule.angleIs, degrees))}°`,
    ].join(", ");
    const by = crossed ? "linear in BA across 90°" : "linear";
    lines.push({ text: `at ${ways}, ${by}: ${rule.gives} = ${said(rule.gives, value)}` });
  }
  const first = numbers[0];
  const last = numbers[numbers.length - 1];
  const label = `${chart.name}, row ${first}${numbers.length > 1 ? `–${last}` : ""}`;
  return { lines, label, link: { to: "chart", id: chart.id, row: first } };
}

const rowNumber = (rule: Rule<"table">, i: number): number => rule.numbers?.[i] ?? i + 1;

function rowLine(chart: Named, rule: Rule<"table">, i: number): WhyLine {
  const [t, r, angle, value] = rule.rows[i];
  const row = rowNumber(rule, i);
  return {
    text: `t ${mm(t, 4)}, r ${mm(r, 4)}, ${n(angle)}° → ${rule.gives} = ${said(rule.gives, value)}`,
    source: `${chart.name}, row ${row}`,
    link: { to: "chart", id: chart.id, row },
  };
}

/** Outside the table: the K of the nearest row stands in, and it is said so. */
function nearestK(chart: Named, table: ChartTable, shape: BendShape): ChartAnswer {
  const { rule, thicknesses, radii, radiusStart, angleStart, angles, rowOf } = table;
  if (rule.rows.length === 0) {
    const outside = { reason: `The chart ${chart.name} has no rows`, instead: "K 0.5 is used" };
    return { k: 0.5, source: { label: `${chart.name}: no rows`, lines: [], outside } };
  }
  const closest = (list: Float64Array, from: number, to: number, x: number) => {
    const { low, share } = standing(list, from, to, x);
    return share > 0.5 ? low + 1 : low;
  };
  const nearest = (j: number) => rowOf[closest(angles, angleStart[j], angleStart[j + 1], degreesOf(shape))];
  const i = closest(thicknesses, 0, thicknesses.length, shape.t);
  const radius = standing(radii, radiusStart[i], radiusStart[i + 1], shape.r);
  const j = radius.share > 0.5 ? radius.low + 1 : radius.low;
  const row = nearest(j);
  const [t, r, angle, value] = rule.rows[row];
  const there: BendShape = { t, r, angle: toRadians(chartAngle(rule.angleIs, angle)) };
  const lines: WhyLine[] = [rowLine(chart, rule, row)];
  const k = kFromValue(rule, there, value, lines);
  // Of a bend between two radii the other neighbour is worth naming too.
  const other = radius.share > 0 ? nearest(j === radius.low ? j + 1 : radius.low) : undefined;
  const named = (index: number) => {
    const [t1, r1, a1] = rule.rows[index];
    return `row ${rowNumber(rule, index)} (t ${mm(t1, 4)}, r ${mm(r1, 4)}, ${n(a1)}°)`;
  };
  const rows =
    other === undefined ? `nearest is ${named(row)}` : `nearest are ${named(row)} and ${named(other)}`;
  const here = `t ${mm(shape.t, 4)}, r ${mm(shape.r, 4)}, ${n(chartAngle(rule.angleIs, degreesOf(shape)))}°`;
  const outside = {
    reason: `${here} lies outside the chart ${chart.name}, whose ${rows}`,
    instead: `K ${n(k)} of row ${rowNumber(rule, row)} is used`,
  };
  const number = rowNumber(rule, row);
  return {
    k,
    source: {
      label: `outside chart (${chart.name}, row ${number})`,
      link: { to: "chart", id: chart.id, row: number },
      lines,
      outside,
    },
  };
}

function kByExpression(chart: Named, rule: Rule<"expression">, shape: BendShape): ChartAnswer {
  const link: SourceLink = { to: "chart", id: chart.id };
  const result = expressionValue(rule, shape);
  if (!result.ok) {
    const outside = {
      // An error is a sentence with its full stop; here it is half of one.
      reason: `The chart ${chart.name} has no value here: ${result.error.slice(0, -1)}`,
      instead: `K ${n(rule.k)} is used`,
    };
    return { k: rule.k, source: { label: chart.name, link, lines: [], outside } };
  }
  const angle = chartAngle(rule.angleIs, degreesOf(shape));
  const lines: WhyLine[] = [
    { text: `${rule.gives} = ${rule.expression}`, source: chart.name, link },
    {
      text: `with t = ${n(shape.t)}, r = ${n(shape.r)}, angle = ${n(angle)}, K = ${n(rule.k)}: ${rule.gives} = ${n(result.value)}`,
    },
  ];
  const k = kFromValue(rule, shape, result.value, lines);
  const allowance = allowanceOf(rule, shape, result.value);
  if (allowance === undefined || !(allowance > 0)) {
    const outside = {
      reason: `The chart ${chart.name} gives no length that a bend can have here (${rule.gives} ${n(result.value)})`,
      instead: `K ${n(rule.k)} is used`,
    };
    return { k: rule.k, source: { label: chart.name, link, lines, outside } };
  }
  return { k, source: { label: chart.name, link, lines } };
}

/** Evaluates an expression chart: its names are plain numbers, lengths in mm and the angle in degrees. */
export function expressionValue(
  rule: Pick<Rule<"expression">, "expression" | "angleIs" | "k">,
  shape: BendShape,
) {
  const values: Readonly<Record<string, number>> = {
    t: shape.t,
    r: shape.r,
    angle: chartAngle(rule.angleIs, degreesOf(shape)),
    K: rule.k,
  };
  return evaluateExpression(rule.expression, {
    dimension: "number",
    known: Object.keys(values),
    names: (name) =>
      Object.hasOwn(values, name)
        ? { ok: true, value: { value: values[name], dimension: "number" } }
        : undefined,
  });
}
