import { describe, expect, test } from "vitest";
import {
  createExaminer,
  evenState,
  examineFully,
  examinePart,
  type Formed,
  type FormItem,
  foldMesh,
  foldSheet,
  formedOf,
  isClosedManifold,
  meshSheet,
  meshVolume,
  type PartBuild,
  type PartDocument,
  rayHit,
  readDocument,
  type StepDocument,
  sectionPlaces,
  valueKey,
} from "../src/index.ts";
import { loopArea, loopBounds } from "../src/plane/loop.ts";
import { OWN_FORMS, ownForm } from "../src/stock/forms/own-forms.ts";
import { itemProblems } from "../src/stock/read-item.ts";
import { dxfOf, part, plate, shapesIn, told } from "./plain-parts.ts";
import { at, isLimit, part as ruled, plate as ruledPlate, said, step, T, wall } from "./ruled-parts.ts";

/** Thickness of a new part's sheet, mm. */
const t = 1.5;

/** A form step on the plate; values of its shape by their own names. */
function form(
  shape: string | FormItem,
  values: Record<string, string> = {},
  more: object = {},
  id = "s2",
): StepDocument {
  const item = typeof shape === "string" ? ownForm(shape)! : shape;
  const own = Object.fromEntries(Object.entries(values).map(([name, v]) => [valueKey(item, name), v]));
  return { id, kind: "form", shape: shape as never, plate: [{ key: "a", at: "s1" }], ...own, ...more };
}

const sheetOf = (build: PartBuild) => build.sheet!;
const built = (...steps: StepDocument[]) => examinePart(part(plate("160", "120"), ...steps));
const fine = (...steps: StepDocument[]) => {
  const build = built(...steps);
  expect(told(build)).toEqual([]);
  return build;
};

/** The folded body, which must be closed. */
function bodyOf(build: PartBuild, chord = 0.01) {
  const sheet = sheetOf(build);
  const mesh = foldMesh(meshSheet(sheet, chord), foldSheet(sheet, evenState(sheet, 1)));
  expect(isClosedManifold(mesh)).toBe(true);
  return mesh;
}

const heightOf = (build: PartBuild) => build.folded!.box.max[2] - build.folded!.box.min[2];

describe("every form that a shop has", () => {
  const names = OWN_FORMS.map((f) => f.id);

  test("is sound in the words in which a shop writes its own", () => {
    for (const item of OWN_FORMS) expect(itemProblems("forms", item)).toEqual([]);
    expect(new Set(names).size).toBe(names.length);
  });

  test.each(names)("%s is one closed body with its plate on either side, as heavy as is said", (shape) => {
    for (const turn of ["up", "down"]) {
      const build = fine(form(shape, {}, { turn }));
      expect(formedOf(build.sheet).map((f) => [f.host, f.step, f.shape.side])).toEqual([["s1", "s2", turn]]);
      const mesh = bodyOf(build, 0.002);
      expect(meshVolume(mesh) / build.folded!.volume).toBeCloseTo(1, 5);
      const z = [...mesh.positions].filter((_, i) => i % 3 === 2);
      expect(Math.min(...z)).toBeCloseTo(build.folded!.box.min[2], 6);
      expect(Math.max(...z)).toBeCloseTo(build.folded!.box.max[2], 6);
    }
  });

  test.each([
    ["dimple", "h"],
    ["emboss", "h"],
    ["long-emboss", "h"],
    ["bead", "h"],
    ["louvre", "h"],
    ["bridge", "h"],
    ["half-lance", "h"],
    ["foot", "h"],
    ["card-guide", "h"],
    ["collar", "h"],
  ])("%s stands out by its height", (shape, name) => {
    const values = { [name]: "1.25" };
    expect(heightOf(built(form(shape, values)))).toBeCloseTo(t + 1.25, 9);
    const down = built(form(shape, values, { turn: "down" })).folded!.box;
    expect([down.min[2], down.max[2]]).toEqual([expect.closeTo(-1.25, 9), expect.closeTo(t, 9)]);
  });

  test("stretches its metal, and takes none off the blank", () => {
    for (const shape of [
      "dimple",
      "emboss",
      "long-emboss",
      "bead",
      "louvre",
      "bridge",
      "foot",
      "knock-out",
    ]) {
      const { blank, folded } = fine(form(shape));
      expect(blank!.area).toBeCloseTo(160 * 120, 8);
      expect(folded!.volume).toBeCloseTo(160 * 120 * t, 8);
    }
  });
});

