import { filedLength } from "../../units/quantity.ts";

/** The line of each group code. */
const CODES = Array.from({ length: 1000 }, (_, code) => `${String(code).padStart(3)}\r\n`);

/** Codes whose values are flags and counts. */
const isWhole = (code: number): boolean => (code >= 60 && code < 80) || code === 90 || code === 281;

/** Writes group codes and values, and hands out the handles that entities and tables need. */
export class DxfWriter {
  // A text that grows is what the engine is quickest at: a file has tens of lines for each hole.
  private written = "";
  private last = 0x20;

  pair(code: number, value: string | number): this {
    this.written += CODES[code];
    this.written +=
      typeof value === "string" ? value : isWhole(code) ? wholeNumber(value) : dxfNumber(code, value);
    this.written += "\r\n";
    return this;
  }

  /** Lines that are the same for many entities, as `pairs` has made them. */
  lines(text: string): this {
    this.written += text;
    return this;
  }

  handle(): string {
    this.last++;
    return this.last.toString(16).toUpperCase();
  }

  /** The next handle that is free, for the header. */
  get seed(): string {
    return (this.last + 1).toString(16).toUpperCase();
  }

  get text(): string {
    return this.written;
  }
}

/** Some codes with their values, as they stand in a file. */
export const pairs = (...list: readonly (readonly [number, string])[]): string =>
  list.map(([code, value]) => `${CODES[code]}${value}\r\n`).join("");

const wholeNumber = (value: number): string => String(Math.round(value)).padStart(6);

/** Bulges and angles: over a long arc their last digits count. */
const isTurn = (code: number): boolean => code === 42 || (code >= 50 && code < 60);
/** Numbers of so few characters are what somebody wrote. */
const SHORT = 11;

/** A length, or within rounding a turn, without the tail that arithmetic leaves; never an exponent. */
function dxfNumber(code: number, value: number): string {
  if (Number.isInteger(value) && Math.abs(value) < 1e15) return value === 0 ? "0.0" : `${value}.0`;
  if (!Number.isFinite(value)) throw new Error(`A DXF file would hold ${value}.`);
  let shortest = String(value);
  if (shortest.length > SHORT || shortest.includes("e"))
    shortest = String(isTurn(code) ? Number(value.toPrecision(14)) : filedLength(value));
  if (shortest.includes("e")) return withoutExponent(value, shortest);
  return shortest.includes(".") ? shortest : `${shortest}.0`;
}

/** The digits of a number that is written with an exponent, put where they belong. */
function withoutExponent(value: number, shortest: string): string {
  const [mantissa, exponent] = shortest.replace(/^-/, "").split("e");
  const [whole, part = ""] = mantissa.split(".");
  const digits = whole + part;
  const point = whole.length + Number(exponent);
  const sign = value < 0 ? "-" : "";
  if (point <= 0) return `${sign}0.${"0".repeat(-point)}${digits}`;
  if (point >= digits.length) return `${sign}${digits}${"0".repeat(point - digits.length)}.0`;
  return `${sign}${digits.slice(0, point)}.${digits.slice(point)}`;
}
