import { newPart, type PartDocument, type StepDocument } from "@hillcrest/core";
import { describe, expect, test } from "vitest";
import { begunStep, inchRow, inRoundInches } from "../src/state/inch-defaults.ts";

const inch = (...steps: StepDocument[]): PartDocument => ({ ...newPart("P"), units: "in", steps });
const flange: StepDocument = { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }] };

describe("what nobody has typed, in an inch part", () => {
  test("begins round, with rows; what is given, nought, and what is an expression stay", () => {
    const begun: Record<string, unknown> = begunStep({ ...flange, length: "1 in" }, inch());
    expect(begun.length).toBe("1 in");
    // Nothing that is shown is a bare number of millimetres.
    for (const [key, value] of Object.entries(begun))
      expect(`${key} ${value}`).not.toMatch(/ -?[1-9]\d*(\.\d+)?$/);
    expect(begun).not.toHaveProperty("offset", "0 in");
    const legs = [{ key: "a", length: "25", turn: "90" }];
    expect(begunStep({ id: "s1", kind: "profile", legs }, inch()).legs).toEqual([
      { key: "a", length: "1 in", turn: "90" },
    ]);
    expect(begunStep(flange, newPart("P"))).toBe(flange);
  });

  test("comes round where a choice brings it in, and what was there before keeps what it had", () => {
    const cut: StepDocument = { id: "s2", kind: "cut", plate: [{ key: "a", at: "s1" }] };
    const document = inch({ id: "s1", kind: "plate" }, cut);
    const set = (values: Record<string, unknown>) =>
      inRoundInches({ do: "set", step: "s2", values }, document) as { values: Record<string, unknown> };
    expect(set({ form: "round" }).values).toMatchObject({
      form: "round",
      diameter: expect.stringMatching(/ in$/),
    });
    // Its width was shown, and is as wide as it was.
    expect(set({ height: "2 in" }).values).toEqual({ height: "2 in" });
    const several = inRoundInches(
      { do: "several", commands: [{ do: "set", step: "s2", values: { form: "round" } }] },
      document,
    );
    expect(JSON.stringify(several)).toMatch(/"diameter":"[\d.]+ in"/);
    // A copy of a step is what it is of, and so is whatever is put in by others.
    const copied = { do: "add", step: { ...cut, id: "s3" } } as const;
    expect(inRoundInches(copied, document)).toBe(copied);
    expect(inRoundInches({ do: "set", step: "s9", values: {} }, document)).toMatchObject({ values: {} });
  });

  test("is a row's too, in fractions where the part has them", () => {
    const columns = [{ kind: "quantity", key: "d", label: "D", dimension: "length", default: "6" }] as const;
    expect(inchRow(columns, { d: "6", n: "6" }, "fractions")).toEqual({ d: "1/4 in", n: "6" });
    expect(inchRow(columns, { d: "t", n: "6" }, "in")).toEqual({ d: "t", n: "6" });
  });
});
