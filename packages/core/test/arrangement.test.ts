import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { createExaminer, examinePart, type PartBuild, type StepDocument } from "../src/index.ts";
import { isCrowd } from "../src/plane/crowd.ts";
import { asCircle, loopBounds } from "../src/plane/loop.ts";
import { boundsMeet } from "../src/plane/point.ts";
import { placeMark, placeOfBorder } from "../src/steps/arrangement.ts";
import { copyOfName } from "../src/steps/pattern/pattern.ts";
import { stepKind } from "../src/steps/registry.ts";
import { sayLengths } from "../src/units/spoken-length.ts";
import { expectGrowth, least } from "./growth.ts";
import { after, part, plate, spentOn, told } from "./plain-parts.ts";
import { sameCases, spread } from "./random-cases.ts";

sameCases(113);

const cut = (values: object, id = "s2"): StepDocument => ({
  id,
  kind: "cut",
  plate: [{ key: "a", at: "s1" }],
  ...{ form: "round", diameter: "4" },
  ...values,
});
const built = (values: object, ...more: StepDocument[]) =>
  examinePart(part(plate("200", "100"), cut(values), ...more));

/** The middles of all openings, sorted by row and column, to a thousandth. */
function middles(build: PartBuild): number[][] {
  const round = (v: number) => Math.round(v * 1e3) / 1e3 + 0;
  return build
    .blank!.openings.map((loop) => {
      const { minX, maxX, minY, maxY } = loopBounds(loop);
      return [round((minX + maxX) / 2), round((minY + maxY) / 2)];
    })
    .sort((p, q) => p[1] - q[1] || p[0] - q[0]);
}
const places = (values: object) => {
  const build = built(values);
  expect(told(build)).toEqual([]);
  return middles(build);
};

