import { describe, expect, test } from "vitest";
import { buildPart, examinePart, ontoPlate, platesOf, type StepDocument } from "../src/index.ts";
import { part, plate, told } from "./plain-parts.ts";

const at = (...names: string[]) => names.map((name, i) => ({ key: "abcd"[i], at: name }));
const walls: StepDocument = {
  ...{ id: "s2", kind: "flange", edges: at("s1.north", "s1.east", "s1.south", "s1.west"), length: "40" },
};
const base = (...more: StepDocument[]) => part(plate("120", "80"), walls, ...more);
const sheetOf = (...more: StepDocument[]) => buildPart(base(...more)).sheet!;
const hole: StepDocument = {
  ...{ id: "s3", kind: "cut", plate: at("s1"), form: "round", diameter: "6", placed: "edges" },
  ...{ edge1: at("s1.west"), off1: "12", edge2: at("s1.north"), off2: "9" },
};

describe("a step that is put onto another plate", () => {
  test("stands on the edges that face the same way there, with its distances", () => {
    // In a wall's own frame its end is ahead as north is in the plate, and its left side west.
    const moved = ontoPlate(hole, sheetOf(), "s2b");
    expect(moved).toMatchObject({ plate: at("s2b"), edge1: at("s2b.left"), edge2: at("s2b.end") });
    expect(moved).toMatchObject({ off1: "12", off2: "9", diameter: "6" });
    const build = examinePart(base({ ...moved, id: "s4" }));
    expect(told(build).filter((m) => m.startsWith("stop"))).toEqual([]);
    expect(platesOf(build.sheet).find((p) => p.id === "s2b")!.regions[0].holes).toHaveLength(1);
  });

  test("asks for an edge that has no like there, and keeps what stands elsewhere", () => {
    const south: StepDocument = { ...hole, edge2: at("s1.south") };
    // A wall has no free edge where it hangs on its bend.
    const moved = ontoPlate(south, sheetOf(), "s2a");
    expect(moved.edge2).toEqual([]);
    expect(moved.edge1).toEqual(at("s2a.left"));
    expect(told(examinePart(base({ ...moved, id: "s4" }))).join()).toContain("Pick the edge");
    const elsewhere = { ...hole, edge2: at("s2c.end") };
    expect(ontoPlate(elsewhere, sheetOf(), "s2a").edge2).toEqual(at("s2c.end"));
  });

  test("is what it was on its own plate, and where either plate is not there", () => {
    for (const [step, to] of [
      [hole, "s1"],
      [hole, "s9"],
      [{ ...hole, plate: at("s9"), edge1: at("s9.west"), edge2: at("s9.north") }, "s2a"],
    ] as const)
      expect(ontoPlate(step as StepDocument, sheetOf(), to)).toBe(step);
  });
});