describe("an extruded hole", () => {
  /** Volume of a ring of revolution by Pappus: area of its section times the way of its centroid. */
  function ring(points: readonly (readonly [number, number])[]): number {
    let [area, moment] = [0, 0];
    points.forEach(([x, y], i) => {
      const [u, v] = points[(i + 1) % points.length];
      const cross = x * v - u * y;
      area += cross / 2;
      moment += ((x + u) * cross) / 6;
    });
    return Math.abs(2 * Math.PI * (moment / area) * area);
  }
  const values = { d: "4.2", h: "1.4", wall: "0.7", r: "0.6" };

  test("is cut before so small that its metal is what the collar takes", () => {
    const build = fine(form("collar", values));
    const [{ shape, openings }] = formedOf(build.sheet);
    const outer = 4.2 / 2 + 0.7 + 0.6;
    const places = sectionPlaces(shape, t, 1e-6);
    const section = [
      ...places.map((p) => [outer - p.inB, p.upB] as const),
      ...[...places].reverse().map((p) => [outer - p.inA, p.upA] as const),
    ];
    const r = Math.sqrt(outer ** 2 - ring(section) / (Math.PI * t));
    const { minX, maxX } = loopBounds(openings[0]);
    expect((maxX - minX) / 2).toBeCloseTo(r, 5);
    expect(build.blank!.openings.length).toBe(1);
    // What is cut out is all that goes: the collar weighs what the flat ring did.
    expect(build.folded!.volume).toBeCloseTo((160 * 120 - Math.PI * r * r) * t, 4);
  });

  test("says which thread holds in it, and over how many turns", () => {
    const { made } = fine(form("collar", values)).steps[1].notes!;
    expect(made).toMatch(
      /^⌀ [\d.]+ mm cut before, so that the metal is kept; M5 is engaged over 1.6 mm, 2 turns$/,
    );
    expect(fine(form("collar", { ...values, d: "4.3" })).steps[1].notes!.made).toMatch(
      /a thread is engaged over 1.6 mm$/,
    );
  });

  test("that takes more metal than there is within its border is refused", () => {
    expect(told(built(form("collar", { ...values, h: "8" })))[0]).toMatch(
      /not enough metal within its border for such a collar\. Make it lower, thinner or wider/,
    );
  });
});

describe("a countersink", () => {
  test("takes a cone off the metal, and its through hole stands on the blank", () => {
    const build = fine(form("countersink", { d: "3.4", s: "6", angle: "90" }));
    const depth = (6 - 3.4) / 2;
    // A truncated cone less the hole that goes through it.
    const cone = ((Math.PI * depth) / 3) * (3 ** 2 + 3 * 1.7 + 1.7 ** 2) - Math.PI * 1.7 ** 2 * depth;
    const whole = (160 * 120 - Math.PI * 1.7 ** 2) * t;
    expect(build.folded!.volume).toBeCloseTo(whole - cone, 4);
    expect(build.folded!.mass).toBeCloseTo(((whole - cone) * 7850) / 1e9, 9);
    expect(build.blank!.area).toBeCloseTo(160 * 120 - Math.PI * 1.7 ** 2, 8);
  });

  test("deeper than the sheet is refused", () => {
    expect(told(built(form("countersink", { d: "3.4", s: "9" })))[0]).toMatch(
      /sheet is too thin for these values/,
    );
  });
});