describe("openings of one cut", () => {
  test("stand in a row about their place, or from it on, at a pitch, evenly, or as many as fit", () => {
    const row = { arranged: "row", x: "10", y: "5" };
    expect(places({ ...row, count: "3", pitch: "20" })).toEqual([-10, 10, 30].map((x) => [x, 5]));
    expect(places({ ...row, count: "3", pitch: "20", from: "first" })).toEqual(
      [10, 30, 50].map((x) => [x, 5]),
    );
    expect(places({ ...row, count: "3", pitch: "-20", from: "first" })).toEqual(
      [-30, -10, 10].map((x) => [x, 5]),
    );
    expect(places({ ...row, count: "4", spaced: "evenly", over: "90" })).toEqual(
      [-35, -5, 25, 55].map((x) => [x, 5]),
    );
    expect(places({ ...row, spaced: "fit", over: "100", pitch: "30" })).toEqual(
      [-35, -5, 25, 55].map((x) => [x, 5]),
    );
    expect(places({ arranged: "row", count: "2", pitch: "20", direction: "90" })).toEqual([
      [0, -10],
      [0, 10],
    ]);
  });

  test("stand in rows one above the other, or staggered, the middle of all at their place", () => {
    const grid = { arranged: "grid", count: "3", pitch: "20", rows: "2" };
    expect(places({ ...grid, rowPitch: "10" })).toEqual([
      ...[-20, 0, 20].map((x) => [x, -5]),
      ...[-20, 0, 20].map((x) => [x, 5]),
    ]);
    const h = 10 * Math.sqrt(3);
    const staggered = [
      ...[-25, -5, 15].map((x) => [x, -Math.round(h * 500) / 1000]),
      ...[-15, 5, 25].map((x) => [x, Math.round(h * 500) / 1000]),
    ];
    expect(places({ ...grid, rowsStand: "triangle" })).toEqual(staggered);
    expect(places({ ...grid, rowsStand: "free", shift: "0.25", rowPitch: "10", from: "first" })).toEqual([
      ...[0, 20, 40].map((x) => [x, 0]),
      ...[5, 25, 45].map((x) => [x, 10]),
    ]);
  });

  test("stand in a circle about their place, turned with it where they are to be", () => {
    expect(places({ arranged: "round", count: "4", ring: "30" })).toEqual([
      [0, -30],
      [-30, 0],
      [30, 0],
      [0, 30],
    ]);
    const half = places({ arranged: "round", count: "3", ring: "30", sweep: "180" });
    expect(half).toEqual([
      [-30, 0],
      [30, 0],
      [0, 30],
    ]);
    const slots = { form: "slot", width: "12", height: "4", arranged: "round", count: "2", sweep: "90" };
    const sizes = (values: object) =>
      built({ ...slots, ...values }).blank!.openings.map((l) =>
        Math.round(loopBounds(l).maxX - loopBounds(l).minX),
      );
    expect(sizes({})).toEqual([12, 12]);
    expect(sizes({ faces: "along" }).sort()).toEqual([12, 4]);
  });

  test("stand along the edge that they are placed from, free at both ends, the rest shared", () => {
    const edge = {
      ...{ arranged: "edge", placed: "edge", off1: "8", edge1: [{ key: "a", at: "s1.south" }] },
      ...{ spaced: "fit", pitch: "50", ends: "10" },
    };
    expect(places(edge)).toEqual([-75, -25, 25, 75].map((x) => [x, -42]));
    expect(places({ ...edge, spaced: "evenly", count: "3" })).toEqual([-90, 0, 90].map((x) => [x, -42]));
    expect(places({ ...edge, spaced: "pitch", count: "2" })).toEqual([-25, 25].map((x) => [x, -42]));
    // They follow the edge: on a plate twice as wide there are as many more as fit.
    const wide = examinePart(part(plate("400", "100"), cut(edge)));
    expect(wide.blank!.openings.length).toBe(8);
  });

  test("stand in several places, each of a size and a turn of its own", () => {
    const build = built({
      ...{ form: "slot", width: "12", height: "4", arranged: "list" },
      places: [
        { key: "a", x: "40", y: "0", size: "20" },
        { key: "b", x: "-40", y: "10", turned: "90" },
      ],
    });
    // A turn of its own is its own, however the first is turned.
    const turned = built({
      ...{ form: "slot", width: "12", height: "4", turned: "30", arranged: "list" },
      places: [
        { key: "a", x: "40", y: "0", turned: "90" },
        { key: "b", x: "-40", y: "0" },
      ],
    }).blank!.openings.map(loopBounds);
    expect(turned.map((b) => Math.round(b.maxX - b.minX)).sort((p, q) => p - q)).toEqual([4, 11, 11]);
    expect(told(build)).toEqual([]);
    const boxes = build
      .blank!.openings.map(loopBounds)
      .map((b) => [b.minX, b.maxX, b.minY, b.maxY].map(Math.round));
    expect(boxes).toContainEqual([-6, 6, -2, 2]);
    expect(boxes).toContainEqual([30, 50, -2, 2]);
    expect(boxes).toContainEqual([-42, -38, 4, 16]);
    const bad = built({
      arranged: "list",
      form: "polygon",
      rounding: "3",
      across: "8",
      places: [{ key: "a", x: "40", y: "0", size: "2" }],
    });
    expect(sayLengths(told(bad).join())).toMatch(/further place 1: A corner radius of 3 mm has no room/);
  });

  test("fill a plate with its margin, the rest shared, and keep clear of what is cut already", () => {
    const all = { arranged: "fill", pitch: "10", rowPitch: "10", margin: "3" };
    const whole = places(all);
    // 200 wide: from -95 to 95; 100 deep: from -45 to 45.
    expect(whole.length).toBe(20 * 10);
    expect(whole[0]).toEqual([-95, -45]);
    const holed = examinePart(part(plate("200", "100", [{ key: "a", x: "0", y: "0", d: "40" }]), cut(all)));
    const left = middles(holed).filter(([x, y]) => Math.hypot(x, y) > 0);
    expect(left.every(([x, y]) => Math.hypot(x, y) >= 20 + 2 + 3 - 1e-6)).toBe(true);
    expect(whole.filter(([x, y]) => Math.hypot(x, y) >= 25).length).toBe(left.length);
    const first = places({ ...all, rest: "first", placed: "xy", x: "1", y: "2" });
    expect(first.every(([x, y]) => (x - 1) % 10 === 0 && (y - 2) % 10 === 0)).toBe(true);
  });

  test("are numbered, and those that are left out are not cut; names say which is which", () => {
    const grid = { arranged: "grid", count: "3", pitch: "20", rows: "2", rowPitch: "20" };
    const out = [
      { key: "a", i: "1", j: "0" },
      { key: "b", i: "2", j: "1" },
    ];
    expect(places({ ...grid, leftOut: out })).toEqual([
      [-20, -10],
      [20, -10],
      [-20, 10],
      [0, 10],
    ]);
    const names = built(grid).blank!.openings.map((l) => l[0].name);
    expect(names.sort()).toEqual([
      "cut:s2",
      "cut:s2-0_1",
      "cut:s2-1_0",
      "cut:s2-1_1",
      "cut:s2-2_0",
      "cut:s2-2_1",
    ]);
    for (const [i, j] of [
      [0, 0],
      [3, 0],
      [-2, 7],
      [12, -1],
    ])
      for (const border of [
        "cut:s2",
        "opening:s2-east",
        "opening:s2-side12",
        "opening:s2-m3",
        "opening:s2-L1",
      ])
        expect(placeOfBorder(`${border}${placeMark(i, j)}`, "s2")).toEqual({ i, j });
    expect(placeOfBorder("cut:s21-1_0", "s2")).toBeUndefined();
    // A copy that a later step has made is not the arrangement's own.
    expect(placeOfBorder("cut:s2-1_0-s3-1", "s2")).toBeUndefined();
    for (const copied of ["cut:s2-s3-1", "cut:s2-s4", "opening:s2-east-s4", "opening:s2-east-1_0-s4"])
      expect(placeOfBorder(copied, "s2")).toBeUndefined();
    const none = built({ arranged: "row", count: "1", leftOut: [{ key: "a", i: "0", j: "0" }] });
    expect(told(none).join()).toMatch(/All of them are left out/);
  });

  test("say how many they are and how much they open, and keep the first one's names", () => {
    const build = built({ arranged: "row", count: "5", pitch: "20" });
    const open = 5 * Math.PI * 4;
    expect(build.steps[1].notes!.arranged).toBe(`5 openings, ${Math.round(open)} mm² open`);
    // Of a plate that is filled also how much of it.
    const filled = built({ arranged: "fill", pitch: "10", rowPitch: "10", margin: "3" });
    const share = (200 * Math.PI * 4) / 200;
    expect(filled.steps[1].notes!.arranged).toBe(
      `200 openings, ${Math.round(200 * Math.PI * 4)} mm² open, ${Math.round(share * 10) / 10} %`,
    );
    expect(asCircle(build.blank!.openings[0])!.r).toBeCloseTo(2, 9);
  });

  test("that have no metal are told with one another", () => {
    const build = built({ arranged: "row", count: "5", pitch: "60", from: "first" });
    expect(told(build).join()).toMatch(/2 of 5 stand; 3 have no metal to cut/);
  });

  test("are repeated and mirrored as one cut", () => {
    const repeat: StepDocument = {
      id: "s3",
      kind: "pattern",
      steps: [{ key: "a", at: "s2" }],
      form: "row",
      count: "2",
      pitch: "40",
      direction: "90",
    };
    const build = built({ arranged: "row", count: "3", pitch: "20", y: "-30" }, repeat);
    expect(told(build)).toEqual([]);
    expect(middles(build)).toEqual([-30, 10].flatMap((y) => [-20, 0, 20].map((x) => [x, y])));
    const names = build.blank!.openings.map((l) => l[0].name);
    expect(new Set(names).size).toBe(6);
  });

  test("follow values of the part, and one undo takes an arrangement back", () => {
    const document = {
      ...part(plate("200", "100"), cut({ arranged: "row", count: "n", pitch: "w/2" })),
      variables: [
        { key: "v1", name: "n", value: "4", measures: "number" as const },
        { key: "v2", name: "w", value: "30" },
      ],
    };
    expect(middles(examinePart(document))).toEqual([-22.5, -7.5, 7.5, 22.5].map((x) => [x, 0]));
    const once = after(document, { do: "set", step: "s2", values: { arranged: "once" } });
    expect(middles(examinePart(once))).toEqual([[0, 0]]);
  });
});

