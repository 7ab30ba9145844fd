import { describe, expect, test } from "vitest";
import {
  applyCommand,
  examinePart,
  groupCommand,
  groupOf,
  newPart,
  type PartDocument,
  type PickedThing,
  type StepDocument,
} from "../src/index.ts";
import { itemProblems } from "../src/stock/read-item.ts";
import { part, plate, told } from "./plain-parts.ts";

const on = (at: string) => [{ key: "a", at }];
const cut = (id: string, more: object = {}): StepDocument => ({
  ...{ id, kind: "cut", form: "round", diameter: "d", x: "0", y: "0", plate: on("s1"), ...more },
});
const values = [
  { key: "a", name: "d", value: "2*half" },
  { key: "b", name: "half", value: "4" },
  { key: "c", name: "other", value: "9" },
];
const source: PartDocument = {
  ...part(plate("100", "80"), cut("s2"), {
    ...{ id: "s3", kind: "pattern", steps: on("s2"), form: "row", count: "3", pitch: "20" },
  }),
  variables: values,
};
const group = { name: "Three holes", ...groupOf(source, new Set(["s2", "s3"])) };

/** A part after a group was put into it. */
function put(document: PartDocument, picked: PickedThing[] = [], kept = group): PartDocument {
  const command = groupCommand(document, kept, picked);
  if (!command.ok) throw new Error(command.error);
  const done = applyCommand(document, command.value);
  if (!done.ok) throw new Error(done.error);
  // Taken back it is the part that it was.
  const undone = applyCommand(done.value.document, done.value.undo);
  expect(undone.ok && undone.value.document).toEqual(document);
  return done.value.document;
}

describe("a group of steps that is kept", () => {
  test("has the values that its steps use, and those that these use, and no others", () => {
    expect(group.steps.map((s) => s.id)).toEqual(["s2", "s3"]);
    expect(group.variables.map((v) => v.name)).toEqual(["d", "half"]);
    expect(itemProblems("groups", { ...group, id: "g", note: "" })).toEqual([]);
  });

  test("is put on what is picked, with its steps on one another", () => {
    const other = {
      ...newPart("Other"),
      steps: [plate("60", "90"), plate("120", "80")].map((s, i) => ({
        ...s,
        id: `s${i + 1}`,
        z: String(40 * i),
      })),
    };
    const made = put(other, [{ of: "plate", name: "s2" }]);
    expect(made.steps.map((s) => s.kind)).toEqual(["plate", "plate", "cut", "pattern"]);
    const [, , hole, row] = made.steps;
    expect(hole.plate).toEqual(on("s2"));
    expect(row.steps).toEqual(on(hole.id));
    const build = examinePart(made);
    expect(told(build)).toEqual([]);
    expect(build.blank!.openings.length).toBe(3);
    for (const l of build.blank!.openings)
      expect(Math.abs(l[0].kind === "arc" ? l[0].r : 0)).toBeCloseTo(4, 9);
  });

  test("asks for what nothing is picked for, although the part has a plate of that name", () => {
    const made = put({ ...newPart("Other"), steps: [plate("60", "90")] });
    expect(made.steps[1].plate).toEqual([]);
    expect(examinePart(made).findings[0].message).toMatch(/Pick the plate to cut/);
  });

  test("shares a value that says the same, and calls its own otherwise where one says something else", () => {
    const same = put({ ...newPart("O"), steps: [plate("90", "90")], variables: values }, [
      { of: "plate", name: "s1" },
    ]);
    expect(same.variables).toEqual(values);
    const mine = [{ key: "a", name: "d", value: "30" }];
    const made = put({ ...newPart("O"), steps: [plate("90", "90")], variables: mine }, [
      { of: "plate", name: "s1" },
    ]);
    expect(made.variables!.map((v) => [v.name, v.value])).toEqual([
      ["d", "30"],
      ["d_2", "2*half"],
      ["half", "4"],
    ]);
    expect(made.steps[1].diameter).toBe("d_2");
    expect(Math.abs(examinePart(made).blank!.openings.length)).toBe(3);
  });

  test("is told apart from plates of the part that are called like its own", () => {
    const flange: StepDocument = { id: "s2", kind: "flange", edges: on("s1.north"), length: "30" };
    const leg = groupOf(
      part(plate("100", "80"), flange, cut("s3", { plate: on("s2a"), y: "15", diameter: "5" })),
      new Set(["s2", "s3"]),
    );
    const target = { ...newPart("O"), steps: [plate("100", "80"), { ...flange, edges: on("s1.south") }] };
    const made = put(target, [{ of: "edge", name: "s2a.end" }], { name: "Leg with a hole", ...leg });
    const [, , grown, hole] = made.steps;
    expect(grown.edges).toEqual(on("s2a.end"));
    expect(hole.plate).toEqual(on(`${grown.id}a`));
    expect(told(examinePart(made)).filter((m) => m.startsWith("stop"))).toEqual([]);
  });

  test("takes the outlines that its steps are drawn by along, under keys of their own", () => {
    const outline = {
      format: "hillcrest-outline",
      version: 1,
      name: "Eye",
      points: { a: [0, 0], b: [10, 0], c: [0, 8] },
      curves: [
        ["a", "b"],
        ["b", "c"],
        ["c", "a"],
      ].map(([a, b], i) => ({ id: `l${i}`, kind: "line", a, b })),
      relations: [],
      dimensions: [],
    };
    const drawn = { ...source, outlines: [{ key: "e", outline }] } as unknown as PartDocument;
    const kept = groupOf(
      { ...drawn, steps: [...drawn.steps, cut("s4", { form: "drawn", drawn: "e", diameter: "3" })] },
      new Set(["s4"]),
    );
    expect(kept.outlines.map((o) => o.key)).toEqual(["e"]);
    const target = { ...drawn, variables: [] };
    const made = put(target, [{ of: "plate", name: "s1" }], { name: "Eye", ...kept });
    expect(made.outlines!.length).toBe(2);
    expect(made.steps.at(-1)!.drawn).toBe(made.outlines![1].key);
  });

  test.each([
    [{ steps: [] }, /steps/],
    [{ steps: "s" }, /steps/],
    [{ steps: [{ kind: "cut" }] }, /Step 1 must be an object/],
    [{ steps: Array.from({ length: 201 }, (_, i) => ({ id: `s${i}`, kind: "cut" })) }, /1 to 200/],
    [{ variables: {} }, /variables/],
    [{ outlines: [{ no: 1 }] }, /outlines/],
  ])("that is none is refused in the library: %o", (change, why) => {
    const problems = itemProblems("groups", { ...group, id: "g", note: "", ...change });
    expect(problems.map((p) => `${p.path} ${p.message}`).join()).toMatch(why);
  });

  test("with a step of a kind that is not known, or values that cannot be read, is not put anywhere", () => {
    const target = { ...newPart("O"), steps: [plate("90", "90")] };
    const strange = groupCommand(target, { ...group, steps: [{ id: "x", kind: "weld" }] });
    expect(!strange.ok && strange.error).toMatch(/kind of step that this Hillcrest does not know/);
    const broken = groupCommand(target, { ...group, steps: [{ ...cut("s2"), diameter: { no: 1 } }] });
    expect(!broken.ok && broken.error).toMatch(/cannot be put here/);
  });
});