describe("on the blank", () => {
  const contents = ["outline", "openings", "slits", "marks"];
  const layersOf = (step: StepDocument) => {
    const { text, proof } = dxfOf(part(plate("160", "120"), step), { contents });
    expect(proof.lines.filter((l) => !l.holds)).toEqual([]);
    const { shapes, layers } = shapesIn(text);
    const on = new Map<string, string[]>();
    shapes.forEach((s, i) => {
      on.set(layers![i], [...(on.get(layers![i]) ?? []), s.kind]);
    });
    return on;
  };

  test("a louvre is cut along its open side and nowhere else", () => {
    const build = fine(form("louvre", { l: "40", w: "8" }));
    expect(build.blank!.slits).toEqual([
      expect.objectContaining({
        kind: "line",
        a: { x: expect.closeTo(-20, 9), y: expect.closeTo(-4, 9) },
        b: { x: expect.closeTo(20, 9), y: expect.closeTo(-4, 9) },
      }),
    ]);
    expect(build.blank!.lengths.slits).toBeCloseTo(40, 9);
    expect([...layersOf(form("louvre")).values()].flat().filter((k) => k === "line")).toHaveLength(1);
  });

  test.each([
    ["centre", 2, 0, "line"],
    ["outline", 1, 0, "circle"],
    ["nothing", 0, 0, undefined],
    ["own", 2, 0, "line"],
  ] as const)("a dimple leaves what is chosen: %s", (onBlank, marks, slits, kind) => {
    const build = fine(form("dimple", { d: "10" }, { onBlank }));
    expect(build.blank!.marks.flatMap((m) => m.curves).length).toBe(kind === "circle" ? 2 : marks);
    expect(build.blank!.slits.length).toBe(slits);
    const engraved = layersOf(form("dimple", { d: "10" }, { onBlank })).get("ENGRAVING") ?? [];
    expect(engraved).toEqual(Array.from({ length: marks }, () => kind));
  });

  test("a knock-out is cut between its joints", () => {
    const { blank } = fine(form("knock-out", { d: "20", n: "3", j: "2" }));
    expect(blank!.slits.length).toBe(3);
    expect(blank!.lengths.slits).toBeCloseTo(Math.PI * 20 - 3 * 2, 6);
  });
});

describe("a form that goes with its plate", () => {
  const turnedAbout = (f: Formed) => {
    const { minX, minY, maxX, maxY } = loopBounds(f.outline);
    return [(minX + maxX) / 2, (minY + maxY) / 2, maxX - minX].map((v) => Math.round(v * 1e6) / 1e6);
  };

  test("is turned, arranged, and left out by its number", () => {
    const grid = { arranged: "grid", count: "3", pitch: "40", rows: "2", rowPitch: "30", turned: "90" };
    const build = fine(form("louvre", { l: "24", w: "8" }, grid));
    expect(formedOf(build.sheet).map(turnedAbout)).toEqual(
      [-15, 15].flatMap((y) => [-40, 0, 40].map((x) => [x, y, 8])),
    );
    const less = fine(
      form("louvre", { l: "24", w: "8" }, { ...grid, leftOut: [{ key: "a", i: "1", j: "0" }] }),
    );
    expect(formedOf(less.sheet).length).toBe(5);
    bodyOf(less);
    const [first] = formedOf(build.sheet);
    expect(first.name).toBe("form:s2");
  });

  test("is mirrored and patterned by later steps, openings and all, on the same side", () => {
    const mirror: StepDocument = {
      id: "s3",
      kind: "mirror",
      what: "steps",
      steps: [{ key: "a", at: "s2" }],
      about: "across",
      plate: [{ key: "a", at: "s1" }],
    };
    const one = form("half-lance", {}, { x: "-40", y: "20", turn: "down" });
    const both = fine(one, mirror);
    const ends = formedOf(both.sheet).map((f) => f.outline.find((c) => c.name !== "form:cut")!.a.x);
    // The bend of the lance stands at its outer end on both halves.
    expect(ends.map((x) => Math.round(x))).toEqual([-48, 48]);
    expect(formedOf(both.sheet).map((f) => f.shape.side)).toEqual(["down", "down"]);
    bodyOf(both);
    const pattern: StepDocument = {
      id: "s3",
      kind: "pattern",
      steps: [{ key: "a", at: "s2" }],
      form: "row",
      count: "4",
      pitch: "20",
    };
    const row = fine(form("collar", {}, { x: "-30" }), pattern);
    expect(formedOf(row.sheet).length).toBe(4);
    expect(row.blank!.openings.length).toBe(4);
    bodyOf(row);
  });

  test("goes with a leg when that folds, and with the half of a plate that is folded off", () => {
    const flange: StepDocument = {
      id: "s2",
      kind: "flange",
      edges: [{ key: "a", at: "s1.north" }],
      length: "40",
    };
    const on = form("dimple", {}, { plate: [{ key: "a", at: "s2a" }], x: "0", y: "20" }, "s3");
    const build = fine(flange, on);
    const [formed] = formedOf(build.sheet);
    expect(formed.host).toBe("s2a");
    // Up and inward: the leg stands at the north, its side B looks south.
    const plain = fine(flange).folded!.box;
    expect(build.folded!.box).toEqual({
      min: plain.min.map((v) => expect.closeTo(v, 9)),
      max: plain.max.map((v) => expect.closeTo(v, 9)),
    });
    const out = fine(flange, { ...on, turn: "down" }).folded!.box;
    expect(out.max[1] - plain.max[1]).toBeCloseTo(1.5, 9);
    bodyOf(build);
    const fold: StepDocument = {
      id: "s3",
      kind: "fold",
      from: [{ key: "a", at: "s1.south" }],
      distance: "60",
    };
    const folded = examinePart(part(plate("160", "120"), form("dimple", {}, { y: "40" }), fold));
    expect(formedOf(folded.sheet)).toHaveLength(1);
    expect(formedOf(folded.sheet)[0].host).toBe("s3");
  });

  test("stands in the second sheet of a part as in the first, openings and all", () => {
    const second: StepDocument = { id: "s3", kind: "plate", width: "60", depth: "50", z: "20" };
    const on = (id: string, shape: string, x: string) =>
      form(shape, {}, { plate: [{ key: "a", at: "s3" }], x }, id);
    const build = fine(form("collar"), second, on("s4", "collar", "-15"), on("s5", "foot", "12"));
    expect(formedOf(build.sheet).map((f) => f.host)).toEqual(["s1", "s3", "s3"]);
    const mesh = bodyOf(build, 0.002);
    expect(meshVolume(mesh) / build.folded!.volume).toBeCloseTo(1, 5);
  });

  test("is met by a ray where it stands, as a place of its plate", () => {
    const { sheet } = fine(form("foot", { h: "5" }));
    const hit = rayHit(sheet!, foldSheet(sheet!, evenState(sheet!, 1)), [0, 0, 50], [0, 0, -1])!;
    expect(sheet!.pieces[hit.piece].kind).toBe("plate");
    expect(hit.along).toBeCloseTo(50 - t - 5, 9);
    expect(hit.at).toEqual([expect.closeTo(0, 9), expect.closeTo(0, 9), expect.closeTo(t + 5, 9)]);
  });

  test("is cut in its flat middle, and not formed where a cut runs into its slope", () => {
    const hole = (d: string): StepDocument => ({
      id: "s3",
      kind: "cut",
      form: "round",
      diameter: d,
      plate: [{ key: "a", at: "s1" }],
    });
    const open = fine(form("foot", { d: "28", top: "12" }), hole("5"));
    expect(open.folded!.volume).toBeCloseTo((160 * 120 - Math.PI * 6.25) * t, 8);
    expect(meshVolume(bodyOf(open, 0.002))).toBeCloseTo(open.folded!.volume, 1);
    const wide = built(form("foot", { d: "28", top: "12" }), hole("16"));
    expect(told(wide)).toEqual([
      "warn: The stand-off foot on plate A runs into an opening, or an opening stands in its slope. It is not formed: move it, make it smaller, or leave it out.",
    ]);
    expect(formedOf(wide.sheet)).toEqual([]);
    bodyOf(wide);
  });
});

