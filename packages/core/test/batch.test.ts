import { describe, expect, it } from "vitest";
import {
  type BatchOrder,
  batchDrawing,
  batchPart,
  curvesBounds,
  curvesOfShape,
  cutListCsv,
  DEFAULT_PATTERN,
  distinctNames,
  MOST_IN_ONE_FILE,
  nameBy,
  namedFiles,
  patternProblem,
  proofsText,
  proveDxf,
  safeName,
  sideBySide,
  togetherFiles,
  tooManyTogether,
  writeDxf,
} from "../src/index.ts";
import { drawnOf, part, plate, presetWith, shapesIn } from "./plain-parts.ts";

const order: BatchOrder = { format: "dxf", preset: presetWith(), apart: false, anyway: false };
const small = part(plate("40", "20", [{ key: "h", x: "0", y: "0", d: "5" }]));
const split = part(plate("80", "40"), {
  id: "s2",
  kind: "split",
  from: [{ key: "a", at: "s1.south" }],
  distance: "15",
  gap: "6",
});
const words = { part: "Tray", material: "Steel", thickness: "1.5", quantity: "3", piece: "1", number: "7" };

describe("names of many files", () => {
  it("follow their pattern, and hold nothing that a disk would not take", () => {
    expect(nameBy(DEFAULT_PATTERN, words)).toBe("Tray_Steel_1.5_3");
    expect(nameBy("{number} {part}", { ...words, part: "../../etc/<x>" })).toBe("7 _.._etc_x_");
    expect(safeName("   ")).toBe("part");
    for (const kept of ["CON", "aux.txt", "COM1.dxf", "nul", "Lpt9.tar.gz", "prn "])
      expect(safeName(kept), kept).toBe(`_${kept.trim()}`);
    for (const plain of ["console", "aux-plate", "com10", "COMMON.txt"]) expect(safeName(plain)).toBe(plain);
    expect(safeName("x".repeat(5000)).length).toBe(100);
    expect(nameBy("{part}", { ...words, part: "" })).toBe("-");
  });

  it("are never twice the same, whatever the case of their letters", () => {
    expect(distinctNames(["a", "A", "a", "b"])).toEqual(["a", "A-2", "a-3", "b"]);
    const many = distinctNames(Array.from({ length: 5000 }, () => "same"));
    expect(new Set(many).size).toBe(5000);
  });

  it.each([
    ["", /needs at least one word/],
    ["   ", /needs at least one word/],
    ["{part}_{colour}", /There is no \{colour\}/],
    ["{part", /brace stands alone/],
    ["part}", /brace stands alone/],
  ])("by a pattern that is none are refused: %s", (pattern, said) => {
    expect(patternProblem(pattern)).toMatch(said);
  });

  it("by a pattern that is one are not", () => {
    for (const p of [DEFAULT_PATTERN, "{part}", "blank {piece} of {part}", "no words"])
      expect(patternProblem(p)).toBeUndefined();
  });
});

