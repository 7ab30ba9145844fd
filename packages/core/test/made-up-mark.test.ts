import { describe, expect, test, vi } from "vitest";
import { summarize } from "../src/formats/json/summary.ts";
import {
  buildPart,
  curveLength,
  examinePart,
  foldedMarks,
  foldSheet,
  type PartDocument,
  type StepDocument,
} from "../src/index.ts";
import { evenState } from "../src/sheet/folding/fold.ts";
import { dxfOf, part, plate, shapesIn } from "./plain-parts.ts";

// The line in the registry that a new kind takes.
vi.mock("../src/steps/registry.ts", async (original) => {
  const { STEP_KINDS: kinds, stepKind: known } = await original<typeof import("../src/steps/registry.ts")>();
  const { scribeStep } = await import("./made-up/scribe.ts");
  return {
    STEP_KINDS: [...kinds, scribeStep],
    stepKind: (kind: string) => (kind === "scribe" ? scribeStep : known(kind)),
  };
});

const at = (name: string) => [{ key: "a", at: name }];
const scribe = (values: object = {}, on = "s1"): StepDocument => ({
  ...{ id: "s3", kind: "scribe", plate: at(on), x: "-15", y: "0", length: "30" },
  ...values,
});
const wall: StepDocument = { id: "s2", kind: "flange", edges: at("s1.north"), length: "40" };
const marksOf = (document: PartDocument) => buildPart(document).blank!.marks;
const lengths = (document: PartDocument) =>
  marksOf(document).map(({ curves }) => curves.reduce((sum, c) => sum + curveLength(c), 0));

describe("a step that marks a plate", () => {
  test("takes no metal, and is seen on the blank, in the table and in the DXF", () => {
    const [plain, marked] = [part(plate("120", "80")), part(plate("120", "80"), scribe())].map((d) =>
      examinePart(d),
    );
    expect(marked.blank!.area).toBe(plain.blank!.area);
    expect(marked.folded!.volume).toBe(plain.folded!.volume);
    expect(marked.blank!.marks).toHaveLength(1);
    expect(summarize("P", marked).features).toEqual([
      { step: "s3", kind: "mark", size: { width: 30, height: 0 }, thread: null, hardware: null, count: 1 },
    ]);
    const document = part(plate("120", "80"), scribe());
    const { text, proof } = dxfOf(document, { contents: ["outline", "openings", "marks"] });
    expect(proof.lines.filter((l) => !l.holds)).toEqual([]);
    const { shapes, layers } = shapesIn(text);
    const engraved = shapes.filter((_, i) => layers![i] === "ENGRAVING");
    expect(engraved.map((s) => s.kind)).toEqual(["line"]);
  });

  test("ends where the metal does, also at an opening that a later step cuts", () => {
    const hole: StepDocument = {
      ...{ id: "s4", kind: "cut", plate: at("s1"), form: "round", diameter: "10", x: "0", y: "0" },
    };
    expect(lengths(part(plate("120", "80"), scribe()))).toEqual([30]);
    expect(lengths(part(plate("120", "80"), scribe(), hole))[0]).toBeCloseTo(20, 9);
    expect(lengths(part(plate("120", "80"), scribe({ x: "50" })))[0]).toBeCloseTo(10, 9);
    expect(lengths(part(plate("120", "80"), scribe({ x: "500" })))).toEqual([]);
  });

  test("is repeated by a pattern and a mirror, and parted by a fold and a split", () => {
    const row: StepDocument = {
      ...{ id: "s4", kind: "pattern", steps: at("s3"), form: "row" },
      ...{ count: "3", pitch: "10", direction: "90" },
    };
    const fold: StepDocument = { id: "s4", kind: "fold", from: at("s1.west"), distance: "60", angle: "90" };
    const base = [plate("120", "80"), scribe({ length: "40" })];
    expect(lengths(part(...base, row))).toEqual([40, 40, 40]);
    expect(marksOf(part(...base, row)).map((m) => m.feature)).toHaveLength(3);
    const whole: StepDocument = { id: "s4", kind: "mirror", what: "hand" };
    expect(lengths(part(...base, whole))).toEqual([40]);
    const parted = lengths(part(...base, fold));
    // On both plates and on the bend between them: as long as before.
    expect(parted.length).toBeGreaterThan(1);
    expect(parted.reduce((sum, l) => sum + l)).toBeCloseTo(40, 9);
    const split: StepDocument = { ...fold, kind: "split", gap: "2" };
    expect(lengths(part(...base, split)).reduce((sum, l) => sum + l)).toBeCloseTo(38, 9);
  });

  test("stands on its side of the folded plate", () => {
    const { sheet } = buildPart(part(plate("120", "80"), wall, scribe({ y: "20" }, "s2a")));
    const points = foldedMarks(sheet!, foldSheet(sheet!, evenState(sheet!, 1)), 0.1);
    expect(points.length).toBe(2);
    const [p, q] = points;
    expect(Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2])).toBeCloseTo(30, 9);
  });
});