describe("what is left out of a step by the name of what it made", () => {
  const left = (step: StepDocument, name: string) => stepKind(step.kind)!.leftOut?.(step, name);
  const [row, list, once] = [
    cut({ arranged: "row" }),
    cut({
      arranged: "list",
      places: [
        { key: "a", x: "1", y: "2" },
        { key: "b", x: "3", y: "4" },
      ],
    }),
    cut({}),
  ];
  const pattern: StepDocument = { id: "s5", kind: "pattern", steps: [{ key: "a", at: "s2" }] };

  test.each([
    [row, "cut:s2", { table: "leftOut", add: { i: "0", j: "0" } }],
    [row, "cut:s2-4_0", { table: "leftOut", add: { i: "4", j: "0" } }],
    [row, "opening:s2-east-m3_2", { table: "leftOut", add: { i: "-3", j: "2" } }],
    [row, "cut:s3-4_0", undefined],
    [row, "cut:s2-4_0-s5-1", undefined],
    [list, "cut:s2-b", { table: "places", remove: "b" }],
    [list, "opening:s2-side2-a", { table: "places", remove: "a" }],
    [list, "cut:s2", undefined],
    [list, "cut:s2-c", undefined],
    [once, "cut:s2", undefined],
    [pattern, "cut:s2-4_0-s5-7", { table: "leftOut", add: { n: "7" } }],
    [pattern, "s2a-s5-3", { table: "leftOut", add: { n: "3" } }],
    [pattern, "s2a-s6-3", undefined],
    [plate("10", "10"), "s1", undefined],
  ])("%j, %s", (step, name, wanted) => {
    expect(left(step, name)).toEqual(wanted);
  });
});

