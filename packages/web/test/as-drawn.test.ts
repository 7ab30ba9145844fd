import {
  examinePart,
  newPart,
  outlineProblems,
  type PartBuild,
  type PartDocument,
  platesOf,
  type StepDocument,
  solveOutline,
} from "@hillcrest/core";
import { describe, expect, test } from "vitest";
import { emptyOutline } from "../src/state/drawing.ts";
import type { AsDrawn } from "../src/state/drawn-shape.ts";
import { chainAsDrawn, flatAsDrawn, legAsDrawn } from "../src/steps/faces/as-drawn.ts";

const part = (...steps: StepDocument[]): PartDocument => ({ ...newPart("Part"), steps });
const plate: StepDocument = { id: "s1", kind: "plate", width: "120", depth: "80" };
const edge = (at: string) => [{ key: "a", at }];
/** The same part with its last step drawn, as it becomes when that is chosen. */
function drawnOf(
  document: PartDocument,
  asDrawn: AsDrawn,
  by: string,
): { before: PartBuild; after: PartBuild; document: PartDocument } {
  const before = examinePart(document);
  const step = document.steps[document.steps.length - 1];
  const values = before.steps[before.steps.length - 1].values!;
  const outline = asDrawn(emptyOutline("Own"), step, values, before);
  expect(outlineProblems(JSON.parse(JSON.stringify(outline)))).toEqual([]);
  const next: PartDocument = {
    ...document,
    outlines: [{ key: "a", outline }],
    steps: [...document.steps.slice(0, -1), { ...step, [by]: "drawn", drawn: "a" }],
  };
  return { before, after: examinePart(next), document: next };
}
const stops = (b: PartBuild) => b.findings.filter((f) => f.level === "stop").map((f) => f.message);
const roles = (b: PartBuild) => platesOf(b.sheet).map((p) => p.edges.map((e) => e.role).sort());

