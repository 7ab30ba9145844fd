import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import {
  examinePart,
  isDrawable,
  isStopped,
  newPart,
  type PartBuild,
  type PartDocument,
  readDocument,
  type StepDocument,
  summarize,
} from "../src/index.ts";
import { dxfOf, hole, part, plate, timed, told } from "./plain-parts.ts";

const demo = (name: string) =>
  JSON.parse(readFileSync(new URL(`../../../demo/${name}.json`, import.meta.url), "utf8"));
const read = (document: unknown): PartDocument => {
  const result = readDocument(document);
  if (!result.ok) throw new Error(result.error[0].message);
  return result.value;
};
/** Every number that leaves the core for a file is one. */
function expectFiniteFiles(build: PartBuild): void {
  const text = JSON.stringify(summarize("Part", build));
  expect(text).not.toMatch(/Infinity|NaN/);
  if (isDrawable(build)) expect(dxfOf(newPart("Part"), {}, build).text).not.toMatch(/Infinity|NaN/);
}

describe("absurd values", () => {
  test.each(["1e16", "1e308", "-1e16", "100001"])("a hole at %s is refused, and where", (x) => {
    const document = demo("cable-cover");
    document.steps[2].holes[2].x = x;
    const { build, took } = timed(read(document));
    expect(took).toBeLessThan(3000);
    expect(told(build)[0]).toMatch(
      /Flange 3: Hole 3, x: .* is too (large|small); it must be at (most|least) -?100000 mm/,
    );
    expectFiniteFiles(build);
  });

  test("a plate of no width beside a plain one is refused, and the plain one stands", () => {
    const first = demo("mast-bracket").steps[0];
    const document = {
      ...demo("mast-bracket"),
      steps: [
        { ...first, width: "0.0000001" },
        { ...first, id: "s2", holes: [] },
      ],
    };
    const { build, took } = timed(read(document));
    expect(took).toBeLessThan(3000);
    expect(told(build)).toEqual([
      "stop: Plate 1: Width: 1.0e-7 mm is too small; it must be at least 0.001 mm.",
    ]);
    expect(build.blank!.area).toBeCloseTo(110 * 150, 9);
  });

  test("a hole too fine for any tool is refused, not dropped", () => {
    const build = examinePart(part(plate("50", "50", [hole("1e-4")])));
    expect(told(build)[0]).toContain(
      "Hole 1, diameter: 0.0001 mm is too small; it must be at least 0.001 mm",
    );
  });

  test.each([
    ["thickness", "1e-7"],
    ["thickness", "1e16"],
    ["radius", "1e16"],
    ["k", "1e16"],
    ["density", "1e308"],
  ])("a stock whose %s is %s is refused", (key, value) => {
    const document = { ...demo("battery-tray"), stock: { ...newPart("x").stock, [key]: value } };
    const { build, took } = timed(read(document));
    expect(took).toBeLessThan(3000);
    expect(isStopped(build)).toBe(true);
    expectFiniteFiles(build);
  });
});

describe("a part that is nothing is stopped, and gives no numbers", () => {
  const wall = (length: string): StepDocument => ({
    id: "s2",
    kind: "flange",
    length,
    edges: ["north", "east", "south", "west"].map((e, i) => ({ key: "abcd"[i], at: `s1.${e}` })),
  });

  test.each([
    ["a hole as large as the plate's diagonal", part(plate("50", "50", [hole("71")]))],
    ["a hole far larger than a plate", part(plate("150", "150", [hole("16000")]))],
  ])("%s", (_what, document) => {
    const build = examinePart(document);
    expect(build.sheet).toBeUndefined();
    expect(build.blank).toBeUndefined();
    expect(told(build)).toContainEqual(
      expect.stringContaining("stop: Nothing is left of the blank: its cuts take all of the metal"),
    );
    expectFiniteFiles(build);
  });

  test.each(["204", "16000"])("a hole of %s in the floor of a box of 150", (d) => {
    const build = examinePart(part(plate("150", "150", [hole(d)]), wall("30")));
    expect(isStopped(build)).toBe(true);
    if (build.blank) expect(build.blank.area).toBeGreaterThan(0);
    expectFiniteFiles(build);
  });

  test("a blank that falls into pieces is stopped, and its pieces are counted", () => {
    const cut: StepDocument = {
      id: "s2",
      kind: "cut",
      plate: [{ key: "a", at: "s1" }],
      form: "rectangle",
      width: "10",
      height: "200",
      x: "0",
      y: "0",
    };
    const build = examinePart(part(plate("100", "50"), cut));
    expect(told(build)[0]).toContain("stop: The blank falls into 2 pieces");
    expect(build.blank!.area).toBeCloseTo(90 * 50, 9);
  });

  test("a sheet that was parted on purpose is not", () => {
    const split: StepDocument = {
      id: "s2",
      kind: "split",
      from: [{ key: "a", at: "s1.west" }],
      distance: "40",
      gap: "0",
    };
    const build = examinePart(part(plate("100", "50"), split));
    expect(told(build)).toEqual([]);
    expect(build.blank!.outlines.length).toBe(2);
  });
});

