import { describe, expect, test } from "vitest";
import { examineFully, examinePart, type PartBuild, platesOf, type StepDocument } from "../src/index.ts";
import { type Loop, loopArea, loopBounds } from "../src/plane/loop.ts";
import { expectGrowth } from "./growth.ts";
import { part, plate, told } from "./plain-parts.ts";

const T = 1.5;
/** A tray with a divider that stands upright in it, on the bottom's inner face: another sheet of the part. */
const divider = (values: object = {}, upright: object = {}): StepDocument[] => [
  plate("120", "80"),
  { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "30" },
  {
    ...{ id: "s3", kind: "plate", width: "60", depth: "20", stands: "front", at: "corner" },
    ...{ x: "-30", y: "0", z: String(T), ...upright },
  },
  {
    ...{ id: "s4", kind: "tabs", edge: [{ key: "a", at: "s3.south" }], plate: [{ key: "a", at: "s1" }] },
    ...values,
  },
];
const built = (values?: object, upright?: object) => examinePart(part(...divider(values, upright)));
const slotsIn = (b: PartBuild, id: string): readonly Loop[] =>
  platesOf(b.sheet)
    .find((p) => p.id === id)!
    .regions.flatMap((r) => r.holes);
const outerOf = (b: PartBuild, id: string): Loop =>
  platesOf(b.sheet).find((p) => p.id === id)!.regions[0].outer;

