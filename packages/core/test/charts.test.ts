import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  allowanceOf,
  type BendChart,
  type BendShape,
  bendAllowance,
  type ChartRow,
  type ChartRule,
  type Coupon,
  calibrate,
  chartTable,
  checkChartRows,
  couponNumbers,
  din6935Compensation,
  examinePart,
  followStudy,
  forcePerMetre,
  itemProblems,
  kByChart,
  leastLeg,
  newPart,
  type RowsReading,
  readChartText,
  readLibrary,
  type StudyGiven,
  snapshotOf,
  solveStudy,
  startingLibrary,
  studentQuantile,
  type TableRule,
  tableFromFits,
  tableValue,
  toRadians,
  writeChartText,
} from "../src/index.ts";
import { spread } from "./random-cases.ts";

const worked = JSON.parse(readFileSync(new URL("./cases/worked-numbers.json", import.meta.url), "utf8")) as {
  bendFormulas: { t: number; r: number; angle: number; K?: number; BA: number }[];
  testBends: Record<"t" | "r" | "angle" | "legA" | "legB" | "flatBefore" | "BD" | "BA" | "K", number>[];
};

const table = (rows: ChartRow[], more: Partial<TableRule> = {}): TableRule => ({
  method: "table",
  gives: "K",
  angleIs: "bend angle",
  deductionTo: "mould points",
  acrossThickness: false,
  rows,
  ...more,
});
const chart = (rule: ChartRule): BendChart => ({
  id: "c",
  name: "Chart",
  note: "",
  starting: false,
  reason: "",
  rule,
});
const shape = (t: number, r: number, degrees: number): BendShape => ({ t, r, angle: toRadians(degrees) });
const kAt = (rule: ChartRule, ...s: [number, number, number]) => kByChart(chart(rule), shape(...s));

