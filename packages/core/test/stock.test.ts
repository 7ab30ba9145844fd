import { readdirSync, readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  bendAllowance,
  buildPart,
  type CardSnapshot,
  type ChartRow,
  evaluateExpression,
  evaluateStock,
  examinePart,
  formatFraction,
  itemOf,
  mm,
  newPart,
  type PartDocument,
  readDocument,
  readDocumentText,
  readLibraryText,
  type StockLibrary,
  sayLengths,
  snapshotOf,
  storedFrom,
  typedFor,
  whyBend,
  whyBlankSize,
  whyMass,
} from "../src/index.ts";
import { spread } from "./random-cases.ts";

const demo = new URL("../../../demo/", import.meta.url);
const parts = readdirSync(demo)
  .filter((name) => name.endsWith(".json"))
  .map((name): [string, PartDocument] => {
    const read = readDocumentText(readFileSync(new URL(name, demo), "utf8"));
    if (!read.ok) throw new Error(`${name}: ${JSON.stringify(read.error)}`);
    return [name, read.value];
  });
const partNamed = (name: string) => parts.find(([n]) => n === name)![1];
const tray = () => partNamed("battery-tray.json");
const library = (): StockLibrary => {
  const read = readLibraryText(readFileSync(new URL("stock/library.json", demo), "utf8"));
  if (!read.ok) throw new Error(JSON.stringify(read.error));
  return read.value;
};
const cardNamed = (id: string): CardSnapshot => {
  const made = snapshotOf(library(), itemOf(library(), "cards", id)!, 1);
  if (!made.ok) throw new Error(made.error);
  return made.value;
};
const withStock = (stock: PartDocument["stock"]): PartDocument => ({ ...tray(), stock });
const messages = (document: PartDocument, rule: string) =>
  examinePart(document)
    .findings.filter((f) => f.rule === rule)
    .map((f) => `${f.level}: ${f.message}`);

test("the demo's parts hold the cards of the demo's shop as they are", () => {
  for (const [name, { stock }] of parts) {
    const card = stock.card as CardSnapshot | undefined;
    if (card) expect(card, name).toEqual(cardNamed(card.id));
  }
});

