import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { evenState, examinePart, newPart, partStl, readDocument, type StepDocument } from "../src/index.ts";
import { flawsOfStl, volumeOfStl } from "./manifold.ts";

const at = (...names: string[]) => names.map((n, i) => ({ key: "abcdef"[i], at: n }));
const step = (id: string, kind: string, values: object): StepDocument => ({ id, kind, ...values });
const plate = step("s1", "plate", { width: "120", depth: "80" });
const all = at("s1.north", "s1.east", "s1.south", "s1.west");

const PARTS: Readonly<Record<string, readonly StepDocument[]>> = {
  "closed hems all round": [plate, step("s2", "hem", { edges: all, form: "closed", length: "8" })],
  "a closed hem on a flange": [
    plate,
    step("s2", "flange", { edges: at("s1.north"), length: "30" }),
    step("s3", "hem", { edges: at("s2a.end"), form: "closed", length: "8" }),
  ],
  "a closed hem on a part of two metres": [
    step("s1", "plate", { width: "2000", depth: "900" }),
    step("s2", "hem", { edges: all, form: "closed", length: "12" }),
  ],
  "a flange whose leg is nothing": [plate, step("s2", "flange", { edges: at("s1.north"), length: "3" })],
  "a rolled hem without a straight lip": [
    plate,
    step("s2", "hem", { edges: at("s1.north"), form: "rolled", radius: "4", angle: "270", lip: "0" }),
  ],
  "a jog whose bends follow each other at once": [
    plate,
    step("s2", "jog", { from: at("s1.south"), distance: "40", offset: "4.5", angle: "90" }),
  ],
  "a box whose corners touch": [
    plate,
    step("s2", "flange", { edges: all, length: "30", meet: "closed", gap: "0" }),
  ],
  "a cut of a thousandth": [
    plate,
    step("s2", "cut", { plate: at("s1"), form: "rectangle", width: "10", height: "0.001", x: "20", y: "10" }),
  ],
  "a flange that turns by 200°": [
    plate,
    step("s2", "flange", {
      edges: at("s1.north"),
      length: "10",
      lengthTo: "outermost",
      angle: "200",
      radius: "3",
    }),
  ],
};

describe("the STL of a folded part has no flaw that a reader of points would find", () => {
  test.each(Object.keys(PARTS))("%s", (name) => {
    const build = examinePart({ ...newPart(name), steps: PARTS[name] });
    // What a shop would not cut is built all the same.
    expect(
      build.findings.filter((f) => !["small-opening", "narrow-slit", "short-line"].includes(f.rule)),
    ).toEqual([]);
    for (const share of [1, 0.6]) {
      const stl = partStl(build.sheet!, evenState(build.sheet!, share), undefined, 0.02);
      expect(flawsOfStl(stl)).toEqual([]);
      if (share === 1) expect(volumeOfStl(stl) / build.folded!.volume).toBeCloseTo(1, 2);
    }
  });

  const demo = new URL("../../../demo/", import.meta.url);
  test.each(readdirSync(demo).filter((f) => f.endsWith(".json")))("%s", (file) => {
    const read = readDocument(JSON.parse(readFileSync(new URL(file, demo), "utf8")));
    if (!read.ok) throw new Error(read.error[0].message);
    const { sheet } = examinePart(read.value);
    expect(flawsOfStl(partStl(sheet!, evenState(sheet!, 1), undefined, 0.05))).toEqual([]);
  });
});
