import { readdirSync, readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  asCircle,
  type BlankToDraw,
  BUILT_IN_PRESETS,
  type DrawnBlank,
  drawBlank,
  type ExportPreset,
  examinePart,
  isDrawable,
  loopArea,
  type PartDocument,
  PLAIN_PRESET,
  proveDxf,
  readDocumentText,
  writeDxf,
} from "../src/index.ts";
import { sameCases } from "./random-cases.ts";
import { randomChain } from "./random-chains.ts";
import { randomPart } from "./random-parts.ts";
import { readBySecond, type SecondReading } from "./second-reader.ts";

sameCases(1313);

const demo = new URL("../../../demo/", import.meta.url);
const demoParts: PartDocument[] = readdirSync(demo)
  .filter((f) => f.endsWith(".json"))
  .map((f) => {
    const read = readDocumentText(readFileSync(new URL(f, demo), "utf8"));
    if (!read.ok) throw new Error(f);
    return read.value;
  });

/** Presets that differ in everything that a file can be written by. */
const PRESETS: readonly ExportPreset[] = [
  ...BUILT_IN_PRESETS,
  { ...PLAIN_PRESET, id: "apart", curves: "separate", units: "in", turn: "smallest" },
  { ...PLAIN_PRESET, id: "apart-r12", version: "r12", curves: "separate", turn: "longest", origin: "middle" },
  {
    ...PLAIN_PRESET,
    id: "all",
    turn: "smallest",
    bendLines: "ticks",
    partName: true,
    edgeTicks: true,
    sideMark: true,
    text: "strokes",
    layers: PLAIN_PRESET.layers.map((l) => ({ ...l, leftOut: false })),
  },
];

interface Case {
  readonly name: string;
  readonly preset: ExportPreset;
  readonly drawn: DrawnBlank;
  readonly text: string;
  readonly build: BlankToDraw["build"];
}

function drawnBy(name: string, document: PartDocument, presets: readonly ExportPreset[]): Case[] {
  const build = examinePart(document);
  if (!isDrawable(build)) return [];
  return presets.map((preset) => {
    const drawn = drawBlank({ document, build, preset });
    const { version } = preset;
    return { name: `${name}-${preset.id}`, preset, drawn, build, text: writeDxf(drawn.drawing, { version }) };
  });
}

/** What leaves gaps, marks instead of openings, and fewer pieces: only the proof knows what is to be there. */
const PARTED: readonly ExportPreset[] = [
  { ...PLAIN_PRESET, id: "jointed", jointsOutline: 3, jointsOpening: 1, jointWidth: 0.4 },
  { ...PLAIN_PRESET, id: "jointed-apart", version: "r12", units: "in", curves: "separate", jointsOutline: 2 },
  { ...PLAIN_PRESET, id: "marked", centresBelow: 6, bendLines: "ticks", tickLength: 3 },
  { ...PLAIN_PRESET, id: "shortened", shortest: 0.2, turn: "smallest" },
];