describe("what becomes a drawn one", () => {
  test.each<[string, PartDocument, AsDrawn, string]>([
    ["a plate about its middle", part(plate), flatAsDrawn("depth"), "form"],
    ["a plate from its corner", part({ ...plate, at: "corner", x: "7" }), flatAsDrawn("depth"), "form"],
    [
      "a round plate",
      part({ id: "s1", kind: "plate", form: "round", diameter: "90" }),
      flatAsDrawn("depth"),
      "form",
    ],
    [
      "a rectangular cut",
      part(plate, {
        id: "s2",
        kind: "cut",
        plate: edge("s1"),
        width: "30",
        height: "12",
        x: "9",
        y: "-4",
        turned: "20",
      }),
      flatAsDrawn("height"),
      "form",
    ],
    [
      "a round cut",
      part(plate, {
        id: "s2",
        kind: "cut",
        plate: edge("s1"),
        form: "round",
        diameter: "17",
        x: "5",
        y: "5",
      }),
      flatAsDrawn("height"),
      "form",
    ],
    [
      "a slot",
      part(plate, {
        id: "s2",
        kind: "cut",
        plate: edge("s1"),
        form: "slot",
        width: "40",
        height: "11",
        x: "0",
        y: "3",
      }),
      flatAsDrawn("height"),
      "form",
    ],
    [
      "a slot upright",
      part(plate, {
        id: "s2",
        kind: "cut",
        plate: edge("s1"),
        form: "slot",
        width: "9",
        height: "30",
        x: "0",
        y: "3",
      }),
      flatAsDrawn("height"),
      "form",
    ],
    [
      "a leg",
      part(plate, { id: "s2", kind: "flange", edges: edge("s1.north"), length: "30" }),
      legAsDrawn,
      "shape",
    ],
    [
      "a leg with leaning sides",
      part(plate, {
        id: "s2",
        kind: "flange",
        edges: edge("s1.north"),
        length: "30",
        shape: "angles",
        leftLean: "20",
        rightLean: "5",
      }),
      legAsDrawn,
      "shape",
    ],
    [
      "a stepped leg",
      part(plate, {
        id: "s2",
        kind: "flange",
        edges: edge("s1.north"),
        length: "30",
        shape: "step",
        stepHeight: "12",
        leftStep: "15",
        rightStep: "0",
      }),
      legAsDrawn,
      "shape",
    ],
    [
      "a lug",
      part(plate, {
        id: "s2",
        kind: "lug",
        edges: edge("s1.north"),
        length: "14",
        span: "width",
        width: "33",
      }),
      legAsDrawn,
      "shape",
    ],
    [
      "a profile",
      part({
        id: "s1",
        kind: "profile",
        width: "50",
        legs: [
          { key: "a", length: "25", turn: "90" },
          { key: "b", length: "40", turn: "-45" },
          { key: "c", length: "30" },
        ],
      }),
      chainAsDrawn,
      "by",
    ],
    [
      "a profile by inside angles",
      part({
        id: "s1",
        kind: "profile",
        width: "50",
        angles: "inside",
        legs: [
          { key: "a", length: "25", turn: "60" },
          { key: "b", length: "40", turn: "-135" },
          { key: "c", length: "30" },
        ],
      }),
      chainAsDrawn,
      "by",
    ],
    [
      "a profile with arcs either way",
      part({
        id: "s1",
        kind: "profile",
        width: "50",
        on: "middle",
        legs: [
          { key: "a", length: "25" },
          { key: "b", form: "arc", turn: "90", radius: "15" },
          { key: "c", length: "20" },
          { key: "d", form: "arc", turn: "-60", radius: "22" },
          { key: "e", length: "12" },
        ],
      }),
      chainAsDrawn,
      "by",
    ],
  ])("%s is the same as before, to the last digits", (_, document, asDrawn, by) => {
    const { before, after } = drawnOf(document, asDrawn, by);
    expect(stops(after)).toEqual([]);
    expect(after.blank!.area).toBeCloseTo(before.blank!.area, 6);
    expect([after.blank!.width, after.blank!.height]).toEqual([
      expect.closeTo(before.blank!.width, 6),
      expect.closeTo(before.blank!.height, 6),
    ]);
    expect(after.folded!.box.max).toEqual(before.folded!.box.max.map((v) => expect.closeTo(v, 6)));
    expect(after.bends.map((b) => b.up)).toEqual(before.bends.map((b) => b.up));
  });

  test("keeps the names of its sides, so that what stands on them still does", () => {
    const flange: StepDocument = { id: "s9", kind: "flange", edges: edge("s1.east"), length: "20" };
    const { document } = drawnOf(part(plate), flatAsDrawn("depth"), "form");
    const build = examinePart({ ...document, steps: [...document.steps, flange] });
    expect(stops(build)).toEqual([]);
    expect(build.bends.length).toBe(1);
    const leg = drawnOf(
      part(plate, { id: "s2", kind: "flange", edges: edge("s1.north"), length: "30" }),
      legAsDrawn,
      "shape",
    );
    expect(roles(leg.after)).toEqual(roles(leg.before));
  });

  test("goes on being driven by the expressions that it had", () => {
    const named = {
      ...part({ ...plate, width: "w", depth: "w/2" }),
      variables: [{ key: "a", name: "w", value: "90" }],
    };
    const { document } = drawnOf(named, flatAsDrawn("depth"), "form");
    const wide = examinePart({ ...document, variables: [{ key: "a", name: "w", value: "140" }] });
    expect([wide.blank!.width, wide.blank!.height]).toEqual([expect.closeTo(140, 6), expect.closeTo(70, 6)]);
    expect(
      solveOutline(document.outlines![0].outline, () => ({
        ok: true,
        value: { value: 90, dimension: "length" },
      })).state,
    ).toBe("fixed");
  });

  test("that makes nothing now begins empty", () => {
    const wrong = part({ ...plate, width: "0" });
    const build = examinePart(wrong);
    const values = build.steps[0].values!;
    expect(flatAsDrawn("depth")(emptyOutline("Own"), wrong.steps[0], values, build).curves).toEqual([]);
    const lug: StepDocument = { id: "s2", kind: "lug", edges: edge("s1.nowhere"), length: "0" };
    const lost = examinePart(part(plate, lug));
    expect(legAsDrawn(emptyOutline("Own"), lug, lost.steps[1].values!, lost).curves).toEqual([]);
  });
});
