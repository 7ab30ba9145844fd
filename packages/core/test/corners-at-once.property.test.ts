import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { examinePart, type PartDocument, type StepDocument } from "../src/index.ts";
import { flangeCornerName, flangeCorners } from "../src/sheet/corners/meeting-legs.ts";
import { reopen } from "../src/sheet/draft.ts";
import { draftOf } from "./draft-of.ts";
import { part, plate } from "./plain-parts.ts";
import { casesOf, sameCases } from "./random-cases.ts";

sameCases(83);

const walls: StepDocument = {
  id: "s2",
  kind: "flange",
  edges: ["s1.north", "s1.east", "s1.south", "s1.west"].map((at, i) => ({ key: `e${i}`, at })),
  length: "30",
  relief: "none",
};

const closings = fc.record({
  close: fc.constantFrom("open", "mitre", "butt"),
  gap: fc.constantFrom("0.1", "0.4", "1"),
  relief: fc.constantFrom("none", "round", "square", "slot", "teardrop"),
  size: fc.constantFrom("2", "5", "9"),
  length: fc.constantFrom("6", "14"),
});

/** The edges of each plate, with their names and ends. */
const edgesOf = (document: PartDocument) =>
  draftOf(document)!
    .pieces.plates()
    .map(({ id, edges }) => ({
      id,
      edges: edges
        .map((e) => [e.role, e.left.x, e.left.y, e.right.x, e.right.y].map(rounded))
        .sort((p, q) => String(p[0]).localeCompare(String(q[0]))),
    }));
const rounded = (v: string | number) => (typeof v === "number" ? Math.round(v * 1e6) / 1e6 + 0 : v);

describe("corners that are closed and relieved by one step", () => {
  const names = (() => {
    const draft = reopen(draftOf(part(plate("120", "90"), walls))!);
    return flangeCorners(draft, "s1").map(flangeCornerName);
  })();

  test("are the four where walls meet", () => {
    expect(names.length).toBe(4);
    expect(new Set(names).size).toBe(4);
  });

  test("leave the metal, and the edges under the names, that a step for each of them leaves", () => {
    fc.assert(
      fc.property(closings, (values) => {
        const all = part(plate("120", "90"), walls, { id: "s3", kind: "corner", ...values });
        const each = part(
          plate("120", "90"),
          walls,
          ...names.map((at, i) => ({
            ...{ id: `s3${i}`, kind: "corner", which: "picked", corners: [{ key: "a", at }] },
            ...values,
          })),
        );
        expect(edgesOf(all)).toEqual(edgesOf(each));
        const [one, four] = [examinePart(all).blank!, examinePart(each).blank!];
        expect(one.area).toBeCloseTo(four.area, 6);
        expect(one.outlines.map((l) => l.length)).toEqual(four.outlines.map((l) => l.length));
      }),
      { numRuns: casesOf(40) },
    );
  });

  test("whose reliefs take all of an edge's end leave a shorter edge, and the next step finds it", () => {
    const corners: StepDocument = { id: "s3", kind: "corner", close: "open", relief: "square", size: "9" };
    const hem: StepDocument = {
      id: "s4",
      kind: "flange",
      edges: [{ key: "a", at: "s2e0.left" }],
      length: "10",
    };
    const edgeOf = (document: ReturnType<typeof part>) =>
      draftOf(document)!
        .pieces.plate("s2e0")!
        .edges.find((e) => e.role === "left")!;
    const [whole, cut] = [part(plate("120", "90"), walls), part(plate("120", "90"), walls, corners)].map(
      edgeOf,
    );
    const length = (e: typeof whole) => Math.hypot(e.left.x - e.right.x, e.left.y - e.right.y);
    expect(length(cut)).toBeLessThan(length(whole) - 1);
    expect(examinePart(part(plate("120", "90"), walls, corners, hem)).bends.length).toBe(5);
  });
});
