import { describe, expect, test } from "vitest";
import {
  buildPart,
  evaluateVariables,
  newPart,
  type PartDocument,
  renameVariable,
  type StepDocument,
  type Variable,
} from "../src/index.ts";
import { spentOn } from "./plain-parts.ts";

const value = (name: string, text: string, measures?: Variable["measures"]): Variable => ({
  key: name,
  name,
  value: text,
  ...(measures ? { measures } : {}),
});
const evaluate = (variables: readonly Variable[]) => evaluateVariables(variables, () => undefined, []).values;
const texts = (variables: readonly Variable[]) =>
  evaluate(variables).map(({ result }) => (result.ok ? String(result.value) : result.error));

const partWith = (variables: readonly Variable[], ...steps: StepDocument[]): PartDocument => ({
  ...newPart("Bracket"),
  variables,
  steps,
});

describe("named values that stand on each other", () => {
  test("are found in any order", () => {
    expect(texts([value("a", "b + 1"), value("b", "c * 2"), value("c", "3")])).toEqual(["7", "6", "3"]);
  });

  test("a circle is told at each of its members, from that member on", () => {
    const told = texts([value("a", "b"), value("b", "c + 1"), value("c", "a"), value("d", "a")]);
    expect(told[0]).toBe("it goes in a circle: a → b → c → a");
    expect(told[1]).toBe("it goes in a circle: b → c → a → b");
    expect(told[2]).toBe("it goes in a circle: c → a → b → c");
    expect(told[3]).toContain('the value "a" is wrong');
  });

  test("500 of them in a chain that ends in nothing are answered at once, each shortly", () => {
    const chain = Array.from({ length: 500 }, (_, i) =>
      value(`v${i}`, i < 499 ? `v${i + 1} + 1` : "nowhere"),
    );
    const { result: told, took } = spentOn(() => texts(chain));
    expect(took).toBeLessThan(1000);
    expect(Math.max(...told.slice(0, -1).map((t) => t.length))).toBeLessThan(120);
    expect(told[499]).toContain('"nowhere" is not a unit or a name known here');
  });

  test("a circle of 500 is told shortly", () => {
    const told = texts(Array.from({ length: 500 }, (_, i) => value(`v${i}`, `v${(i + 1) % 500}`)));
    expect(told[0]).toBe("it goes in a circle: v0 → v1 → v2 → v3 → … 495 more … → v499 → v0");
  });
});

describe("renaming a named value", () => {
  const plate: StepDocument = {
    id: "s1",
    kind: "plate",
    width: "up*2",
    height: "80",
    holes: [{ key: "a", x: "up", y: "-up", d: "10" }],
  };
  const flange: StepDocument = {
    id: "s2",
    kind: "flange",
    edges: [{ key: "a", at: "s1.north", own: { length: "up + 5", turn: "down" } }],
    turn: "up",
    reason: "up to the wall",
    length: "up",
  };

  test("follows it in every expression and touches no other text", () => {
    const part = partWith(
      [value("up", "25"), value("more", "upper + up"), value("upper", "1")],
      plate,
      flange,
    );
    const renamed = renameVariable(part, "up", "high");
    expect(renamed.steps[0]).toEqual({
      ...plate,
      width: "high*2",
      holes: [{ key: "a", x: "high", y: "-high", d: "10" }],
    });
    expect(renamed.steps[1]).toEqual({
      ...flange,
      length: "high",
      edges: [{ key: "a", at: "s1.north", own: { length: "high + 5", turn: "down" } }],
    });
    expect(renamed.variables?.map((v) => [v.name, v.value])).toEqual([
      ["high", "25"],
      ["more", "upper + high"],
      ["upper", "1"],
    ]);
  });

  test("leaves the part as it is built, and there and back is nothing", () => {
    const part = partWith([value("up", "25")], plate, flange);
    const renamed = renameVariable(part, "up", "high");
    expect(buildPart(renamed).findings).toEqual(buildPart(part).findings);
    expect(buildPart(renamed).blank?.area).toBe(buildPart(part).blank?.area);
    expect(renameVariable(renamed, "up", "up")).toEqual(part);
  });
});
