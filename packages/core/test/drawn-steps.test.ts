import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import {
  broughtUpToDate,
  createPartBuilder,
  examinePart,
  followingCopy,
  newPart,
  type Outline,
  type PartBuild,
  type PartDocument,
  platesOf,
  readDocument,
  readOutlinesText,
  renameVariable,
  type StepDocument,
  writeDxf,
} from "../src/index.ts";

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
    const dxf = writeDxf(build.sheet!, build.blank!);
    expect(
      dxf.split("\n").some((line) => Math.abs(Math.abs(Number(line)) - Math.tan(Math.PI / 8)) < 1e-9),
    ).toBe(true);
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
