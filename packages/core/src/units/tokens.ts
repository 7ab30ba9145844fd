import { fail, ok, type Result } from "../result.ts";
import { ANGLE_UNITS, LENGTH_UNITS } from "./quantity.ts";

/** A number with the powers of length (mm) and angle (rad) it carries. `bare` ones take the unit of their partner. */
export interface Quantity {
  readonly value: number;
  readonly length: number;
  readonly angle: number;
  /** That units cancelled out in it: a share such as `w/2in`, which stands for no length. */
  readonly share?: boolean;
}

export const bare = (value: number): Quantity => ({ value, length: 0, angle: 0 });

/** One word of an expression. A value is a whole measure: `5' 3 1/2"` is one. */
export type Token =
  | { readonly kind: "value"; readonly value: Quantity }
  | { readonly kind: "name"; readonly name: string; readonly from: number; readonly to: number }
  | { readonly kind: "call"; readonly name: string }
  | { readonly kind: "sign"; readonly sign: "+" | "-" | "*" | "/" | "^" | "," | "(" | ")" | "next" };

const VULGAR: Readonly<Record<string, string>> = {
  "½": "1/2",
  "⅓": "1/3",
  "⅔": "2/3",
  "¼": "1/4",
  "¾": "3/4",
  "⅛": "1/8",
  "⅜": "3/8",
  "⅝": "5/8",
  "⅞": "7/8",
};

// What keyboards and word processors write for the signs that the grammar knows, one for one.
const SIGNS: readonly (readonly [RegExp, string])[] = [
  [/[×·⋅]/g, "*"],
  [/[÷∕⁄]/g, "/"],
  [/[−–—‒]/g, "-"],
  [/[′’‘]/g, "'"],
  [/[″”“]/g, '"'],
  [/[º˚]/g, "°"],
  [/[\u00a0\u2009\u202f\t]/g, " "],
];

/** The same text in the grammar's own signs. */
export function plainSigns(text: string): string {
  let out = text;
  for (const [from, to] of SIGNS) out = out.replace(from, to);
  out = out.replace(/''/g, '"');
  return out.replace(/(\d?)([½⅓⅔¼¾⅛⅜⅝⅞])/g, (_all, digit: string, sign: string) =>
    digit ? `${digit} ${VULGAR[sign]}` : VULGAR[sign],
  );
}

const END = "(?![A-Za-z0-9_(])";
/** A power of ten stands at the end of a number, or right before its unit. */
const POWER = `[eE][+-]?\\d+(?:(?![A-Za-z_.\\d])|(?=(?:mm|cm|m|in|inch|inches|ft|foot|feet|deg|rad)${END}))`;
const NUMBER = `(?:\\d+(?:\\.\\d*)?|\\.\\d+)(?:${POWER})?`;
const INCH = `(?:"|in${END}|inch${END}|inches${END})`;
const FOOT = `(?:'|ft${END}|foot${END}|feet${END})`;
const AMOUNT = `(?:\\d+ +\\d+/\\d+|\\d+-\\d+/\\d+|\\d+ */ *\\d+|${NUMBER})`;
const at = (source: string) => new RegExp(source, "y");

const FEET = at(`(${AMOUNT}) *${FOOT}`);
const INCHES_AFTER = at(`(?:-| *)(${AMOUNT}) *${INCH}`);
const LOOSE_AFTER_FEET = at(`(?:-| +)(${AMOUNT})`);
const DEGREES = at(`(${NUMBER}) *(?:°|deg(?![A-Za-z0-9_(])) *(${NUMBER}) *'(?: *(${NUMBER}) *")?`);
const SPACED_MIXED = at("(\\d+) +(\\d+)/(\\d+)(?![.\\d])");
const DASHED_MIXED = at(`(\\d+)-(\\d+)/(\\d+)(?= *(?:${INCH}|${FOOT}))`);
const BARE_DASHED = at("(\\d+)-(\\d+)/(\\d+)(?! *[A-Za-z_(/^°.\\d])");
const FRACTION = at(`(${NUMBER}) */ *(${NUMBER})(?= *(?:[A-Za-z_("'°]))`);
const PLAIN = at(NUMBER);
const PERCENT = at(" *%");
const UNIT = at(` *(?:(°|"|')|([A-Za-z]+)(?![A-Za-z0-9_(]))`);
const NAME = at("[A-Za-z_][A-Za-z0-9_]*");
const OTHER_BASE = /0[xXbBoO][0-9a-fA-F]/y;

