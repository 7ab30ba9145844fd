import { describe, expect, it } from "vitest";
import { DxfWriter } from "../src/formats/dxf/group-codes.ts";
import {
  asCircle,
  curveLength,
  type ExportPreset,
  loopArea,
  loopLength,
  type PartDocument,
  proveDxf,
  type StepDocument,
  writeDxf,
} from "../src/index.ts";
import { moveCurve, translation } from "../src/plane/isometry.ts";
import { point } from "../src/plane/point.ts";
import { drawnOf, dxfOf, type PresetChange, part, plate } from "./plain-parts.ts";

const holes = [
  { key: "a", x: "-30", y: "0", d: "8" },
  { key: "b", x: "30", y: "0", d: "8" },
  { key: "c", x: "0", y: "12", d: "1.1" },
];
const flange = (more: object = {}): StepDocument => ({
  id: "s2",
  kind: "flange",
  edges: [{ key: "a", at: "s1.north" }],
  length: "25",
  ...more,
});
const bracket = part(plate("120", "60", holes), flange());

/** Lines of the proof of a text that was changed behind the writer's back; those that do not hold. */
function objections(
  change: (text: string) => string,
  preset: PresetChange = {},
  document: PartDocument = bracket,
): string[] {
  const { text, drawn } = dxfOf(document, preset);
  const changed = change(text);
  expect(changed).not.toBe(text);
  return proveDxf(changed, drawn, preset.version ?? "r2000")
    .lines.filter((l) => !l.holds)
    .map((l) => l.text);
}

/** The n-th entity of a kind, as the lines of the file. */
function entity(text: string, kind: string, n = 0): string {
  const parts = text.split("\r\n  0\r\n");
  const found = parts.filter((p) => p.startsWith(`${kind}\r\n`))[n];
  // From its own beginning to that of the next.
  return `${found}\r\n  0\r\n`;
}

describe("a proof", () => {
  it("holds for what was written", () => {
    for (const version of ["r12", "r2000"] as const)
      for (const curves of ["joined", "separate"] as const)
        expect(dxfOf(bracket, { version, curves }).proof.holds).toBe(true);
  });

  it.each<readonly [string, (text: string) => string, PresetChange, RegExp]>([
    [
      "a hole moved by a hundred thousandth",
      (t) =>
        t.replace(
          entity(t, "CIRCLE"),
          entity(t, "CIRCLE").replace(/ 10\r\n([\d.]+)/, (_, x) => ` 10\r\n${Number(x) + 1e-5}`),
        ),
      {},
      /round openings; 1 not/,
    ],
    [
      "a hole larger by a billionth",
      (t) => t.replace(entity(t, "CIRCLE"), entity(t, "CIRCLE").replace(/ 40\r\n4\.0/, " 40\r\n4.000000003")),
      {},
      /round openings; 1 not/,
    ],
    ["a hole less", (t) => t.replace(entity(t, "CIRCLE"), ""), {}, /closed loops/],
    [
      "a hole twice",
      (t) => t.replace(entity(t, "CIRCLE"), entity(t, "CIRCLE").repeat(2)),
      {},
      /written twice/,
    ],
    ["a bend line less", (t) => t.replace(entity(t, "LINE"), ""), {}, /bends up.*1 not there/],
    [
      "a bend line shorter",
      (t) =>
        t.replace(
          entity(t, "LINE"),
          entity(t, "LINE").replace(/ 11\r\n([\d.]+)/, (_, x) => ` 11\r\n${Number(x) - 0.5}`),
        ),
      {},
      /not there/,
    ],
    [
      "an outline that is open",
      (t) =>
        t.replace(entity(t, "LWPOLYLINE"), entity(t, "LWPOLYLINE").replace(/ 70\r\n {5}1/, " 70\r\n     0")),
      {},
      /1 open/,
    ],
    [
      "inches in the header",
      (t) => t.replace(/\$INSUNITS\r\n 70\r\n {5}4/, "$INSUNITS\r\n 70\r\n     1"),
      {},
      /does not say millimetres/,
    ],
    [
      "something above the plane",
      (t) => t.replace(entity(t, "LINE"), entity(t, "LINE").replace(/ 30\r\n0\.0/, " 30\r\n5.0")),
      {},
      /not at z 0/,
    ],
    [
      "something on a strange layer",
      (t) => t.replace(entity(t, "CIRCLE"), entity(t, "CIRCLE").replace("OPENINGS", "ELSEWHERE")),
      {},
      /some on ELSEWHERE/,
    ],
    [
      "a corner moved",
      (t) => t.replace(/(LWPOLYLINE[\s\S]*? 10\r\n)([\d.]+)/, (_, head, x) => `${head}${Number(x) + 0.01}`),
      {},
      /area/,
    ],
    [
      "a gap between lines that are apart",
      (t) =>
        t.replace(
          entity(t, "LINE", 2),
          entity(t, "LINE", 2).replace(/ 10\r\n([\d.]+)/, (_, x) => ` 10\r\n${Number(x) + 2e-5}`),
        ),
      { curves: "separate" },
      /open/,
    ],
    [
      "another scale",
      (t) =>
        t.replaceAll(
          /( 1[01]\r\n| 2[01]\r\n| 40\r\n)([\d.]+)/g,
          (_, code, v) => `${code}${Number(v) * 25.4}`,
        ),
      {},
      /extents/,
    ],
    ["half a file", (t) => t.slice(0, t.length / 2), {}, /cannot be read|closed loops/],
    ["no file at all", () => "not a drawing", {}, /./],
  ])("does not hold for %s", (_, change, preset, said) => {
    expect(objections(change, preset).join("\n")).toMatch(said);
  });

  it("objects to loops that stand elsewhere, also where what is missing of the metal and of its openings is alike", () => {
    const square = { form: "rectangle", width: "20", height: "20" };
    const cut: StepDocument = {
      id: "s2",
      kind: "cut",
      plate: [{ key: "a", at: "s1" }],
      ...square,
      x: "0",
      y: "0",
    };
    const two = part(plate("120", "60"), cut, { id: "s3", kind: "plate", width: "20", depth: "20" });
    const drawn = drawnOf(two);
    const [shifted, side] = [translation(point(2, 0)), 20];
    const isSquare = (e: (typeof drawn.drawing.entities)[number]) =>
      e.kind === "chain" && Math.abs(Math.abs(loopArea(e.curves)) - side * side) < 1e-9;
    const entities = drawn.drawing.entities.map((e) =>
      e.kind === "chain" && isSquare(e) ? { ...e, curves: e.curves.map((c) => moveCurve(shifted, c)) } : e,
    );
    expect(drawn.drawing.entities.filter(isSquare)).toHaveLength(2);
    const lines = (all: typeof entities) =>
      proveDxf(writeDxf({ ...drawn.drawing, entities: all }, { version: "r2000" }), drawn, "r2000").lines;
    expect(lines([...drawn.drawing.entities]).filter((l) => !l.holds)).toEqual([]);
    const area = lines(entities).find((l) => l.text.startsWith("area"))!;
    expect(area).toMatchObject({
      holds: false,
      text: expect.stringContaining("2 loops not where the blank has one"),
    });
  });
});