describe("a part with a stock card", () => {
  test("takes everything from it, and the chart's rows lead to its K", () => {
    const { stock } = evaluateStock({ card: cardNamed("ridge-galvanised-1-5") });
    expect(stock).toMatchObject({ thickness: 1.5, radius: 1.5, density: 7850, tensile: 420 });
    const { source, k } = stock!.kOf({ t: 1.5, r: 1.75, angle: Math.PI / 2 });
    expect(k).toBeCloseTo(0.425, 12);
    expect(source.lines.map((l) => l.source).filter(Boolean)).toEqual([
      "Ridge brake chart, row 3",
      "Ridge brake chart, row 4",
      "Ridge brake chart, row 5",
      "Ridge brake chart, row 6",
      "test bends",
    ]);
  });

  test("that says otherwise is marked: a warning without a reason, a note with one", () => {
    const card = cardNamed("ridge-galvanised-1-5");
    expect(messages(withStock({ card, radius: "2" }), "stock")).toEqual([]);
    const [warned] = messages(withStock({ card, radius: "1.8" }), "stock");
    expect(warned).toContain("warn: Stock: Inside radius 1.8 mm is not that of the card Galvanised 1.5");
    expect(warned).toContain("it allows 1.5 mm, 2 mm");
    const [noted] = messages(
      withStock({ card, flatBy: "DIN 6935", reason: "the customer asks for it" }),
      "stock",
    );
    expect(noted).toContain("note: Stock: Flat lengths are found by DIN 6935, not by the chart");
    expect(noted).toContain("the customer asks for it");
  });

  test("is told of bends that its chart does not reach, with the nearest rows", () => {
    const card = cardNamed("ridge-galvanised-1-5");
    const wide = {
      ...tray(),
      stock: { card },
      steps: tray().steps.map((s) => (s.id === "s4" ? { ...s, angle: "150" } : s)),
    };
    const [told] = messages(wide, "outside-chart");
    expect(told).toContain("warn: Bend 5: t 1.5 mm, r 1.5 mm, 150° lies outside the chart Ridge brake chart");
    expect(told).toContain("nearest is row 4 (t 1.5 mm, r 1.5 mm, 135°); K 0.42 of row 4 is used");
  });

  test("cannot be read when the card is broken, and the place is named", () => {
    const card = cardNamed("ridge-galvanised-1-5");
    const broken = {
      ...card,
      chart: { ...card.chart, rule: { ...card.chart.rule, rows: [[1.5, 1.5, 0, 0.4]], numbers: [1] } },
    };
    const read = readDocument(withStock({ card: broken }));
    expect(!read.ok && read.error[0]).toMatchObject({
      path: "/stock/card/chart/rule/rows/0",
      message: expect.stringContaining("0° is no bend"),
    });
  });

  test("gives force by its material and die, and warns when the die bears less", () => {
    const card = cardNamed("ridge-galvanised-1-5");
    const { force } = examinePart(withStock({ card })).bends[0];
    expect(force).toMatchObject({ v: 10, die: "v-10", tooMuch: false });
    expect(force!.perMetre).toBeCloseTo((1.33 * 420 * 1.5 ** 2) / 10, 12);
    const weak = { ...card, dies: card.dies.map((d) => ({ ...d, mostForce: 100 })) };
    expect(messages(withStock({ card: weak }), "die-force")).toEqual([
      expect.stringContaining("Bends 1, 2, 3, 4, 5, 6 and 7 take"),
    ]);
  });
});

describe("one bend that goes its own way", () => {
  const change = (values: Record<string, unknown>): PartDocument => ({
    ...tray(),
    steps: [...tray().steps, { id: "s9", kind: "bend", bends: [{ key: "a", at: "s2a" }], ...values }],
  });

  test("has the BA or the BD that it is given, to the last digits", () => {
    const by = (values: Record<string, unknown>) => buildPart(change(values)).bends[0];
    expect(by({ allowance: "3.5" }).allowance).toBeCloseTo(3.5, 14);
    expect(by({ deduction: "2.4" }).deduction).toBeCloseTo(2.4, 14);
    expect(messages(change({ allowance: "3.5", k: "0.4" }), "step")[0]).toContain("give one of them");
  });

  test("may have a K outside 0 to 1 only with a reason, and is told then too", () => {
    expect(messages(change({ k: "1.2" }), "step").join()).toContain("K 1.2 lies outside 0 to 1");
    expect(messages(change({ k: "1.2", reason: "coined" }), "k-range")).toEqual([
      "warn: Bend 1: K 1.2 lies outside 0 to 1; it is meant: coined.",
    ]);
  });

  test("is chosen by its V-width, and marked where the card does not allow it", () => {
    const wide = change({ radius: "V(12)" });
    expect(buildPart(wide).bends[0].radius).toBeCloseTo(1.92, 12);
    expect(messages(wide, "card-radius")[0]).toContain("warn: Bend 1: radius 1.92 mm");
    expect(messages(change({ radius: "V(12)", reason: "wide V only" }), "own-radius")[0]).toContain("note:");
    expect(messages(change({ radius: "2" }), "card-radius")).toEqual([]);
    const foot = partNamed("solar-panel-foot.json");
    const jogged = foot.steps.map((s) => (s.kind === "jog" ? { ...s, radius: "2.5" } : s));
    expect(messages({ ...foot, steps: jogged }, "card-radius")).toEqual([
      expect.stringMatching(/Bends \d and \d: radius/),
    ]);
  });
});