describe("a pattern of copies", () => {
  const repeat = (values: object): StepDocument => ({
    ...{ id: "s3", kind: "pattern", steps: [{ key: "a", at: "s2" }], form: "grid" },
    ...{ count: "3", pitch: "20", rows: "3", rowPitch: "10" },
    ...values,
  });
  const copied = (values: object) => {
    const build = built({ x: "-20", y: "-10" }, repeat(values));
    expect(told(build)).toEqual([]);
    return middles(build);
  };

  test("may have its rows staggered, as a cut may", () => {
    expect(copied({ rowsStand: "free", shift: "0.25" })).toEqual([
      ...[-20, 0, 20].map((x) => [x, -10]),
      ...[-15, 5, 25].map((x) => [x, 0]),
      ...[-20, 0, 20].map((x) => [x, 10]),
    ]);
    const rows = new Set(copied({ rowsStand: "triangle" }).map(([, y]) => y));
    expect([...rows]).toEqual(
      [-10, 10 * Math.sqrt(3) - 10, 20 * Math.sqrt(3) - 10].map((y) => Math.round(y * 1e3) / 1e3),
    );
    const close = built({}, repeat({ rowPitch: "0.001" }));
    expect(told(close).join()).toMatch(/lie over one another/);
    // Rows by 60° go by the pitch, whatever stands in the other field.
    expect(copied({ rowsStand: "triangle", rowPitch: "0.001" }).length).toBe(9);
  });

  test("leaves copies out by their number, of openings and of flanges, and those that stay keep their names", () => {
    const left = copied({
      leftOut: [
        { key: "a", n: "4" },
        { key: "b", n: "8" },
      ],
    });
    expect(left.length).toBe(7);
    expect(left).not.toContainEqual([0, 0]);
    expect(left).not.toContainEqual([20, 10]);
    const tabs = (leftOut: object[]) =>
      examinePart(
        part(
          plate("200", "100"),
          {
            ...{ id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "15" },
            ...{ span: "width", width: "20", at: "left", shift: "10" },
          },
          {
            id: "s3",
            kind: "pattern",
            steps: [{ key: "a", at: "s2" }],
            form: "row",
            count: "4",
            pitch: "45",
            leftOut,
          },
        ),
      );
    expect(tabs([]).bends.map((b) => b.id)).toEqual(["s2a", "s2a-s3-1", "s2a-s3-2", "s2a-s3-3"]);
    expect(tabs([{ key: "a", n: "2" }]).bends.map((b) => b.id)).toEqual(["s2a", "s2a-s3-1", "s2a-s3-3"]);
    const none = tabs([1, 2, 3].map((n) => ({ key: `k${n}`, n: String(n) })));
    expect(told(none)).toEqual([
      "note: This step changes nothing. Give it something to do, or leave it out.",
    ]);
    expect(none.bends.length).toBe(1);
    expect(copyOfName("s2a-s3-12")).toEqual({ step: "s3", n: 12 });
    expect(copyOfName("cut:s2-1_0-s3-4")).toEqual({ step: "s3", n: 4 });
    for (const name of ["s2a", "cut:s2-1_0", "s1.north"]) expect(copyOfName(name)).toBeUndefined();
  });
});

