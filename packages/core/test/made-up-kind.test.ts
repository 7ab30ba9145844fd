import { describe, expect, test, vi } from "vitest";
import {
  applyCommand,
  buildPart,
  documentSchema,
  newPart,
  type PartDocument,
  readDocument,
  removeStep,
  renameVariable,
  STEP_KINDS,
  type StepDocument,
  sayCommand,
} from "../src/index.ts";

// The line in the registry that a new kind takes.
vi.mock("../src/steps/registry.ts", async (original) => {
  const { STEP_KINDS: kinds, stepKind: known } = await original<typeof import("../src/steps/registry.ts")>();
  const { perforateStep } = await import("./made-up/perforate.ts");
  return {
    STEP_KINDS: [...kinds, perforateStep],
    stepKind: (kind: string) => (kind === "perforate" ? perforateStep : known(kind)),
  };
});

const perforate = (values: object): StepDocument => ({
  id: "s2",
  kind: "perforate",
  plates: [{ key: "a", at: "s1" }],
  spots: [
    { key: "a", x: "10", y: "10" },
    { key: "b", x: "30" },
  ],
  ...values,
});
const part = (values: object = {}): PartDocument => ({
  ...newPart("Part"),
  variables: [{ key: "a", name: "hole", value: "6" }],
  steps: [{ id: "s1", kind: "plate", width: "80", depth: "40" }, perforate(values)],
});
const areaOf = (document: PartDocument) => buildPart(document).blank!.area;
const messages = (document: PartDocument) => buildPart(document).findings.map((f) => f.message);
const problems = (document: unknown) => {
  const read = readDocument(document);
  return read.ok ? [] : read.error.map((p) => `${p.path} ${p.message}`);
};

describe("a kind of step that is a folder and a line in the registry", () => {
  test("is built, by its own values and by those of single picks", () => {
    expect(STEP_KINDS.map((k) => k.kind)).toContain("perforate");
    const pierced = (size: number) => 80 * 40 - 2 * Math.PI * (size / 2) ** 2;
    const inside = {
      spots: [
        { key: "a", x: "10", y: "10" },
        { key: "b", x: "30", y: "10" },
      ],
    };
    expect(areaOf(part(inside))).toBeCloseTo(pierced(4), 9);
    expect(areaOf(part({ ...inside, size: "hole" }))).toBeCloseTo(pierced(6), 9);
    const own = { ...inside, plates: [{ key: "a", at: "s1", own: { size: "8" } }] };
    expect(areaOf(part(own))).toBeCloseTo(pierced(8), 9);
    expect(areaOf(part({ ...inside, form: "square" }))).toBeCloseTo(80 * 40 - 2 * 16, 9);
  });

  test("is read and refused by its fields alone", () => {
    expect(problems(part())).toEqual([]);
    expect(problems(part({ form: "oval" }))).toEqual(['/steps/1/form "oval" is not one of round, square.']);
    expect(problems(part({ size: { a: 1 } }))).toEqual([
      "/steps/1/size This must be a number, or an expression as a text.",
    ]);
    expect(problems(part({ spots: [{ key: "a", y: "1" }] }))).toEqual([
      "/steps/1/spots/0/x This must be a number, or an expression as a text.",
    ]);
    expect(problems(part({ spots: Array.from({ length: 21 }, (_, i) => ({ key: `k${i}`, x: 1 })) }))).toEqual(
      ["/steps/1/spots There can be at most 20; here are 21."],
    );
    expect(problems(part({ plates: [{ key: "a", at: "s1.north" }] }))[0]).toContain("A plate has one name");
    expect(problems(part({ plates: [{ key: "a", at: "s1", own: { size: [] } }] }))[0]).toContain(
      "/steps/1/plates/0/own/size",
    );
    expect(problems(part({ reason: "x".repeat(41) }))).toEqual([
      "/steps/1/reason Why can have at most 40 characters.",
    ]);
    const two = [
      { key: "a", at: "s1.north+east" },
      { key: "b", at: "s1.south+east" },
    ];
    expect(problems(part({ corners: two }))).toEqual([
      "/steps/1/corners There can be at most 1; here are 2.",
    ]);
  });

  test("tells what is wrong with its values where they stand", () => {
    expect(messages(part({ size: "0" }))).toEqual([
      "Perforate 2: Size: 0 mm is too small; it must be more than 0 mm.",
    ]);
    expect(messages(part({ spots: [{ key: "a", x: "hole +", y: "1" }] }))[0]).toContain(
      "Perforate 2: Spot 1, x: ",
    );
    expect(messages(part({ plates: [{ key: "a", at: "s9" }] }))[0]).toContain("is gone");
  });

  test("stands in the schema", () => {
    const { oneOf } = (documentSchema().properties as never as { steps: { items: { oneOf: object[] } } })
      .steps.items;
    expect(oneOf.at(-1)).toMatchObject({
      title: "Perforate",
      properties: {
        kind: { const: "perforate" },
        size: { title: "Size", default: "4" },
        spots: { maxItems: 20, items: { required: ["key", "x"] } },
        corners: { maxItems: 1 },
      },
    });
  });

  test("is renamed in, removed with what it stands on, and said in words", () => {
    const document = part({
      size: "hole",
      spots: [{ key: "a", x: "hole * 2", y: "10" }],
      plates: [{ key: "a", at: "s1", own: { size: "hole + 1" } }],
      reason: "hole",
    });
    const [, renamed] = renameVariable(document, "a", "bore").steps;
    expect(renamed).toMatchObject({
      size: "bore",
      spots: [{ x: "bore * 2" }],
      plates: [{ own: { size: "bore + 1" } }],
      reason: "hole",
    });
    expect(removeStep(document, "s1").steps).toEqual([]);
    const command = { do: "set", step: "s2", values: { form: "square", spots: [] } } as const;
    expect(sayCommand(command, document)).toBe("Perforate 2: form round → square, 1 spot removed");
    const done = applyCommand(document, command);
    if (!done.ok) throw new Error(done.error);
    const back = applyCommand(done.value.document, done.value.undo);
    expect(back.ok && back.value.document).toEqual(document);
  });
});
