import { readFileSync } from "node:fs";
import DxfParser, { type ICircleEntity, type ILineEntity, type ILwpolylineEntity } from "dxf-parser";
import { describe, expect, test } from "vitest";
import {
  cleanSurface,
  DOCUMENT_VERSION,
  dependentsOf,
  documentSchema,
  evenState,
  examinePart,
  foldMesh,
  foldSheet,
  isStopped,
  meshSheet,
  migrate,
  moveProblem,
  newPart,
  type PartDocument,
  platesOf,
  readDocument,
  readDocumentText,
  removeStep,
  type StepDocument,
  summarize,
  whyBend,
  writeStl,
} from "../src/index.ts";
import { dxfOf, part, withChange } from "./plain-parts.ts";

const plate: StepDocument = { id: "s1", kind: "plate", width: "120", depth: "80" };
const flange = (id: string, at: string, values: object = {}): StepDocument => ({
  id,
  kind: "flange",
  edges: [{ key: "a", at }],
  length: "25",
  ...values,
});
const messages = (document: PartDocument) => examinePart(document).findings.map((f) => f.message);

describe("a part with a value that cannot be", () => {
  test("says the least length that works, and keeps the rest of the part", () => {
    const build = examinePart(part(plate, flange("s2", "s1.east"), flange("s3", "s1.west", { length: "2" })));
    expect(build.findings[0].message).toBe(
      "Flange 3: 2 mm to the outer mould point leaves less than nothing after the bend. At radius 1.5 mm and 90° it must be at least 3 mm.",
    );
    expect(build.bends.map((b) => b.step)).toEqual(["s2"]);
    // The least length that it says does work.
    expect(messages(part(plate, flange("s3", "s1.west", { length: "3" })))).toEqual([]);
  });

  test("names the edge that is gone and the step that should have made it", () => {
    const steps = [plate, flange("s2", "s1.east"), flange("s3", "s2a.end")];
    expect(messages(part(plate, steps[2]))).toEqual([
      "Flange 2: the edge it stood on is gone. Pick another edge for it.",
    ]);
    const paused = part(plate, { ...steps[1], paused: true }, steps[2]);
    expect(messages(paused)[0]).toContain("edge B end is not there, because step 2 is paused");
    expect(messages(part(plate, steps[2], steps[1]))[0]).toContain("made by step 3, which comes later");
  });

  test.each([
    ["0", "must be more than 0"],
    ["-1", "must be more than 0"],
    ["0/0", "divides by zero"],
    ["", "A value is needed"],
  ])("thickness %s is a finding on the stock, not a crash", (thickness, reason) => {
    const build = examinePart({ ...part(plate), stock: { ...newPart("").stock, thickness } });
    expect(isStopped(build)).toBe(true);
    expect(build.findings[0]).toMatchObject({ rule: "stock", field: "thickness" });
    expect(build.findings[0].message).toContain(reason);
    // What leans on the thickness is not told as wrong too.
    expect(build.findings.length).toBe(1);
  });

  test("a radius that leans on itself is told at its place", () => {
    const build = examinePart(
      part(plate, flange("s2", "s1.east", { length: "width", width: "length*2", span: "width" })),
    );
    expect(build.findings.map((f) => f.field)).toEqual(expect.arrayContaining(["length", "width"]));
    expect(build.findings[0].message).toMatch(/depends on itself|has no value/);
    expect(platesOf(build.sheet).length).toBe(1);
  });

  test("two flanges on one place of an edge: the second is told what is taken", () => {
    const [message] = messages(part(plate, flange("s2", "s1.north"), flange("s3", "s1.north")));
    expect(message).toContain("Edge A north is taken from 0 mm to 120 mm");
  });

  test("a bend deeper than the plate behind it is refused", () => {
    const [message] = messages(
      part({ ...plate, depth: "5" }, flange("s2", "s1.north"), flange("s3", "s1.south")),
    );
    expect(message).toContain("needs 3 mm of plate A behind edge A south, but only 2 mm is there");
  });

  test("metal beside a bend without relief is warned of", () => {
    const partial = {
      span: "width",
      width: "30",
      leftRelief: "none",
      rightRelief: "square",
      rightReliefWidth: "2",
      rightReliefDepth: "1",
    };
    const build = examinePart(part(plate, flange("s2", "s1.north", partial)));
    expect(build.findings).toMatchObject([
      { level: "warn", rule: "relief", field: "leftRelief", pieces: [{ kind: "bend", id: "s2a" }] },
    ]);
  });

  test("a blank that lies over itself is a stop with its place", () => {
    const long = { length: "70", span: "width", width: "20", at: "right" };
    const over = part(
      plate,
      flange("s2", "s1.north", long),
      flange("s3", "s1.east"),
      flange("s4", "s2a.right", { length: "60" }),
      flange("s5", "s3a.left", { length: "60" }),
    );
    const stops = examinePart(over).findings.filter((f) => f.rule === "overlap");
    expect(stops.length).toBeGreaterThan(0);
    expect(stops[0].at).toBeDefined();
  });
});

