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
    ["5%", "units cancel out in it"],
    ["1e3mmx", "is not a unit"],
    ["5%%", "a percent sign must come right after a number"],
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

  test.each([
    ["2 inches", 50.8],
    ["2inches", 50.8],
    ["1 inch", 25.4],
    ["3 ft 2 in", 965.2],
    ["3 feet 2 inches", 965.2],
    ["1 foot", 304.8],
    ["1e3mm", 1000],
    ["1e-1in", 2.54],
    ["2.5E2 mm", 250],
  ])("%s is %d mm", (text, mm) => {
    expect(value(text)).toBeCloseTo(mm, 9);
    // Typed key by key, it means the same in an inch part.
    expect(value(storedFrom(text, "length", "in"))).toBeCloseTo(mm, 9);
  });

  test("a share may be given in percent, where no length is asked for", () => {
    for (const [text, share] of [
      ["50%", 0.5],
      ["12.5 %", 0.125],
      ["(10% + 5%)/2", 0.075],
    ] as const)
      expect(evaluateExpression(text, { dimension: "number" })).toEqual({
        ok: true,
        value: expect.closeTo(share, 12),
      });
  });

  test("what an inch part's field keeps shows as it was typed and means inches", () => {
    for (const [typed, kept, mm] of [
      ["1-1/2", "in(1-1/2)", 38.1],
      ["1 1/2", "1 1/2 in", 38.1],
      ["3/4", "3/4 in", 19.05],
      ["2", "2 in", 50.8],
      ["25 mm", "25 mm", 25],
      ["5'-3\"", "5'-3\"", 1600.2],
      ["in(1)+in(2)", "in(1)+in(2)", 76.2],
    ] as const) {
      expect(storedFrom(typed, "length", "in")).toBe(kept);
      expect(value(kept)).toBeCloseTo(mm, 10);
      expect(typedFor(kept, "length", "in")).toBe(typed);
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

describe("each function", () => {
  test.each<[string, Dimension, number]>([
    ["cos(60)", "number", 0.5],
    ["cos(1rad)", "number", Math.cos(1)],
    ["sin(30°)", "number", 0.5],
    ["tan(45)", "number", 1],
    ["asin(1)", "angle", Math.PI / 2],
    ["acos(0.5)", "angle", Math.PI / 3],
    ["atan(1)", "angle", Math.PI / 4],
    ["abs(-3in)", "length", 76.2],
    ["abs(-4)", "number", 4],
    ["round(2.5mm + 0.1mm)", "length", 3],
    ["floor(2.9mm)", "length", 2],
    ["ceil(2.1mm)", "length", 3],
    ["min(3in, 50mm, 60)", "length", 50],
    ["max(3in, 50mm, 60)", "length", 76.2],
    ["min(30°, 1rad, 40)", "angle", Math.PI / 6],
    ["sqrt(16)", "number", 4],
    ["sqrt(3mm*12mm)", "length", 6],
    ["sqrt(4mm^2)", "length", 4],
    ["sqrt(1rad * 4rad)", "angle", 2],
    ["(3mm)^2 / 1mm", "length", 9],
    ["(2rad)^3 / (2rad)^2", "angle", 2],
    ["(2mm)^3 / (2mm)^2", "length", 2],
    ["pi", "number", Math.PI],
    ["1ft + 1cm + 1m", "length", 304.8 + 1010],
    ["90deg + 1rad", "angle", Math.PI / 2 + 1],
    ["in(1/2 + 1mm)", "length", 13.7],
    ["in(min(1, 30mm))", "length", 25.4],
    ["in(in(2))", "length", 50.8],
    ["width/t", "number", 320 / 1.5],
    ["(-2)^2", "number", 4],
  ])("%s in a field of a %s", (text, dimension, expected) => {
    expect(value(text, dimension)).toBeCloseTo(expected, 10);
  });

  test("V(…) is a V-width's own radius: in millimetres, and in inches where these are meant", () => {
    const names: Names = (name) =>
      name === "V" ? { ok: true, value: { value: 0.16, dimension: "number" } } : stock(name);
    const of = (text: string) => evaluateExpression(text, { dimension: "length", names });
    expect(of("V(12)")).toEqual({ ok: true, value: 12 * 0.16 });
    expect(of("V(1in)")).toEqual({ ok: true, value: 25.4 * 0.16 });
    expect(of("in(V(1))")).toEqual({ ok: true, value: 25.4 * 0.16 });
    expect(of("V(1, 2)")).toEqual({
      ok: false,
      error: '"V(1, 2)": V needs one V-width, for example V(12).',
    });
    const none = evaluateExpression("V(12)", { dimension: "length" });
    expect(none.ok ? "" : none.error).toContain("known only where a stock says the radius");
    const wrong: Names = () => ({ ok: false, error: "no" });
    const told = evaluateExpression("V(12)", { dimension: "length", names: wrong });
    expect(told.ok ? "" : told.error).toContain("known only where a stock says the radius");
  });
});

describe("what is wrong with an expression, in words", () => {
  test.each<[string, Dimension, string]>([
    ["sin(3mm)", "number", '"sin(3mm)": an angle is needed inside sin, cos or tan.'],
    ["asin(3mm)", "angle", '"asin(3mm)": asin needs a plain number.'],
    ["acos(90°)", "angle", '"acos(90°)": acos needs a plain number.'],
    ["2^1mm", "number", '"2^1mm": a power needs a plain number.'],
    ["3mm + 4°", "length", '"3mm + 4°": a length and an angle cannot be added or compared.'],
    ["min(3mm, 4°)", "length", '"min(3mm, 4°)": a length and an angle cannot be added or compared.'],
    [
      "3mm/1mm + 4°",
      "angle",
      '"3mm/1mm + 4°": a share, in which units cancel out, cannot be added to or compared with what has a unit.',
    ],
    [
      "(3mm/1mm + 1) + 4mm",
      "length",
      '"(3mm/1mm + 1) + 4mm": a share, in which units cancel out, cannot be added to or compared with what has a unit.',
    ],
    [
      "(1 + 3mm/1mm) + 4mm",
      "length",
      '"(1 + 3mm/1mm) + 4mm": a share, in which units cancel out, cannot be added to or compared with what has a unit.',
    ],
    [
      "width/t",
      "length",
      '"width/t": units cancel out in it, so it does not give a length; multiply by 1mm if that is meant.',
    ],
    [
      "2°/1°",
      "angle",
      '"2°/1°": units cancel out in it, so it does not give an angle; multiply by 1deg if that is meant.',
    ],
    ["3mm", "number", '"3mm": it does not give a plain number.'],
    ["3mm", "angle", '"3mm": it does not give an angle.'],
    ["3°", "length", '"3°": it does not give a length.'],
    ["3mm*2mm", "length", '"3mm*2mm": it does not give a length.'],
    ["3mm*2°", "length", '"3mm*2°": it does not give a length.'],
    ["1mm/0", "length", '"1mm/0": it divides by zero and has no value.'],
    ["sin()", "number", '"sin()": sin needs a value.'],
    ["sin(1, 2)", "number", '"sin(1, 2)": sin takes one value.'],
    ["in(1, 2)", "length", '"in(1, 2)": in(…) takes one expression.'],
    [
      "log(2)",
      "number",
      '"log(2)": there is no function "log"; there are sin, cos, tan, asin, acos, atan, sqrt, abs, round, floor, ceil, min, max.',
    ],
    ["gap + 1", "length", '"gap + 1": "gap" is not a unit or a name known here. Known here: t, width.'],
    ["1,5", "length", '"1,5" has a comma in a number: write the decimal with a point, 1.5.'],
    [
      "1,500",
      "length",
      '"1,500" has a comma in a number: write the decimal with a point, 1.500, or 1500 for thousands.',
    ],
    ["12,75", "length", '"12,75" has a comma in a number: write the decimal with a point, 12.75.'],
    ["", "length", "A value is needed here."],
    ["  ", "length", "A value is needed here."],
    ["2 +", "angle", '"2 +" cannot be read as an angle. Write for example 25, 3/4in or 2*t + 1.'],
    ["()", "number", '"()" cannot be read as a plain number. Write for example 25, 3/4in or 2*t + 1.'],
    ["(1, 2)", "length", '"(1, 2)": a comma can stand only between the values of a function.'],
  ])("%j in a field of a %s", (text, dimension, message) => {
    expect(error(text, dimension)).toBe(message);
  });

  test("a message ends with one full stop, also where a name's own message ended with one", () => {
    const names: Names = () => ({ ok: false, error: "the value is wrong." });
    const found = evaluateExpression("gap", { dimension: "length", names });
    expect(found).toEqual({ ok: false, error: '"gap": the value is wrong.' });
    const nothing = evaluateExpression("gap", { dimension: "length" });
    expect(nothing).toEqual({ ok: false, error: '"gap": "gap" is not a unit or a name known here.' });
    const none = evaluateExpression("gap", { dimension: "length", known: [] });
    expect(none).toEqual(nothing);
  });

  test("is told at the very limit of what is read", () => {
    const long = (n: number) => `${"1+".repeat((n - 1) / 2)}1`;
    expect(value(`${long(199)} `)).toBe(100);
    expect(value(`0${long(199)}`)).toBe(100);
    expect(error(`00${long(199)}`)).toContain("at most 200 characters");
    const nested = (n: number) => `${"(".repeat(n)}1${")".repeat(n)}`;
    expect(value(nested(60))).toBe(1);
    expect(error(nested(61))).toBe(`"${nested(61)}": it is nested too deeply.`);
    const inches = (n: number) => `${"in(".repeat(n)}1${")".repeat(n)}`;
    expect(value(inches(40))).toBeCloseTo(25.4, 9);
  });

  test("a number by itself needs no name and no parser, with a sign or a bare point too", () => {
    for (const [text, is] of [
      ["+5", 5],
      ["-5", -5],
      ["5.", 5],
      [".25", 0.25],
      ["-12.75", -12.75],
      ["007", 7],
    ] as const) {
      expect(value(text)).toBe(is);
      expect(value(text, "angle")).toBeCloseTo((is * Math.PI) / 180, 12);
      expect(value(text, "number")).toBe(is);
    }
    expect(evaluateExpression(2.5, { dimension: "length" })).toEqual({ ok: true, value: 2.5 });
  });
});

describe("a text that was read before", () => {
  test("says what its names say now, in each field what that field wants, and goes wrong as it did", () => {
    const names = (value: number) => (name: string) =>
      name === "w" ? ({ ok: true, value: { dimension: "length", value } } as const) : undefined;
    for (const w of [10, 25])
      expect(evaluateExpression("2*w + 1", { dimension: "length", names: names(w) })).toEqual({
        ok: true,
        value: 2 * w + 1,
      });
    const unknown = evaluateExpression("2*w + 1", { dimension: "length" });
    expect(unknown).toEqual(evaluateExpression("2*w + 1", { dimension: "length" }));
    expect(unknown.ok).toBe(false);
    expect(evaluateExpression("30 + 15", { dimension: "angle" })).toEqual({ ok: true, value: Math.PI / 4 });
    expect(evaluateExpression("30 + 15", { dimension: "number" })).toEqual({ ok: true, value: 45 });
    for (const text of ["2 +", "(3", "1 $ 2"])
      for (let i = 0; i < 2; i++)
        expect(evaluateExpression(text, { dimension: "length" }).ok, text).toBe(false);
  });

  test("is read as well after thousands of others", () => {
    for (let i = 0; i < 5000; i++)
      expect(evaluateExpression(`${i} + 0.5`, { dimension: "length" })).toEqual({ ok: true, value: i + 0.5 });
    for (const i of [0, 1999, 2000, 4999])
      expect(evaluateExpression(`${i} + 0.5`, { dimension: "length" })).toEqual({ ok: true, value: i + 0.5 });
  });
});
