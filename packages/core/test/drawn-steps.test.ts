import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import {
  broughtUpToDate,
  createPartBuilder,
  examinePart,
  findEdge,
  followingCopy,
  holdAsItIs,
  newPart,
  type Outline,
  type PartBuild,
  type PartDocument,
  pickables,
  platesOf,
  readDocument,
  readOutlinesText,
  renameDimension,
  renameVariable,
  type StepDocument,
  standOnPart,
  whyEdge,
} from "../src/index.ts";
import { dxfOf } from "./plain-parts.ts";

const bracket = (() => {
  const text = readFileSync(new URL("../../../docs/format/outline.md", import.meta.url), "utf8");
  const read = readOutlinesText(/```json\n([\s\S]*?)```/.exec(text)![1]);
  if (!read.ok) throw new Error(JSON.stringify(read.error));
  return read.value[0];
})();
const round = (r: number | string, name = "Round"): Outline => ({
  format: "hillcrest-outline",
  version: 1,
  name,
  points: { c: [20, 15] },
  curves: [{ id: "o", kind: "circle", c: "c", r: 4 }],
  relations: [{ id: "r1", kind: "fixed", of: ["c"] }],
  dimensions: [{ id: "d1", kind: "radius", of: ["o"], value: r }],
});
const drawn: StepDocument = { id: "s1", kind: "plate", form: "drawn", drawn: "a" };
const part = (outlines: readonly Outline[], ...steps: StepDocument[]): PartDocument => ({
  ...newPart("Part"),
  outlines: outlines.map((outline, i) => ({ key: "abcdef"[i], outline })),
  steps,
});
const messages = (b: PartBuild) => b.findings.map((f) => f.message);
/** A rectangle of 60 by 40 with one corner rounded by 12. */
const AREA = 2400 - (144 - 36 * Math.PI);

