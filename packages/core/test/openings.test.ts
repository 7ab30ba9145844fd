import { describe, expect, test } from "vitest";
import { examinePart, type StepDocument } from "../src/index.ts";
import { loopArea, loopBounds } from "../src/plane/loop.ts";
import { METRIC_THREADS, metricThread } from "../src/stock/threads.ts";
import { part, plate, told } from "./plain-parts.ts";

const cut = (values: object): StepDocument => ({
  id: "s2",
  kind: "cut",
  plate: [{ key: "a", at: "s1" }],
  ...values,
});
const built = (...cuts: object[]) =>
  examinePart(part(plate("200", "160"), ...cuts.map((c, i) => ({ ...cut(c), id: `s${i + 2}` }))));
const opened = (values: object) => {
  const build = built(values);
  expect(told(build)).toEqual([]);
  return build.blank!.openings;
};
const areaOf = (values: object) => -opened(values).reduce((sum, l) => sum + loopArea(l), 0);

describe("an opening", () => {
  const rounded = 20 * 12 - (4 - Math.PI) * 9;
  const hex = (6 * Math.tan(Math.PI / 6) * 100) / 4;
  const roundedHex = hex - (6 * Math.tan(Math.PI / 6) - Math.PI) * 4;
  // A circle of 8 with the neck that stands above it, less what both have.
  const [R, h, reach] = [4, 1.5, 9];
  const y = Math.sqrt(R * R - h * h);
  const segment = R * R * Math.asin(h / R) - h * y;
  const keyhole = Math.PI * R * R + 2 * h * (reach - y) + (Math.PI * h * h) / 2 - segment;
  // A circle of 10 of which the flat takes 2 off.
  const half = Math.sqrt(25 - 9);
  const flattened = Math.PI * 25 - (25 * Math.acos(3 / 5) - 3 * half);

  test.each([
    ["rectangle with corner radius", { width: "20", height: "12", rounding: "3" }, rounded, 8],
    ["rectangle whose ends are round", { width: "20", height: "12", rounding: "6" }, 96 + Math.PI * 36, 4],
    ["square that is all corner", { width: "12", height: "12", rounding: "6" }, Math.PI * 36, 2],
    ["hexagon", { form: "polygon", across: "10" }, hex, 6],
    ["hexagon with corner radius", { form: "polygon", across: "10", rounding: "2" }, roundedHex, 12],
    ["triangle", { form: "polygon", sides: "3", across: "10" }, 3 * Math.sqrt(3) * 25, 3],
    ["keyhole", { form: "keyhole", diameter: "8", neck: "3", reach: "9" }, keyhole, 4],
    ["round with a flat", { form: "flattened", diameter: "10", across: "8" }, flattened, 2],
    ["slot", { form: "slot", width: "20", height: "6" }, 14 * 6 + Math.PI * 9, 4],
  ] as const)("that is a %s has the area of its closed form, and as many curves", (_, values, area, curves) => {
    expect(areaOf(values)).toBeCloseTo(area, 8);
    expect(opened(values)[0].length).toBe(curves);
  });

  test("that is turned has its size across: a hexagon stands on a flat, and on a point when turned by 30°", () => {
    const height = (turned: string) => {
      const { minY, maxY } = loopBounds(opened({ form: "polygon", across: "10", turned })[0]);
      return maxY - minY;
    };
    expect(height("0")).toBeCloseTo(10, 9);
    expect(height("30")).toBeCloseTo(10 / Math.cos(Math.PI / 6), 9);
  });

  test.each([
    [{ width: "20", height: "12", rounding: "6.1" }, /radius of 6.1 mm has no room; at most 6 mm/],
    [{ form: "polygon", across: "10", rounding: "5.2" }, /at most 5 mm/],
    [{ form: "polygon", sides: "2", across: "10" }, /Sides: 2 is too small; it must be at least 3/],
    [{ form: "polygon", sides: "1e9", across: "10" }, /Sides: .* at most 24/],
    [{ form: "keyhole", diameter: "8", neck: "8", reach: "9" }, /narrower than the head of 8 mm/],
    [{ form: "keyhole", diameter: "8", neck: "3", reach: "3.7" }, /longer than 3.708 mm/],
    [{ form: "flattened", diameter: "10", across: "10" }, /less than its diameter of 10 mm/],
    [{ form: "flattened", diameter: "10", across: "1e16" }, /Across flats/],
    [{ form: "round", diameter: "0" }, /Diameter/],
    [{ form: "rectangle", width: "1e-300" }, /./],
  ])("that cannot be is told with what would do: %j", (values, words) => {
    const build = built(values);
    expect(told(build).join("\n")).toMatch(words);
    expect(Number.isFinite(build.blank!.area)).toBe(true);
    expect(build.blank!.area).toBeGreaterThan(31_000);
  });

  test("keeps what stood on its sides when its corners are rounded", () => {
    const flange: StepDocument = {
      id: "s3",
      kind: "flange",
      edges: [{ key: "a", at: "s1.s2-north" }],
      length: "12",
    };
    const bends = (rounding: string) =>
      examinePart(
        part(plate("200", "160"), cut({ width: "60", height: "50", rounding }), { ...flange }),
      ).bends.map((b) => b.length);
    expect(bends("0")[0]).toBeGreaterThan(bends("8")[0] + 15);
  });
});