describe("a form that cannot be", () => {
  test.each([
    ["dimple", { d: "0" }, /Diameter: 0 mm is too small/],
    ["dimple", { h: "1e16" }, /too large/],
    ["dimple", { d: "" }, /value is needed/],
    [
      "emboss",
      { d: "8", h: "4" },
      /reaches past its middle.*needs 10 mm from its border inward; there is room for 4 mm/,
    ],
    ["bridge", { l: "24", slope: "20" }, /side that is cut is too short/],
    ["knock-out", { n: "0" }, /Joints: it must be more than 0/],
    ["knock-out", { n: "30", j: "3" }, /30 joints of 3 mm have no room/],
    ["knock-out", { n: "1e9" }, /1 to 36 joints/],
    ["countersink", { angle: "0" }, /Angle/],
    ["long-emboss", { l: "60", w: "20", c: "15" }, /radii at its ends need/],
  ] as const)("%s with %o says why, and the rest of the part is built", (shape, values, why) => {
    const build = built(form(shape, values));
    expect(told(build)[0]).toMatch(why);
    expect(build.findings[0].step).toBe("s2");
    expect(formedOf(build.sheet)).toEqual([]);
    expect(build.blank!.area).toBeCloseTo(160 * 120, 8);
  });

  test.each([
    ["over the edge", { x: "78" }, /runs over the edge of its plate or into a bend/],
    ["beside the plate", { x: "200" }, /lies outside the metal of its plate/],
    ["larger than the plate", { shape: "dimple", dimple_d: "500" }, /lies outside|over the edge/],
  ])("%s is told and not formed", (_, values, why) => {
    const build = built(form("dimple", {}, values));
    expect(told(build)[0]).toMatch(why);
    expect(formedOf(build.sheet)).toEqual([]);
  });

  test("across a bend is told, and two that stand in one another are one", () => {
    const flange: StepDocument = {
      id: "s3",
      kind: "flange",
      edges: [{ key: "a", at: "s1.north" }],
      length: "40",
    };
    expect(told(built(form("louvre", {}, { y: "56" }), flange)).join()).toMatch(
      /louvre on plate A runs over the edge/,
    );
    const both = built(form("dimple"), form("dimple", {}, { x: "3" }, "s3"));
    expect(told(both)[0]).toMatch(/dimple on plate A stands in another shape/);
    expect(both.findings[0].step).toBe("s3");
    expect(formedOf(both.sheet).map((f) => f.step)).toEqual(["s2"]);
  });

  test("of many only those that have no room are left, told in one sentence", () => {
    const row = { arranged: "row", count: "9", pitch: "20" };
    const build = built(form("dimple", {}, row));
    expect(told(build)).toEqual([
      expect.stringMatching(
        /^warn: 2 of 9 \(dimple\) on plate A lie outside|^warn: 2 of 9 \(dimple\) on plate A run over the edge/,
      ),
    ]);
    expect(formedOf(build.sheet).length).toBe(7);
  });

  test("of a million is refused, and of thousands in one place", () => {
    const many = (more: object) => told(built(form("dimple", {}, { arranged: "grid", ...more })))[0];
    expect(many({ count: "1000", rows: "1000" })).toMatch(/too many/);
    expect(many({ count: "100", rows: "60", pitch: "9", rowPitch: "9" })).toMatch(
      /6000 of them are too many: one step can form 5000/,
    );
    expect(many({ count: "2000", pitch: "1e-7" })).toMatch(/lie over one another/);
  });
});