describe("a plate of a drawn outline", () => {
  test("has its area, its arc as an arc, and edges by the names of its lines", () => {
    const build = examinePart(part([bracket], drawn));
    expect(messages(build)).toEqual([]);
    expect(build.blank!.area).toBeCloseTo(AREA, 8);
    expect(
      platesOf(build.sheet)[0]
        .edges.map((e) => e.role)
        .sort(),
    ).toEqual(["east", "north", "south", "west"]);
    const arc = build.blank!.outlines[0].find((c) => c.kind === "arc");
    expect(arc).toMatchObject({
      r: expect.closeTo(12, 9),
      c: { x: expect.closeTo(48, 9), y: expect.closeTo(28, 9) },
    });
    // In the DXF a quarter round is a bulge of tan(90°/4).
    const { text: dxf } = dxfOf(part([bracket], drawn), {}, build);
    expect(
      dxf.split("\n").some((line) => Math.abs(Math.abs(Number(line)) - Math.tan(Math.PI / 8)) < 1e-9),
    ).toBe(true);
  });

  test("has a curved edge that is known by its name, of which a flange says that it cannot stand there", () => {
    const document = part([bracket], drawn);
    const build = examinePart(document);
    const name = pickables(build.sheet!).flatMap((p) => (p.curves[0].kind === "arc" ? [`s1.${p.role}`] : []));
    expect(name).toHaveLength(1);
    expect(findEdge(build.sheet!, name[0])!.length).toBeCloseTo(6 * Math.PI, 9);
    expect(whyEdge(document, build, name[0])).toMatchObject({ result: "18.85 mm" });
    const flange = { id: "s2", kind: "flange", edges: [{ key: "a", at: name[0] }], length: "20" };
    const [said] = messages(examinePart(part([bracket], drawn, flange)));
    expect(said).toContain("is curved, and nothing can be grown from it. Pick a straight edge.");
  });

  test("carries flanges on them, and follows the part's own values", () => {
    const flange: StepDocument = {
      id: "s2",
      kind: "flange",
      edges: [{ key: "a", at: "s1.south" }],
      length: "20",
    };
    const wide = { ...bracket, values: [{ name: "width", value: "wide" }] };
    const document = { ...part([wide], drawn, flange), variables: [{ key: "v", name: "wide", value: "75" }] };
    const build = examinePart(document);
    expect(messages(build)).toEqual([]);
    expect(build.bends[0].length).toBeCloseTo(75, 6);
    expect(build.outlines![0].solved.values.d2).toBeCloseTo(50, 9);
  });

  test("is built anew where its outline has changed, and only there", () => {
    const builder = createPartBuilder();
    const first = part([bracket, round(5)], drawn);
    const before = builder(first);
    expect(builder({ ...first, name: "Other" }).outlines![0]).toBe(before.outlines![0]);
    // A document that comes to a worker is a copy: nothing of it is the same record.
    expect(builder(structuredClone(first)).outlines![0]).toBe(before.outlines![0]);
    const wider = { key: "a", outline: { ...bracket, values: [{ name: "width", value: 90 }] } };
    const after = builder({ ...first, outlines: [wider, first.outlines![1]] });
    expect(after.blank!.width).toBeCloseTo(90, 9);
    expect(after.outlines![1]).toBe(before.outlines![1]);
  });

  test("has the openings that are drawn within it", () => {
    const both: Outline = {
      ...bracket,
      points: { ...bracket.points, k: [20, 15] },
      curves: [...bracket.curves, { id: "o", kind: "circle", c: "k", r: 4 }],
      dimensions: [...bracket.dimensions, { id: "d9", kind: "radius", of: ["o"], value: 5 }],
      relations: [...bracket.relations, { id: "r9", kind: "fixed", of: ["k"] }],
    };
    const build = examinePart(part([both], drawn));
    expect(build.blank!.openings.length).toBe(1);
    expect(build.blank!.area).toBeCloseTo(AREA - 25 * Math.PI, 8);
  });

  test.each<[string, PartDocument, RegExp]>([
    ["none is chosen", part([bracket], { ...drawn, drawn: "" }), /Choose one of the part's outlines/],
    ["it is gone", part([bracket], { ...drawn, drawn: "z" }), /The outline z is not in this part any more/],
    [
      "its numbers do not go together",
      part(
        [
          {
            ...bracket,
            dimensions: [...bracket.dimensions, { id: "d8", kind: "length", of: ["east"], value: 5 }],
          },
        ],
        drawn,
      ),
      /In the outline “Bracket” these do not go together: .*d8/,
    ],
    [
      "it is open",
      part([{ ...bracket, curves: bracket.curves.slice(0, 4), relations: [], dimensions: [] }], drawn),
      /The outline “Bracket” bounds no area: .* ends at/,
    ],
    [
      "a value is wrong",
      part([{ ...bracket, values: [{ name: "width", value: "wide" }] }], drawn),
      /The outline “Bracket” cannot be solved: Value width: /,
    ],
    [
      "it has two areas",
      part(
        [
          {
            ...round(5),
            points: { c: [0, 0], d: [40, 0] },
            curves: [
              { id: "o", kind: "circle", c: "c", r: 5 },
              { id: "p", kind: "circle", c: "d", r: 5 },
            ],
            relations: [],
          },
        ],
        drawn,
      ),
      /The outline has 2 areas; a plate takes one/,
    ],
  ])("says at its field why it cannot be where %s, and the part stands", (_, document, says) => {
    const build = examinePart(document);
    const told = build.findings.find((f) => f.step === "s1")!;
    expect(told).toMatchObject({ level: "stop", field: "drawn" });
    expect(told.message).toMatch(says);
  });
});

describe("a cut of a drawn outline", () => {
  const plate: StepDocument = { id: "s1", kind: "plate", width: "120", depth: "80" };
  const cut = (more: object = {}): StepDocument => ({
    ...{ id: "s2", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "drawn", drawn: "a" },
    ...{ x: "-30", y: "-20" },
    ...more,
  });

  test("takes its areas out of the plate, about its place and turned", () => {
    for (const turned of ["0", "37"]) {
      const build = examinePart(part([bracket], plate, cut({ turned, x: "-20", y: "-25" })));
      expect(messages(build).filter((m) => !m.includes("sharp"))).toEqual([]);
      expect(build.blank!.area).toBeCloseTo(9600 - AREA, 6);
    }
    const small = examinePart(part([round(5)], plate, cut({ x: "0", y: "0" })));
    expect(small.blank!.area).toBeCloseTo(9600 - 25 * Math.PI, 8);
  });

  test("refuses what would leave an island", () => {
    const ring: Outline = {
      ...round(5),
      points: { c: [0, 0] },
      curves: [
        { id: "o", kind: "circle", c: "c", r: 12 },
        { id: "p", kind: "circle", c: "c", r: 5 },
      ],
      dimensions: [],
      relations: [],
    };
    const [told] = examinePart(part([ring], plate, cut())).findings;
    expect(told.message).toContain("what is left there would fall out");
  });
});

describe("the outlines of a part document", () => {
  test("follow a value that gets another name, unless they have one of their own that is called so", () => {
    const wide = { ...bracket, values: [{ name: "width", value: "wide + 5" }] };
    const own = {
      ...bracket,
      values: [
        { name: "wide", value: 30 },
        { name: "width", value: "2*wide" },
      ],
    };
    const document = { ...part([wide, own], drawn), variables: [{ key: "v", name: "wide", value: "70" }] };
    const renamed = renameVariable(document, "v", "breadth");
    expect(renamed.outlines![0].outline.values![0].value).toBe("breadth + 5");
    expect(renamed.outlines![1].outline).toEqual(own);
    expect(examinePart(renamed).blank!.width).toBeCloseTo(75, 9);
  });

  test("come with the part that is followed, and leave the part's own its own", () => {
    const source = part([bracket], drawn);
    const copy = followingCopy(source, { part: "p", revision: 1 });
    const cut: StepDocument = {
      ...{ id: "s2", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "drawn", drawn: "b" },
    };
    const mine = {
      ...copy,
      outlines: [...copy.outlines!, { key: "b", outline: round(5) }],
      steps: [...copy.steps, cut],
    };
    const wider = { ...bracket, values: [{ name: "width", value: 90 }] };
    const changed = { ...part([wider, round(9, "Theirs")], drawn) };
    const now = broughtUpToDate(mine, changed, 2);
    expect(now.outlines!.map((o) => [o.key, o.outline.name])).toEqual([
      ["a", "Bracket"],
      ["b", "Theirs"],
      ["bf", "Round"],
    ]);
    expect(now.steps[1].drawn).toBe("bf");
    expect(examinePart(now).blank!.width).toBeCloseTo(90, 9);
  });

  test("are read with the part, each problem at its place", () => {
    const read = (outlines: unknown) => {
      const result = readDocument({ ...newPart("Part"), outlines });
      return result.ok ? [] : result.error.map((p) => `${p.path} ${p.message}`);
    };
    expect(read([{ key: "a", outline: bracket }])).toEqual([]);
    expect(read({})[0]).toContain("/outlines This must be a list.");
    expect(read([{ outline: bracket }])[0]).toContain("/outlines/0/key");
    expect(read([{ key: "a", outline: { ...bracket, points: {} } }])[0]).toContain(
      '/outlines/0/outline/curves/0/a There is no point called "a".',
    );
    expect(
      read([
        { key: "a", outline: bracket },
        { key: "a", outline: bracket },
      ])[0],
    ).toContain("used twice");
  });
});

/** An outline of straight lines and arcs through places; an arc comes with its middle and sense. */
const lines = (
  name: string,
  places: readonly (readonly [number, number])[],
  more: Partial<Outline> = {},
): Outline => ({
  format: "hillcrest-outline",
  version: 1,
  name,
  points: Object.fromEntries(places.map((p, i) => [`p${i}`, p])),
  curves: places.slice(1).map((_, i) => ({ id: `l${i}`, kind: "line", a: `p${i}`, b: `p${i + 1}` })),
  relations: [],
  dimensions: [],
  ...more,
});
const closed = (name: string, places: readonly (readonly [number, number])[]): Outline => {
  const open = lines(name, places);
  const last = places.length - 1;
  return { ...open, curves: [...open.curves, { id: `l${last}`, kind: "line", a: `p${last}`, b: "p0" }] };
};
const plate: StepDocument = { id: "s1", kind: "plate", width: "120", depth: "80" };
const edge = (name: string) => [{ key: "a", at: name }];

describe("a leg of a drawn outline", () => {
  const ear = closed("Ear", [
    [-20, 0],
    [20, 0],
    [20, 10],
    [0, 30],
    [-20, 10],
  ]);
  const wall = {
    id: "s2",
    kind: "flange",
    edges: edge("s1.north"),
    length: "30",
    shape: "drawn",
    drawn: "a",
  };

  test("is the leg of a flange and of a lug, its sides named as its lines", () => {
    const flange = examinePart(part([ear], plate, wall));
    expect(messages(flange)).toEqual([]);
    const leg = platesOf(flange.sheet).find((p) => p.id === "s2a")!;
    expect(leg.edges.map((e) => e.role).sort()).toEqual(["l1", "l2", "l3", "l4"]);
    expect(flange.bends[0].length).toBeCloseTo(40, 9);
    const lug = examinePart(part([ear], plate, { ...wall, kind: "lug", width: "40" }));
    expect(lug.blank!.area).toBeCloseTo(9600 + 40 * 10 + 40 * 10, 8);
  });

  test.each([
    [
      "behind the bend",
      closed("Leg", [
        [-20, -2],
        [20, 0],
        [0, 9],
      ]),
      /reaches 2 mm behind the line/,
    ],
    [
      "off the bend",
      closed("Leg", [
        [-20, 3],
        [20, 3],
        [0, 9],
      ]),
      /does not stand on the bend/,
    ],
    [
      "in two pieces",
      {
        ...ear,
        curves: [...ear.curves, { id: "o", kind: "circle", c: "c", r: 3 }],
        points: { ...ear.points, c: [60, 9] },
      } as Outline,
      /has 2 areas; a leg takes one/,
    ],
    [
      "with an opening",
      {
        ...ear,
        curves: [...ear.curves, { id: "o", kind: "circle", c: "c", r: 3 }],
        points: { ...ear.points, c: [0, 9] },
      } as Outline,
      /There is an opening in the outline/,
    ],
    [
      "that is open",
      lines("Leg", [
        [-20, 0],
        [20, 0],
        [0, 9],
      ]),
      /bounds no area/,
    ],
  ])("%s is told, and the plate stands", (_, outline, says) => {
    const build = examinePart(part([outline], plate, wall));
    expect(messages(build).join()).toMatch(says);
    expect(build.blank!.area).toBeCloseTo(9600, 9);
  });
});

describe("a profile along a drawn chain", () => {
  const chain = (outline: Outline, more: object = {}) =>
    examinePart(
      part([outline], { id: "s1", kind: "profile", by: "drawn", drawn: "a", width: "50", ...more }),
    );
  const legs = (rows: readonly object[], more: object = {}) =>
    examinePart(part([], { id: "s1", kind: "profile", legs: rows, width: "50", ...more } as StepDocument));

  test("is the same as of the legs that it says, whichever side its corners are on", () => {
    const drawnZ = chain(
      lines("Z", [
        [0, 0],
        [40, 0],
        [40, 25],
        [70, 25],
      ]),
    );
    expect(drawnZ.findings.filter((f) => f.level === "stop")).toEqual([]);
    const given = legs([
      { key: "a", length: "40", turn: "90" },
      { key: "b", length: "25", turn: "-90" },
      { key: "c", length: "30" },
    ]);
    expect(drawnZ.blank!.height).toBeCloseTo(given.blank!.height, 9);
    expect(drawnZ.bends.map((b) => b.up)).toEqual(given.bends.map((b) => b.up));
    expect(drawnZ.folded!.box.max).toEqual(given.folded!.box.max.map((v) => expect.closeTo(v, 9)));
  });

  test("rolls its arcs about the radius that is drawn", () => {
    const hook: Outline = {
      ...lines("Hook", [
        [0, 0],
        [40, 0],
        [60, 20],
        [60, 50],
      ]),
      points: { p0: [0, 0], p1: [40, 0], p2: [60, 20], p3: [60, 50], m: [40, 20] },
      curves: [
        { id: "l0", kind: "line", a: "p0", b: "p1" },
        { id: "a1", kind: "arc", a: "p1", b: "p2", c: "m", ccw: true },
        { id: "l2", kind: "line", a: "p2", b: "p3" },
      ],
    };
    const made = chain(hook, { on: "inner" });
    expect(messages(made)).toEqual([]);
    expect(made.bends.map((b) => [b.radius, b.angle])).toEqual([
      [expect.closeTo(20, 9), expect.closeTo(Math.PI / 2, 9)],
    ]);
    const given = legs(
      [
        { key: "a", length: "40" },
        { key: "b", form: "arc", turn: "90", radius: "20" },
        { key: "c", length: "30" },
      ],
      { on: "inner" },
    );
    expect(made.blank!.height).toBeCloseTo(given.blank!.height, 9);
  });

  test.each([
    [
      "closed",
      closed("O", [
        [0, 0],
        [40, 0],
        [40, 30],
      ]),
      /The chain is closed/,
    ],
    ["of nothing", lines("Nothing", []), /Nothing is drawn/],
    ["a circle", round(5), /A circle leads nowhere/],
    [
      "branching",
      lines(
        "Y",
        [
          [0, 0],
          [40, 0],
          [60, 20],
        ],
        {
          points: { p0: [0, 0], p1: [40, 0], p2: [60, 20], p3: [60, -20] },
          curves: [
            { id: "a", kind: "line", a: "p0", b: "p1" },
            { id: "b", kind: "line", a: "p1", b: "p2" },
            { id: "c", kind: "line", a: "p1", b: "p3" },
          ],
        },
      ),
      /several chains|branches/,
    ],
    [
      "with a leg too short for its bends",
      lines("Short", [
        [0, 0],
        [40, 0],
        [40, 3],
        [80, 3],
      ]),
      /leave less than nothing of it/,
    ],
  ])("that is %s is told at the outline", (_, outline, says) => {
    const build = chain(outline);
    expect(messages(build).join()).toMatch(says);
    expect(build.findings[0].field).toBe("drawn");
    expect(build.sheet).toBeUndefined();
  });
});

describe("a fold along a drawn line", () => {
  const fold = (outline: Outline, more: object = {}) =>
    examinePart(
      part([outline], plate, {
        id: "s2",
        kind: "fold",
        from: edge("s1.south"),
        by: "drawn",
        drawn: "a",
        ...more,
      } as StepDocument),
    );

  test("bends where it is drawn, in the frame of the plate", () => {
    const slanted = fold(
      lines("Line", [
        [-60, 5],
        [60, 15],
      ]),
    );
    expect(messages(slanted)).toEqual([]);
    expect(slanted.bends[0].length).toBeCloseTo(Math.hypot(120, 10), 6);
    const level = fold(
      lines("Line", [
        [-10, 5],
        [10, 5],
      ]),
    );
    const beside = examinePart(
      part([], plate, { id: "s2", kind: "fold", from: edge("s1.south"), distance: "45" } as StepDocument),
    );
    expect(level.folded!.box.max).toEqual(beside.folded!.box.max.map((v) => expect.closeTo(v, 9)));
  });

  test("takes one straight line, and says so of anything else", () => {
    expect(
      messages(
        fold(
          lines("Two", [
            [-60, 5],
            [0, 5],
            [60, 15],
          ]),
        ),
      ).join(),
    ).toMatch(/has 2 pieces/);
    expect(messages(fold(lines("None", []))).join()).toMatch(/Nothing is drawn/);
  });
});

describe("what is drawn on the part", () => {
  /** A triangle whose base lies on the plate's north edge, from its middle to its east end. */
  const notch: Outline = {
    ...closed("Notch", [
      [0, 40],
      [60, 40],
      [30, 20],
    ]),
    points: { p0: [0, 40], p1: [60, 40], p2: [30, 20], e0: [-60, 40], e1: [60, 40] },
    curves: [
      ...closed("Notch", [
        [0, 40],
        [60, 40],
        [30, 20],
      ]).curves,
      { id: "ref", kind: "line", a: "e0", b: "e1", construction: true },
    ],
    references: [{ id: "ref", to: "s1.north" }],
    relations: [
      { id: "r1", kind: "middle", of: ["p0", "ref"] },
      { id: "r2", kind: "coincident", of: ["p1", "e1"] },
    ],
    dimensions: [
      { id: "d1", kind: "toLine", of: ["p2", "ref"], value: 20 },
      { id: "d2", kind: "distanceX", of: ["p0", "p2"], value: 30 },
    ],
  };
  const cut: StepDocument = {
    id: "s2",
    kind: "cut",
    plate: edge("s1"),
    form: "drawn",
    drawn: "a",
    x: "0",
    y: "0",
  };

  test("follows it when the part changes, to the last digit", () => {
    for (const depth of [80, 100, 61.5]) {
      const build = examinePart(part([notch], { ...plate, depth: String(depth), width: "140" }, cut));
      expect(messages(build)).toEqual([]);
      // From the middle of the edge, 0, to its end, 70: a triangle 20 high.
      expect(build.blank!.area).toBeCloseTo(140 * depth - (70 * 20) / 2, 7);
      const [there] = build.outlines!;
      expect(there.solved.points.p2[1]).toBeCloseTo(depth / 2 - 20, 9);
      expect(there.behind!.map((b) => b.name)).toEqual(
        expect.arrayContaining(["s1.north", "s1.south", "s1.east", "s1.west"]),
      );
      // The document keeps what was drawn: only commands write there.
      expect(there.outline).toBe(notch);
    }
  });

  test("is held where it stands on the part as it is now, not as it was when it was drawn", () => {
    const loose: Outline = { ...notch, dimensions: [] };
    const document = part([loose], { ...plate, depth: "100" }, cut);
    const [there] = examinePart(document).outlines!;
    expect(there.solved.state).toBe("free");
    const held = holdAsItIs(standOnPart(loose, there.behind!).outline);
    const now = examinePart(part([held], { ...plate, depth: "100" }, cut)).outlines![0].solved;
    expect(now.state).toBe("fixed");
    for (const [id, [x, y]] of Object.entries(there.solved.points))
      expect([now.points[id][0], now.points[id][1]]).toEqual([expect.closeTo(x, 8), expect.closeTo(y, 8)]);
  });

  test("that is no longer there is said, and stays where it was", () => {
    const round = examinePart(part([notch], { ...plate, form: "round", diameter: "160" }, cut));
    expect(messages(round).join()).toMatch(/drawn on something that is not there any more \(s1\.north\)/);
    expect(round.outlines![0].lost).toEqual(["s1.north"]);
    expect(round.blank!.area).toBeLessThan(Math.PI * 80 * 80 - 500);
  });

  test("can be a bend line, an opening, a round border", () => {
    const wall: StepDocument = { id: "s3", kind: "flange", edges: edge("s1.north"), length: "30" };
    const holed = { ...plate, holes: [{ key: "h", x: "10", y: "5", d: "8" }] };
    const names = (...steps: StepDocument[]) => {
      const build = examinePart(part([round(4)], ...steps));
      return build.outlines![0].behind!;
    };
    const behind = names(holed, wall, { ...cut, id: "s4" });
    const line = (name: string) => {
      const curve = behind.find((b) => b.name === name)!.curve;
      return curve.kind === "line" ? [curve.a[1], curve.b[1]] : [];
    };
    const BA = (Math.PI / 2) * (1.5 + 0.42 * 1.5);
    expect(line("tangent:s3a")).toEqual([expect.closeTo(37, 9), expect.closeTo(37, 9)]);
    expect(line("bend:s3a")).toEqual([expect.closeTo(37 + BA / 2, 9), expect.closeTo(37 + BA / 2, 9)]);
    const circle = behind.find((b) => b.curve.kind === "circle")!;
    expect(circle.curve).toMatchObject({
      c: [expect.closeTo(10, 9), expect.closeTo(5, 9)],
      r: expect.closeTo(4, 9),
    });
    expect(circle.label).toBe("opening in A");
  });
});

describe("the numbers of an outline in the part's other expressions", () => {
  const named: Outline = {
    ...bracket,
    dimensions: [
      ...bracket.dimensions.map((d) => (d.id === "d4" ? { ...d, name: "bow" } : d)),
      { id: "d9", kind: "distance", of: ["a", "c"], value: 0, showing: true, name: "across" },
    ],
  };
  const made = (length: string, ...outlines: Outline[]) =>
    examinePart(
      part(outlines.length ? outlines : [named], drawn, {
        id: "s2",
        kind: "plate",
        width: length,
        depth: "10",
        x: "200",
      } as StepDocument),
    );
  const width = (length: string) => {
    const build = made(length);
    expect(build.findings.filter((f) => f.level === "stop")).toEqual([]);
    return build.steps[1].values!.quantities.width;
  };

  test("are its dimensions by name, driving or showing, and the lengths of its arcs", () => {
    expect(width("w")).toBeCloseTo(60, 9);
    expect(width("2*bow + 1")).toBeCloseTo(12 * Math.PI + 1, 9);
    expect(width("across")).toBeCloseTo(Math.hypot(60, 28), 9);
    expect(width("arclength(round)/2")).toBeCloseTo(3 * Math.PI, 9);
    expect(made("w").names!.across.value).toBeCloseTo(Math.hypot(60, 28), 9);
  });

  test.each([
    ["arclength(south)", /no outline of the part has an arc called "south"/],
    ["arclength(5)", /takes the name of one arc/],
    ["arclength()", /needs a value/],
    ["bowl", /bowl/],
  ])("%s is told with what would do", (text, says) => {
    expect(messages(made(text)).join()).toMatch(says);
  });

  test("are told where two outlines have one name, or one does not go together", () => {
    expect(messages(made("w", named, { ...named, name: "Other" })).join()).toMatch(
      /“Bracket” and “Other” both have a number called so/,
    );
    const broken: Outline = {
      ...named,
      dimensions: [...named.dimensions, { id: "dx", kind: "length", of: ["south"], value: 11 }],
    };
    expect(messages(made("w", broken)).join()).toMatch(/the outline “Bracket” does not go together/);
  });

  test("follow a dimension that is given another name, in its outline and in the steps", () => {
    const document = part([named], drawn, {
      id: "s2",
      kind: "plate",
      width: "2*w + bow",
      depth: "w",
      x: "200",
    } as StepDocument);
    const before = examinePart(document).steps[1].values!.quantities;
    const next = renameDimension(document, "a", "d1", "wide");
    expect(next.outlines![0].outline.dimensions.map((d) => [d.name, d.value])).toEqual(
      expect.arrayContaining([
        ["wide", "width"],
        [undefined, "wide * 2/3"],
      ]),
    );
    expect(next.steps[1]).toMatchObject({ width: "2*wide + bow", depth: "wide" });
    expect(examinePart(next).steps[1].values!.quantities).toEqual(before);
    // A value of the part that is called so is what the steps mean.
    const own = { ...document, variables: [{ key: "a", name: "w", value: "7" }] };
    expect(renameDimension(own, "a", "d1", "wide").steps[1]).toMatchObject({ width: "2*w + bow" });
    // Without a name it is followed nowhere, and what uses it says so.
    const none = renameDimension(document, "a", "d1", "");
    expect(none.outlines![0].outline.dimensions[0].name).toBeUndefined();
    expect(messages(examinePart(none)).length).toBeGreaterThan(0);
  });

  test("lead back from an edge: why it is so long names the dimension that drives it", () => {
    const build = examinePart(part([named], drawn));
    const lines = whyEdge(part([named], drawn), build, "s1.south").lines.map((l) => l.text);
    expect(lines.join("\n")).toMatch(/line south of the outline “Bracket”, as it is solved/);
    expect(lines.join("\n")).toMatch(/w: length of south = width = 60/);
    const holed = part(
      [
        closed("Hole", [
          [0, 0],
          [12.5, 0],
          [12.5, 9],
          [0, 9],
        ]),
      ],
      plate,
      { id: "s2", kind: "cut", plate: edge("s1"), form: "drawn", drawn: "a", x: "0", y: "0" } as StepDocument,
    );
    const sides = platesOf(examinePart(holed).sheet)[0].edges.map((e) => e.role);
    expect(sides).toContain("s2-l0");
    const cutLines = whyEdge(holed, examinePart(holed), "s1.s2-l0").lines;
    expect(
      cutLines.some((l) => l.text.includes("line l0 of the outline “Hole”") && l.source === "step 2"),
    ).toBe(true);
  });
});
