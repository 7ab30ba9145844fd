import { Kept } from "../kept.ts";
import { toRadians } from "../units/quantity.ts";
import { allowanceOf, chartAngle, type TableRule } from "./chart.ts";

/** Thicknesses and radii closer than this (mm) are the same; angles likewise (degrees). */
const SAME = 1e-6;

/**
 * A chart's table in columns, for look-ups: the radii of thickness `i` stand at
 * `radiusStart[i]` to `radiusStart[i + 1]`, and the angles of radius `j` likewise. Angles are bend
 * angles in degrees, rising; `rowOf` says which row of the rule each came from.
 */
export interface ChartTable {
  readonly rule: TableRule;
  readonly thicknesses: Float64Array;
  readonly radiusStart: Uint32Array;
  readonly radii: Float64Array;
  readonly angleStart: Uint32Array;
  readonly angles: Float64Array;
  readonly values: Float64Array;
  readonly rowOf: Uint32Array;
}

const tables = new Kept(columnsOf);

/** Brings a table into columns, once for each rule. The rows rise by thickness, radius and angle. */
export const chartTable = (rule: TableRule): ChartTable => tables.of(rule);

function columnsOf(rule: TableRule): ChartTable {
  const { rows } = rule;
  const thicknesses: number[] = [];
  const radiusStart: number[] = [];
  const radii: number[] = [];
  const angleStart: number[] = [];
  const angles = new Float64Array(rows.length);
  const values = new Float64Array(rows.length);
  const rowOf = new Uint32Array(rows.length);
  rows.forEach(([t, r, angle, value], i) => {
    const newThickness = thicknesses.length === 0 || t - thicknesses[thicknesses.length - 1] > SAME;
    if (newThickness) {
      radiusStart.push(radii.length);
      thicknesses.push(t);
    }
    if (newThickness || r - radii[radii.length - 1] > SAME) {
      angleStart.push(i);
      radii.push(r);
    }
    angles[i] = chartAngle(rule.angleIs, angle);
    values[i] = value;
    rowOf[i] = i;
  });
  radiusStart.push(radii.length);
  angleStart.push(rows.length);
  // Opening angles rise where bend angles fall.
  if (rule.angleIs === "opening angle") {
    for (let j = 0; j < radii.length; j++) {
      for (const column of [angles, values, rowOf])
        column.subarray(angleStart[j], angleStart[j + 1]).reverse();
    }
  }
  return {
    rule,
    thicknesses: Float64Array.from(thicknesses),
    radiusStart: Uint32Array.from(radiusStart),
    radii: Float64Array.from(radii),
    angleStart: Uint32Array.from(angleStart),
    angles,
    values,
    rowOf,
  };
}

/** The last of the rising `list[from..to)` that is not above `x`; `from` when all are. */
function lastNotAbove(list: Float64Array, from: number, to: number, x: number): number {
  let low = from;
  let high = to;
  while (high - low > 1) {
    const middle = (low + high) >>> 1;
    if (list[middle] <= x) low = middle;
    else high = middle;
  }
  return low;
}

/** Where `x` stands in a rising list: between `low` and `low + 1` at `share`, or `beyond` its ends. */
export interface Standing {
  readonly low: number;
  readonly share: number;
  readonly beyond: boolean;
}

/** Finds a value in the rising `list[from..to)`; beyond the ends it stands at the nearest. */
export function standing(list: Float64Array, from: number, to: number, x: number): Standing {
  const low = lastNotAbove(list, from, to, x + SAME);
  const over = x - list[low];
  if (over <= SAME || low === to - 1) return { low, share: 0, beyond: Math.abs(over) > SAME };
  return { low, share: over / (list[low + 1] - list[low]), beyond: false };
}

/**
 * The value at radius `j` of the table and a bend angle in degrees, linear between two angles; NaN
 * where the table does not reach. Where the legs of a deduction change what they are measured to
 * (90°), allowances are interpolated in its stead, so that no step comes of it.
 */
function valueAtRadius(table: ChartTable, j: number, t: number, angle: number): number {
  const { angles, values, angleStart } = table;
  const from = angleStart[j];
  const to = angleStart[j + 1];
  const low = lastNotAbove(angles, from, to, angle + SAME);
  const over = angle - angles[low];
  if (over <= SAME) return over < -SAME ? Number.NaN : values[low];
  if (low === to - 1) return Number.NaN;
  const share = over / (angles[low + 1] - angles[low]);
  if (changesSetback(table, low)) return acrossSquare(table, j, t, angle, low, share);
  return values[low] + share * (values[low + 1] - values[low]);
}

/** Whether the legs of a deduction change what they are measured to between an angle and the next. */
export function changesSetback({ rule, angles }: ChartTable, low: number): boolean {
  if (rule.gives !== "BD" || rule.deductionTo !== "outermost tangents") return false;
  return angles[low] < 90 - SAME && angles[low + 1] > 90 + SAME;
}

function acrossSquare(
  table: ChartTable,
  j: number,
  t: number,
  angle: number,
  low: number,
  share: number,
): number {
  const { rule, radii, angles, values } = table;
  const shapeAt = (degrees: number) => ({ t, r: radii[j], angle: toRadians(degrees) });
  const allowance = (i: number) => allowanceOf(rule, shapeAt(angles[i]), values[i])!;
  const between = allowance(low) + share * (allowance(low + 1) - allowance(low));
  // BD = setbacks − BA, and BA = setbacks − BD: the same turn both ways.
  return allowanceOf(rule, shapeAt(angle), between)!;
}

/** The value at thickness `i` of the table, linear in the radius; NaN where the table does not reach. */
function valueAtThickness(table: ChartTable, i: number, r: number, angle: number): number {
  const { thicknesses, radii, radiusStart } = table;
  const t = thicknesses[i];
  const to = radiusStart[i + 1];
  const low = lastNotAbove(radii, radiusStart[i], to, r + SAME);
  const over = r - radii[low];
  if (over < -SAME) return Number.NaN;
  const first = valueAtRadius(table, low, t, angle);
  if (over <= SAME) return first;
  if (low === to - 1) return Number.NaN;
  const second = valueAtRadius(table, low + 1, t, angle);
  return first + (over / (radii[low + 1] - radii[low])) * (second - first);
}

/**
 * Looks a bend up: linear in angle and radius, and across thickness only where the chart allows it.
 * Thickness and radius in mm, bend angle in degrees. Gives the chart's own value (K, BA or BD), or
 * NaN when the bend lies outside the table.
 *
 * @example tableValue(chartTable(rule), 1.5, 1.5, 90) // 0.42
 */
export function tableValue(table: ChartTable, t: number, r: number, angle: number): number {
  const { thicknesses } = table;
  const count = thicknesses.length;
  if (count === 0) return Number.NaN;
  const low = lastNotAbove(thicknesses, 0, count, t + SAME);
  const over = t - thicknesses[low];
  if (over < -SAME) return Number.NaN;
  if (over <= SAME) return valueAtThickness(table, low, r, angle);
  if (low === count - 1 || !table.rule.acrossThickness) return Number.NaN;
  const first = valueAtThickness(table, low, r, angle);
  const second = valueAtThickness(table, low + 1, r, angle);
  return first + (over / (thicknesses[low + 1] - thicknesses[low])) * (second - first);
}