describe("a form of the shop's own", () => {
  const emboss = ownForm("emboss")!;
  const wrong = (change: object) =>
    itemProblems("forms", { ...emboss, ...change }).map((p) => `${p.path}: ${p.message}`);

  test("is kept whole in the part, and read back with it", () => {
    const own: FormItem = { ...emboss, id: "boss-9", name: "Boss 9", values: [...emboss.values] };
    const document = part(plate("160", "120"), form(own, { d: "24" }));
    expect(readDocument(JSON.parse(JSON.stringify(document))).ok).toBe(true);
    const [formed] = formedOf(examinePart(document).sheet);
    expect([formed.title, loopBounds(formed.outline).maxX]).toEqual(["Boss 9", 12]);
  });

  test.each([
    [
      "a cycle",
      {
        values: [
          { ...emboss.values[0], value: "h" },
          { ...emboss.values[1], value: "d" },
        ],
      },
      /values\/0\/value: Diameter: .*it depends on itself, by way of d → h → d/,
    ],
    ["a value that is not there", { diameter: "2*q" }, /diameter: .*q/],
    [
      "a later version",
      { version: 2 },
      /version: This form was written by a later Hillcrest \(version 2; this one reads 1\)/,
    ],
    ["another version", { version: "new" }, /"version" must be 1/],
    ["a name used twice", { values: [...emboss.values, emboss.values[0]] }, /the name d is used twice/],
    [
      "the thickness as a name",
      { values: [{ ...emboss.values[0], name: "t" }] },
      /not t, which is the thickness/,
    ],
    ["a huge outline", { diameter: "1e9" }, /too large; it must be at most/],
    ["an outline of nothing", { diameter: "0" }, /at least 0.01 mm/],
    ["no diameter", { diameter: "" }, /needed/],
    [
      "a section that begins elsewhere",
      { section: [{ inward: "1", up: "0", round: "0" }] },
      /begins at the border/,
    ],
    [
      "a section that goes straight up",
      { section: [...emboss.section.slice(0, 2), { inward: "0.25*slope", up: "h", round: "0" }] },
      /straight up at corner 3/,
    ],
    [
      "a section that turns back",
      { section: [...emboss.section.slice(0, 3), { inward: "0", up: "h", round: "0" }] },
      /farther out than the one before/,
    ],
    [
      "corners that go the wrong way",
      {
        outline: "corners",
        corners: [
          [0, 0],
          [0, 30],
          [30, 30],
        ].map(([x, y]) => ({ x: String(x), y: String(y), radius: "0", side: "formed" })),
      },
      /counter-clockwise/,
    ],
    [
      "corners that cross",
      {
        outline: "corners",
        corners: [
          [0, 0],
          [40, 0],
          [10, 30],
          [30, 30],
        ].map(([x, y]) => ({ x: String(x), y: String(y), radius: "0", side: "formed" })),
      },
      /crosses itself|counter-clockwise/,
    ],
    ["two corners", { outline: "corners", corners: [] }, /three corners at least/],
    [
      "all of it cut free",
      {
        outline: "corners",
        corners: [
          [0, 0],
          [40, 0],
          [40, 30],
          [0, 30],
        ].map(([x, y]) => ({ x: String(x), y: String(y), radius: "0", side: "cut" })),
      },
      /fall out/,
    ],
    ["no outline of the shop's", { outline: "drawn" }, /Choose an outline/],
    [
      "a side B on what is not round",
      {
        outline: "corners",
        corners: ownForm("bridge")!.corners,
        section: ownForm("collar")!.section,
        values: [
          ...ownForm("collar")!.values,
          ...ownForm("bridge")!.values.filter((v) => !["h", "r"].includes(v.name)),
        ],
      },
      /Only a round shape can have a side B/,
    ],
  ])("with %s is refused in words", (_, change, why) => {
    expect(wrong(change).join("\n")).toMatch(why);
  });

  test("that is no form is refused where the part is read", () => {
    for (const shape of ["none-such", 5, [], { id: "x" }, { ...emboss, section: "no" }]) {
      const read = readDocument(
        JSON.parse(JSON.stringify(part(plate("160", "120"), { ...form("dimple"), shape }))),
      );
      expect(read.ok, JSON.stringify(shape)).toBe(false);
      if (!read.ok) expect(read.error[0].path).toMatch(/^\/steps\/1\/shape/);
    }
  });
});

