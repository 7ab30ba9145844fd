import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { examinePart, formedOf, type StepDocument, stepKind } from "../src/index.ts";
import { directionAt, pointAt } from "../src/plane/curve.ts";
import { circleLoop, type Loop, loopArea, loopBounds } from "../src/plane/loop.ts";
import { rectangleCorners, roundedPolygon } from "../src/plane/opening-loops.ts";
import { cross, dot, point } from "../src/plane/point.ts";
import { roundedLoop } from "../src/plane/rounded-loop.ts";
import { expectGrowth } from "./growth.ts";
import { part, plate, told } from "./plain-parts.ts";
import { sameCases, spread } from "./random-cases.ts";

sameCases(97);

const vent = (values: object): StepDocument => ({
  id: "s2",
  kind: "vent",
  plate: [{ key: "a", at: "s1" }],
  ...values,
});
const built = (values: object) => examinePart(part(plate("200", "160"), vent(values)));
const opened = (values: object): Loop[] => {
  const build = built(values);
  expect(told(build)).toEqual([]);
  return [...build.blank!.openings];
};
const areaOf = (loops: readonly Loop[]) => loops.reduce((sum, l) => sum + Math.abs(loopArea(l)), 0);
/** What rounding takes off four square corners. */
const four = (r: number) => (4 - Math.PI) * r * r;