describe("a part of many", () => {
  it("leaves as its file with its proof and its line of the cut list", () => {
    const { files, row, facts } = batchPart({ document: small, quantity: 4 }, order);
    expect(files.length).toBe(1);
    expect(files[0].proof.every((l) => l.holds)).toBe(true);
    expect(row).toMatchObject({ part: "Part", quantity: 4, width: 40, height: 20, openings: 1, bends: 0 });
    expect(row.refused).toBeUndefined();
    expect(facts?.area).toBeCloseTo(800 - Math.PI * 6.25, 9);
  });

  it("is refused with the reason where it cannot be cut or a finding stops it, unless that is meant", () => {
    expect(batchPart({ document: part(), quantity: 1 }, order).row.refused).toBe("there is no blank to cut");
    // A hole that leaves the floor in two.
    const stopped = part(plate("40", "20", [{ key: "h", x: "0", y: "0", d: "30" }]));
    const refused = batchPart({ document: stopped, quantity: 1 }, order);
    expect([refused.files.length, refused.row.refused]).toEqual([
      0,
      expect.stringMatching(/^a finding stops it: ./),
    ]);
    expect(batchPart({ document: stopped, quantity: 1 }, { ...order, anyway: true }).files.length).toBe(1);
    expect(batchPart({ document: small, quantity: 1 }, { ...order, format: "dwg" }).row.refused).toMatch(
      /no format dwg/,
    );
  });

  it("of several pieces leaves as one file or one each, whose areas are the whole", () => {
    const whole = batchPart({ document: split, quantity: 1 }, { ...order, anyway: true });
    expect(whole.files.length).toBe(1);
    const apart = batchPart({ document: split, quantity: 1 }, { ...order, apart: true, anyway: true });
    expect(apart.files.map((f) => f.words.piece)).toEqual(["1", "2"]);
    const area = (f: (typeof apart.files)[number]) =>
      Number(/area ([\d.]+)/.exec(f.proof.map((l) => l.text).join())![1]);
    expect(apart.files.reduce((s, f) => s + area(f), 0)).toBeCloseTo(area(whole.files[0]), 2);
  });
});

describe("blanks side by side", () => {
  const sizes = [
    [80, 40],
    [30, 90],
    [55, 55],
    [10, 10],
  ] as const;
  const wanted = sizes.map(([w, h], i) => ({
    drawn: drawnOf(part(plate(String(w), String(h), [{ key: "h", x: "0", y: "0", d: "4" }]))),
    quantity: i + 1,
  }));

  it("are all there as often as they are wanted, none nearer to another than was asked, proven as one", () => {
    const all = sideBySide(wanted, 5);
    expect(all.facts.outlines.length).toBe(1 + 2 + 3 + 4);
    const boxes = all.facts.outlines.map((loop) => {
      const xs = loop.flatMap((c) => [c.a.x, c.b.x]);
      const ys = loop.flatMap((c) => [c.a.y, c.b.y]);
      return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
    });
    boxes.forEach((p, i) => {
      boxes.slice(i + 1).forEach((q) => {
        const gap = Math.max(q[0] - p[2], p[0] - q[2], q[1] - p[3], p[1] - q[3]);
        expect(gap).toBeGreaterThan(5 - 1e-9);
      });
    });
    const proof = proveDxf(writeDxf(all.drawing, { version: "r12" }), all, "r12");
    expect(proof.lines.filter((l) => !l.holds)).toEqual([]);
  });

  it("lie in rows that come near a square", () => {
    const { drawing } = sideBySide(
      Array.from({ length: 100 }, () => ({ drawn: wanted[2].drawn, quantity: 1 })),
      2,
    );
    const { maxX, maxY } = drawing.bounds;
    expect(Math.max(maxX, maxY) / Math.min(maxX, maxY)).toBeLessThan(1.4);
  });
});

