import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  type Dimension,
  evaluateExpression,
  formatFraction,
  type Names,
  renameInExpression,
  storedFrom,
  typedFor,
} from "../src/index.ts";

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

describe("inches and feet as people write them", () => {
  const inches = (text: string) => value(text) / 25.4;
  test.each([
    ['1-1/2"', 1.5],
    ["1-1/2 in", 1.5],
    ['-1-1/2"', -1.5],
    ['2*3-1/2"', 7],
    ["in(1-1/2)", 1.5],
    ["in(10-3/4 + 1)", 11.75],
    ["in(1 - 1/2)", 0.5],
    ["½in", 0.5],
    ['1½"', 1.5],
    ['2-¾"', 2.75],
    ["1 1/2in", 1.5],
    ["60/2in", 30],
    ["1.5/2 in", 0.75],
    ["(1/2 + 1/4) in", 0.75],
    ["2in(3)", 6],
    ["5'-3\"", 63],
    ["5'3\"", 63],
    ["5' 3\"", 63],
    ["5ft 3in", 63],
    ["5'-3 1/2\"", 63.5],
    ["5'-3-1/2\"", 63.5],
    ["5’ 3½”", 63.5],
    ["5′ 3 1/2″", 63.5],
    ["1/2'", 6],
    ["2 1/2 ft", 30],
    ["5' - 3\"", 57],
    ["5'", 60],
    ["3 ÷ 4 in", 0.75],
    ["2 × 3in", 6],
    ["5in − 3in", 2],
    ['max(1-1/2", 1in)', 1.5],
  ])("%s is %d in", (text, want) => {
    expect(inches(text)).toBeCloseTo(want, 10);
  });

  test("a dash with spaces, or with no mark after it, subtracts", () => {
    expect(value("1-1/2")).toBe(0.5);
    expect(value('1 - 1/2"')).toBeCloseTo(1 - 12.7, 12);
    expect(value("in(1-1/2/2)")).toBeCloseTo(0.75 * 25.4, 12);
    expect(value("in(1-1/2 mm)")).toBeCloseTo(25.4 - 0.5, 12);
  });

  test.each([
    ["w/2in", "units cancel out in it, so it does not give a length"],
    ["t/t + 1mm", "a share, in which units cancel out, cannot be added"],
    ["5%", "write 0.05 for 5 %"],
    ["0x10", "digits 0 to 9"],
    ["1in 1/2", 'nothing joins "1in" and "1"'],
    ["1/2 1/4", 'nothing joins "1/2" and "1"'],
    ["width/1 1/2", "nothing joins"],
    ["5' 3", "Put an inch mark behind it"],
    ["5'-3", "Put an inch mark behind it"],
    ["5'-3-1/2", "Put an inch mark behind it"],
    ['"', '" must come right after a number'],
    ["1,000", "1.000, or 1000 for thousands"],
    ["max(2,5)", "write the decimal with a point, 2.5"],
    ["(1, 2)", "only between the values of a function"],
    ["sin(1, 2)", "sin takes one value"],
    ["t width", "put + - * or / between them"],
    ["(1", "a bracket is not closed"],
    ["1)", "never opened"],
    ["1e400", "has no finite value"],
    [".", "no number by itself"],
  ])("%s is refused with the reason", (text, reason) => {
    expect(error(text.replace(/^w\b/, "width"))).toContain(reason);
  });

  test("every length shown in 64ths is read back as what it shows", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 64 * 400 }), (parts) => {
        const shown = formatFraction(parts / 64);
        expect(inches(`${shown} in`)).toBeCloseTo(parts / 64, 9);
        expect(inches(`${shown.replace(" ", "-")}"`)).toBeCloseTo(parts / 64, 9);
        const feet = Math.floor(parts / 64 / 12);
        expect(inches(`${feet}'-${formatFraction(parts / 64 - feet * 12)}"`)).toBeCloseTo(parts / 64, 9);
      }),
    );
  });

  test("what an inch part's field keeps shows as it was typed and means inches", () => {
    for (const [typed, kept, mm] of [
      ["1-1/2", "in(1-1/2)", 38.1],
      ["1 1/2", "1 1/2 in", 38.1],
      ["3/4", "3/4 in", 19.05],
      ["2", "2 in", 50.8],
      ["25 mm", "25", 25],
      ["5'-3\"", "5'-3\"", 1600.2],
      ["in(1)+in(2)", "in(1)+in(2)", 76.2],
    ] as const) {
      expect(storedFrom(typed, "length", "in")).toBe(kept);
      expect(value(kept)).toBeCloseTo(mm, 10);
      if (typed !== "25 mm") expect(typedFor(kept, "length", "in")).toBe(typed);
    }
  });
});

describe("powers and signs", () => {
  test.each([
    ["-2^2", -4],
    ["(-2)^2", 4],
    ["2^-1", 0.5],
    ["2^-2^2", 0.0625],
    ["2^3^2", 512],
    ["2*-3", -6],
    ["--3", 3],
    ["7 - -3", 10],
    ["12/3*2", 8],
    ["2(3 + 4)", 14],
  ])("%s is %d", (text, want) => {
    expect(value(text, "number")).toBeCloseTo(want, 12);
  });

  test("sums and products come out as they do in JavaScript", () => {
    const { tree } = fc.letrec<{ tree: string; leaf: string }>((tie) => ({
      leaf: fc.integer({ min: 1, max: 99 }).map(String),
      tree: fc.oneof(
        { maxDepth: 4 },
        tie("leaf"),
        fc
          .tuple(tie("tree"), fc.constantFrom(" + ", " - ", " * ", " / "), tie("tree"))
          .map(([a, op, b]) => `(${a}${op}${b})`),
      ),
    }));
    fc.assert(
      fc.property(tree, (text) => {
        fc.pre(text.length <= 200);
        // biome-ignore lint/security/noGlobalEval: the text is built from digits and signs right here
        const want = eval(text) as number;
        fc.pre(Number.isFinite(want));
        expect(value(text, "number")).toBeCloseTo(want, 6);
      }),
    );
  });
});

describe("renaming in an expression", () => {
  test.each([
    ["up + 1", "high + 1"],
    ["up", "high"],
    ["2up", "2high"],
    ["upper + up_1", "upper + up_1"],
    ["up(2)", "up(2)"],
    ["max(up, 2)/up", "max(high, 2)/high"],
    ["not an (expression up", "not an (expression up"],
  ])("%s becomes %s", (text, want) => {
    expect(renameInExpression(text, "up", "high")).toBe(want);
  });
});

describe("an expression in an angle field", () => {
  test.each([
    ["90", Math.PI / 2],
    ["45deg", Math.PI / 4],
    ["90°", Math.PI / 2],
    ["45°30'", (45.5 * Math.PI) / 180],
    ["10° 30' 36\"", (10.51 * Math.PI) / 180],
    ["(60 + 30)°", Math.PI / 2],
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
