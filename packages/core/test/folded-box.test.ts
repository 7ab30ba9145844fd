import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  bendsOf,
  evenState,
  examinePart,
  flattenCurve,
  foldedBox,
  foldPoint,
  foldSheet,
  newPart,
  type PartBuild,
  platesOf,
  type StepDocument,
} from "../src/index.ts";
import { casesOf } from "./random-cases.ts";

const at = (...names: string[]) => names.map((n, i) => ({ key: "abcdef"[i], at: n }));
const build = (stock: object, ...steps: StepDocument[]): PartBuild => {
  const part = newPart("Part");
  return examinePart({ ...part, stock: { ...part.stock, ...stock }, steps });
};
const sizeOf = (b: PartBuild) => b.folded!.box.max.map((v, k) => v - b.folded!.box.min[k]);

/** The box of so many points on every border that chords between them stay within a billionth. */
function sampledBox(b: PartBuild, share: number) {
  const sheet = b.sheet!;
  const folding = foldSheet(sheet, evenState(sheet, share));
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  [...platesOf(sheet), ...bendsOf(sheet)].forEach((piece, owner) => {
    for (const c of piece.regions.flatMap((r) => r.outer)) {
      const points =
        c.kind === "arc"
          ? flattenCurve(c, 1e-7)
          : Array.from({ length: 4001 }, (_, i) => ({
              x: c.a.x + ((c.b.x - c.a.x) * i) / 4000,
              y: c.a.y + ((c.b.y - c.a.y) * i) / 4000,
            }));
      for (const p of points)
        for (const w of [0, sheet.t])
          foldPoint(folding, owner, [p.x, p.y, w]).forEach((v, k) => {
            min[k] = Math.min(min[k], v);
            max[k] = Math.max(max[k], v);
          });
    }
  });
  return { min, max, folded: foldedBox(sheet, folding) };
}

const tilted = (tilt: string, angle: string, turn = "up") =>
  build(
    { thickness: "1.5", k: "0.4", radius: "2" },
    { id: "s1", kind: "plate", width: "60", depth: "100" },
    { id: "s2", kind: "fold", from: at("s1.south"), distance: "50", tilt, angle, turn },
  );

describe("the box of a folded part", () => {
  test("of a bend whose border is slanted reaches to where the border turns back", () => {
    expect(sizeOf(tilted("25", "70"))[0]).toBeCloseTo(69.36628, 4);
  });

  test("holds every point of a slanted bend, and is no larger", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -60, max: 60 }),
        fc.integer({ min: 5, max: 175 }),
        fc.constantFrom("up", "down"),
        fc.constantFrom(0.3, 0.7, 1),
        (tilt, angle, turn, share) => {
          const b = tilted(String(tilt), String(angle), turn);
          fc.pre(b.sheet !== undefined && b.bends.length === 1);
          const { min, max, folded } = sampledBox(b, share);
          for (const k of [0, 1, 2]) {
            expect(folded.max[k]).toBeGreaterThan(max[k] - 1e-9);
            expect(folded.min[k]).toBeLessThan(min[k] + 1e-9);
            expect(folded.max[k] - max[k]).toBeLessThan(1e-5);
            expect(min[k] - folded.min[k]).toBeLessThan(1e-5);
          }
        },
      ),
      { numRuns: casesOf(60) },
    );
  });

  test("follows a round border across a bend to within a millionth", () => {
    for (const x of ["0", "9", "22"]) {
      const b = build(
        { thickness: "1.5", k: "0.4", radius: "6" },
        { id: "s1", kind: "plate", width: "60", depth: "40" },
        { id: "s2", kind: "fold", from: at("s1.south"), distance: "20", tilt: "30", angle: "150" },
        { id: "s3", kind: "hold" },
        { id: "s4", kind: "cut", plate: at("s1"), form: "round", diameter: "30", x: "30", y: x },
        { id: "s5", kind: "hold", does: "fold" },
      );
      const { min, max, folded } = sampledBox(b, 1);
      for (const k of [0, 1, 2]) {
        expect(folded.max[k]).toBeGreaterThan(max[k] - 1e-9);
        expect(folded.min[k]).toBeLessThan(min[k] + 1e-9);
        expect(folded.max[k] - max[k]).toBeLessThan(2e-6);
        expect(min[k] - folded.min[k]).toBeLessThan(2e-6);
      }
    }
  });
});
