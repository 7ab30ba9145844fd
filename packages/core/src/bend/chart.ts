import { type BendShape, bendAllowance, outermostSetback, outerSetback } from "./allowance.ts";

/** What a table or an expression gives: the neutral-axis ratio, the allowance or the deduction (mm). */
export type ChartGives = "K" | "BA" | "BD";

/** Which angle a chart speaks of: 0 = flat, or 180 = flat. */
export type ChartAngle = "bend angle" | "opening angle";

/** To what the legs of a deduction are measured above 90°; up to 90° it is the outer mould point. */
export type DeductionTo = "mould points" | "outermost tangents";

/** One row of a table: thickness and radius in mm, angle in degrees, and the value given. */
export type ChartRow = readonly [thickness: number, radius: number, angle: number, value: number];

interface Giving {
  readonly gives: ChartGives;
  readonly angleIs: ChartAngle;
  readonly deductionTo: DeductionTo;
}

/** A table by thickness × radius × angle. Rows rise by thickness, then radius, then angle. */
export interface TableRule extends Giving {
  readonly method: "table";
  /** Whether a thickness between two of the table may be interpolated. */
  readonly acrossThickness: boolean;
  readonly rows: readonly ChartRow[];
  /** The number of each row in the chart this table was taken from, when it is a part of one. */
  readonly numbers?: readonly number[];
}

/** The rule by which a chart finds flat lengths. */
export type ChartRule =
  | { readonly method: "one K"; readonly k: number }
  | {
      readonly method: "K by r/t";
      /** Radius over thickness, and K; ratios rise. */
      readonly points: readonly (readonly [ratio: number, k: number])[];
      readonly between: "linear" | "stepwise";
    }
  | TableRule
  | {
      readonly method: "DIN 6935";
      /** Carries the formula on below a bend of 15°, where the standard takes BD = 0; for those who want no step there. */
      readonly carryOn?: boolean;
    }
  | (Giving & {
      readonly method: "expression";
      /** Of `t` and `r` in mm, `angle` in degrees, and `K`, as plain numbers. */
      readonly expression: string;
      readonly k: number;
    });

/** A bend chart: the rule or table by which flat lengths are found. */
export interface BendChart {
  readonly id: string;
  readonly name: string;
  /** Where its numbers come from. */
  readonly note: string;
  /** Starting values, to be replaced by the shop's own. */
  readonly starting: boolean;
  /** Why it holds a K outside 0 to 1, when it does. */
  readonly reason: string;
  readonly rule: ChartRule;
  /** The test bends it was made from. */
  readonly testBends?: string;
}

export const MOST_CHART_ROWS = 200_000;
export const MOST_CHART_POINTS = 1000;
export const CHART_METHODS = ["one K", "K by r/t", "table", "DIN 6935", "expression"] as const;

/** A bend angle in degrees as the chart's own angle, and the other way round. */
export const chartAngle = (angleIs: ChartAngle, degrees: number): number =>
  angleIs === "bend angle" ? degrees : 180 - degrees;

/**
 * Twice the setback to which a deduction counts: BD = this − BA. To the outer mould point it is
 * 2·tan(θ/2)(r + t), and there is none at or beyond 180°; to the outermost tangent, above 90°, 2(r + t).
 */
export function deductionSetbacks(shape: BendShape, to: DeductionTo): number | undefined {
  const setback = to === "outermost tangents" ? outermostSetback(shape) : outerSetback(shape);
  return setback === undefined ? undefined : 2 * setback;
}

/** The allowance that a chart's value amounts to; nothing where a deduction has no mould point. */
export function allowanceOf(
  rule: Pick<Giving, "gives" | "deductionTo">,
  shape: BendShape,
  value: number,
): number | undefined {
  if (rule.gives === "BA") return value;
  if (rule.gives === "K") return bendAllowance(shape, value);
  const setbacks = deductionSetbacks(shape, rule.deductionTo);
  return setbacks === undefined ? undefined : setbacks - value;
}

/** The value that a chart gives for a bend of this K; nothing where a deduction has no mould point. */
export function givenFor(
  rule: Pick<Giving, "gives" | "deductionTo">,
  shape: BendShape,
  k: number,
): number | undefined {
  if (rule.gives === "K") return k;
  const allowance = bendAllowance(shape, k);
  if (rule.gives === "BA") return allowance;
  const setbacks = deductionSetbacks(shape, rule.deductionTo);
  return setbacks === undefined ? undefined : setbacks - allowance;
}
