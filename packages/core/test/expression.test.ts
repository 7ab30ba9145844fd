import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Dimension, evaluateExpression, type Names } from "../src/index.ts";

const stock: Names = (name) => {
  const value = { t: 1.5, width: 320 }[name];
  return value === undefined ? undefined : { ok: true, value: { value, dimension: "length" } };
};
const read = (text: string, dimension: Dimension = "length") =>
  evaluateExpression(text, { dimension, names: stock, known: ["t", "width"] });
const value = (text: string, dimension?: Dimension) => {
  const result = read(text, dimension);
  if (!result.ok) throw new Error(result.error);
  return result.value;
};
const error = (text: string, dimension?: Dimension) => {
  const result = read(text, dimension);
  return result.ok ? `no error but ${result.value}` : result.error;
};

describe("an expression in a length field", () => {
  test.each([
    ["25", 25],
    [" -2.5 ", -2.5],
    [".5", 0.5],
    ["3/4in", 19.05],
    ['1 1/2"', 38.1],
    ["1/2 in + 1mm", 13.7],
    ["2*t + 1", 4],
    ["width/2", 160],
    ["2t", 3],
    ["1ft", 304.8],
    ["2.5cm", 25],
    ["0.1m", 100],
    ["sqrt(t*t)", 1.5],
    ["max(t, 2mm)", 2],
    ["10 sin(30deg)", 5],
    ["10 * sin(30)", 5],
    ["(1 + 2) * 3", 9],
  ])("%s is %d mm", (text, want) => {
    if (Number.isNaN(want)) expect(read(text).ok).toBe(false);
    else expect(value(text)).toBeCloseTo(want, 12);
  });

  test.each([
    ["", "A value is needed"],
    ["0/0", "divides by zero"],
    ["1/(t-t)", "divides by zero"],
    ["t*t", "does not give a length"],
    ["90deg", "does not give a length"],
    ["t + 90deg", "cannot be added"],
    ["hight", '"hight" is not a unit or a name known here. Known here: t, width.'],
    ["2,5", "write the decimal with a point"],
    ["2 +", "cannot be read"],
    ["sqrt(-1)", "no finite value"],
    ["10^400", "no finite value"],
  ])("%s is refused with the reason", (text, reason) => {
    expect(error(text)).toContain(reason);
  });
});

describe("an expression in an angle field", () => {
  test.each([
    ["90", Math.PI / 2],
    ["45deg", Math.PI / 4],
    ["90°", Math.PI / 2],
    ["1rad", 1],
    ["180 - 30deg", (150 * Math.PI) / 180],
    ["atan(1)", Math.PI / 4],
  ])("%s is %d rad", (text, want) => {
    expect(value(text, "angle")).toBeCloseTo(want, 12);
  });
});

describe("what a stranger may type", () => {
  test.each([
    "constructor",
    "__proto__",
    "toString()",
    "import('fs')",
    "f(x) = x",
    "a = 5",
    "[1, 2, 3]",
    "t.constructor",
    'eval("1")',
    "createUnit(1)",
    "1; 2",
    "t ? 1 : 2",
    '"text"',
    "hasOwnProperty(1)",
    "5!",
  ])("%s reaches nothing and is refused", (text) => {
    expect(read(text).ok).toBe(false);
  });

  test("is answered in time, however nested or long", () => {
    expect(error(`${"(".repeat(90)}1${")".repeat(90)}`)).toMatch(/deeply|cannot be read/);
    expect(error(`${"1+".repeat(500)}1`)).toContain("at most 200 characters");
    expect(read("9^9^9^9").ok).toBe(false);
  });

  test("never throws and never gives a value that is not a number", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), (text) => {
        const result = read(text);
        if (result.ok) expect(Number.isFinite(result.value)).toBe(true);
        else expect(result.error.length).toBeGreaterThan(10);
      }),
    );
  });

  test("plain numbers come back as they are", () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), (n) => {
        expect(value(String(n / 1000))).toBe(n / 1000);
      }),
    );
  });
});
