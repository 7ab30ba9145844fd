import { fail, ok, type Result } from "../result.ts";
import { formatShort, toRadians } from "../units/quantity.ts";
import { type BendShape, innerSetback, kFromAllowance, outermostSetback, outerSetback } from "./allowance.ts";

/** How the legs of a coupon were measured after bending. */
export type LegsMeasured = "outer mould points" | "inner mould points" | "outermost tangents";

export const LEGS_MEASURED: readonly { readonly value: LegsMeasured; readonly label: string }[] = [
  { value: "outer mould points", label: "outer mould point" },
  { value: "inner mould points", label: "inner mould point" },
  { value: "outermost tangents", label: "outermost tangent" },
];

export type Grain = "unknown" | "along" | "across";
export const GRAINS: readonly Grain[] = ["unknown", "along", "across"];

/** One bent coupon, as measured. Lengths in mm, angle in degrees (0 = flat). */
export interface Coupon {
  readonly key: string;
  /** Measured, not nominal. */
  readonly thickness: number;
  readonly radius: number;
  readonly angle: number;
  readonly before: number;
  readonly legA: number;
  readonly legB: number;
  readonly measured: LegsMeasured;
  /** The die it was bent in; empty when nobody noted it. */
  readonly die: string;
  readonly grain: Grain;
  /** Left out of the fit by hand. */
  readonly leftOut?: boolean;
}

/** A set of test bends that a chart can be made from. */
export interface TestBends {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  /** What one measured length may be wrong by, ± mm. */
  readonly error: number;
  readonly coupons: readonly Coupon[];
}

export const MOST_COUPONS = 2000;

/** What a coupon says, each with the spread (±) that the measuring error makes. */
export interface CouponNumbers {
  readonly allowance: number;
  /** To the outer mould point; none at or beyond 180°. */
  readonly deduction?: number;
  readonly k: number;
  /** Spread of BA and BD, mm: three lengths were measured, each wrong by ±error on its own. */
  readonly spread: number;
  readonly kSpread: number;
}

export const couponShape = (c: Pick<Coupon, "thickness" | "radius" | "angle">): BendShape => ({
  t: c.thickness,
  r: c.radius,
  angle: toRadians(c.angle),
});

/** From the tangent line to what a leg was measured to, mm; nothing where there is no such point. */
const LEG_SETBACK: Readonly<Record<LegsMeasured, (shape: BendShape) => number | undefined>> = {
  "outer mould points": outerSetback,
  "inner mould points": innerSetback,
  "outermost tangents": outermostSetback,
};

/**
 * BA, BD and K of a coupon: what is missing between its length before and its legs after.
 * BA = before − (A − s) − (B − s), with s from the tangent line to what the legs were measured to.
 * Independent errors add by their squares: ±e·√3 for BA and BD, that over θ·t for K.
 */
export function couponNumbers(coupon: Coupon, error: number): Result<CouponNumbers> {
  const shape = couponShape(coupon);
  const setback = LEG_SETBACK[coupon.measured](shape);
  if (setback === undefined)
    return fail("At 180° or more there is no mould point: measure to the outermost tangent.");
  const allowance = coupon.before - coupon.legA - coupon.legB + 2 * setback;
  if (!(allowance > 0))
    return fail(
      `These lengths leave the bend ${formatShort(allowance, 4)} mm of metal; it must be more than nothing. Check the legs (${formatShort(coupon.legA)} and ${formatShort(coupon.legB)}), the length before and what the legs were measured to.`,
    );
  const spread = Math.sqrt(3) * error;
  const outer = outerSetback(shape);
  return ok({
    allowance,
    deduction: outer === undefined ? undefined : 2 * outer - allowance,
    k: kFromAllowance(shape, allowance),
    spread,
    kSpread: spread / (shape.angle * shape.t),
  });
}