describe("how a blank is written", () => {
  it("as lines and arcs apart has one for each piece of each loop, round openings as circles", () => {
    const { drawn } = dxfOf(bracket, { curves: "separate" });
    const pieces = drawn.facts.outlines.flat().length;
    const kinds = drawn.drawing.entities.map((e) => `${e.kind} ${e.content}`);
    expect(kinds.filter((k) => k === "curve outline").length).toBe(pieces);
    expect(kinds.filter((k) => k === "circle openings").length).toBe(3);
  });

  it("in inches has every number over 25.4, and says so in the header or, in R12, beside it", () => {
    const [mm, inches] = [drawnOf(bracket), drawnOf(bracket, { units: "in" })];
    expect(inches.drawing.bounds.maxX * 25.4).toBeCloseTo(mm.drawing.bounds.maxX, 10);
    const r12 = dxfOf(bracket, { units: "in", version: "r12" });
    expect(r12.text).not.toContain("$INSUNITS");
    expect(r12.proof.lines.find((l) => l.text.startsWith("inches; R12 holds no units"))?.holds).toBe(true);
    expect(dxfOf(bracket, { units: "in" }).text).toMatch(/\$INSUNITS\r\n 70\r\n {5}1/);
  });

  it("has numbers as people write them: without the tail that rounding leaves, and never an exponent", () => {
    const { text, drawn } = dxfOf(bracket, { units: "in" });
    const values = [...text.matchAll(/\r\n [1-4]\d\r\n([^\r]+)/g)].map((m) => m[1].trim());
    expect(values.every((v) => /^-?\d+\.?\d*$/.test(v))).toBe(true);
    expect(values.filter((v) => /\.\d{13,}/.test(v) || /0000000\d$|9999999\d$/.test(v))).toEqual([]);
    const written = values.map(Number);
    for (const e of drawn.drawing.entities)
      if (e.kind === "circle") expect(written.some((w) => Math.abs(w - e.r) <= 1e-9)).toBe(true);
    // What rounding makes of 1.375 is 1.375 again; the last digits of a bulge stay.
    const numbers = (code: number, value: number) =>
      new DxfWriter().pair(code, value).text.trim().split(/\s+/)[1];
    expect(numbers(10, 1.3749999999999998)).toBe("1.375");
    expect(numbers(10, 4.9999999999999)).toBe("5.0");
    expect(numbers(10, 1e-12)).toBe("0.0");
    expect(numbers(10, 0.1 + 0.2)).toBe("0.3");
    expect(numbers(42, Math.SQRT2 - 1)).toBe("0.4142135623731");
  });

  it("with ticks has both ends of each bend line, and one line where two ticks would meet", () => {
    const long = drawnOf(bracket, { bendLines: "ticks", tickLength: 7 });
    const ticks = long.drawing.entities.flatMap((e) =>
      e.kind === "curve" && e.content === "bendsUp" ? [e.curve] : [],
    );
    expect(ticks.map(curveLength)).toEqual([expect.closeTo(7, 9), expect.closeTo(7, 9)]);
    const short = drawnOf(bracket, { bendLines: "ticks", tickLength: 80 });
    expect(short.drawing.entities.filter((e) => e.content === "bendsUp").length).toBe(1);
    expect(dxfOf(bracket, { bendLines: "ticks", tickLength: 7 }).proof.holds).toBe(true);
  });

  it("marks openings that are too small for the laser instead of cutting them", () => {
    const { drawn, proof } = dxfOf(bracket, { centresBelow: 2 });
    expect(drawn.facts.openings.length).toBe(2);
    expect(drawn.drawing.entities.filter((e) => e.content === "centres").length).toBe(2);
    expect(proof.holds).toBe(true);
    expect(proof.lines.map((l) => l.text)).toContain("1 opening below 2 mm is marked, not cut.");
  });

  it("leaves micro-joints: so many gaps of their width in the outline and in each opening, and no more", () => {
    const preset = { jointWidth: 0.4, jointsOutline: 3, jointsOpening: 1 };
    const { drawn, proof } = dxfOf(bracket, preset);
    const whole = drawnOf(bracket);
    expect(drawn.facts.joints).toBe(3 + 3);
    const cut = (d: typeof drawn) =>
      d.drawing.entities
        .filter((e) => e.content === "outline" || e.content === "openings")
        .reduce(
          (s, e) =>
            s +
            (e.kind === "circle"
              ? 2 * Math.PI * e.r
              : e.kind === "chain"
                ? loopLength(e.curves)
                : e.kind === "curve"
                  ? curveLength(e.curve)
                  : 0),
          0,
        );
    expect(cut(whole) - cut(drawn)).toBeCloseTo(6 * 0.4, 6);
    expect(proof.lines.filter((l) => !l.holds)).toEqual([]);
    expect(proof.lines.map((l) => l.text)).toContain("6 micro-joints of 0.400 mm");
    // The smallest hole is 3.5 mm round: a joint of 2 mm has no room in it.
    const wide = dxfOf(bracket, { jointWidth: 2, jointsOpening: 1 });
    expect(wide.drawn.facts.joints).toBe(2);
    expect(wide.drawn.notes.join()).toMatch(/no room for a micro-joint/);
    expect(wide.proof.holds).toBe(true);
  });

  it("joins pieces that are shorter than the shortest, and tells how many", () => {
    const rounded = part(plate("120", "60"), {
      id: "s2",
      kind: "round",
      corners: [{ key: "a", at: "s1.north+east" }],
      radius: "0.2",
    } as StepDocument);
    const { drawn, proof } = dxfOf(rounded, { shortest: 0.5 });
    expect(drawn.facts.joinedPieces).toBe(1);
    const [outline] = drawn.drawing.entities;
    expect(outline.kind === "chain" && outline.curves.length).toBe(4);
    // Its two neighbours are led on until they meet: the corner is sharp again.
    expect(outline.kind === "chain" && loopArea(outline.curves)).toBeCloseTo(7200, 9);
    expect(proof.lines.filter((l) => !l.holds)).toEqual([]);
  });

  it("writes a cut of no width once, and says so", () => {
    const torn = part(
      plate("120", "60"),
      flange({
        span: "width",
        width: "40",
        leftRelief: "torn",
        rightRelief: "torn",
        leftReliefDepth: "2",
        rightReliefDepth: "2",
      }),
    );
    const { proof, drawn } = dxfOf(torn);
    expect(drawn.facts.slits.length).toBe(4);
    expect(proof.lines.map((l) => l.text)).toContain("4 cuts of no width, each once");
    expect(proof.holds).toBe(true);
  });

  it("engraves name and side on the metal, clear of every line, as text or as strokes", () => {
    for (const text of ["text", "strokes"] as const) {
      const { drawn, proof } = dxfOf(bracket, { partName: true, sideMark: true, edgeTicks: true, text });
      const marks = drawn.drawing.entities.filter((e) => e.content === "marks");
      expect(marks.some((e) => e.kind === "text")).toBe(text === "text");
      expect(marks.length).toBeGreaterThan(text === "text" ? 3 : 10);
      expect(proof.holds).toBe(true);
    }
    const tiny = dxfOf(part(plate("3", "3")), { partName: true, textHeight: 20 });
    expect(tiny.drawn.notes.join()).toMatch(/no room for “Part”/);
    expect(tiny.proof.holds).toBe(true);
  });

  it("says of many things that have no room in one line what they are, so that its proof stays short", () => {
    const holes = Array.from({ length: 400 }, (_, i) => ({
      key: `h${i}`,
      x: String((i % 20) * 4 - 38),
      y: String(Math.floor(i / 20) * 4 - 38),
      d: "1",
    }));
    const field = dxfOf(part(plate("90", "90", holes)), { jointWidth: 2, jointsOpening: 1 });
    expect(field.drawn.notes).toEqual([
      "400 loops, the shortest 3.1 mm round, have no room for a micro-joint; they are cut whole.",
    ]);
    const long = "A name so long that nobody would engrave it, and longer still than that";
    const named = { ...part(plate("3", "3")), name: long };
    const { notes } = dxfOf(named, { partName: true, sideMark: true, textHeight: 20 }).drawn;
    expect(notes).toEqual([
      "There is no room for 2 notes, of which the first is “A name so long that nobody would engrave it, and longer sti…”; they are left out.",
    ]);
    for (const { proof } of [field]) {
      expect(proof.holds).toBe(true);
      expect(proof.lines.length).toBeLessThan(20);
    }
  });

  it("says what stops the part, in the file and in its proof, at most five one by one", () => {
    const wall = (id: string, edge: string): StepDocument => ({
      id,
      kind: "flange",
      edges: [{ key: "a", at: `s1.${edge}` }],
      length: "1",
    });
    const fine = dxfOf(bracket);
    expect(fine.drawn.stops).toEqual([]);
    expect(fine.text).not.toContain("Findings stop");
    const edges = ["north", "east", "south", "west"];
    for (const count of [1, 4]) {
      const document = part(plate("100", "50"), ...edges.slice(0, count).map((e, i) => wall(`s${i + 2}`, e)));
      const { text, proof, drawn } = dxfOf(document);
      expect(drawn.stops.length).toBe(count);
      expect(text.match(/^ *999\r\nFindings stop this part: /gm)?.length).toBe(count);
      const said = proof.lines.filter((l) => l.text.startsWith("Findings stop this part: "));
      expect(said.map((l) => l.text)).toEqual(drawn.stops);
      expect(proof.holds).toBe(true);
    }
    const many = part(
      plate("100", "50"),
      ...Array.from({ length: 9 }, (_, i) => wall(`s${i + 2}`, edges[i % 4])),
    );
    const told = drawnOf(many).stops;
    expect(told.length).toBe(6);
    expect(told[5]).toBe("Findings stop this part: 4 more like these.");
  });

  it("has the origin at a corner, in the middle or where it was modelled", () => {
    const at = (origin: ExportPreset["origin"]) => drawnOf(bracket, { origin }).drawing.bounds;
    expect(at("corner")).toMatchObject({ minX: 0, minY: 0 });
    const middle = at("middle");
    expect(middle.minX + middle.maxX).toBeCloseTo(0, 9);
    expect(at("modelled").minX).toBeCloseTo(-60, 9);
  });

  it("of a plate alone is as good as any", () => {
    const { drawn, proof } = dxfOf(part(plate("50", "30", [{ key: "h", x: "0", y: "0", d: "10" }])));
    expect(proof.holds).toBe(true);
    expect(drawn.facts.bendsUp.length + drawn.facts.bendsDown.length).toBe(0);
    expect(drawn.facts.openings.flatMap((o) => asCircle(o) ?? []).map((c) => c.r)).toEqual([5]);
  });

  it("says names in letters that every reader has", () => {
    const named = { ...bracket, name: "Büchse Ø 5 „neu“ 雨" };
    const { text } = dxfOf(named, { partName: true, textHeight: 2 });
    expect([...text].every((c) => c.charCodeAt(0) < 127)).toBe(true);
    expect(text).toContain('Buchse O 5 "neu" ?');
  });

  it("can be written again from what it drew", () => {
    const { drawn, text } = dxfOf(bracket);
    expect(writeDxf(drawn.drawing, { version: "r2000" })).toBe(text);
  });
});
