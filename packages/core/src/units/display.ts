import { evaluateExpression, type Names } from "./expression.ts";
import { type Dimension, formatFixed, formatShort } from "./quantity.ts";

/** In what a part shows its lengths: millimetres, decimal inches, or inches in 64ths. */
export type Units = "mm" | "in" | "fractions";

export const UNITS: readonly Units[] = ["mm", "in", "fractions"];
export const INCH = 25.4;

export const unitName = (units: Units): string => (units === "mm" ? "mm" : "in");

const FINEST = 64;
/** A fraction that is off by more than this (in) is told as near, not equal. */
const EXACT = 5e-5;

/** Inches as a mixed number to the nearest 64th, such as `1 3/16`; with ≈ before it when it is not exact. */
export function formatFraction(inches: number): string {
  const sign = inches < 0 ? "-" : "";
  const parts = Math.round(Math.abs(inches) * FINEST);
  const near = Math.abs(Math.abs(inches) - parts / FINEST) > EXACT ? "≈" : "";
  let over = parts % FINEST;
  let under = FINEST;
  while (over > 0 && over % 2 === 0) {
    over /= 2;
    under /= 2;
  }
  const whole = Math.floor(parts / FINEST);
  if (over === 0) return `${near}${whole === 0 ? "" : sign}${whole}`;
  return `${near}${sign}${whole > 0 ? `${whole} ` : ""}${over}/${under}`;
}

/** A length (mm) as tables and dimensions show it: with a fixed number of places, two more of an inch. */
export function lengthText(mm: number, units: Units = "mm", decimals = 2): string {
  if (units === "mm") return formatFixed(mm, decimals);
  return units === "in" ? formatFixed(mm / INCH, decimals + 2) : formatFraction(mm / INCH);
}

/** A length (mm) with its unit, as short as it can be said. */
export function sayLength(mm: number, units: Units = "mm", decimals = 3): string {
  if (units === "mm") return `${formatShort(mm, decimals)} mm`;
  return `${units === "in" ? formatShort(mm / INCH, decimals + 1) : formatFraction(mm / INCH)} in`;
}

/** A length without its unit, as short as it can be said. */
export const shortLength = (mm: number, units: Units = "mm", decimals = 3): string =>
  sayLength(mm, units, decimals).replace(/ (mm|in)$/, "");

const NUMBER = /^\s*[+-]?(\d+\.?\d*|\.\d+)\s*$/;
const FRACTION = /^\s*(?:\d+ +)?\d+\s*\/\s*\d+\s*$/;
const INCHES = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)|(?:\d+ +)?\d+\s*\/\s*\d+)\s*(?:in|inch|inches|")\s*$/;

/** What stands inside `in(…)` when that is the whole text, not only its beginning and its end. */
function unwrapped(text: string): string | undefined {
  if (!text.startsWith("in(") || !text.endsWith(")")) return undefined;
  const inner = text.slice(3, -1);
  let open = 0;
  for (const c of inner) {
    if (c === "(") open++;
    if (c === ")" && --open < 0) return undefined;
  }
  return inner;
}

/**
 * What stands in a field for a stored text. Documents hold bare numbers as millimetres whatever a part is shown in, so
 * that switching changes nothing; in an inch part such a number is shown as so many inches, to the nearest ten-thousandth,
 * and nothing is changed until something else is typed.
 */
export function typedFor(text: string, dimension: Dimension, units: Units): string {
  if (units === "mm" || dimension !== "length") return text;
  if (NUMBER.test(text)) {
    const inches = Number(text) / INCH;
    const fraction = formatFraction(inches);
    return units === "fractions" && !fraction.startsWith("≈") ? fraction : formatShort(inches, 4);
  }
  return INCHES.exec(text)?.[1] ?? unwrapped(text) ?? text;
}

/** The text to store for what was typed: in an inch part bare numbers are inches, also in expressions. */
export function storedFrom(typed: string, dimension: Dimension, units: Units, names?: Names): string {
  if (units === "mm" || dimension !== "length" || typed.trim() === "") return typed;
  if (NUMBER.test(typed) || FRACTION.test(typed)) return `${typed.trim()} in`;
  const wrapped = `in(${typed.trim()})`;
  const [plain, inches] = [typed, wrapped].map((text) => evaluateExpression(text, { dimension, names }));
  // Where no bare number stands for a length both are the same, and the plain one reads better.
  return plain.ok && inches.ok && plain.value !== inches.value ? wrapped : typed;
}

/** The text that a document holds for a length (mm) which a part shows in its units: inches as such where it has them. */
export function lengthToStore(mm: number, units: Units, decimals = 6): string {
  if (units === "mm") return formatShort(mm, decimals);
  const fraction = formatFraction(mm / INCH);
  if (units === "fractions" && !fraction.startsWith("≈")) return `${fraction} in`;
  return `${formatShort(mm / INCH, decimals)} in`;
}

/** On what a length is put that is pointed at, mm: whole millimetres, or sixteenths of an inch. */
export const snapStep = (units: Units): number => (units === "mm" ? 1 : INCH / 16);

/** From so many inches on round lengths are told in steps so coarse; what is finer in hundredths, or in 64ths. */
const ROUND_INCHES: readonly (readonly [from: number, step: number])[] = [
  [12, 1],
  [4, 1 / 2],
  [1, 1 / 4],
  [3 / 8, 1 / 8],
  [1 / 8, 1 / 16],
];

/** The round inch length that is near to one in mm, as a document holds it: 10 mm becomes 3/8 in. */
export function roundInches(mm: number, units: Exclude<Units, "mm">): string {
  const inches = Math.abs(mm) / INCH;
  const fine = units === "in" ? 1 / 100 : 1 / 64;
  const step = ROUND_INCHES.find(([from]) => inches >= from)?.[1] ?? fine;
  const round = Math.max(step, Math.round(inches / step) * step);
  return mm === 0 ? `0 in` : lengthToStore(Math.sign(mm) * round * INCH, units);
}