/** Holds what a second reader found to the blank itself. */
function holdsTo({ name, preset, drawn, build }: Case, read: SecondReading): void {
  const { blank } = build;
  const unit = preset.units === "in" ? 25.4 : 1;
  const where = (what: string) => `${name}: ${what}`;
  expect(read.complaints, where("complaints")).toEqual([]);
  expect(read.version, where("version")).toBe(preset.version === "r12" ? "AC1009" : "AC1015");
  if (preset.version !== "r12") expect(read.units, where("units")).toBe(preset.units === "in" ? 1 : 4);
  const kinds: Record<string, number> = {};
  for (const e of drawn.drawing.entities) {
    const kind =
      e.kind === "chain"
        ? preset.version === "r12"
          ? "POLYLINE"
          : "LWPOLYLINE"
        : e.kind === "curve"
          ? e.curve.kind.toUpperCase()
          : e.kind.toUpperCase();
    kinds[kind] = (kinds[kind] ?? 0) + 1;
  }
  expect(read.kinds, where("entities")).toEqual(kinds);
  const flat = [...read.circles.map((c) => c[4]), ...read.lines.map((l) => l[5])];
  expect(
    flat.every((z) => z === 0),
    where("flat"),
  ).toBe(true);
  const round = blank.openings.flatMap((o) => asCircle(o) ?? []);
  expect(read.circles.filter((c) => c[0] === "OPENINGS").length, where("circles")).toBe(round.length);
  const radii = (list: readonly number[]) => [...list].sort((a, b) => a - b);
  const found = radii(read.circles.filter((c) => c[0] === "OPENINGS").map((c) => c[3] * unit));
  radii(round.map((c) => c.r)).forEach((r, i) => {
    expect(Math.abs(found[i] - r), where("radius")).toBeLessThan(1e-9);
  });
  if (preset.curves === "joined") {
    const cut = read.loops.filter(([layer, closed]) => closed && ["OUTLINE", "OPENINGS"].includes(layer));
    const sum = (layer: string) =>
      cut.filter((l) => l[0] === layer).reduce((s, l) => s + Math.abs(l[2]), 0) +
      read.circles.filter((c) => c[0] === layer).reduce((s, c) => s + Math.PI * c[3] ** 2, 0);
    const want = [...blank.outlines, ...blank.openings].reduce((s, l) => s + loopArea(l), 0);
    expect(Math.abs((sum("OUTLINE") - sum("OPENINGS")) * unit * unit - want), where("area")).toBeLessThan(
      1e-6 * Math.max(1, want * 1e-5),
    );
  }
}

describe("a blank as DXF", () => {
  const cases = [
    ...demoParts.flatMap((d, i) => drawnBy(`demo${i}`, d, PRESETS)),
    // The larger part of these is written by one preset each: it is the parts that differ.
    ...fc
      .sample(randomPart, { numRuns: 340, seed: 7 })
      .flatMap((d, i) => drawnBy(`part${i}`, d, [PRESETS[i % PRESETS.length]])),
    ...fc
      .sample(randomChain, { numRuns: 160, seed: 8 })
      .flatMap((d, i) => drawnBy(`chain${i}`, d, [PRESETS[i % PRESETS.length]])),
  ];

  it("is proven by the first reader for every demo part and 500 random ones, by every kind of preset", () => {
    expect(cases.length).toBeGreaterThan(500);
    for (const { name, drawn, text, preset } of cases) {
      const proof = proveDxf(text, drawn, preset.version);
      expect(
        proof.lines.filter((l) => !l.holds).map((l) => l.text),
        name,
      ).toEqual([]);
    }
  });

  it("with joints, marks for small openings and short pieces joined is proven too, and read without complaint", () => {
    const parted = [
      ...demoParts.flatMap((d, i) => drawnBy(`demo${i}`, d, PARTED)),
      ...fc
        .sample(randomPart, { numRuns: 200, seed: 9 })
        .flatMap((d, i) => drawnBy(`part${i}`, d, [PARTED[i % PARTED.length]])),
    ];
    for (const { name, drawn, text, preset } of parted)
      expect(
        proveDxf(text, drawn, preset.version)
          .lines.filter((l) => !l.holds)
          .map((l) => l.text),
        name,
      ).toEqual([]);
    expect(parted.some((c) => c.drawn.facts.joints > 0 && c.drawn.facts.openings.length > 0)).toBe(true);
    const read = readBySecond(new Map(parted.map((c) => [c.name, c.text])));
    for (const { name } of parted) expect(read.get(name)!.complaints, name).toEqual([]);
  });

  it("is read without complaint by a second reader, which finds the same", () => {
    const read = readBySecond(new Map(cases.map((c) => [c.name, c.text])));
    expect(read.size).toBe(cases.length);
    for (const one of cases) holdsTo(one, read.get(one.name)!);
  });
});