describe("reading a document", () => {
  const problems = (value: unknown) => {
    const result = readDocument(value);
    return result.ok ? [] : result.error.map((p) => p.path);
  };

  test.each([
    "battery-tray",
    "cable-cover",
    "mast-bracket",
    "guy-wire-eye",
  ])("the demo part %s is read and has no findings", (name) => {
    const text = readFileSync(new URL(`../../../demo/${name}.json`, import.meta.url), "utf8");
    const result = readDocumentText(text);
    expect(result.ok && messages(result.value)).toEqual([]);
  });

  test("half a file names line and column", () => {
    const text = JSON.stringify(part(plate), null, 2).slice(0, 200);
    const result = readDocumentText(text);
    expect(!result.ok && result.error[0].message).toMatch(
      /^Line \d+, column \d+: the file ends in the middle/,
    );
    const typo = readDocumentText('{\n  "format": oops\n}');
    expect(!typo.ok && typo.error[0].message).toBe("Line 2, column 13: this is not valid JSON.");
  });

  test("twenty megabytes are refused before they are parsed", () => {
    const result = readDocumentText(`{"a":"${"x".repeat(20_000_000)}"}`);
    expect(!result.ok && result.error[0].message).toContain("20.0 MB");
  });

  test("a later version is refused, and unknown fields of this one are kept", () => {
    expect(problems({ ...part(plate), version: DOCUMENT_VERSION + 1 })).toEqual(["/version"]);
    const extra = { ...part({ ...plate, colour: "zinc" }), note: { a: 1 } };
    const result = readDocument(extra);
    expect(result.ok && result.value).toEqual(extra);
  });

  test.each<[string, unknown, string]>([
    ["another kind of step", part({ id: "s1", kind: "spline" }), "/steps/0/kind"],
    ["an id used twice", part(plate, plate), "/steps/1/id"],
    ["a choice that is none", part(plate, flange("s2", "s1.east", { turn: "sideways" })), "/steps/1/turn"],
    ["a length that is a list", part({ ...plate, width: [1] as never }), "/steps/0/width"],
    ["an edge without a plate", part(flange("s2", "north")), "/steps/0/edges/0/at"],
    [
      "a hole without a diameter",
      part({ ...plate, holes: [{ key: "a", x: 0, y: 0 }] }),
      "/steps/0/holes/0/d",
    ],
    ["no name", { ...part(plate), name: " " }, "/name"],
    ["steps that are none", { ...part(plate), steps: "none" }, "/steps"],
    ["infinity", part({ ...plate, width: Number.POSITIVE_INFINITY }), "/steps/0/width"],
  ])("%s is named by its place", (_name, value, path) => {
    expect(problems(value)).toContain(path);
  });

  test("documents are brought up version by version, and each step runs once", () => {
    const up = [(d: object) => ({ ...d, second: true }), (d: object) => ({ ...d, third: true })];
    expect(migrate({ version: 1, name: "x" }, up)).toEqual({
      ok: true,
      value: { version: 3, name: "x", second: true, third: true },
    });
    expect(migrate({ version: 2, name: "x" }, up)).toEqual({
      ok: true,
      value: { version: 3, name: "x", third: true },
    });
    expect(migrate({ version: 4 }, up).ok).toBe(false);
    expect(migrate({ version: 0.5 }, up).ok).toBe(false);
  });

  test("the published schema is the one in docs/format", () => {
    const kept = JSON.parse(
      readFileSync(new URL("../../../docs/format/part.schema.json", import.meta.url), "utf8"),
    );
    expect(documentSchema()).toEqual(kept);
  });
});

describe("editing a document", () => {
  const tree = part(plate, flange("s2", "s1.east"), flange("s3", "s2a.end"), flange("s4", "s1.west"));

  test("removing a step takes along what hangs on it, and nothing else", () => {
    expect(dependentsOf(tree, "s2").map((s) => s.id)).toEqual(["s3"]);
    const held = { ...tree, held: ["s3a", "s4a"], anchor: "s2a" };
    const left = removeStep(held, "s2");
    expect(left.steps.map((s) => s.id)).toEqual(["s1", "s4"]);
    expect(left.held).toEqual(["s4a"]);
    expect(left.anchor).toBeUndefined();
    expect(messages(left)).toEqual([]);
  });

  test("a step that stands on others cannot go before them", () => {
    expect(moveProblem(tree, "s3", 1)).toBe("Step 3 stands on what step 2 makes, so it must come after it.");
    expect(moveProblem(tree, "s4", 1)).toBeUndefined();
  });

  test("an early change is followed by all later steps through stable names", () => {
    const wide = examinePart(withChange(tree, "s1", { width: "200", depth: "90" }));
    expect(wide.findings.filter((f) => f.rule !== "deep-channel")).toEqual([]);
    expect(wide.bends.map((b) => b.length)).toEqual([90, 90, 90]);
  });
});

