/** Writes group codes and values, and hands out the handles that entities and tables need. */
export class DxfWriter {
  private readonly out: string[] = [];
  private last = 0x20;

  pair(code: number, value: string | number): this {
    this.out.push(String(code).padStart(3), typeof value === "number" ? dxfNumber(code, value) : value);
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
    return `${this.out.join("\r\n")}\r\n`;
  }
}

/** Whole numbers for flags and counts; elsewhere as many digits as the number holds, and never an exponent. */
function dxfNumber(code: number, value: number): string {
  if (!Number.isFinite(value)) throw new Error(`A DXF file would hold ${value} at group ${code}.`);
  if ((code >= 60 && code < 80) || code === 90 || code === 281) return String(Math.round(value)).padStart(6);
  if (value === 0) return "0.0";
  const shortest = String(value);
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
