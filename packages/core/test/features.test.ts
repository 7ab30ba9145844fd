import { describe, expect, test } from "vitest";
import { summarize } from "../src/formats/json/summary.ts";
import {
  buildPart,
  examinePart,
  type Feature,
  featureFrame,
  featureOfOpening,
  type PartBuild,
  roundOf,
  type StepDocument,
  sayLook,
  wholeFeature,
} from "../src/index.ts";
import { featuresOf, platesOf } from "../src/sheet/sheet.ts";
import { part, plate } from "./plain-parts.ts";

const at = (name: string) => [{ key: "a", at: name }];
const cut = (id: string, values: object, on = "s1"): StepDocument => ({
  ...{ id, kind: "cut", plate: at(on), form: "round", diameter: "10", x: "0", y: "0" },
  ...values,
});
const wall: StepDocument = { id: "s2", kind: "flange", edges: at("s1.north"), length: "40" };
const features = (build: PartBuild): Feature[] => [...build.sheet!.features];
const nut = {
  ...{ id: "nut-m4", name: "Press nut M4", note: "", sort: "press nut", thread: "M4", opening: 5.4 },
  ...{ leastThickness: 1.2, toEdge: 7, toBend: 8, side: "either" },
};

describe("a feature is known from its step to every output", () => {
  test.each([
    [{ form: "round", diameter: "12" }, { kind: "round", size: { diameter: 12 } }, "⌀ 12"],
    [
      { form: "round", sized: "clearance", thread: "M5", fit: "medium" },
      { kind: "round", size: { diameter: 5.5 }, thread: { name: "M5", of: "clearance" } },
      "⌀ 5.5, M5 clearance",
    ],
    [
      { form: "round", sized: "core", thread: "M6" },
      { kind: "round", size: { diameter: 5 }, thread: { name: "M6", of: "core" } },
      "⌀ 5, tap drill for M6",
    ],
    [
      { form: "round", sized: "hardware", hardware: nut },
      { kind: "round", size: { diameter: 5.4 }, hardware: nut },
      "⌀ 5.4, for Press nut M4",
    ],
    [{ form: "slot", width: "18", height: "6" }, { kind: "slot", size: { width: 18, height: 6 } }, "18 × 6"],
    [
      { form: "rectangle", width: "20", height: "8", rounding: "2" },
      { kind: "rectangle", size: { width: 20, height: 8, rounding: 2 } },
      "20 × 8, corners 2",
    ],
    [
      { form: "polygon", sides: "6", across: "8" },
      { kind: "polygon", size: { across: 8, rounding: 0, sides: 6 } },
      "6 sides, 8 across flats",
    ],
    [
      { form: "keyhole", diameter: "9", neck: "4", reach: "11" },
      { kind: "keyhole", size: { diameter: 9, neck: 4, reach: 11 } },
      "⌀ 9, neck 4 by 11",
    ],
    [
      { form: "flattened", diameter: "10", across: "8" },
      { kind: "flattened", size: { diameter: 10, across: 8 } },
      "⌀ 10, 8 across",
    ],
  ] as const)("what is cut as %j", (values, look, words) => {
    const build = examinePart(part(plate("120", "80"), cut("s3", { ...values, x: "7", y: "-11" })));
    const [feature] = features(build);
    expect(feature).toMatchObject({ id: "s3", step: "s3", piece: "plate:s1" });
    expect(feature.look).toEqual(look);
    const [loop] = build.blank!.openings;
    expect(wholeFeature(loop, featuresOf(build.sheet))).toBe(feature);
    expect(sayLook(feature.look, "mm")).toBe(words);
    const [row] = summarize("P", build).features;
    expect(row).toMatchObject({ step: "s3", kind: look.kind, size: look.size, count: 1 });
    // What is pointed at in a view is the same.
    const key = loop[0].name!.startsWith("cut:") ? loop[0].name! : `opening:${loop[0].name}`;
    expect(featureOfOpening(build.sheet!, "s1", key)).toBe(feature);
  });

  test("stands where its step puts it, turned as that turns it", () => {
    const build = buildPart(
      part(
        plate("120", "80"),
        cut("s3", { form: "slot", width: "18", height: "6", x: "7", y: "-11", turned: "30" }),
      ),
    );
    const { origin, x } = featureFrame(features(build)[0]);
    expect(x.x).toBeCloseTo(Math.cos(Math.PI / 6), 12);
    expect(x.y).toBeCloseTo(0.5, 12);
    const box = build.blank!.openings[0].map((c) => c.a);
    const middle = box.reduce((sum, p) => ({ x: sum.x + p.x / box.length, y: sum.y + p.y / box.length }), {
      x: 0,
      y: 0,
    });
    expect(origin.x).toBeCloseTo(middle.x, 9);
    expect(origin.y).toBeCloseTo(middle.y, 9);
  });

  test("the round holes of a leg's own table are features of that leg", () => {
    const holes = [
      { key: "a", x: "0", y: "20", d: "6" },
      { key: "b", x: "15", y: "20", d: "4" },
    ];
    const edges = [
      { key: "a", at: "s1.north" },
      { key: "b", at: "s1.south" },
    ];
    const build = buildPart(part(plate("120", "80"), { ...wall, edges, holes }));
    const made = features(build);
    expect(new Set(made.map((f) => f.id)).size).toBe(4);
    expect(new Set(made.map((f) => f.piece)).size).toBe(2);
    for (const loop of build.blank!.openings) {
      const round = roundOf(loop, featuresOf(build.sheet))!;
      // As typed, to the last bit: it is not read from the curves.
      expect([3, 2]).toContain(round.r);
    }
  });

  test("copies have features of their own, in their places, of the step that made the first", () => {
    const row: StepDocument = {
      ...{ id: "s4", kind: "pattern", steps: at("s3"), form: "row" },
      ...{ count: "3", pitch: "20", direction: "0" },
    };
    const build = examinePart(part(plate("120", "80"), cut("s3", { sized: "hardware", hardware: nut }), row));
    const made = features(build);
    expect(made.map((f) => f.step)).toEqual(["s3", "s3", "s3"]);
    expect(made.map((f) => f.copiedBy)).toEqual([undefined, "s4", "s4"]);
    const xs = made.map((f) => f.x - made[0].x);
    expect(xs[1]).toBeCloseTo(20, 9);
    expect(xs[2]).toBeCloseTo(40, 9);
    expect(new Set(made.map((f) => f.look)).size).toBe(1);
    expect(summarize("P", build).features).toEqual([
      {
        ...{ step: "s3", kind: "round", size: { diameter: 5.4 } },
        thread: null,
        hardware: "Press nut M4",
        count: 3,
      },
    ]);
  });

  test("a mirror image knows that it is one, and mirrored again that it is none", () => {
    const key = cut("s3", { form: "keyhole", diameter: "9", neck: "4", reach: "11", y: "20" }, "s2a");
    const mirror = (id: string): StepDocument => ({ id, kind: "mirror", what: "hand" });
    const once = buildPart(part(plate("120", "80"), wall, key, mirror("s4")));
    const twice = buildPart(part(plate("120", "80"), wall, key, mirror("s4"), mirror("s5")));
    expect(features(once)[0].mirrored).toBe(true);
    expect(features(twice)[0].mirrored).toBeUndefined();
  });

  test("an opening over a bend is one feature: each piece has its part, the blank has the whole", () => {
    const held: StepDocument = { id: "s3", kind: "hold", bends: at("s2a") };
    const build = buildPart(
      part(
        plate("120", "80"),
        wall,
        held,
        cut("s4", { form: "rectangle", width: "10", height: "60", y: "40" }),
      ),
    );
    const bound = build.sheet!.pieces.filter(
      (p) =>
        "regions" in p &&
        p.regions.some((r) => [...r.outer, ...r.holes.flat()].some((c) => c.feature === "s4")),
    );
    expect(bound.map((p) => p.kind).sort()).toEqual(["bend", "plate", "plate"]);
    expect(features(build)).toHaveLength(1);
    expect(wholeFeature(build.blank!.openings[0], featuresOf(build.sheet))?.id).toBe("s4");
  });

  test("a fold hands an opening on to the plate that it stands in", () => {
    const fold: StepDocument = {
      ...{ id: "s4", kind: "fold", from: at("s1.south"), distance: "50", angle: "90" },
    };
    const before = buildPart(part(plate("120", "80"), cut("s3", { y: "25" })));
    expect(features(before)[0].piece).toBe("plate:s1");
    const build = buildPart(part(plate("120", "80"), cut("s3", { y: "25" }), fold));
    expect(platesOf(build.sheet)).toHaveLength(2);
    const holder = platesOf(build.sheet).find((p) => p.regions.some((r) => r.holes.length > 0))!;
    expect(features(build).map((f) => f.piece)).toEqual([`plate:${holder.id}`]);
  });

  test("what a later step takes away is no row of the table any more; what it spoils is not whole", () => {
    const small = cut("s3", { diameter: "6", x: "-40" });
    const covered = examinePart(part(plate("120", "80"), small, cut("s4", { diameter: "20", x: "-40" })));
    expect(summarize("P", covered).features.map((r) => r.step)).toEqual(["s4"]);
    const spoiled = examinePart(part(plate("120", "80"), small, cut("s4", { diameter: "6", x: "-37" })));
    const [loop] = spoiled.blank!.openings;
    expect(wholeFeature(loop, featuresOf(spoiled.sheet))).toBeUndefined();
    expect(roundOf(loop, featuresOf(spoiled.sheet))).toBeUndefined();
    expect(summarize("P", spoiled).features.map((r) => r.step)).toEqual(["s3", "s4"]);
  });

  test("an inch part says its features in inches, as they were typed", () => {
    const inches = { ...part(plate("5in", "3in"), wall), units: "in" as const };
    const say = (values: object) => {
      const build = examinePart({ ...inches, steps: [inches.steps[0], cut("s3", values)] });
      return sayLook(features(build)[0].look, "in");
    };
    expect(say({ diameter: "1/4in" })).toBe("⌀ 0.25");
    expect(say({ form: "rectangle", width: "3/4in", height: "0.5in", rounding: "1/16in" })).toBe(
      "0.75 × 0.5, corners 0.0625",
    );
    expect(say({ form: "polygon", sides: "6", across: "3/8in" })).toBe("6 sides, 0.375 across flats");
    expect(say({ sized: "clearance", thread: "M5", fit: "medium" })).toBe("⌀ 0.2165, M5 clearance");
  });

  test("an opening that nothing makes has no feature: absurd sizes, a key that is not there", () => {
    for (const diameter of ["1e16", "-5", "0", "", "nothing"]) {
      const build = examinePart(part(plate("120", "80"), cut("s3", { diameter })));
      expect(summarize("P", build).features, diameter).toEqual([]);
      for (const f of features(build)) expect([f.x, f.y, f.turned].every(Number.isFinite)).toBe(true);
    }
    const build = examinePart(part(plate("120", "80"), cut("s3", {})));
    expect(featureOfOpening(build.sheet!, "s1", "cut:s9")).toBeUndefined();
    expect(featureOfOpening(build.sheet!, "s9", "cut:s3")).toBeUndefined();
  });

  test("five thousand alike are one row, and those that are cut away are not counted", () => {
    const grid = { arranged: "grid", count: "100", pitch: "5", rows: "50", rowPitch: "5" };
    const field = part(plate("520", "270"), cut("s3", { diameter: "3", ...grid }));
    expect(summarize("P", examinePart(field)).features.map((r) => r.count)).toEqual([5000]);
    const window = cut("s4", { form: "rectangle", width: "49", height: "49", x: "0", y: "0" });
    const left = summarize("P", examinePart({ ...field, steps: [...field.steps, window] })).features;
    expect(left.map((r) => [r.step, r.kind])).toEqual([
      ["s3", "round"],
      ["s4", "rectangle"],
    ]);
    expect(left[0].count).toBe(4900);
  });

  test("tabs and their slots, formed shapes and gussets are features too", () => {
    const gusset: StepDocument = { id: "s3", kind: "gusset", bends: at("s2a"), count: "2" };
    const dimple: StepDocument = { id: "s4", kind: "form", plate: at("s1"), x: "0", y: "0" };
    const build = examinePart(part(plate("120", "80"), wall, gusset, dimple));
    expect(summarize("P", build).features.map(({ step, kind, count }) => [step, kind, count])).toEqual([
      ["s3", "gusset", 2],
      ["s4", "formed", 1],
    ]);
    for (const p of build.sheet!.pieces)
      if (p.kind === "formed" || p.kind === "rib")
        expect(featuresOf(build.sheet).get(p.feature)?.step).toBe(p.step);
  });
});
