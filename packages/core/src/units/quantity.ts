/** What a number measures. Core holds lengths in millimetres and angles in radians. */
export type Dimension = "length" | "angle" | "number";

/** A number with what it measures: millimetres, radians or plain. */
export interface DimensionedNumber {
  readonly value: number;
  readonly dimension: Dimension;
}

/** Millimetres in one unit of length. */
export const LENGTH_UNITS: Readonly<Record<string, number>> = {
  mm: 1,
  cm: 10,
  m: 1000,
  inch: 25.4,
  ft: 304.8,
};

/** Radians in one unit of angle. */
export const ANGLE_UNITS: Readonly<Record<string, number>> = { deg: Math.PI / 180, rad: 1 };

export const toDegrees = (radians: number): number => (radians * 180) / Math.PI;
export const toRadians = (degrees: number): number => (degrees * Math.PI) / 180;

/** From here on the last of a number's digits are what conversion has left, not what somebody has typed. */
const VAST = 1e12;

/** Writes a number with at most `decimals` places and no trailing zeros; never "-0". */
export function formatShort(value: number, decimals = 3): string {
  const known = Math.abs(value) < VAST ? value : Number(value.toPrecision(15));
  const fixed = known.toFixed(decimals);
  const text = decimals > 0 ? fixed.replace(/\.?0+$/, "") : fixed;
  return text === "-0" ? "0" : text;
}

/** Writes millimetres with exactly `decimals` places, as tables and dimensions show them. */
export function formatFixed(value: number, decimals = 2): string {
  const text = value.toFixed(decimals);
  return /^-0\.?0*$/.test(text) ? text.slice(1) : text;
}

/** A length that somebody chose has no more places than this, and rounding leaves it no farther off. */
const CHOSEN = 6;
const ROUNDING = 1e-11;
/** Any other has so many: an arc that is nearly whole is found from its ends, and loses thousandfold what they lose. */
const PLACES = 12;
/** Beyond this a double has no more places than that. */
const ALL_PLACES = 1e3;

/** A length as a file writes it, within 1e-9: what was 1.375 before rounding is 1.375 again, without a tail of digits. */
export function filedLength(value: number): number {
  const chosen = Number(value.toFixed(CHOSEN));
  if (Math.abs(value - chosen) <= ROUNDING) return chosen || 0;
  return Math.abs(value) < ALL_PLACES ? Number(value.toFixed(PLACES)) : value;
}