describe("tabs", () => {
  test("pass through slots of the other plate, with their clearance, as long as it is thick", () => {
    const build = built({ count: "2", width: "12", clearance: "0.15" });
    expect(told(build)).toEqual([]);
    const tabs = outerOf(build, "s3");
    const { minY, maxY } = loopBounds(tabs);
    const heights = [maxY - minY, loopBounds(tabs).maxX - loopBounds(tabs).minX].sort((a, b) => a - b);
    expect(heights[0]).toBeCloseTo(20 + T, 9);
    expect(loopArea(tabs)).toBeCloseTo(60 * 20 + 2 * 12 * T, 8);
    const slots = slotsIn(build, "s1");
    expect(slots.length).toBe(2);
    for (const slot of slots) {
      const b = loopBounds(slot);
      expect([b.maxX - b.minX, b.maxY - b.minY].sort((p, q) => p - q)).toEqual([
        expect.closeTo(T + 0.3, 9),
        expect.closeTo(12.3, 9),
      ]);
    }
    // As much between them as beside them: 60 less 24 in three.
    const middles = slots.map((s) => (loopBounds(s).minX + loopBounds(s).maxX) / 2).sort((p, q) => p - q);
    expect(middles).toEqual([-12, 12].map((x) => expect.closeTo(x - 0, 9)));
  });

  test("stand where they are told to, and out by what is asked for", () => {
    const build = built({ count: "3", width: "8", ends: "5", past: "2" });
    const middles = slotsIn(build, "s1").map((s) => (loopBounds(s).minX + loopBounds(s).maxX) / 2);
    expect(middles.sort((p, q) => p - q)).toEqual([-21, 0, 21].map((x) => expect.closeTo(x, 9)));
    expect(loopArea(outerOf(build, "s3"))).toBeCloseTo(1200 + 3 * 8 * (T + 2), 8);
  });

  test("do not meet the other plate anywhere, which plain tabs of their size would", () => {
    const hits = (b: { findings: readonly { rule: string }[] }) =>
      b.findings.filter((f) => f.rule === "collision").length;
    expect(hits(examineFully(part(...divider({ clearance: "0.1" }))))).toBe(0);
    // The same without slots: a plate that stands in the bottom as deep as the tabs do.
    const [bottom, wall, upright] = divider({}, { z: "0", depth: "21.5" });
    expect(hits(examineFully(part(bottom, wall, upright)))).toBeGreaterThan(0);
  });

  test("follow: what carries them and what they pass through may move and turn", () => {
    const moved = built({}, { x: "-20", y: "10" });
    const from = slotsIn(built(), "s1").map(loopBounds);
    slotsIn(moved, "s1").forEach((slot, i) => {
      const b = loopBounds(slot);
      expect(b.minX).toBeCloseTo(from[i].minX + 10, 9);
      // Upright plates stand on the line of their own zero: what is deep in the plan is high in space.
      expect(b.maxY - b.minY).toBeCloseTo(from[i].maxY - from[i].minY, 9);
    });
    // Above the bottom the tabs are as much longer.
    const high = built({}, { z: "4" });
    expect(loopArea(outerOf(high, "s3"))).toBeCloseTo(1200 + 2 * 12 * (4 - T + T), 8);
  });

  test("on a flange pass through a wall that leans: the slot is longer by the cosine and the thickness", () => {
    const lean = (angle: string) =>
      examinePart(
        part(
          plate("120", "80"),
          { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.west" }], length: "40", angle },
          {
            ...{ id: "s3", kind: "plate", width: "70", depth: "16", stands: "flat", at: "corner" },
            ...{ x: "-20", y: "-8", z: "20" },
          },
          {
            ...{
              id: "s4",
              kind: "tabs",
              edge: [{ key: "a", at: "s3.west" }],
              plate: [{ key: "a", at: "s2a" }],
            },
            ...{ count: "1", width: "8", clearance: "0" },
          },
        ),
      );
    const size = (b: PartBuild) => {
      const box = loopBounds(slotsIn(b, "s2a")[0]);
      return [box.maxX - box.minX, box.maxY - box.minY].sort((p, q) => p - q);
    };
    expect(size(lean("90"))).toEqual([expect.closeTo(T, 9), expect.closeTo(8, 9)]);
    const a = (20 * Math.PI) / 180;
    expect(size(lean("70"))).toEqual([
      expect.closeTo(T / Math.cos(a) + T * Math.tan(a), 7),
      expect.closeTo(8, 7),
    ]);
  });

  test.each([
    [{ count: "9" }, {}, /9 tabs of 12 mm have no room. At most 4 have/],
    [{ count: "1", width: "80" }, {}, /one tab of 80 mm has no room. Make them narrower/],
    [{ count: "1e16" }, {}, /too large/],
    [{ count: "0" }, {}, /too small/],
    [{ width: "" }, {}, /Width/],
    [{ ends: "29" }, {}, /with 29 mm free at both ends, have no room/],
    [{ edge: [] }, {}, /Pick the edge/],
    [{ plate: [] }, {}, /Pick the plate that the tabs pass through/],
    [{ plate: [{ key: "a", at: "s3" }] }, {}, /carries the tabs itself/],
    [{ plate: [{ key: "a", at: "s2a" }] }, {}, /lies too flat|too flat/],
    [{ edge: [{ key: "a", at: "s3.north" }] }, {}, /lies behind edge/],
    [{}, { z: "0.5" }, /stands 1 mm in plate A, folded. Let its plate end 1 mm sooner/],
    [{}, { z: "900" }, /a tab may be 500 mm long/],
    [{}, { x: "20" }, /reaches beyond the metal of plate A/],
    [{ past: "-2" }, {}, /would end before plate A. Let them stand out by more than -1.5 mm/],
    [{ edge: [{ key: "a", at: "s9.south" }] }, {}, /./],
  ])("that cannot be are refused with what would do, and nothing is half made: %j", (values, upright, words) => {
    const build = built(values, upright);
    expect(told(build).join("\n")).toMatch(words);
    expect(slotsIn(build, "s1")).toEqual([]);
    expect(loopArea(outerOf(build, "s3"))).toBeCloseTo(1200, 8);
  });

  test("of which there are hundreds in a plate full of openings are made in seconds", () => {
    const many: StepDocument[] = [
      plate("4100", "400"),
      {
        ...{ id: "s2", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round", diameter: "4", y: "120" },
        ...{ arranged: "grid", count: "400", pitch: "10", rows: "10", rowPitch: "10" },
      },
      {
        ...{
          id: "s3",
          kind: "plate",
          width: "4000",
          depth: "20",
          stands: "front",
          at: "corner",
          x: "-2000",
          z: String(T),
        },
      },
      {
        ...{ id: "s4", kind: "tabs", edge: [{ key: "a", at: "s3.south" }], plate: [{ key: "a", at: "s1" }] },
        ...{ count: "300", width: "6" },
      },
    ];
    const before = process.cpuUsage();
    const build = examinePart(part(...many));
    expect(slotsIn(build, "s1").length).toBe(4300);
    expect(process.cpuUsage(before).user / 1000).toBeLessThan(15_000);
  });

  test("take a time that grows with their number", () => {
    expectGrowth(1.5, [100, 200, 400, 800], (n) => {
      const document = part(
        plate(String(n * 10 + 40), "60"),
        {
          ...{ id: "s2", kind: "plate", width: String(n * 10), depth: "20", stands: "front", at: "corner" },
          ...{ x: String(-n * 5), z: String(T) },
        },
        {
          ...{
            id: "s3",
            kind: "tabs",
            edge: [{ key: "a", at: "s2.south" }],
            plate: [{ key: "a", at: "s1" }],
          },
          ...{ count: String(n), width: "5" },
        },
      );
      return () => {
        if (slotsIn(examinePart({ ...document }), "s1").length !== n) throw new Error("Each has its slot.");
      };
    });
  });
});

describe("hooked tabs", () => {
  const hooked = { count: "2", width: "10", tips: "hooked", hook: "4", head: "5", clearance: "0.2" };

  test("have a head beyond the plate that reaches sideways, and slots longer by as much on the other side", () => {
    const build = built(hooked);
    expect(told(build)).toEqual([]);
    const tabs = outerOf(build, "s3");
    // A neck through the plate and its clearance, and a head that is wider by the hook.
    expect(loopArea(tabs)).toBeCloseTo(60 * 20 + 2 * (10 * (T + 0.2) + 14 * 5), 8);
    const slots = slotsIn(build, "s1")
      .map(loopBounds)
      .sort((p, q) => p.minX - q.minX);
    expect(slots.length).toBe(2);
    for (const b of slots) expect(b.maxX - b.minX).toBeCloseTo(10 + 4 + 2 * 0.2, 9);
    // The slot ends where the neck does on the side to which the hook reaches.
    const straight = slotsIn(built({ ...hooked, tips: "straight" }), "s1")
      .map(loopBounds)
      .sort((p, q) => p.minX - q.minX);
    const ways = slots.map((b, k) =>
      [b.minX - straight[k].minX, b.maxX - straight[k].maxX].map((v) => Math.round(v * 1e6) / 1e6),
    );
    expect(ways[0]).toEqual(ways[1]);
    expect([...ways[0]].map((v) => Math.abs(v)).sort()).toEqual([0, 4]);
  });

  test("touch nothing where they are pushed home", () => {
    const hits = (values: object, upright: object = {}) =>
      examineFully(part(...divider({ ...hooked, ...values }, upright))).findings.filter(
        (f) => f.rule === "collision",
      );
    expect(hits({})).toEqual([]);
  });

  test("without room to be pushed home are refused at the hook", () => {
    const { findings } = built({ ...hooked, count: "3", hook: "9" });
    expect(findings[0]).toMatchObject({
      field: "hook",
      message: expect.stringMatching(/a hook that reaches 9 mm has no room to be pushed home/),
    });
  });
});

describe("a fold with starting slots", () => {
  const fold = (more: object = {}): StepDocument => ({
    ...{ id: "s2", kind: "fold", from: [{ key: "a", at: "s1.south" }], distance: "30", starts: "slots" },
    ...more,
  });
  const of = (more?: object) => examinePart(part(plate("100", "80"), fold(more)));

  test("has one at each end of its line, on the blank as long and as wide as is said", () => {
    const build = of({ slotLength: "6", slotWidth: "2" });
    expect(build.findings.filter((f) => f.level === "stop")).toEqual([]);
    const plain = of({ starts: "plain" }).blank!;
    expect(plain.area - build.blank!.area).toBeCloseTo(2 * (5 * 2 + Math.PI / 2), 6);
    expect(build.bends[0].length).toBeCloseTo(100 - 12, 6);
    // They lie on the bend line, the middle of the strip.
    const arcs = build.blank!.outlines[0].filter((c) => c.kind === "arc");
    expect(
      arcs.map((c) => [
        Math.round(Math.abs(c.kind === "arc" ? c.c.x : 0) * 1e6) / 1e6,
        c.kind === "arc" && c.r,
      ]),
    ).toEqual(arcs.map(() => [45, 1]));
    const [{ pieces }] = build.blank!.centreLines;
    for (const c of arcs) if (c.kind === "arc") expect(c.c.y).toBeCloseTo(pieces[0].a.y, 9);
  });

  test("that would meet, or are wider than long, are refused at their length", () => {
    expect(of({ slotLength: "50" }).findings[0]).toMatchObject({
      field: "slotLength",
      message: expect.stringMatching(/leave nothing of it/),
    });
    expect(of({ slotLength: "1", slotWidth: "4" }).findings[0]).toMatchObject({
      field: "slotLength",
      message: expect.stringMatching(/longer than 2 mm/),
    });
    expect(of({ slotWidth: "0" }).findings[0].field).toBe("slotWidth");
  });
});