describe("blanks of several stocks", () => {
  const of = (name: string, thickness: string, width: string) => ({
    ...part(plate(width, "40")),
    name,
    stock: { material: "Steel", thickness },
  });
  const answers = [of("Wide", "2", "90"), of("Lid", "1", "60"), of("Long", "2", "120")].map((document, i) => {
    const { drawn, row } = batchDrawing({ document, quantity: i + 1 }, order);
    return { drawn: drawn!, row };
  });
  const together = (stocks: "files" | "groups", text: "text" | "strokes" = "text") => {
    const made = togetherFiles(answers, { preset: presetWith({ text }), spacing: 5, stocks });
    if (!made.ok) throw new Error(made.error);
    return made.value;
  };

  it("leave as a file for each, with the stock of each part beside it", () => {
    const files = together("files");
    expect(files.map((f) => [f.name, f.parts])).toEqual([
      ["Steel 2 mm", [0, 2]],
      ["Steel 1 mm", [1]],
    ]);
    for (const { text, proof } of files)
      expect([text.length > 0, proof.every((l) => l.holds)]).toEqual([true, true]);
    expect(files[0].text.match(/Wide, Steel 2 mm|Long, Steel 2 mm/g)?.length).toBe(4);
    expect(files[0].text).not.toContain("Lid");
    expect(together("files", "strokes")[0].text).not.toContain("Wide, Steel");
  });

  it("are in one unit, however each of the parts is shown", () => {
    const shown = (["in", "mm", "fractions"] as const).map((units, i) => {
      const document = { ...of(`Part ${i}`, "2", "100"), units };
      const { drawn, row } = batchDrawing({ document, quantity: 1 }, order);
      return { drawn: drawn!, row };
    });
    expect(shown.map(({ drawn }) => drawn.drawing.units)).toEqual(["mm", "mm", "mm"]);
    const inches = { ...order, preset: presetWith({ units: "in" }) };
    const asked = batchDrawing({ document: of("Lid", "1", "60"), quantity: 1 }, inches);
    expect(asked.drawn!.drawing.units).toBe("in");
    const made = togetherFiles(shown, { preset: presetWith(), spacing: 5, stocks: "files" });
    // Three blanks of 100 by 40 beside and over one another, and nothing of 4 by 1.6.
    const outlines = made.ok ? shapesIn(made.value[0].text).shapes.filter((s) => s.kind === "chain") : [];
    expect(outlines).toHaveLength(3);
    for (const { corners } of outlines) {
      const xs = corners.map((c) => c.at[0]);
      expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(100, 6);
    }
  });

  it("or in one file as groups, each under its stock's name, a wide gap from the next and no label over a blank", () => {
    const [file, ...others] = together("groups");
    expect(others).toEqual([]);
    expect(file.proof.every((l) => l.holds)).toBe(true);
    const { shapes, layers } = shapesIn(file.text);
    const boxes = shapes.flatMap((s, i) =>
      layers![i] === "OUTLINE" ? [curvesBounds(curvesOfShape(s))] : [],
    );
    expect(boxes.length).toBe(6);
    const thin = boxes.filter((b) => Math.abs(b.maxX - b.minX - 60) < 1e-6);
    const thick = boxes.filter((b) => !thin.includes(b));
    const gap = Math.min(...thin.map((b) => b.minY)) - Math.max(...thick.map((b) => b.maxY));
    expect(gap).toBeGreaterThan(20);
    const texts = [
      ...file.text.matchAll(
        /TEXT\r\n[\s\S]*? 10\r\n([^\r]+)\r\n 20\r\n([^\r]+)\r\n[\s\S]*? {2}1\r\n([^\r]+)/g,
      ),
    ];
    expect(texts.map((t) => t[3]).filter((t) => /^Steel \d mm$/.test(t))).toEqual([
      "Steel 2 mm",
      "Steel 1 mm",
    ]);
    for (const [, x, y] of texts)
      for (const b of boxes)
        expect(
          Number(x) > b.minX + 1e-6 && Number(x) < b.maxX - 1e-6 && Number(y) > b.minY && Number(y) < b.maxY,
        ).toBe(false);
  });

  it("of which there are none are refused in words", () => {
    expect(togetherFiles([], { preset: presetWith(), spacing: 5, stocks: "files" })).toEqual({
      ok: false,
      error: "None of these parts can be written.",
    });
  });
});

describe("what goes with the files", () => {
  it("is a cut list that says of each what it is, and why one is not there", () => {
    const rows = [
      { ...batchPart({ document: small, quantity: 2 }, order).row, file: "a.dxf" },
      { ...batchPart({ document: part(), quantity: 1 }, order).row, file: "" },
    ];
    const [head, first, second] = cutListCsv(rows).split("\r\n");
    expect(head.split(",")[0]).toBe("file");
    expect(first).toMatch(/^a\.dxf,Part,Galvanised steel,1\.5,2,40\.000,20\.000,/);
    expect(second).toMatch(/there is no blank to cut,$/);
  });

  it("is the proof of every file, with its hash", () => {
    const text = proofsText([
      {
        name: "a.dxf",
        sha256: "00ff",
        proof: [
          { holds: true, text: "x" },
          { holds: false, text: "y" },
        ],
      },
    ]);
    expect(text).toBe("a.dxf\n  sha256 00ff\n  holds: x\n  DOES NOT HOLD: y\n");
  });

  it("is drawn for a file that all share, or refused likewise", () => {
    expect(batchDrawing({ document: small, quantity: 1 }, order).drawn?.facts.openings.length).toBe(1);
    expect(batchDrawing({ document: part(), quantity: 1 }, order).drawn).toBeUndefined();
  });
});

