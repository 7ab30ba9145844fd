import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import {
  evenState,
  examinePart,
  flattenLoop,
  loopArea,
  meshSheet,
  partStl,
  platesOf,
  readDocument,
  regionLoops,
  type Sheet,
} from "../src/index.ts";
import { flawsOfStl, volumeOfStl } from "./manifold.ts";
import { part, plate } from "./plain-parts.ts";

const demo = new URL("../../../demo/", import.meta.url);
const sheetOf = (name: string): Sheet => {
  const read = readDocument(JSON.parse(readFileSync(new URL(name, demo), "utf8")));
  if (!read.ok) throw new Error(name);
  return examinePart(read.value).sheet!;
};

/** Of walls of flat plates: those whose outward directions are of another length, turned away, or inwards. */
function wrongWalls(sheet: Sheet, chord: number): string[] {
  const { walls, wallOwner, wallNormals, columns } = meshSheet(sheet, chord);
  const wrong: string[] = [];
  for (let w = 0; w < wallOwner.length; w++) {
    if (sheet.pieces[wallOwner[w]].kind !== "plate") continue;
    const [p, q] = [walls[2 * w], walls[2 * w + 1]];
    const [x, y] = [columns[2 * q] - columns[2 * p], columns[2 * q + 1] - columns[2 * p + 1]];
    const length = Math.hypot(x, y);
    for (const k of [4 * w, 4 * w + 2]) {
      const [u, v] = [wallNormals[k], wallNormals[k + 1]];
      // Chords of the coarsest arcs turn by an eighth: their ends look half of that aside.
      const aside = Math.abs(x * u + y * v) / length;
      const outward = (x * v - y * u) / length;
      if (Math.abs(Math.hypot(u, v) - 1) > 1e-6 || aside > 0.5 || outward > -0.8)
        wrong.push(`wall ${w} of piece ${wallOwner[w]} at ${columns[2 * p]}, ${columns[2 * p + 1]}`);
    }
  }
  return wrong;
}

describe("the walls of a surface", () => {
  const files = readdirSync(demo).filter((f) => f.endsWith(".json"));
  test.each(files)("look out of the metal, each square to its own border: %s", (name) => {
    expect(wrongWalls(sheetOf(name), 0.05)).toEqual([]);
  });
});

describe("openings that touch in a point", () => {
  /** Squares on their corners, at places along a line that goes up, or across, or aslant. */
  const chain = (places: readonly (readonly [number, number])[]) =>
    part(
      plate("200", "200"),
      ...places.map(([x, y], i) => ({
        id: `s${i + 2}`,
        kind: "cut",
        plate: [{ key: "a", at: "s1" }],
        form: "polygon",
        sides: "4",
        across: "10",
        turned: "45",
        x: `${x}`,
        y: `${y}`,
      })),
    );
  const corner = 10 / Math.SQRT2;
  const volumeOf = (sheet: Sheet) =>
    sheet.t *
    platesOf(sheet)
      .flatMap((p) => p.regions.flatMap(regionLoops))
      .reduce((sum, loop) => sum + loopArea(loop), 0);

  // Not in the order in which they stand: what is beside one another is not one after the other.
  const order = [3, 0, 5, 1, 4, 2];
  test.each([
    ["above one another", order.map((k) => [0, -40 + 2 * corner * k] as const)],
    ["beside one another", order.map((k) => [-40 + 2 * corner * k, 0] as const)],
    ["in a square", order.map((k) => [2 * corner * (k % 2), 2 * corner * (k >> 1)] as const)],
  ])("leave a surface without a flaw: %s", (_name, places) => {
    const { sheet } = examinePart(chain(places));
    const open = platesOf(sheet)[0].regions[0].holes;
    expect(open.length).toBeGreaterThan(0);
    const stl = partStl(sheet!, evenState(sheet!, 0), undefined, 0.05);
    expect(flawsOfStl(stl)).toEqual([]);
    expect(volumeOfStl(stl)).toBeCloseTo(volumeOf(sheet!), 1);
    // Every one of them is open: the metal is less by all of their squares.
    expect(volumeOf(sheet!)).toBeCloseTo(sheet!.t * (200 * 200 - places.length * 100), 3);
    expect(flattenLoop(open[0], 0.1).length).toBeGreaterThanOrEqual(4);
  });
});