const MARKS: Readonly<Record<string, string>> = {
  "°": "deg",
  '"': "inch",
  in: "inch",
  inches: "inch",
  "'": "ft",
  foot: "ft",
  feet: "ft",
};

/** `1 1/2`, `1-1/2`, `3/4` or `2.5` as a number. */
function amount(text: string): number {
  const mixed = /^(\d+)(?: +|-)(\d+)\/(\d+)$/.exec(text);
  if (mixed) return Number(mixed[1]) + Number(mixed[2]) / Number(mixed[3]);
  const fraction = /^(.+?) *\/ *(.+)$/.exec(text);
  return fraction ? Number(fraction[1]) / Number(fraction[2]) : Number(text);
}

function inUnit(value: number, unit: string): Quantity {
  const name = Object.hasOwn(MARKS, unit) ? MARKS[unit] : unit;
  return Object.hasOwn(ANGLE_UNITS, name)
    ? { value: value * ANGLE_UNITS[name], length: 0, angle: 1 }
    : { value: value * LENGTH_UNITS[name], length: 1, angle: 0 };
}

const isUnit = (name: string) =>
  Object.hasOwn(MARKS, name) || Object.hasOwn(LENGTH_UNITS, name) || Object.hasOwn(ANGLE_UNITS, name);

class Reader {
  readonly tokens: Token[] = [];
  /** Open brackets: whether each belongs to a function, and whether bare numbers in it are inches. */
  private readonly open: { readonly call: boolean; readonly inches: boolean }[] = [];
  private place = 0;

  constructor(private readonly text: string) {}

  private match(form: RegExp): RegExpExecArray | undefined {
    form.lastIndex = this.place;
    return form.exec(this.text) ?? undefined;
  }

  private last(): Token | undefined {
    return this.tokens[this.tokens.length - 1];
  }

  private get inches(): boolean {
    return this.open[this.open.length - 1]?.inches ?? false;
  }

  /** Whether what stands last is a whole value, so that another one cannot follow without a sign. */
  private ended(): boolean {
    const last = this.last();
    return last !== undefined && (last.kind === "value" || last.kind === "name" || isSign(last, ")"));
  }

  read(): Result<readonly Token[]> {
    for (;;) {
      while (this.text[this.place] === " ") this.place++;
      if (this.place >= this.text.length) break;
      const problem = this.next();
      if (problem) return fail(problem);
    }
    return this.open.length > 0 ? fail("a bracket is not closed") : ok(this.tokens);
  }

  private next(): string | undefined {
    const sign = this.text[this.place];
    if (/[\d.]/.test(sign)) return this.number();
    if (/[A-Za-z_]/.test(sign)) return this.name();
    if (sign === "(") {
      if (this.ended()) this.multiply();
      return this.bracket(false, this.inches);
    }
    if (sign === ")") {
      if (!this.open.pop()) return "a bracket is closed that was never opened";
      this.push(sign);
      return undefined;
    }
    if (sign === "," && !this.open[this.open.length - 1]?.call)
      return "a comma can stand only between the values of a function";
    if ("+-*/^,".includes(sign)) {
      this.push(sign as "+");
      return undefined;
    }
    if (sign === "%") return "a percent sign must come right after a number";
    if (sign === '"' || sign === "'") return `${sign} must come right after a number`;
    if (sign === "°" && isSign(this.last(), ")")) {
      this.multiply();
      this.take({ kind: "value", value: inUnit(1, "deg") }, 1);
      return undefined;
    }
    return `"${sign}" cannot be used here; use + - * / ^ and brackets`;
  }

  private push(sign: (Token & { kind: "sign" })["sign"]): void {
    this.take({ kind: "sign", sign }, 1);
  }

  private take(token: Token, length: number): void {
    this.tokens.push(token);
    this.place += length;
  }

