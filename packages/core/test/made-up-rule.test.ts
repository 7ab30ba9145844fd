import { describe, expect, test, vi } from "vitest";
import { examineFully, examinePart, isStopped } from "../src/index.ts";
import { part, plate } from "./plain-parts.ts";

// The line in the list that a new rule takes.
vi.mock("../src/check/checks.ts", async (original) => {
  const { CHECKS } = await original<typeof import("../src/check/checks.ts")>();
  const { fewOpeningsRule } = await import("./made-up/few-openings.ts");
  return { CHECKS: [...CHECKS, { tells: ["few-openings"], ask: fewOpeningsRule }] };
});

const holes = (n: number) =>
  part(
    plate(
      "200",
      "200",
      Array.from({ length: n }, (_, i) => ({
        ...{ key: `h${i}`, d: "4" },
        ...{ x: `${(i % 12) * 15 - 85}`, y: `${Math.floor(i / 12) * 15 - 85}` },
      })),
    ),
  );

describe("a rule that is a file and a line in the list of checks", () => {
  test("is asked of every part, and what it stops does not leave", () => {
    expect(examinePart(holes(100)).findings).toEqual([]);
    const build = examineFully(holes(101));
    expect(build.findings).toMatchObject([{ level: "stop", rule: "few-openings" }]);
    expect(isStopped(build)).toBe(true);
  });
});