describe("a table by thickness × radius × angle", () => {
  const grid = table([
    [1, 1, 45, 0.3],
    [1, 1, 90, 0.4],
    [1, 3, 45, 0.5],
    [1, 3, 90, 0.4],
    [2, 2, 90, 0.45],
  ]);

  test("is linear in angle and in radius", () => {
    expect(kAt(grid, 1, 1, 45).k).toBe(0.3);
    expect(kAt(grid, 1, 1, 67.5).k).toBeCloseTo(0.35, 12);
    expect(kAt(grid, 1, 2, 45).k).toBeCloseTo(0.4, 12);
    expect(kAt(grid, 1, 2.5, 60).k).toBeCloseTo(0.3333333 * 0.25 + 0.4666667 * 0.75, 6);
  });

  test.each([
    [[1, 1, 30], "row 1"],
    [[1, 1, 120], "row 2"],
    [[1, 3.5, 90], "row 4"],
    [[2, 2.5, 90], "row 5"],
    [[1.6, 2, 90], "row 5"],
    [[0.8, 1, 90], "row 2"],
    [[3, 2, 90], "row 5"],
  ] as [[number, number, number], string][])("does not reach %j, and names the nearest: %s", (at, row) => {
    const { k, source } = kAt(grid, ...at);
    expect(source.outside?.reason).toContain(row);
    expect(source.outside?.reason).toContain("outside the chart Chart");
    expect(k).toBe(grid.rows[Number(row.slice(4)) - 1][3]);
  });

  test("goes across thickness only when it may", () => {
    const rows: ChartRow[] = [
      [1, 2, 90, 0.4],
      [2, 2, 90, 0.44],
    ];
    expect(kAt(table(rows), 1.5, 2, 90).source.outside).toBeDefined();
    const across = kAt(table(rows, { acrossThickness: true }), 1.5, 2, 90);
    expect(across.source.outside).toBeUndefined();
    expect(across.k).toBeCloseTo(0.42, 12);
  });

  test("its opening angles are the same bends counted from the other side", () => {
    const opening = table(
      [
        [1, 1, 60, 0.37],
        [1, 1, 90, 0.4],
        [1, 1, 135, 0.3],
      ],
      { angleIs: "opening angle" },
    );
    expect(kAt(opening, 1, 1, 45).k).toBe(0.3);
    expect(kAt(opening, 1, 1, 90).k).toBe(0.4);
    expect(kAt(opening, 1, 1, 105).k).toBeCloseTo(0.385, 12);
    expect(kAt(opening, 1, 1, 45).source.link).toEqual({ to: "chart", id: "c", row: 3 });
  });

  test("in BD to outermost tangents passes 90° without a step", () => {
    const k = 0.4;
    const row = (angle: number): ChartRow => {
      const s = shape(2, 2, angle);
      const setbacks = 2 * (angle > 90 ? 1 : Math.tan(s.angle / 2)) * 4;
      return [2, 2, angle, setbacks - bendAllowance(s, k)];
    };
    const rule = table([row(60), row(120), row(170)], { gives: "BD", deductionTo: "outermost tangents" });
    // BA is linear in the angle for one K, and across 90° it is BA that is interpolated.
    for (const angle of [60, 75, 89.999, 90, 90.001, 105, 120, 145])
      expect(kAt(rule, 2, 2, angle).k).toBeCloseTo(k, 9);
  });

  test("answers what a plain search over its rows answers", () => {
    const steps = fc.uniqueArray(fc.integer({ min: 1, max: 60 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(
        steps,
        steps,
        steps,
        fc.array(spread(0, 1), { minLength: 216, maxLength: 216 }),
        fc.nat(),
        (ts, rs, as, ks, pick) => {
          const sorted = (list: number[]) => [...list].sort((a, b) => a - b);
          const rows = sorted(ts).flatMap((t) =>
            sorted(rs).flatMap((r) => sorted(as).map((a): ChartRow => [t, r, a * 2, 0])),
          );
          const filled = rows.map((row, i): ChartRow => [row[0], row[1], row[2], ks[i % ks.length]]);
          const rule = table(filled);
          const [t, r, a, value] = filled[pick % filled.length];
          expect(tableValue(chartTable(rule), t, r, a)).toBe(value);
          const between = tableValue(chartTable(rule), t, r + 0.5, a);
          const next = filled.find((row) => row[0] === t && row[1] > r && row[2] === a);
          if (!next) expect(between).toBeNaN();
          else expect(between).toBeCloseTo(value + (0.5 / (next[1] - r)) * (next[3] - value), 9);
        },
      ),
    );
  });
});

describe("every worked bend formula is found again", () => {
  const cases = worked.bendFormulas.flatMap((c) =>
    c.K !== undefined && c.angle < 179 ? [{ ...c, K: c.K }] : [],
  );

  test.each(["K", "BA", "BD"] as const)("through a table that gives %s", (gives) => {
    for (const c of cases) {
      const s = shape(c.t, c.r, c.angle);
      const ba = c.angle * (Math.PI / 180) * (c.r + c.K * c.t);
      const value = { K: c.K, BA: ba, BD: 2 * Math.tan(s.angle / 2) * (c.r + c.t) - ba }[gives];
      const { k } = kAt(table([[c.t, c.r, c.angle, value]], { gives }), c.t, c.r, c.angle);
      expect(bendAllowance(s, k)).toBeCloseTo(c.BA, 5);
    }
  });

  test("through an expression of t, r, angle and K", () => {
    const rule: ChartRule = {
      method: "expression",
      gives: "BA",
      angleIs: "bend angle",
      deductionTo: "mould points",
      expression: "angle * pi/180 * (r + K*t)",
      k: 0.42,
    };
    const s = shape(1.5, 2, 70);
    expect(bendAllowance(s, kAt(rule, 1.5, 2, 70).k)).toBeCloseTo(bendAllowance(s, 0.42), 12);
  });

  test("and DIN 6935 gives what its compensation value gives", () => {
    for (const angle of [20, 60, 90, 120, 150]) {
      const s = shape(2, 3, angle);
      const ba = bendAllowance(s, kAt({ method: "DIN 6935" }, 2, 3, angle).k);
      const setback = angle >= 90 ? 5 : Math.tan(s.angle / 2) * 5;
      expect(ba - 2 * setback).toBeCloseTo(din6935Compensation(s), 9);
    }
  });

  test("below a bend of 15° DIN 6935 adds nothing, and a switch carries its formula on", () => {
    for (const angle of [0.5, 5, 14.9]) {
      const s = shape(2, 3, angle);
      expect(din6935Compensation(s)).toBe(0);
      const standard = bendAllowance(s, kAt({ method: "DIN 6935" }, 2, 3, angle).k);
      expect(standard).toBeCloseTo(2 * Math.tan(s.angle / 2) * 5, 12);
      const carried = kAt({ method: "DIN 6935", carryOn: true }, 2, 3, angle).k;
      expect(carried).toBeCloseTo(kAt({ method: "DIN 6935" }, 2, 3, 90).k, 12);
    }
    expect(kAt({ method: "DIN 6935" }, 2, 3, 15).k).toBeCloseTo(kAt({ method: "DIN 6935" }, 2, 3, 90).k, 12);
    const answer = kByChart({ id: "d", name: "Standard", rule: { method: "DIN 6935" } }, shape(2, 3, 5));
    expect(answer.k).toBeGreaterThan(0.9);
    expect(answer.source.lines[0].text).toBe("opening angle 175°, above 165°: v = 0, so BD = 0");
  });

  test("so does the blank, without a finding on its K", () => {
    const slight = examinePart({
      ...newPart("Slight"),
      stock: { ...newPart("x").stock, flatBy: "DIN 6935" },
      steps: [
        { id: "s1", kind: "plate", width: "100", depth: "50" },
        { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.east" }], angle: "10", length: "30" },
      ],
    });
    expect(slight.findings).toEqual([]);
    expect(slight.blank!.width).toBeCloseTo(130, 9);
    expect(slight.bends[0].deduction).toBeCloseTo(0, 12);
  });
});

test("K by r/t is linear or stepwise, and says when a ratio lies outside", () => {
  const points = [
    [0.5, 0.3],
    [1, 0.4],
    [3, 0.5],
  ] as const;
  const linear: ChartRule = { method: "K by r/t", points, between: "linear" };
  const stepwise: ChartRule = { method: "K by r/t", points, between: "stepwise" };
  expect(kAt(linear, 2, 4, 90).k).toBeCloseTo(0.45, 12);
  expect(kAt(stepwise, 2, 4, 90).k).toBe(0.4);
  expect(kAt(stepwise, 2, 20, 90)).toMatchObject({ k: 0.5, source: { outside: undefined } });
  expect(kAt(linear, 2, 20, 90).source.outside?.reason).toContain("row 3");
  expect(kAt(linear, 2, 0.2, 90).source.outside?.reason).toContain("row 1");
});

describe("pasting and importing a table", () => {
  const reading: RowsReading = {
    gives: "K",
    angleIs: "bend angle",
    deductionTo: "mould points",
    reason: "",
  };
  const problems = (text: string, more: Partial<RowsReading> = {}) => {
    const read = readChartText(text, { ...reading, ...more });
    return read.ok ? [] : read.error.map((p) => `${p.row} ${p.column}: ${p.message}`);
  };

  test("takes commas, tabs and semicolons, a header in any order, and other units", () => {
    const want = [[1.5, 1.5, 90, 0.42]];
    for (const text of [
      "1.5,1.5,90,0.42",
      "1.5\t1.5\t90\t0.42\n",
      "thickness;radius;angle;K\r\n1.5;1.5;90;0.42",
      "K,angle,t,r\n0.42,90,1.5,1.5",
      "\uFEFFThickness (mm),Inside radius (mm),Bend angle (°),K\n1.5,1.5,90,.42",
      "1.5mm,0.15cm,90deg,0.42",
    ]) {
      const read = readChartText(text, reading);
      expect(read.ok && read.value.rows, text).toEqual(want);
    }
  });

  test.each([
    ["", "nothing in it"],
    ["t,r,angle,K\n", "no row below"],
    ["t,r,angle\n1,1,90", "no column for the value"],
    ["1,1,90,0.4\n1,x,90,0.4", '2 radius: "x" is not a number'],
    ["1,1,90,0.4\n1,1,90,0.4", "2 angle: Thickness 1, radius 1, 90° stand in the row before"],
    ["1,1,0,0.4", "1 angle: 0° is no bend"],
    ["1,1,360,0.4", "1 angle: 360° is no bend"],
    ["2,1,90,0.4\n1,1,90,0.4", "2 thickness: 1 stands after 2"],
    ["1;1;90;0,4", '1 K: "0,4" has a decimal comma'],
    ["-1,1,90,0.4", "1 thickness: -1 must be more than 0"],
    ["1,-1,90,0.4", "1 radius: -1 must be from 0"],
    ["1,1,90,1.4", "1 K: K 1.4, outside 0 to 1"],
    ["1,1,90,0.4,7", "one column too many"],
    ["1,1,90", "1 K: There is no value"],
  ])("%j is refused, and the place is named", (text, said) => {
    expect(problems(text).join("\n")).toContain(said);
  });

  test("refuses an allowance of less than nothing, and a deduction where there is no mould point", () => {
    expect(problems("1,1,90,-2", { gives: "BA" })[0]).toContain("1 BA: BA -2 leaves the bend -2 mm");
    expect(problems("1,1,90,9", { gives: "BD" })[0]).toContain("more than nothing");
    expect(problems("1,1,180,1", { gives: "BD" })[0]).toContain("no mould point");
  });

  test("allows a K outside 0 to 1 with a reason, and warns", () => {
    const read = readChartText("1,1,90,1.4", { ...reading, reason: "coined" });
    expect(read.ok && read.value.warnings).toMatchObject([{ row: 1, column: "K" }]);
  });

  test("mends decimal commas and order when asked to", () => {
    const read = readChartText("2;1,5;90;0,4\n1;1,5;90;0,3", { ...reading, decimalCommas: true, sort: true });
    expect(read.ok && read.value.rows).toEqual([
      [1, 1.5, 90, 0.3],
      [2, 1.5, 90, 0.4],
    ]);
  });

  test("what is exported is read again as it was", () => {
    for (const c of startingLibrary().charts) {
      const { rule } = c;
      if (rule.method !== "table") continue;
      const read = readChartText(writeChartText(rule), { ...rule, reason: "" });
      expect(read.ok && read.value.rows).toEqual(rule.rows);
    }
  });
});

describe("shipped charts", () => {
  test("are what their notes say, within their rounding", () => {
    const { charts } = startingLibrary();
    const formulas: Record<string, (t: number, r: number) => number> = {
      "start-mild-steel": (t, r) =>
        Math.min(0.5, Math.max(0, 0.65 + 0.5 * Math.log10(r / t)) / (r / t > 5 ? 1 : 2)),
      "start-galvanised": (t, r) => 0.5 - 0.12 / (1 + r / t),
    };
    expect(charts.every((c) => c.starting && itemProblems("charts", c).length === 0)).toBe(true);
    for (const [id, k] of Object.entries(formulas)) {
      const { rule } = charts.find((c) => c.id === id)!;
      if (rule.method !== "table") throw new Error("a table was expected");
      for (const [t, r, angle, value] of rule.rows) {
        const s = shape(t, r, angle);
        const want = r / t > 5 && id === "start-mild-steel" ? 0.5 : k(t, r);
        expect(allowanceOf(rule, s, value)!).toBeCloseTo(bendAllowance(s, want), 4);
      }
    }
  });

  test("a card's snapshot holds the rows of its thickness under their numbers, and answers the same", () => {
    const library = startingLibrary();
    const card = library.cards.find((c) => c.chart === "start-galvanised")!;
    const snap = snapshotOf(library, card, 1);
    if (!snap.ok) throw new Error(snap.error);
    const whole = library.charts.find((c) => c.id === card.chart)!;
    for (const degrees of [15, 33, 90, 101]) {
      const s = shape(card.thickness, 1.7, degrees);
      expect(kByChart(snap.value.chart, s)).toEqual(kByChart(whole, s));
    }
  });

  test("a library that refers to what is not there is refused with the place", () => {
    const library = startingLibrary();
    const broken = { ...library, charts: library.charts.slice(1) };
    const read = readLibrary(broken);
    expect(!read.ok && read.error[0]).toMatchObject({ path: "/cards/1" });
    expect(readLibrary(JSON.parse(JSON.stringify(library))).ok).toBe(true);
  });
});

describe("test bends", () => {
  const coupon = (c: (typeof worked.testBends)[number], key: string): Coupon => ({
    key,
    thickness: c.t,
    radius: c.r,
    angle: c.angle,
    before: c.flatBefore,
    legA: c.legA,
    legB: c.legB,
    measured: "outer mould points",
    die: "",
    grain: "unknown",
  });

  test("give the worked BA, BD and K", () => {
    for (const c of worked.testBends) {
      const numbers = couponNumbers(coupon(c, "c"), 0.05);
      if (!numbers.ok) throw new Error(numbers.error);
      expect(Math.abs(numbers.value.allowance - c.BA)).toBeLessThan(1e-6);
      expect(Math.abs(numbers.value.deduction! - c.BD)).toBeLessThan(1e-6);
      expect(Math.abs(numbers.value.k - c.K)).toBeLessThan(1e-6);
      const [fit] = calibrate([coupon(c, "a"), coupon(c, "b")], 0.05);
      expect(Math.abs(fit.k - c.K)).toBeLessThan(1e-6);
    }
  });

  test("legs measured inside or to the outermost tangent say the same bend", () => {
    const k = 0.4;
    const s = shape(2, 3, 110);
    const before = 100;
    const straight = (before - bendAllowance(s, k)) / 2;
    const legs: Record<Coupon["measured"], number> = {
      "outer mould points": straight + Math.tan(s.angle / 2) * 5,
      "inner mould points": straight + Math.tan(s.angle / 2) * 3,
      "outermost tangents": straight + 5,
    };
    for (const [measured, leg] of Object.entries(legs)) {
      const c = {
        key: "a",
        thickness: 2,
        radius: 3,
        angle: 110,
        before,
        legA: leg,
        legB: leg,
        die: "",
        grain: "unknown",
      };
      const numbers = couponNumbers({ ...c, measured } as Coupon, 0.05);
      expect(numbers.ok && numbers.value.k).toBeCloseTo(k, 9);
    }
  });

  /** Normal noise from a fixed seed, so that the count below is the same each time. */
  function noise(seed: number) {
    let at = seed;
    const next = () => {
      at = (at * 1664525 + 1013904223) % 4294967296;
      return (at + 0.5) / 4294967296;
    };
    return () => Math.sqrt(-2 * Math.log(next())) * Math.cos(2 * Math.PI * next());
  }

  test("the 95 % interval covers the truth in 93 to 97 of 100 runs with noise of ±0.05 mm", () => {
    const random = noise(20261123);
    const runs = 3000;
    for (const count of [3, 6, 12]) {
      let covered = 0;
      for (let run = 0; run < runs; run++) {
        const k = 0.41;
        const coupons = Array.from({ length: count }, (_, i): Coupon => {
          const angle = [45, 90, 120][i % 3];
          const s = shape(1.5, 1.5, angle);
          const setbacks = 2 * Math.tan(s.angle / 2) * 3;
          const legs = 90;
          // ±0.05 mm as the 95 % bounds of one measured length.
          const e = () => random() * 0.025;
          const before = legs - setbacks + bendAllowance(s, k);
          const c = {
            thickness: 1.5,
            radius: 1.5,
            angle,
            measured: "outer mould points",
            die: "",
            grain: "unknown",
          } as const;
          return { ...c, key: `c${i}`, before: before + e(), legA: 45 + e(), legB: 45 + e() };
        });
        const [fit] = calibrate(coupons, 0.05);
        if (Math.abs(fit.k - k) <= fit.kInterval!) covered++;
      }
      expect(covered / runs).toBeGreaterThan(0.93);
      expect(covered / runs).toBeLessThan(0.97);
    }
  });

  test("one that stands out is marked, and one that is left out does not count", () => {
    const good = Array.from({ length: 6 }, (_, i) => ({
      ...coupon(worked.testBends[0], `c${i}`),
      legA: 50 + (i % 2 ? 0.02 : -0.02),
    }));
    const bad: Coupon = { ...coupon(worked.testBends[0], "bad"), legA: 50.6 };
    const [fit] = calibrate([...good, bad], 0.05);
    expect(fit.residuals.filter((r) => r.outlier).map((r) => r.key)).toEqual(["bad"]);
    const [without] = calibrate([...good, { ...bad, leftOut: true }], 0.05);
    expect(without.k).toBeCloseTo(0.41, 2);
    expect(without.residuals.some((r) => r.outlier)).toBe(false);
  });

  test("a chart made from them covers the angles that were bent, and no others", () => {
    const coupons = [45, 90, 120].map((angle, i): Coupon => {
      const s = shape(2, 2, angle);
      const before = 100 - 2 * Math.tan(s.angle / 2) * 4 + bendAllowance(s, 0.44);
      const c = coupon(worked.testBends[0], `c${i}`);
      return { ...c, thickness: 2, radius: 2, angle, before, legA: 50, legB: 50 };
    });
    const rule = tableFromFits(calibrate(coupons, 0.05));
    expect(rule.rows).toEqual([
      [2, 2, 45, 0.44],
      [2, 2, 120, 0.44],
    ]);
    expect(kAt(rule, 2, 2, 100).k).toBe(0.44);
    expect(kAt(rule, 2, 2, 30).source.outside).toBeDefined();
  });

  test("Student's quantiles are those of the printed tables", () => {
    for (const [dof, t] of [
      [1, 12.7062],
      [2, 4.3027],
      [5, 2.5706],
      [30, 2.0423],
      [1000, 1.9623],
    ])
      expect(studentQuantile(0.975, dof)).toBeCloseTo(t, 3);
  });
});

describe("a bend study", () => {
  const given: StudyGiven = { t: 1.5, r: 1.5, angle: Math.PI / 2, k: 0.42, legA: 42, legB: 40 };

  test("solves for any one value from a result, and finds it again to the last digit", () => {
    fc.assert(
      fc.property(
        fc.record({
          t: spread(0.3, 6),
          r: spread(0.1, 20),
          angle: spread(0.2, 2.9),
          k: spread(0.1, 0.5),
          legA: spread(10, 500),
          legB: spread(10, 500),
        }),
        fc.constantFrom("k", "r", "t", "legA", "angle"),
        (truth, unknown) => {
          const want = followStudy(truth).flat;
          const start = { ...truth, [unknown]: truth[unknown] * 1.02 };
          const found = solveStudy(start, unknown, { of: "flat", is: want });
          if (!found.ok) throw new Error(found.error);
          expect(followStudy({ ...truth, [unknown]: found.value }).flat).toBeCloseTo(want, 8);
        },
      ),
    );
  });

  test("says what can be reached when it cannot be solved", () => {
    const found = solveStudy(given, "k", { of: "allowance", is: 50 });
    expect(!found.ok && found.error).toMatch(/it reaches from -?[\d.]+ to [\d.]+ mm/);
    const none = solveStudy(given, "legA", { of: "allowance", is: 3 });
    expect(!none.ok && none.error).toContain("does not depend on the leg A");
  });
});

test("the V of a die gives least leg and force by the stated formulas", () => {
  expect(leastLeg({ v: 12, radius: 1 }, Math.PI / 2)).toBeCloseTo(12 / Math.SQRT2 + 1, 12);
  expect(leastLeg({ v: 12, radius: 1 }, Math.PI)).toBeUndefined();
  expect(forcePerMetre(2, 16, 400)).toBeCloseTo((1.33 * 400 * 4) / 16, 12);
});

test("a hundred thousand rows are held to the rules in one go", () => {
  const rows = Array.from(
    { length: 100_000 },
    (_, i): ChartRow => [1 + Math.floor(i / 1000) * 0.01, (i % 1000) * 0.01, 90, 0.4],
  );
  expect(checkChartRows(rows, { ...table([]), reason: "" }).problems).toEqual([]);
});