describe("a crowd of boxes", () => {
  const box = (x: number, y: number, w: number, h: number) => ({
    minX: x,
    minY: y,
    maxX: x + w,
    maxY: y + h,
  });
  const met = (boxes: ReturnType<typeof box>[]) =>
    boxes.reduce((n, p, i) => n + boxes.slice(i + 1).filter((q) => boundsMeet(p, q)).length, 0);

  test("is known by how many pairs meet, whatever their sizes", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(spread(-30, 30), spread(-30, 30), spread(0.1, 12), spread(0.1, 12)), {
          minLength: 30,
          maxLength: 120,
        }),
        fc.integer({ min: 0, max: 900 }),
        (all, most) => {
          const boxes = all.map((b) => box(...b));
          const pairs = met(boxes);
          if (isCrowd(boxes, most)) expect(pairs).toBeGreaterThan(most);
          // A real crowd is never missed: so many on one place that each cell around holds many.
          const piled = Array.from({ length: 60 }, (_, i) => box(i / 100, 0, 5, 5));
          expect(isCrowd([...boxes, ...piled], 300)).toBe(true);
        },
      ),
    );
  });

  test("is none of openings side by side, nor of many small ones beside a large one; found in a time by their number", () => {
    const grid = (n: number) =>
      Array.from({ length: n }, (_, i) => box((i % 300) * 5, Math.floor(i / 300) * 5, 4, 4));
    expect(isCrowd(grid(90_000), 1000)).toBe(false);
    expect(isCrowd([box(0, 3000, 1500, 1500), ...grid(9000)], 1000)).toBe(false);
    expectGrowth(1.5, [20_000, 40_000, 80_000, 160_000], (n) => {
      const boxes = grid(n);
      return () => isCrowd(boxes, 1000);
    });
  });
});

describe("a cut of very many openings", () => {
  const fill = cut({ arranged: "fill", pitch: "7", rowsStand: "triangle", diameter: "3" });
  const withWall = (length: string, more: object = {}) => {
    const base = plate("600", "500");
    const flange: StepDocument = { id: "s3", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length };
    return part({ ...base, ...more }, flange, fill);
  };

  test("is the very same after an edit of what stands before it, and another where its plate is", () => {
    const build = createExaminer();
    const first = build(withWall("20")).blank!.openings;
    expect(first.length).toBeGreaterThan(4000);
    const later = build(withWall("30")).blank!.openings;
    expect(later.length).toBe(first.length);
    expect(later.every((loop, i) => loop === first[i])).toBe(true);
    const wider = build(withWall("30", { width: "650" })).blank!.openings;
    expect(wider.length).toBeGreaterThan(first.length);
    // And of the plate that it was it is what it was.
    const back = build(withWall("30")).blank!.openings;
    expect(back.map(loopBounds)).toEqual(first.map(loopBounds));
  });

  test("costs an edit of what stands before it a fraction of a build", () => {
    const build = createExaminer();
    const whole = least(2, () => examinePart(structuredClone(withWall("20"))));
    build(withWall("20"));
    build(withWall("21"));
    let n = 21;
    const edit = least(4, () => build(withWall(String(++n))));
    expect(edit / whole).toBeLessThan(0.5);
  });
});