describe("why", () => {
  test.each(parts)("the blank of %s adds up from what one crosses", (_name, document) => {
    const build = examinePart(document);
    for (const side of ["width", "height"] as const) {
      const { lines } = whyBlankSize(document, build, side);
      const terms = lines.slice(0, -1).map((l) => Number(l.text.split(" = ").pop()));
      const sum = terms.reduce((a, b) => a + b, 0);
      expect(Math.abs(sum - build.blank![side])).toBeLessThan(1e-4 * (terms.length + 1));
    }
  });

  test("a blank of several sheets adds up from the sheets and what is free between them", () => {
    const cover = partNamed("terminal-cover.json");
    const two = examinePart(cover);
    const { lines } = whyBlankSize(cover, two, "width");
    expect(lines.map((l) => l.text.split(" = ")[0])).toEqual([
      "the sheet of plate A",
      "between the sheets",
      "the sheet of plate D",
      "width",
    ]);
    expect(lines[0].link).toMatchObject({ to: "step", id: "s1" });
    // They lie beside one another: the higher one alone gives the height.
    expect(whyBlankSize(cover, two, "height").lines[0].text).not.toMatch(/sheet/);
  });

  test.each(
    parts,
  )("every bend of %s leads to a source for its angle, radius, thickness and K", (_name, document) => {
    const build = examinePart(document);
    for (const row of build.bends) {
      const { lines } = whyBend(document, build, row, "allowance");
      for (const sign of ["θ = ", "r", "t = ", "K"]) {
        const line = lines.filter((l) => l.text.startsWith(sign) || l.text.includes(`→ ${sign}`));
        expect(
          line.some((l) => l.link),
          `${sign} of bend ${row.number}`,
        ).toBe(true);
      }
      expect(lines.at(-1)?.text).toContain(String(Number(row.allowance.toFixed(4))));
    }
    expect(whyMass(document, build).result).toBe(`${build.folded!.mass.toFixed(3)} kg`);
  });

  test("names the bend change that gave an angle, not the step that made the bend", () => {
    const changed: PartDocument = {
      ...tray(),
      steps: [...tray().steps, { id: "s9", kind: "bend", bends: [{ key: "a", at: "s2a" }], angle: "80" }],
    };
    const build = examinePart(changed);
    const { lines } = whyBend(changed, build, build.bends[0], "angle");
    expect(lines[0]).toMatchObject({ source: "step 6", link: { to: "step", id: "s9" } });
  });
});