describe("many holes over each other", () => {
  test("a crowd of holes takes what its outline holds, however it is joined", () => {
    // 40 are combined in one go, 60 half by half: a row of holes each 2 apart is a slot with scallops.
    const rowOf = (n: number) =>
      part(
        plate(
          "400",
          "60",
          Array.from({ length: n }, (_, i) => hole("8", String(2 * i - n), "0", `k${i}`)),
        ),
      );
    const opening = (n: number) => 400 * 60 - examinePart(rowOf(n)).blank!.area;
    // Between neighbours 2 apart each circle of radius 4 adds the same lens-free strip.
    const strip = 2 * (Math.sqrt(16 - 1) + 16 * Math.asin(1 / 4));
    const lens = Math.PI * 16;
    for (const n of [10, 40, 60, 90]) expect(opening(n)).toBeCloseTo(lens + (n - 1) * strip, 6);
  });
});

describe("a pattern that no longer fits", () => {
  const holes = (width: string, count = "20") =>
    examinePart(
      part(
        plate(width, "40"),
        {
          id: "s2",
          kind: "cut",
          plate: [{ key: "a", at: "s1" }],
          form: "round",
          diameter: "6",
          x: "-90",
          y: "0",
        },
        { id: "s3", kind: "pattern", steps: [{ key: "a", at: "s2" }], count, pitch: "10" },
      ),
    );

  test("says how many of its places have metal", () => {
    expect(told(holes("210"))).toEqual([]);
    const shrunk = holes("190", "24");
    expect(shrunk.blank!.openings.length).toBe(19);
    expect(told(shrunk)).toEqual([
      "warn: 19 of 24 stand; 5 have no metal to cut. Make the pattern shorter, or what it stands on larger.",
    ]);
    expect(shrunk.findings[0].step).toBe("s3");
  });

  test("of tabs leaves out those that have no edge, and says so at its step", () => {
    const build = examinePart(
      part(
        plate("120", "80"),
        {
          id: "s2",
          kind: "flange",
          edges: [{ key: "a", at: "s1.north" }],
          span: "width",
          width: "10",
          at: "left",
          shift: "5",
          length: "20",
        },
        { id: "s3", kind: "pattern", steps: [{ key: "a", at: "s2" }], count: "9", pitch: "25" },
      ),
    );
    expect(build.bends.length).toBe(5);
    expect(told(build)).toEqual([
      "warn: Pattern 3: 5 of 9 stand; 4 have no edge to stand on. Make the pattern shorter, or the edge longer.",
    ]);
  });

  test("holes whose plate shrank away are told, many of them in one sentence", () => {
    const row = Array.from({ length: 10 }, (_, i) => hole("5", String(i * 20 - 90), "0", `k${i}`));
    expect(told(examinePart(part(plate("200", "40", row))))).toEqual([]);
    expect(told(examinePart(part(plate("90", "40", row))))).toEqual([
      "warn: 6 cuts lie outside the plate and cut nothing. The hole ⌀ 5 at -90, 0 on plate A is the first of them.",
    ]);
  });
});

describe("steps that leave others nothing", () => {
  const taken = part(
    {
      id: "s1",
      kind: "profile",
      legs: [{ key: "l0", form: "straight", length: 30.5, turn: 57, radius: 6.9 }],
    },
    {
      ...{ id: "s2", kind: "flange", span: "inset", leftInset: 7.3 },
      edges: ["s1.east", "s1.west"].map((at) => ({ key: at.slice(3, 4), at })),
    },
    {
      ...{ id: "s3", kind: "flange", angle: 150 },
      edges: [
        { key: "a", at: "s2e.left" },
        { key: "b", at: "s1.south" },
      ],
    },
    { id: "s4", kind: "corner" },
  );

  test("a corner with a leg that a flange on its side has taken whole says so, and the rest stands", () => {
    const stock = { thickness: "0.7", radius: "2.9", flatBy: "K", k: "0.28" };
    const build = examinePart({ ...taken, stock });
    expect(told(build)).toContain(
      "warn: Corners 4: At corner B–E of plate A: One of its flanges has no metal at this corner: cuts or what stands on it take all of its side. Make it longer there, or leave the corner open.",
    );
    expect(build.bends.length).toBe(4);
    expectFiniteFiles(build);
  });
});
