import { describe, expect, test } from "vitest";
import {
  buildPart,
  freePlace,
  lengthToStore,
  type PartDocument,
  platesOf,
  roundInches,
  type StepDocument,
  snapOnPlate,
  snapStep,
} from "../src/index.ts";
import { hole, part, plate } from "./plain-parts.ts";

const sheetOf = (...steps: StepDocument[]) => buildPart(part(...steps)).sheet!;
const snapped = (steps: StepDocument[], x: number, y: number, within = 2, step = 1) => {
  const sheet = sheetOf(...steps);
  return snapOnPlate(sheet, platesOf(sheet)[0], { x, y }, { within, step });
};

describe("a place that is pointed at", () => {
  const plain = [plate("121", "80")];
  test("is the middle of the plate where it is near to that, and in line with it where one way is", () => {
    expect(snapped(plain, 1.2, -0.9)).toEqual({ x: 0, y: 0 });
    expect(snapped(plain, 1.2, 20.3)).toEqual({ x: 0, y: expect.closeTo(20, 9) });
  });

  test("else stands on whole steps from the corner: its distances from the edges are whole", () => {
    // The plate is 121 wide: 60.5 to its left.
    expect(snapped(plain, 30.3, 20.3)).toEqual({ x: expect.closeTo(30.5, 9), y: expect.closeTo(20, 9) });
    const inch = snapped([plate("4 in", "2 in")], 30.3, 20.3, 0.1, snapStep("in"));
    expect(((inch.x + 50.8) / 25.4) * 16).toBeCloseTo(Math.round(((inch.x + 50.8) / 25.4) * 16), 9);
  });

  test("is in line with an opening that is there, each way by itself, and never with one that is far", () => {
    const holed = [plate("121", "80", [hole("6", "33.25", "-12.75")])];
    expect(snapped(holed, 34.6, 25.2)).toEqual({ x: expect.closeTo(33.25, 9), y: expect.closeTo(25, 9) });
    expect(snapped(holed, 10.2, -13.9)).toEqual({ x: expect.closeTo(10.5, 9), y: expect.closeTo(-12.75, 9) });
    expect(snapped(holed, 36, 25.2).x).toBeCloseTo(36.5, 9);
  });

  test("is the centre of an arc of the border", () => {
    const rounded: StepDocument[] = [
      plate("120", "80"),
      { id: "s2", kind: "round", which: "outside", radius: "40" } as StepDocument,
    ];
    const sheet = sheetOf(...rounded);
    const arcs = platesOf(sheet)[0].regions[0].outer.filter(
      (c) => c.kind === "arc" && !c.name?.includes(":"),
    );
    for (const arc of arcs)
      if (arc.kind === "arc") expect(snapped(rounded, arc.c.x + 1, arc.c.y - 1)).toEqual(arc.c);
  });
});

describe("a place that nobody has pointed at", () => {
  const free = (document: PartDocument) => freePlace(platesOf(buildPart(document).sheet)[0], 10);
  test("is the middle, or beside what stands there, in metal and clear of it", () => {
    expect(free(part(plate("120", "80")))).toEqual({ x: 0, y: 0 });
    const beside = free(part(plate("120", "80", [hole("20")])));
    expect(Math.hypot(beside.x, beside.y)).toBeGreaterThanOrEqual(15);
    expect(Math.abs(beside.x) + 5).toBeLessThanOrEqual(60);
    expect(Math.abs(beside.y) + 5).toBeLessThanOrEqual(40);
    // Where there is no room at all it is the middle still, and what is put there says what is wrong.
    expect(free(part(plate("8", "8")))).toEqual({ x: 0, y: 0 });
  });
});

describe("lengths that nobody has typed, in an inch part", () => {
  test.each([
    [10, "0.375 in"],
    [25, "1 in"],
    [40, "1.5 in"],
    [120, "4.5 in"],
    [6, "0.25 in"],
    [1.5, "0.06 in"],
    [0.2, "0.01 in"],
    [0, "0 in"],
    [-10, "-0.375 in"],
    [500, "20 in"],
    [0.0001, "0.01 in"],
  ])("%d mm begin as %s", (mm, said) => {
    expect(roundInches(mm, "in")).toBe(said);
  });

  test("are told as fractions where the part has them, and as they are where none is exact", () => {
    expect(roundInches(10, "fractions")).toBe("3/8 in");
    expect(lengthToStore(12.7, "fractions")).toBe("1/2 in");
    expect(lengthToStore(10, "fractions")).toBe("0.393701 in");
    expect(lengthToStore(10, "mm")).toBe("10");
  });
});