describe("a vent of bars", () => {
  const plain = { width: "80", height: "48", rounding: "0", bars: "3", bar: "4", soft: "0" };

  test("has openings that are all as wide, and just as much open as border less bars", () => {
    const loops = opened(plain);
    expect(loops.length).toBe(4);
    const boxes = loops.map(loopBounds).sort((p, q) => p.minY - q.minY);
    // 48 less three bars of 4, in four.
    boxes.forEach((b, k) => {
      expect(b.maxY - b.minY).toBeCloseTo(9, 9);
      expect(b.minY).toBeCloseTo(-24 + k * 13, 9);
      expect([b.minX, b.maxX]).toEqual([-40, 40].map((x) => expect.closeTo(x, 9)));
    });
    expect(areaOf(loops)).toBeCloseTo(80 * 36, 8);
  });

  test("is crossed by ribs, and rounded at every corner", () => {
    const loops = opened({ ...plain, ribs: "2", rib: "6", soft: "1.5" });
    expect(loops.length).toBe(12);
    for (const l of loops) expect(Math.abs(loopArea(l))).toBeCloseTo(((80 - 12) / 3) * 9 - four(1.5), 8);
    expect(built({ ...plain, ribs: "2", rib: "6" }).steps[1].notes!.soft).toBe(
      "12 openings, 2448 mm² open, 63.8 %",
    );
  });

  test("keeps border and bars when its bars are turned, and when the whole is", () => {
    const upright = opened({ ...plain, angle: "90", bars: "7" });
    expect(upright.length).toBe(8);
    expect(areaOf(upright)).toBeCloseTo((80 - 28) * 48, 8);
    const slanted = { ...plain, angle: "30", soft: "0.5" };
    expect(areaOf(opened({ ...slanted, turned: "20" }))).toBeCloseTo(areaOf(opened(slanted)), 8);
    const whole = opened({ ...plain, turned: "90" }).map(loopBounds);
    expect(Math.max(...whole.map((b) => b.maxY))).toBeCloseTo(40, 9);
  });

  test("at a pitch has as many bars as fit, the rest shared above and below", () => {
    const loops = opened({ ...plain, barsBy: "pitch", barPitch: "10" }).map(loopBounds);
    // Four pitches in 48: four bars, 6 open between them, and what is left on both sides.
    expect(loops.length).toBe(5);
    const heights = loops.sort((p, q) => p.minY - q.minY).map((b) => b.maxY - b.minY);
    expect(heights).toEqual([7, 6, 6, 6, 7].map((h) => expect.closeTo(h, 9)));
  });

  test("follows a round border: its openings are rounded where bars meet the arc", () => {
    const loops = opened({ form: "round", diameter: "60", bars: "4", bar: "3", soft: "1" });
    expect(loops.length).toBe(5);
    for (const loop of loops) {
      loop.forEach((c, i) => {
        const [d, e] = [directionAt(c, 1), directionAt(loop[(i + 1) % loop.length], 0)];
        expect(Math.abs(Math.atan2(cross(d, e), dot(d, e)))).toBeLessThan(1e-6);
      });
      for (const c of loop)
        for (const f of [0, 0.3, 0.7]) {
          const p = pointAt(c, f);
          expect(Math.hypot(p.x, p.y)).toBeLessThan(30 + 1e-6);
        }
    }
  });

  test("says where an opening has no room for the corner radius, and still cuts it", () => {
    const build = built({ ...plain, soft: "5" });
    expect(build.steps[1].notes!.soft).toBe(
      "4 openings, 2859 mm² open, 74.4 %; 4 of them have no room for the corner radius",
    );
    expect(areaOf(build.blank!.openings)).toBeCloseTo(80 * 36 - 4 * four(2.5), 8);
  });

  test.each([
    [{ ...plain, bars: "12" }, /12 bars of 4 mm leave nothing open; at most 11 have room/],
    [{ ...plain, bar: "48", bars: "1" }, /there is no room for one bar of 48 mm/],
    [{ ...plain, ribs: "30", rib: "4" }, /30 ribs of 4 mm leave nothing open; at most 19 have room/],
    [{ ...plain, barsBy: "pitch", barPitch: "4" }, /must be farther apart than they are wide/],
    [{ ...plain, barsBy: "pitch", barPitch: "60" }, /no room for one bar at a pitch of 60 mm/],
    [{ ...plain, barsBy: "pitch", bar: "0.001", barPitch: "0.0101" }, /bars are too many/],
    [
      { ...plain, bars: "2000", ribs: "2000", bar: "0.01", rib: "0.01" },
      /2000 bars and 2000 ribs make 4004001 openings: there can be at most 10000/,
    ],
    [{ ...plain, barsBy: "pitch", barPitch: "0.1", bar: "0.05", ribs: "900", rib: "0.01" }, /at most 10000/],
    [{ ...plain, bars: "1e16" }, /too large/],
    [{ ...plain, bars: "" }, /Bars/],
    [{ ...plain, width: "1e-7" }, /./],
    [{ ...plain, rounding: "30" }, /radius of 30 mm has no room/],
    [{ form: "drawn" }, /Choose one of the part's outlines/],
    [{ filling: "holes", width: "30", height: "30", hole: "40" }, /Not one opening fits/],
    [{ filling: "holes", pitch: "1e-6" }, /too small|lie over one another/],
    [{ filling: "holes", pitch: "0.02", hole: "0.01" }, /more than 100000/],
    [{ plate: [{ key: "a", at: "s9" }] }, /./],
    [{ plate: [] }, /Pick the plate for the vent/],
  ])("that cannot be is told, with what would do, and cuts nothing: %j", (values, words) => {
    const build = built(values);
    expect(told(build).join("\n")).toMatch(words);
    expect(build.blank!.area).toBeCloseTo(32_000, 6);
  });
});

test("a vent of as many bars and ribs as there can be is built in seconds", () => {
  const before = process.cpuUsage();
  const build = examinePart(
    part(
      plate("900", "900"),
      vent({ width: "800", height: "800", bars: "99", bar: "3", ribs: "99", rib: "3", soft: "1" }),
    ),
  );
  expect(build.blank!.openings.length).toBe(10_000);
  const open = (800 - 99 * 3) / 100;
  expect(810_000 - build.blank!.area).toBeCloseTo(
    10_000 * (open * open - (4 - Math.PI)) - (4 - Math.PI) * (16 - 1),
    3,
  );
  expect(process.cpuUsage(before).user / 1000).toBeLessThan(20_000);
});

test("a vent takes a time that grows with its openings: bars and ribs, and round ones", () => {
  const big = (values: object) =>
    part(plate("900", "900"), vent({ width: "800", height: "800", rounding: "0", ...values }));
  expectGrowth(1.5, [64, 256, 1024, 4096], (n) => {
    const side = String(Math.sqrt(n) - 1);
    const document = big({ bars: side, ribs: side, bar: "2", rib: "2", soft: "0.5" });
    return () => {
      if (examinePart({ ...document }).blank!.openings.length !== n) throw new Error("All of them are open.");
    };
  });
  expectGrowth(1.5, [1600, 3200, 6400, 12_800], (n) => {
    const document = big({ filling: "holes", hole: "3", pitch: String(Math.sqrt((800 * 800) / n / 0.87)) });
    return () => examinePart({ ...document });
  });
});

describe("a vent of round openings", () => {
  test("is filled up to its border, the rest shared, and says how much is open", () => {
    const build = built({
      filling: "holes",
      width: "60",
      height: "40",
      rounding: "0",
      hole: "4",
      pitch: "6",
      rowsStand: "square",
    });
    expect(told(build)).toEqual([]);
    // 56 between the first middle and the last: ten in a row, seven rows.
    expect(build.blank!.openings.length).toBe(70);
    expect(build.steps[1].notes!.margin).toBe(`70 openings, ${Math.round(280 * Math.PI)} mm² open, 36.7 %`);
    const whole = build.blank!.openings.map(loopBounds).reduce((a, b) => ({
      minX: Math.min(a.minX, b.minX),
      maxX: Math.max(a.maxX, b.maxX),
      minY: Math.min(a.minY, b.minY),
      maxY: Math.max(a.maxY, b.maxY),
    }));
    expect([whole.minX + whole.maxX, whole.minY + whole.maxY]).toEqual(
      [0, 0].map((v) => expect.closeTo(v, 9)),
    );
  });

  test("of ten thousand is built in seconds and is repeated as one", () => {
    const document = part(
      plate("1000", "800"),
      vent({ filling: "holes", width: "960", height: "760", rounding: "0", hole: "5", pitch: "8.9" }),
    );
    const before = process.cpuUsage();
    const build = examinePart(document);
    const { user } = process.cpuUsage(before);
    expect(build.blank!.openings.length).toBeGreaterThan(10_000);
    expect(user / 1000).toBeLessThan(10_000);
  });
});

describe("a loop with rounded corners", () => {
  test("loses at every corner between straight sides what the closed form says", () => {
    fc.assert(
      fc.property(spread(8, 60), spread(8, 60), spread(0.1, 3.9), (w, h, r) => {
        const loop = roundedLoop(roundedPolygon(rectangleCorners(w, h), 0, [], ""), r, "round")!;
        expect(loopArea(loop)).toBeCloseTo(w * h - four(r), 7);
        expect(loop.filter((c) => c.name === "round").length).toBe(4);
      }),
    );
  });

  test("is what it was where it has none, and nothing where there is no room", () => {
    const circle = circleLoop(point(3, 4), 5);
    expect(areaOf([roundedLoop(circle, 2, "r")!])).toBeCloseTo(Math.PI * 25, 9);
    expect(roundedLoop(roundedPolygon(rectangleCorners(10, 4), 0, [], ""), 2.01, "r")).toBeUndefined();
    expect(roundedLoop(roundedPolygon(rectangleCorners(10, 4), 0, [], ""), 2, "r")!.length).toBe(6);
  });
});

describe("a vent of louvres", () => {
  const plain = {
    filling: "louvres",
    width: "140",
    height: "90",
    rounding: "0",
    louvreLength: "40",
    louvreDepth: "8",
  };
  const rows = { ...plain, louvreHeight: "3", between: "6", louvreRows: "14" };
  const formedIn = (values: object) => formedOf(built(values).sheet);

  test("has as many as fit in rows, the rest shared at its borders", () => {
    const all = formedIn(rows);
    // 3 of 40 with 6 between them in 140; 6 rows of 8 that are 14 apart in 90.
    expect(all.length).toBe(18);
    const boxes = all.map((f) => loopBounds(f.outline));
    expect(Math.min(...boxes.map((b) => b.minX))).toBeCloseTo(-66, 9);
    expect(Math.max(...boxes.map((b) => b.maxX))).toBeCloseTo(66, 9);
    expect(Math.min(...boxes.map((b) => b.minY))).toBeCloseTo(-39, 9);
    expect(Math.max(...boxes.map((b) => b.maxY))).toBeCloseTo(39, 9);
    expect(all.every((f) => f.shape.side === "up" && f.title === "Louvre")).toBe(true);
    expect(formedIn({ ...rows, margin: "8" }).length).toBe(10);
    expect(formedIn({ ...rows, turn: "down" }).every((f) => f.shape.side === "down")).toBe(true);
  });

  test("says what is open under them: under the straight edge, and under its two ends", () => {
    const note = built(rows).steps[1].notes!.margin;
    const [, count, open, share] = /^(\d+) louvres, ([\d.]+) mm² open under them, ([\d.]+) %$/.exec(note)!;
    expect(count).toBe("18");
    // Between a louvre whose ends rise at once and one whose ends stay down.
    const each = Number(open) / 18;
    expect(each).toBeGreaterThan((40 - 16) * 3);
    expect(each).toBeLessThan(40 * 3);
    expect(Number(share)).toBeCloseTo((100 * Number(open)) / (140 * 90), 1);
    const higher = Number(
      /, ([\d.]+) mm²/.exec(built({ ...rows, louvreHeight: "3.5" }).steps[1].notes!.margin)![1],
    );
    expect(higher).toBeGreaterThan(Number(open));
  });

  test.each([
    [{ louvreRows: "7" }, "louvreRows", /8 mm deep must stand in rows farther apart/],
    [{ louvreLength: "300" }, "louvreLength", /Not one louvre fits/],
    [{ louvreLength: "10" }, "louvreDepth", /radii at its ends need|cannot be formed/],
    [{ louvreLength: "0" }, "louvreLength", /too small/],
    [{ louvreLength: "1e-3", louvreDepth: "1e-3", louvreRows: "2e-3", between: "1e-3" }, "louvreDepth", /\w/],
  ])("with %o is refused at its field", (change, field, why) => {
    const { findings } = built({ ...rows, ...change });
    expect([findings[0].field, findings[0].message]).toEqual([field, expect.stringMatching(why)]);
  });

  test.each([
    ["louvres", rows, "form:s2-1_0"],
    [
      "round openings",
      { filling: "holes", width: "40", height: "30", rounding: "0", hole: "4", pitch: "8" },
      "cut:s2-1_0",
    ],
  ])("leaves single %s out by their numbers, and none where all are", (_, values, name) => {
    const kind = stepKind("vent")!;
    const document = vent(values);
    expect(kind.leftOut!(document, name)).toEqual({ table: "leftOut", add: { i: "1", j: "0" } });
    expect(kind.leftOut!({ ...document, filling: "bars" }, name)).toBeUndefined();
    const many = (b: ReturnType<typeof built>) => formedOf(b.sheet).length + b.blank!.openings.length;
    const whole = many(built(values));
    const less = built({ ...values, leftOut: [{ key: "a", i: "1", j: "0" }] });
    expect(many(less)).toBe(whole - 1);
    const one = { ...values, width: "45", height: "10", louvreLength: "40", hole: "9", pitch: "80" };
    const none = built({ ...one, leftOut: [{ key: "a", i: "0", j: "0" }] });
    expect(none.findings[0]).toMatchObject({
      field: "leftOut",
      message: expect.stringMatching(/All of them are left out/),
    });
  });
});