describe("what goes to the laser", () => {
  const tray = (): PartDocument => {
    const text = readFileSync(new URL("../../../demo/battery-tray.json", import.meta.url), "utf8");
    const read = readDocumentText(text);
    if (!read.ok) throw new Error("demo");
    return read.value;
  };

  test("is one closed outline with true arcs, round openings as circles, and bend lines by direction", () => {
    const build = examinePart(tray());
    const file = new DxfParser().parseSync(dxfOf(tray(), {}, build).text)!;
    expect(file.header.$INSUNITS).toBe(4);
    const on = (layer: string) => file.entities.filter((e) => e.layer === layer);
    const [outline] = on("OUTLINE") as ILwpolylineEntity[];
    expect(on("OUTLINE").length).toBe(1);
    expect(outline.shape).toBe(true);
    const round = build.blank!.outlines[0].filter((c) => c.kind === "arc").length;
    expect(outline.vertices.filter((v) => v.bulge).length).toBe(round);
    const xs = outline.vertices.map((v) => v.x);
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(build.blank!.width, 8);
    expect((on("OPENINGS") as ICircleEntity[]).map((c) => c.radius).sort()).toEqual([4, 4, 4, 4, 4, 9, 9]);
    expect(on("BENDS_UP").length).toBe(6);
    const [down] = on("BENDS_DOWN") as ILineEntity[];
    expect(Math.abs(down.vertices[0].x - down.vertices[1].x)).toBeCloseTo(308, 9);
    expect(on("TANGENTS")).toEqual([]);
    const all = new DxfParser().parseSync(dxfOf(tray(), { contents: ["outline", "tangents"] }, build).text)!;
    expect(new Set(all.entities.map((e) => e.layer))).toEqual(new Set(["OUTLINE", "TANGENTS"]));
    expect(all.entities.filter((e) => e.layer === "TANGENTS").length).toBe(14);
  });

  test("a torn relief is one open cut, and the outline stays a single loop without doubled lines", () => {
    const torn = {
      span: "width",
      width: "40",
      leftRelief: "torn",
      rightRelief: "torn",
      leftReliefDepth: "2",
      rightReliefDepth: "2",
    };
    const build = examinePart(part(plate, flange("s2", "s1.north", torn)));
    expect(build.findings).toEqual([]);
    const { outlines, slits } = build.blank!;
    expect(outlines.length).toBe(1);
    expect(slits.length).toBe(4);
    const ends = outlines[0].map((c) =>
      [c.a, c.b]
        .map((p) => `${p.x.toFixed(6)},${p.y.toFixed(6)}`)
        .sort()
        .join(" "),
    );
    expect(new Set(ends).size).toBe(ends.length);
  });

  test("the STL holds as many triangles as the mesh, in the box of the folded part", () => {
    const build = examinePart(tray());
    const mesh = foldMesh(meshSheet(build.sheet!, 0.05), foldSheet(build.sheet!, evenState(build.sheet!, 1)));
    const bytes = writeStl(cleanSurface(mesh));
    const view = new DataView(bytes.buffer);
    expect(view.getUint32(80, true)).toBe(mesh.triangles.length / 3);
    expect(bytes.length).toBe(84 + (mesh.triangles.length / 3) * 50);
    let top = Number.NEGATIVE_INFINITY;
    for (let at = 84; at < bytes.length; at += 50)
      for (let k = 0; k < 3; k++) top = Math.max(top, view.getFloat32(at + 12 + k * 12 + 8, true));
    expect(top).toBeCloseTo(build.folded!.box.max[2], 3);
  });

  test("the summary's numbers are the build's, and why ends in them", () => {
    const build = examinePart(tray());
    const summary = summarize("Battery tray", build);
    expect(summary.blank).toMatchObject({ width: 398.691592, openings: 7, roundOpenings: 7 });
    expect(summary.bends[0]).toMatchObject({
      number: 1,
      between: ["A", "B"],
      direction: "up",
      angle: 90,
      ba: 3.345796,
      bd: 2.654204,
      length: 314,
    });
    const why = whyBend(tray(), build, build.bends[0], "allowance");
    expect(why.lines[why.lines.length - 1].text).toBe("BA = 1.5708 × (1.5 + 0.42 × 1.5) = 3.3458");
  });
});
