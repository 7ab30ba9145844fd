import { describe, expect, test } from "vitest";
import {
  emptyLibrary,
  examinePart,
  itemProblems,
  newPart,
  type Outline,
  outlineChanges,
  readDocument,
  readLibrary,
  solveOutline,
  takenOver,
} from "../src/index.ts";

const lug = (hole: string | number, more: Partial<Outline> = {}): Outline => ({
  format: "hillcrest-outline",
  version: 1,
  name: "Lug",
  points: { a: [0, 0], b: [30, 0], c: [30, 20], d: [0, 20] },
  curves: [
    { id: "s", kind: "line", a: "a", b: "b" },
    { id: "e", kind: "line", a: "b", b: "c" },
    { id: "n", kind: "line", a: "c", b: "d" },
    { id: "w", kind: "line", a: "d", b: "a" },
  ],
  relations: [
    { id: "r1", kind: "fixed", of: ["a"] },
    { id: "r2", kind: "level", of: ["s"] },
    { id: "r3", kind: "upright", of: ["e"] },
    { id: "r4", kind: "level", of: ["n"] },
    { id: "r5", kind: "upright", of: ["w"] },
  ],
  dimensions: [
    { id: "d1", kind: "length", of: ["s"], value: hole, name: "wide" },
    { id: "d2", kind: "length", of: ["e"], value: "reach", name: "high" },
  ],
  values: [{ name: "reach", value: 20 }],
  ...more,
});
const kept = (outline: unknown) => ({ id: "lug", name: "Lug", note: "", outline });

describe("a kept outline", () => {
  test("is an item of the stock, held to what an outline must be", () => {
    expect(itemProblems("outlines", kept(lug(30)))).toEqual([]);
    expect(itemProblems("outlines", kept({ ...lug(30), points: {} }), "/outlines/0")[0].path).toMatch(
      /^\/outlines\/0\/outline\/curves\/0/,
    );
    expect(itemProblems("outlines", kept(undefined))[0]).toMatchObject({ path: "/outline/format" });
    expect(itemProblems("outlines", { ...kept(lug(30)), name: "" })[0].path).toBe("/name");
  });

  test("is in a library, and one of before there were any reads as ever", () => {
    const { outlines: _, ...older } = emptyLibrary();
    const before = readLibrary(older);
    expect(before.ok && before.value.outlines).toEqual([]);
    const now = readLibrary({ ...emptyLibrary(), outlines: [kept(lug(30))] });
    expect(now.ok && now.value.outlines.length).toBe(1);
    const twice = readLibrary({ ...emptyLibrary(), outlines: [kept(lug(30)), kept(lug(31))] });
    expect(twice.ok ? "" : twice.error[0].message).toMatch(/used twice/);
  });

  test("that is taken over again keeps the part's own numbers by their names", () => {
    const own = lug(45, { values: [{ name: "reach", value: "w/2" }] });
    const changed = lug(30, {
      curves: [...lug(30).curves, { id: "o", kind: "circle", c: "m", r: 3 }],
      points: { ...lug(30).points, m: [10, 10] },
    });
    const taken = takenOver(changed, own);
    expect(taken.curves.length).toBe(5);
    expect(taken.dimensions.map((d) => d.value)).toEqual([45, "reach"]);
    expect(taken.values).toEqual([{ name: "reach", value: "w/2" }]);
    const { values } = solveOutline(taken, (name) =>
      name === "w" ? { ok: true, value: { value: 64, dimension: "length" } } : undefined,
    );
    expect([values.d1, values.d2]).toEqual([expect.closeTo(45, 8), expect.closeTo(32, 8)]);
  });

  test("says in a few words what would change, and nothing where nothing would", () => {
    const from = lug(30);
    expect(outlineChanges(from, from)).toEqual([]);
    const to: Outline = {
      ...lug(31),
      curves: [
        ...from.curves.slice(1),
        { id: "x", kind: "line", a: "a", b: "c" },
        { id: "y", kind: "line", a: "b", b: "d" },
      ],
      relations: from.relations.slice(2),
      points: { ...from.points, c: [33, 20] },
    };
    expect(outlineChanges(from, to)).toEqual([
      "2 curves more",
      "1 curve less",
      "2 relations less",
      "1 dimension otherwise",
      "1 point elsewhere",
    ]);
  });

  test("is remembered by the part that it was taken into", () => {
    const document = {
      ...newPart("Part"),
      outlines: [{ key: "a", outline: lug(30), kept: { id: "lug", revision: 3 } }],
      steps: [{ id: "s1", kind: "plate", form: "drawn", drawn: "a" }],
    };
    const read = readDocument(document);
    expect(read.ok && read.value.outlines![0].kept).toEqual({ id: "lug", revision: 3 });
    expect(read.ok && examinePart(read.value).blank!.area).toBeCloseTo(600, 8);
    const wrong = readDocument({ ...document, outlines: [{ ...document.outlines[0], kept: { id: 5 } }] });
    expect(wrong.ok ? "" : wrong.error[0].path).toBe("/outlines/0/kept");
  });
});
