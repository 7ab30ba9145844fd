import { bendAllowance } from "./allowance.ts";
import type { ChartRow, TableRule } from "./chart.ts";
import { studentQuantile, studentShare } from "./student.ts";
import { type Coupon, couponNumbers, couponShape } from "./test-bend.ts";

/** One coupon's part in a fit. */
export interface Residual {
  readonly key: string;
  readonly angle: number;
  readonly allowance: number;
  /** Measured BA less the fitted one, mm. */
  readonly residual: number;
  /** Stands too far from what the others say. */
  readonly outlier: boolean;
}

/** K of the coupons of one thickness, radius and die, by least squares. */
export interface CalibrationFit {
  readonly thickness: number;
  readonly radius: number;
  readonly die: string;
  readonly k: number;
  /** The truth lies within k ± this in 95 of 100 such fits; nothing from a single coupon. */
  readonly kInterval?: number;
  /** Standard deviation of the residuals, mm. */
  readonly deviation?: number;
  readonly angles: { readonly least: number; readonly greatest: number };
  readonly residuals: readonly Residual[];
  /** Coupons along and across the grain stand in one fit. */
  readonly mixedGrain: boolean;
}

/** Sheet is bought by its nominal thickness: measured ones within this share of each other belong together. */
const SAME_THICKNESS = 0.06;

/**
 * Groups coupons by thickness, radius and die, and fits one K to each group: BA = θ(r + K·t), least
 * squares in BA. The interval is Student's, from the residuals. A coupon is an outlier when its
 * externally studentised residual is too large for its number at 5 % (Bonferroni), which takes four.
 */
export function calibrate(coupons: readonly Coupon[], error: number): CalibrationFit[] {
  const usable = coupons.filter((c) => !c.leftOut && couponNumbers(c, error).ok);
  return groupsOf(usable).map((group) => fitGroup(group, error));
}

function groupsOf(coupons: readonly Coupon[]): Coupon[][] {
  const groups: Coupon[][] = [];
  const sorted = [...coupons].sort(
    (a, b) => a.die.localeCompare(b.die) || a.radius - b.radius || a.thickness - b.thickness,
  );
  for (const c of sorted) {
    const group = groups[groups.length - 1];
    const like = group?.[0];
    const belongs =
      like &&
      like.die === c.die &&
      Math.abs(like.radius - c.radius) < 1e-6 &&
      c.thickness <= like.thickness * (1 + SAME_THICKNESS);
    if (belongs) group.push(c);
    else groups.push([c]);
  }
  return groups.sort((a, b) => a[0].thickness - b[0].thickness || a[0].radius - b[0].radius);
}

function fitGroup(group: readonly Coupon[], error: number): CalibrationFit {
  const points = group.map((c) => {
    const shape = couponShape(c);
    const numbers = couponNumbers(c, error);
    const allowance = numbers.ok ? numbers.value.allowance : Number.NaN;
    return { coupon: c, shape, allowance, x: shape.angle * shape.t, y: allowance - shape.angle * shape.r };
  });
  const sxx = points.reduce((sum, p) => sum + p.x * p.x, 0);
  const k = points.reduce((sum, p) => sum + p.x * p.y, 0) / sxx;
  const rest = points.map((p) => p.y - k * p.x);
  const square = rest.reduce((sum, e) => sum + e * e, 0);
  const freedom = points.length - 1;
  const deviation = freedom > 0 ? Math.sqrt(square / freedom) : undefined;
  const kInterval =
    deviation === undefined ? undefined : (studentQuantile(0.975, freedom) * deviation) / Math.sqrt(sxx);
  const angles = group.map((c) => c.angle);
  const grains = new Set(group.map((c) => c.grain).filter((g) => g !== "unknown"));
  return {
    thickness: nominal(group),
    radius: group[0].radius,
    die: group[0].die,
    k,
    kInterval,
    deviation,
    angles: { least: Math.min(...angles), greatest: Math.max(...angles) },
    residuals: points.map((p, i) => ({
      key: p.coupon.key,
      angle: p.coupon.angle,
      allowance: p.allowance,
      residual: p.allowance - bendAllowance(p.shape, k),
      outlier: standsOut(rest[i], (p.x * p.x) / sxx, square, points.length),
    })),
    mixedGrain: grains.size > 1,
  };
}

/** The usual thickness nearest to the mean of those measured: a multiple of 0.1 mm when one is near. */
function nominal(group: readonly Coupon[]): number {
  const mean = group.reduce((sum, c) => sum + c.thickness, 0) / group.length;
  const tenth = Math.round(mean * 10) / 10;
  const near = Math.abs(mean - tenth) <= 0.03 + 1e-9;
  return near && tenth > 0 ? tenth : Math.round(mean * 1000) / 1000;
}

function standsOut(residual: number, leverage: number, square: number, count: number): boolean {
  if (count < 4) return false;
  const freedom = count - 2;
  const without = (square - (residual * residual) / (1 - leverage)) / freedom;
  // The others agree to the last digit: whatever differs from them visibly stands out.
  if (without < 1e-18) return Math.abs(residual) > 1e-6;
  const studentised = Math.abs(residual) / Math.sqrt(without * (1 - leverage));
  return 2 * (1 - studentShare(studentised, freedom)) < 0.05 / count;
}

/** K is kept to this many places in a chart made from test bends: finer than any brake repeats. */
const K_PLACES = 4;

/**
 * The table that a set of fits amounts to: K at the least and the greatest angle that was bent, for each
 * thickness and radius. Of several dies for one pair the one with most coupons counts.
 */
export function tableFromFits(fits: readonly CalibrationFit[]): TableRule {
  const byPair = new Map<string, CalibrationFit>();
  for (const fit of fits) {
    const key = `${fit.thickness}/${fit.radius}`;
    const other = byPair.get(key);
    if (!other || other.residuals.length < fit.residuals.length) byPair.set(key, fit);
  }
  const rows = [...byPair.values()]
    .sort((a, b) => a.thickness - b.thickness || a.radius - b.radius)
    .flatMap((f): ChartRow[] => {
      const k = Number(f.k.toFixed(K_PLACES));
      const row = (angle: number): ChartRow => [f.thickness, f.radius, angle, k];
      return f.angles.greatest - f.angles.least < 1e-6
        ? [row(f.angles.least)]
        : [row(f.angles.least), row(f.angles.greatest)];
    });
  return {
    method: "table",
    gives: "K",
    angleIs: "bend angle",
    deductionTo: "mould points",
    acrossThickness: false,
    rows,
  };
}
