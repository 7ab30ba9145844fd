import { describe, expect, test } from "vitest";
import {
  DOCUMENT_VERSION,
  examinePart,
  newPart,
  outlineProblems,
  type PartDocument,
  platesOf,
  readDocument,
  solveOutline,
} from "../src/index.ts";

/** A document as version 2 wrote it. */
const old = (more: Record<string, unknown>): unknown => ({ ...newPart("Old"), version: 2, ...more });
const read = (more: Record<string, unknown>): PartDocument => {
  const got = readDocument(JSON.parse(JSON.stringify(old(more))));
  if (!got.ok) throw new Error(JSON.stringify(got.error));
  return got.value;
};
const row = (key: string, x: unknown, y: unknown) => ({ key, x, y });
const L = [row("a", "0", "0"), row("b", "60", 0), row("c", "60", "1in"), row("d", 0, "25.4")];

describe("a shape that was a table of points", () => {
  test("is an outline of the part, its sides called as they were, and nothing is left of the table", () => {
    const now = read({ steps: [{ id: "s1", kind: "plate", form: "outline", points: L, x: "5" }] });
    expect(now.version).toBe(DOCUMENT_VERSION);
    expect(now.steps).toEqual([
      { id: "s1", kind: "plate", form: "drawn", drawn: now.outlines![0].key, x: "5" },
    ]);
    const build = examinePart(now);
    expect(build.findings).toEqual([]);
    expect(build.blank!.area).toBeCloseTo(60 * 25.4, 9);
    expect(build.blank!.bounds.minX).toBeCloseTo(5, 9);
    expect(
      platesOf(build.sheet)[0]
        .edges.map((e) => e.role)
        .sort(),
    ).toEqual(["side-a", "side-b", "side-c", "side-d"]);
    expect(outlineProblems(now.outlines![0].outline)).toEqual([]);
    expect(solveOutline(now.outlines![0].outline).state).toBe("fixed");
  });

  test("goes on being driven by what its coordinates said, on either side of the zero", () => {
    const points = [
      row("a", "-w/2", "0"),
      row("b", "w/2", "0"),
      row("c", "w/2", "t*20"),
      row("d", "-(w/2)", "30"),
    ];
    const variables = [{ key: "a", name: "w", value: "80" }];
    const steps = [{ id: "s1", kind: "plate", form: "outline", points }];
    const now = read({ variables, steps });
    const width = (document: PartDocument) => examinePart(document).blank!.width;
    expect(examinePart(now).findings).toEqual([]);
    expect(width(now)).toBeCloseTo(80, 8);
    expect(width({ ...now, variables: [{ key: "a", name: "w", value: "100" }] })).toBeCloseTo(100, 8);
  });

  test("of a cut, a flange and a lug comes along too; what stood on their sides still does", () => {
    const ear = [row("a", "-20", "0"), row("b", "20", "0"), row("c", "20", "10"), row("d", "-20", "10")];
    const now = read({
      steps: [
        { id: "s1", kind: "plate", width: "120", depth: "80" },
        { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], shape: "outline", points: ear },
        {
          id: "s3",
          kind: "lug",
          edges: [{ key: "a", at: "s1.south" }],
          shape: "outline",
          points: ear,
          width: "40",
        },
        {
          id: "s4",
          kind: "cut",
          plate: [{ key: "a", at: "s1" }],
          form: "outline",
          points: ear,
          x: "0",
          y: "0",
        },
        { id: "s5", kind: "flange", edges: [{ key: "a", at: "s2a.side-c" }], length: "12" },
      ],
    });
    expect(now.outlines!.map((o) => o.outline.name)).toEqual(["Flange 2", "Lug 3", "Cut 4"]);
    const build = examinePart(now);
    expect(build.findings.filter((f) => f.level === "stop")).toEqual([]);
    expect(build.bends.length).toBe(2);
    expect(build.blank!.openings.length).toBe(1);
  });

  test("that was not in use is dropped, and one that was nothing is told as it was before", () => {
    const unused = read({ steps: [{ id: "s1", kind: "plate", width: "10", points: L }] });
    expect(unused.steps[0]).toEqual({ id: "s1", kind: "plate", width: "10" });
    expect(unused.outlines).toBeUndefined();
    for (const points of [
      [],
      [row("a", "1", "1")],
      [row("a", "x +", "1"), row("b", "1", "1"), row("c", "5", "9")],
    ]) {
      const now = read({ steps: [{ id: "s1", kind: "plate", form: "outline", points }] });
      expect(examinePart(now).findings.some((f) => f.level === "stop")).toBe(true);
    }
  });

  test("of absurd things is an error of the document, or a part that says so; never a crash", () => {
    for (const points of [
      "none",
      5,
      [null, 3, { key: {} }],
      [row("a".repeat(50), "1e300", "1e-300")],
      L.map((r) => ({ ...r, key: "a" })),
    ]) {
      const got = readDocument(old({ steps: [{ id: "s1", kind: "plate", form: "outline", points }] }));
      if (got.ok) expect(examinePart(got.value).findings.some((f) => f.level === "stop")).toBe(true);
      else expect(got.error.length).toBeGreaterThan(0);
    }
  });
});