  /** A number before a name or a bracket multiplies it. */
  private multiply(): void {
    this.tokens.push({ kind: "sign", sign: "next" });
  }

  private bracket(call: boolean, inches: boolean): undefined {
    this.open.push({ call, inches });
    this.push("(");
  }

  private name(): string | undefined {
    const name = this.match(NAME)![0];
    const last = this.last();
    if (last?.kind === "name") return `"${last.name} ${name}": put + - * or / between them`;
    if (this.ended()) this.multiply();
    const from = this.place;
    const brackets = /^ *\(/.exec(this.text.slice(from + name.length));
    if (!brackets) {
      this.take({ kind: "name", name, from, to: from + name.length }, name.length);
      return undefined;
    }
    this.take({ kind: "call", name }, name.length + brackets[0].length - 1);
    return this.bracket(true, this.inches || name === "in");
  }

  private number(): string | undefined {
    if (this.match(OTHER_BASE)) return "numbers are written with the digits 0 to 9";
    const start = this.place;
    const value = this.measure();
    if (typeof value === "string") return value;
    if (value === undefined) return "a point is no number by itself";
    const last = this.last();
    const text = this.text.slice(start, this.place);
    if (last && this.ended()) {
      const before = this.text.slice(0, start).trim();
      return `nothing joins "${before}" and "${text}": put + - * or / between them`;
    }
    this.tokens.push({ kind: "value", value });
    return undefined;
  }

  private measure(): Quantity | string | undefined {
    const feet = this.match(FEET);
    if (feet) return this.feet(feet);
    const degrees = this.match(DEGREES);
    if (degrees) {
      this.place += degrees[0].length;
      const [whole, minutes, seconds] = degrees.slice(1).map((v) => Number(v ?? 0));
      if (minutes >= 60 || seconds >= 60) return "minutes and seconds of an angle stay below 60";
      return inUnit(whole + minutes / 60 + seconds / 3600, "deg");
    }
    // After a division `2 1/4` could be either; nothing is guessed.
    const divided = isSign(this.last(), "/") || isSign(this.last(), "^");
    const whole = divided
      ? undefined
      : (this.match(SPACED_MIXED) ??
        this.match(DASHED_MIXED) ??
        (this.inches ? this.match(BARE_DASHED) : undefined) ??
        this.match(FRACTION));
    if (whole) return this.counted(whole[0]);
    const plain = this.match(PLAIN);
    return plain && this.counted(plain[0]);
  }

  /** A number with the unit after it, if there is one. */
  private counted(text: string): Quantity | string {
    this.place += text.length;
    const value = amount(text);
    if (!Number.isFinite(value)) return `${text} has no finite value`;
    const percent = this.match(PERCENT);
    if (percent) {
      this.place += percent[0].length;
      return { ...bare(value / 100), share: true };
    }
    const unit = this.match(UNIT);
    const name = unit?.[1] ?? unit?.[2];
    if (!unit || name === undefined || !isUnit(name)) return bare(value);
    this.place += unit[0].length;
    return inUnit(value, name);
  }

  private feet(found: RegExpExecArray): Quantity | string {
    this.place += found[0].length;
    const feet = amount(found[1]);
    const inches = this.match(INCHES_AFTER);
    if (inches) {
      this.place += inches[0].length;
      return inUnit(feet + amount(inches[1]) / 12, "ft");
    }
    const loose = this.match(LOOSE_AFTER_FEET);
    if (loose && !/^ *(?:[A-Za-z_(]|')/.test(this.text.slice(this.place + loose[0].length)))
      return `what is ${loose[1]} after the feet? Put an inch mark behind it: ${found[0]} ${loose[1]}"`;
    return inUnit(feet, "ft");
  }
}

export const isSign = (token: Token | undefined, sign: string): boolean =>
  token?.kind === "sign" && token.sign === sign;

/**
 * The words of an expression: measures with their units, names, functions, signs. The grammar is that
 * of `docs/format/expressions.md`. The error says what is wrong, without the expression itself.
 *
 * @param text in the grammar's own signs, as `plainSigns` gives it
 */
export const tokensOf = (text: string): Result<readonly Token[]> => new Reader(text).read();