describe("an opening that stands too near", () => {
  const cut = (more: object) =>
    step("s2", "cut", { plate: at("s1"), form: "round", diameter: "8", x: "0", y: "0", ...more });
  /** What is left of a rule once its mend was done. */
  const mended = (rule: string, ...steps: StepDocument[]) => {
    const document = ruled(ruledPlate(), ...steps);
    const [finding] = said(rule, document);
    const [remedy] = finding.mend!.remedies;
    if (remedy.do !== "set") throw new Error("Another mend was expected.");
    const after = {
      ...document,
      steps: document.steps.map((s) => (s.id === remedy.step ? { ...s, ...remedy.values } : s)),
    };
    expect(said(rule, after)).toEqual([]);
    return remedy.values;
  };

  test("to the outline, to another, to a bend is moved by the least that works", () => {
    expect(mended("thin-web", cut({ x: "55.5" }))).toEqual({ x: "54.5", y: "0" });
    const small = { ...cut({ diameter: "4", x: "7.2", y: "0" }), id: "s3" };
    expect(mended("thin-web", cut({}), small)).toEqual({ x: "7.5", y: "0" });
    const line = 40 - 3.5;
    const moved = mended("opening-to-bend", wall("s3", "s1.north"), cut({ y: String(line - 4 - 3) }));
    expect(moved).toEqual({ x: "0", y: String(line - 4 - 5) });
  });

  test("from two edges has its distances changed, and one of many is left to a person", () => {
    const by = { placed: "edges", edge1: at("s1.east"), edge2: at("s1.north"), off1: "4.5", off2: "30" };
    expect(mended("thin-web", cut(by))).toEqual({ off1: "5.5", off2: "30" });
    const row = ruled(ruledPlate(), cut({ x: "35.5", arranged: "row", count: "3", pitch: "20" }));
    expect(said("thin-web", row)[0].mend).toBeUndefined();
  });
});