describe("an arrangement that cannot be", () => {
  test.each([
    [
      { arranged: "row", count: "1e6", pitch: "1" },
      /1000000 places are too many: there can be at most 100000/,
    ],
    [{ arranged: "grid", count: "1000", rows: "1000" }, /1000000 places are too many/],
    [{ arranged: "row", count: "50000", pitch: "0.02" }, /50000 openings lie over one another many times/],
    [{ arranged: "fill", pitch: "0.6", rowPitch: "0.6" }, /lie over one another many times/],
    [{ arranged: "round", count: "9000", ring: "40" }, /lie over one another many times/],
    [{ arranged: "row", spaced: "evenly", count: "90000", over: "1" }, /at least 0.01 mm apart/],
    [{ arranged: "row", count: "1e16" }, /too large/],
    [{ arranged: "row", count: "0" }, /too small/],
    [{ arranged: "row", count: "" }, /How many/],
    [{ arranged: "row", pitch: "0" }, /lie over one another/],
    [{ arranged: "row", pitch: "1e-7" }, /lie over one another/],
    [{ arranged: "row", spaced: "fit", pitch: "1e-7" }, /too many|lie over one another/],
    [{ arranged: "row", spaced: "evenly", over: "0" }, /lie over one another/],
    [{ arranged: "grid", rowPitch: "0" }, /lie over one another/],
    [{ arranged: "round", count: "3", ring: "1e-7" }, /too small/],
    [{ arranged: "round", count: "3", ring: "0.002" }, /lie over one another/],
    [{ arranged: "round", count: "90000", ring: "1" }, /lie over one another/],
    [{ arranged: "edge" }, /Place it from an edge/],
    [
      { arranged: "fill", pitch: "0.05", rowPitch: "0.05", diameter: "0.02", margin: "0" },
      /more than 100000/,
    ],
    [{ arranged: "fill", pitch: "1e-7" }, /lie over one another/],
    [
      {
        form: "polygon",
        sides: "24",
        across: "0.3",
        arranged: "grid",
        count: "300",
        rows: "100",
        pitch: "0.5",
        rowPitch: "0.5",
      },
      /30000 openings of this form have 720000 sides: there can be at most 600000/,
    ],
    [{ arranged: "fill", margin: "60" }, /None fits in there/],
    [{ arranged: "fill", diameter: "2000" }, /None fits in there/],
    [{ arranged: "fill", within: "drawn" }, /Choose one of the part's outlines/],
    [{ arranged: "line" }, /Choose one of the part's outlines/],
    [
      {
        ...{ arranged: "edge", placed: "edge", edge1: [{ key: "a", at: "s1.south" }], spaced: "fit" },
        ...{ pitch: "0.0015", ends: "0" },
      },
      /too small|at least 0.01 mm apart|too many/,
    ],
    [
      {
        ...{ arranged: "edge", placed: "edge", edge1: [{ key: "a", at: "s1.south" }], spaced: "evenly" },
        ...{ count: "90000", ends: "0" },
      },
      /at least 0.01 mm apart/,
    ],
    [
      {
        ...{ arranged: "edge", placed: "edge", edge1: [{ key: "a", at: "s1.south" }], spaced: "fit" },
        ends: "150",
      },
      /None fits in there. Leave less free/,
    ],
  ])("is told at once, with what would do, and cuts nothing: %j", (values, words) => {
    const { result: build, took } = spentOn(() => built(values));
    expect(told(build).join("\n")).toMatch(words);
    expect(build.blank!.openings).toEqual([]);
    expect(build.blank!.area).toBeCloseTo(20_000, 6);
    expect(took).toBeLessThan(3000);
  });
});