describe("files of many parts", () => {
  const row = (name: string) => ({ part: name, material: "Steel", thickness: 1, quantity: 1 });
  const file = (name: string, piece = "1") => ({ words: { ...words, part: name, piece } });

  it("are named by the pattern, numbered through, none twice, each in the row of its part", () => {
    const { files, rows } = namedFiles(
      [
        { row: row("Tray"), files: [file("Tray"), file("Tray", "2")] },
        { row: { ...row("Lid"), refused: "there is no blank to cut" }, files: [] },
        { row: row("tray"), files: [file("tray")] },
      ],
      "{part}",
      "dxf",
    );
    expect(files.map((f) => f.name)).toEqual(["Tray.dxf", "Tray-2.dxf", "tray-3.dxf"]);
    expect(files.map((f) => f.words.piece)).toEqual(["1", "2", "1"]);
    expect(rows.map((r) => r.file)).toEqual(["Tray.dxf Tray-2.dxf", "", "tray-3.dxf"]);
    expect(rows[1].refused).toBe("there is no blank to cut");
    const numbered = namedFiles([{ row: row("a"), files: [file("a"), file("b")] }], "{number}", "svg");
    expect(numbered.files.map((f) => f.name)).toEqual(["1.svg", "2.svg"]);
    expect(namedFiles([], "{part}", "dxf")).toEqual({ files: [], rows: [] });
  });

  it("side by side are no more than one file can have, and say how many they would be", () => {
    const drawn = drawnOf(small);
    const each = drawn.drawing.entities.length;
    const most = Math.floor(MOST_IN_ONE_FILE / each);
    expect(tooManyTogether([{ drawn, quantity: most }])).toBeUndefined();
    expect(tooManyTogether([{ drawn, quantity: most + 1 }])).toBe(
      `Side by side these would be ${(most + 1) * each} lines, arcs and circles; one file can have ${MOST_IN_ONE_FILE}. Take fewer, or a file for each.`,
    );
    expect(
      tooManyTogether([
        { drawn, quantity: most },
        { drawn, quantity: most },
      ]),
    ).toMatch(/Take fewer/);
  });

  it("of a part that findings stop say so, one by one and together, where they leave all the same", () => {
    const stopped = part(plate("100", "50"), {
      id: "s2",
      kind: "flange",
      edges: [{ key: "a", at: "s1.east" }],
      length: "1",
    });
    const refused = batchPart({ document: stopped, quantity: 1 }, order);
    expect(refused.files).toEqual([]);
    expect(refused.row.refused).toMatch(/^a finding stops it: /);
    const { files } = batchPart({ document: stopped, quantity: 1 }, { ...order, anyway: true });
    expect(String(files[0].content)).toMatch(/^ *999\r\nFindings stop this part: Flange 2: /m);
    expect(files[0].proof.some((l) => l.text.startsWith("Findings stop this part: Flange 2: "))).toBe(true);
    const { drawn } = batchDrawing({ document: stopped, quantity: 1 }, { ...order, anyway: true });
    const whole = sideBySide(
      [
        { drawn: drawn!, quantity: 2 },
        { drawn: drawnOf(small), quantity: 1 },
      ],
      5,
    );
    expect(whole.stops).toEqual(drawn!.stops);
    expect(whole.stops.length).toBe(1);
  });
});