describe("what the shop asks of forms", () => {
  const dimple = (more: object) =>
    step("s2", "form", { plate: at("s1"), shape: "dimple", dimple_d: "10", dimple_h: "1", ...more });

  test("is room to the edge, to openings, to bends and to one another", () => {
    const room = 2 * T;
    isLimit("form-room", (off) => ruled(ruledPlate(), dimple({ x: String(60 - 5 - off) })), room);
    isLimit(
      "form-room",
      (off) =>
        ruled(
          ruledPlate({ holes: [{ key: "a", x: "0", y: "0", d: "6" }] }),
          dimple({ x: String(3 + 5 + off) }),
        ),
      room,
    );
    isLimit(
      "form-room",
      (off) => ruled(ruledPlate(), dimple({}), { ...dimple({ x: String(10 + off) }), id: "s3" }),
      room,
    );
    const bend = ruled(ruledPlate(), wall("s2", "s1.north"), { ...dimple({ y: "29" }), id: "s3" });
    expect(said("form-room", bend)[0].message).toMatch(/is [\d.]+ mm from bend 1; its tool needs 3 mm/);
  });

  test("is mended by the least move", () => {
    const document = ruled(ruledPlate(), dimple({ x: "53" }));
    const [finding] = said("form-room", document);
    expect(finding.mend!.remedies).toEqual([{ do: "set", step: "s2", values: { x: "52", y: "0" } }]);
    expect(said("form-room", ruled(ruledPlate(), dimple({ x: "52" })))).toEqual([]);
  });

  test("is metal that is not stretched too thin", () => {
    // 0.28 of 10 mm inward while it rises by h: the share is 2.8/√(2.8² + h²).
    const share = 0.65;
    const most = 2.8 * Math.sqrt(1 / share ** 2 - 1);
    const of = (h: number) => ruled(ruledPlate(), dimple({ dimple_h: String(h) }));
    expect(said("form-thin", of(most - 1e-6))).toEqual([]);
    expect(said("form-thin", of(most + 1e-6))[0]).toMatchObject({ wanted: expect.closeTo(share * T, 9) });
  });

  test("is a foot that hits nothing: against a leg that lies over it", () => {
    const over = (h: string) =>
      examineFully(
        ruled(
          ruledPlate(),
          wall("s2", "s1.north", { length: "20" }),
          wall("s3", "s2a.end", { length: "60" }),
          {
            ...step("s4", "form", { plate: at("s1"), shape: "foot", foot_h: h, foot_d: "60", foot_top: "8" }),
          },
        ),
      ).findings.filter((f) => f.rule === "collision" && f.message.includes("foot"));
    expect(over("14")).toEqual([]);
    const [hit] = over("18");
    expect(hit.message).toMatch(
      /stands [\d.]+ mm deep in the stand-off foot on plate A|stand-off foot on plate A stands [\d.]+ mm deep/,
    );
    expect(hit.pieces).toContainEqual({ kind: "plate", id: "s1" });
  });
});

test("areas of outlines are those of their closed forms", () => {
  const areaOf = (shape: string, values: Record<string, string>) =>
    loopArea(formedOf(fine(form(shape, values)).sheet)[0].outline);
  expect(areaOf("bead", { l: "50", w: "8" })).toBeCloseTo(42 * 8 + Math.PI * 16, 8);
  expect(areaOf("louvre", { l: "40", w: "10" })).toBeCloseTo(20 * 10 + (Math.PI * 100) / 2, 8);
  expect(areaOf("bridge", { l: "24", w: "6" })).toBeCloseTo(144, 9);
});

test("the room that shapes have is that of the part as it is now, whatever of it was looked at before", () => {
  const grid = { arranged: "grid", count: "3", pitch: "25", rows: "2", rowPitch: "25" };
  const document = (hole: string, length: string, x: string): PartDocument =>
    ruled(
      ruledPlate(),
      step("s2", "form", { plate: at("s1"), shape: "dimple", dimple_d: "10", dimple_h: "1", ...grid, x }),
      step("s3", "cut", { plate: at("s1"), form: "round", diameter: "4", x: hole, y: "4" }),
      wall("s4", "s1.north", { length }),
    );
  const examine = createExaminer();
  const rooms = (build: PartBuild) =>
    build.findings.filter((f) => f.rule === "form-room").map(({ message, at: place }) => [message, place]);
  const seen = [
    document("0", "20", "0"),
    document("12.5", "20", "0"),
    document("12.5", "25", "0"),
    document("0", "25", "0"),
    document("0", "25", "-30"),
    document("0", "20", "0"),
  ].map((d) => {
    const found = rooms(examine(d));
    expect(found).toEqual(rooms(examinePart(d)));
    return found.length;
  });
  expect(seen.slice(0, 4)).toEqual([1, 0, 0, 1]);
});