describe("inches", () => {
  const names = (name: string) =>
    name === "t" ? ({ ok: true, value: { value: 1.5, dimension: "length" } } as const) : undefined;
  const value = (text: string) => {
    const result = evaluateExpression(text, { dimension: "length", names });
    if (!result.ok) throw new Error(result.error);
    return result.value;
  };

  test.each([
    ["0.75", 0.75 * 25.4],
    ["3/4", 19.05],
    ["1 1/2", 38.1],
    ["19mm", 19],
    ['3/4"', 19.05],
    ["2*t + 0.5", 3 + 12.7],
    ["2*t", 3],
    ["max(t, 1/8)", 3.175],
    ["5-1/2", 5.5 * 25.4],
    ["5 - 1/2", 4.5 * 25.4],
    ["10mm + 1/4", 10 + 6.35],
  ])("%s typed in an inch part is %d mm, and comes back as it was typed", (typed, mm) => {
    const stored = storedFrom(typed, "length", "in", names);
    expect(value(stored)).toBeCloseTo(mm, 10);
    const shown = typedFor(stored, "length", "in");
    expect(value(storedFrom(shown, "length", "in", names))).toBe(value(stored));
  });

  test("showing a part in other units changes no value of it", () => {
    fc.assert(
      fc.property(spread(0.01, 5000), (mm) => {
        const stored = String(Number(mm.toFixed(4)));
        // As so many inches, to the nearest ten-thousandth; a fraction only where it is that exactly.
        for (const units of ["in", "fractions"] as const) {
          const shown = typedFor(stored, "length", units);
          expect(shown).toMatch(/^(\d+(\.\d{1,4})?|(\d+ )?\d+\/\d+)$/);
          expect(Math.abs(value(storedFrom(shown, "length", units, names)) - mm)).toBeLessThan(25.4 * 6e-5);
        }
      }),
    );
    const before = buildPart(tray());
    const after = buildPart({ ...tray(), units: "in" });
    expect(after.blank).toEqual(before.blank);
  });

  test.each([
    [0.5, "1/2"],
    [1.1875, "1 3/16"],
    [2, "2"],
    [-0.25, "-1/4"],
    [0.06, "≈1/16"],
    [0, "0"],
  ])("%d in reads %s", (inches, text) => expect(formatFraction(inches)).toBe(text));

  test("messages speak of inches, but for areas", () => {
    const message = `${mm(4)} is too short for ${mm(-25.4)} and ${mm(1 / 3, 4)}; 120 mm² and 7 kN/m.`;
    expect(sayLengths(message, "in")).toBe(
      "0.1575 in is too short for -1 in and 0.0131 in; 120 mm² and 7 kN/m.",
    );
    expect(sayLengths(message, "mm")).toBe(
      "4 mm is too short for -25.4 mm and 0.3333 mm; 120 mm² and 7 kN/m.",
    );
    expect(sayLengths(message)).toBe(sayLengths(message, "mm"));
    // What a person has written is theirs.
    expect(sayLengths("Because 4 mm is what fits.", "in")).toBe("Because 4 mm is what fits.");
    const inch = {
      ...tray(),
      units: "in" as const,
      steps: tray().steps.map((s) => (s.id === "s2" ? { ...s, length: "2" } : s)),
    };
    expect(messages(inch, "step")[0]).toMatch(/0\.0787 in to the outer mould point.*at least 0\.1181 in/);
  });
});

test("a chart's number on its own equals the number in a part to the last digit", () => {
  const card = cardNamed("ridge-galvanised-1-5");
  const { rule } = card.chart;
  if (rule.method !== "table") throw new Error("a table was expected");
  const rows = rule.rows.map((r): ChartRow => [r[0], r[1], r[2], r[3] + r[2] / 7000]);
  const own = { ...card, chart: { ...card.chart, rule: { ...rule, rows } } };
  const build = buildPart(withStock({ card: own }));
  const { stock } = evaluateStock({ card: own });
  for (const row of build.bends) {
    const shape = { t: 1.5, r: row.radius, angle: row.angle };
    expect(bendAllowance(shape, stock!.kOf(shape).k)).toBe(row.allowance);
  }
});

describe("a file that is no stock library", () => {
  const told = (file: unknown) => {
    const read = readLibraryText(typeof file === "string" ? file : JSON.stringify(file));
    return read.ok ? [] : read.error.map((p) => `${p.path} ${p.message}`.trim());
  };

  test.each([
    ["something else", { a: 1 }],
    ["a part", newPart("Part")],
    ["one whose format is no word", { format: { name: "hillcrest-stock" } }],
  ])("is told what one is, and where a part is imported: %s", (_name, file) => {
    expect(told(file)).toEqual([
      '/format This is not a stock library: "format" must be "hillcrest-stock". A file from “Export library” says so; a part is imported on the Shelf.',
    ]);
  });

  test("or is one of a version that is not read here, or of none", () => {
    expect(told({ format: "hillcrest-stock", version: 99 })[0]).toContain("The library has version 99; this");
    expect(told({ format: "hillcrest-stock" })[0]).toContain("The library has no version; this");
    expect(told({ format: "hillcrest-stock", version: { of: 1 } })[0]).toContain("has no version");
  });

  test("or is cut off, or a list", () => {
    expect(told('{"format":"hillcrest-stock",')[0]).toContain("ends in the middle");
    expect(told([])).toEqual(["A stock library must be an object."]);
  });
});