describe("an opening for a thread", () => {
  // ISO 273:1979 and ISO 2306:1972, read from the standards' tables: thread, fine, medium, coarse, drill.
  const STANDARD = `
    M1.6 1.7 1.8 2 1.25 | M2 2.2 2.4 2.6 1.6 | M2.5 2.7 2.9 3.1 2.05 | M3 3.2 3.4 3.6 2.5 | M3.5 3.7 3.9 4.2 2.9
    M4 4.3 4.5 4.8 3.3 | M5 5.3 5.5 5.8 4.2 | M6 6.4 6.6 7 5 | M7 7.4 7.6 8 6 | M8 8.4 9 10 6.8
    M10 10.5 11 12 8.5 | M12 13 13.5 14.5 10.2 | M14 15 15.5 16.5 12 | M16 17 17.5 18.5 14 | M18 19 20 21 15.5
    M20 21 22 24 17.5 | M22 23 24 26 19.5 | M24 25 26 28 21 | M27 28 30 32 24 | M30 31 33 35 26.5
    M33 34 36 38 29.5 | M36 37 39 42 32`
    .trim()
    .split(/[|\n]/)
    .map((row) => row.trim().split(" "));

  test("has the standard's numbers, of every thread", () => {
    expect(METRIC_THREADS.map((t) => t.name)).toEqual(STANDARD.map(([name]) => name));
    for (const [name, ...numbers] of STANDARD) {
      const { clearance, core } = metricThread(name)!;
      expect([clearance.fine, clearance.medium, clearance.coarse, core], name).toEqual(numbers.map(Number));
    }
  });

  test("lets its screw through, and its drill leaves metal to tap", () => {
    for (const { name, diameter, pitch, clearance, core } of METRIC_THREADS) {
      expect(clearance.fine, name).toBeGreaterThan(diameter);
      expect(clearance.medium, name).toBeGreaterThan(clearance.fine);
      expect(clearance.coarse, name).toBeGreaterThan(clearance.medium);
      // A tapping drill is the diameter less the pitch, to the next tenth or so.
      expect(Math.abs(core - (diameter - pitch)), name).toBeLessThan(0.11);
    }
  });

  test.each([
    [{ sized: "clearance", thread: "M6" }, 6.6, "⌀ 6.6 mm: ISO 273 for M6, medium"],
    [{ sized: "clearance", thread: "M6", fit: "coarse" }, 7, "⌀ 7 mm: ISO 273 for M6, coarse"],
    [{ sized: "core", thread: "M8" }, 6.8, "⌀ 6.8 mm: ISO 2306 for M8, pitch 1.25 mm"],
  ])("is cut as wide as it says, and says where the number comes from: %j", (values, diameter, words) => {
    const build = built({ form: "round", diameter: "3", ...values });
    expect(areaOf({ form: "round", ...values })).toBeCloseTo((Math.PI * diameter * diameter) / 4, 9);
    expect(build.steps[1].notes!.thread).toBe(words);
  });

  test("says its size in the units of the part, and its pitch in millimetres, as it is called", () => {
    const thread = cut({ form: "round", sized: "core", thread: "M8" });
    const build = examinePart({ ...part(plate("200", "160"), thread), units: "in" });
    expect(build.steps[1].notes!.thread).toBe("⌀ 0.2677 in: ISO 2306 for M8, pitch 1.25 mm");
  });
});
