import { describe, expect, test } from "vitest";
import {
  type AcceptedFinding,
  acceptanceOf,
  canBeAccepted,
  examineFully,
  type Finding,
  isStopped,
  newPart,
  type PartDocument,
  readDocument,
  reportFindings,
  type StepDocument,
  sarifLog,
} from "../src/index.ts";
import { withChange } from "./plain-parts.ts";

const at = (name: string) => [{ key: "a", at: name }];
/** A wall whose lip comes down on the plate that it stands on. */
const folded = (angle: string): PartDocument => {
  const steps: StepDocument[] = [
    { id: "s1", kind: "plate", width: "120", depth: "80" },
    { id: "s2", kind: "flange", edges: at("s1.north"), length: "12" },
    { id: "s3", kind: "flange", edges: at("s2a.end"), length: "30", lengthTo: "tangent", angle },
  ];
  return { ...newPart("Lip"), steps };
};
const collisionOf = (document: PartDocument): Finding =>
  examineFully(document).findings.find((f) => f.rule === "collision")!;
const accepting = (document: PartDocument, ...accepted: AcceptedFinding[]): PartDocument => ({
  ...document,
  accepted,
});

describe("a finding that somebody has accepted", () => {
  const document = folded("130");
  const accepted = acceptanceOf(collisionOf(document), "a", "cut away by hand", "Rowan Ash");

  test("stops nothing, and stays with its reason and name", () => {
    expect(isStopped(examineFully(document))).toBe(true);
    const build = examineFully(accepting(document, accepted));
    expect(isStopped(build)).toBe(false);
    const told = reportFindings(build).find((f) => f.rule === "collision")!;
    expect(told).toMatchObject({
      level: "stop",
      accepted: { reason: "cut away by hand", by: "Rowan Ash" },
    });
    const [{ results }] = (
      sarifLog([{ uri: "lip.json", findings: [told] }]) as { runs: { results: object[] }[] }
    ).runs;
    expect(results[0]).toMatchObject({
      level: "error",
      suppressions: [{ kind: "external", justification: "cut away by hand (Rowan Ash)" }],
    });
  });

  test("comes last among the findings, whatever its level", () => {
    const bare = folded("130");
    const torn = { ...bare.steps[1], span: "inset", leftInset: "20", rightInset: "20", leftRelief: "none" };
    const more = accepting({ ...bare, steps: [bare.steps[0], torn, bare.steps[2]] }, accepted);
    const rules = examineFully(more).findings.map((f) => f.rule);
    expect(rules.length).toBeGreaterThan(1);
    expect(rules.at(-1)).toBe("collision");
  });

  test("comes back when what it measures changes by more than was said, and not by less", () => {
    const { depth } = collisionOf(document).collision!;
    const hair = (by: number) => accepting(document, { ...accepted, found: depth! + by });
    expect(isStopped(examineFully(hair(0.0999)))).toBe(false);
    expect(isStopped(examineFully(hair(-0.0999)))).toBe(false);
    expect(isStopped(examineFully(hair(0.1001)))).toBe(true);
    expect(isStopped(examineFully(accepting(document, { ...accepted, found: depth! + 5, within: 6 })))).toBe(
      false,
    );
    const farther = withChange(accepting(document, accepted), "s3", { angle: "150" });
    expect(isStopped(examineFully(farther))).toBe(true);
  });

  test("is of these pieces and this rule alone", () => {
    for (const other of [{ rule: "overlap" }, { about: "plate:s9" }, { found: undefined }])
      expect(isStopped(examineFully(accepting(document, { ...accepted, ...other })))).toBe(true);
  });

  test("is none that says that nothing can be built", () => {
    const lost = { id: "s4", kind: "flange", edges: at("s9.end") };
    const short = { id: "s5", kind: "flange", edges: at("s1.south"), length: "0.1" };
    const wrong = { ...document, steps: [...document.steps, lost, short] };
    for (const rule of ["edge-gone", "step"]) {
      const said = examineFully(wrong).findings.find((f) => f.rule === rule)!;
      expect(canBeAccepted(said)).toBe(false);
      const by = acceptanceOf(said, "a", "so be it", "Rowan Ash");
      const again = examineFully(accepting(wrong, by)).findings.find((f) => f.rule === rule)!;
      expect(again.accepted).toBeUndefined();
    }
  });
});

describe("what a document says of accepted findings", () => {
  const entry = { key: "a", rule: "collision", about: "plate:s1", reason: "so", by: "Rowan Ash" };
  const problems = (accepted: unknown) => {
    const read = readDocument({ ...newPart("P"), accepted });
    return read.ok ? [] : read.error.map((p) => p.path);
  };

  test("is read, and refused with its place where it is none", () => {
    expect(problems([entry])).toEqual([]);
    expect(problems([{ ...entry, found: 3, within: 0.1 }])).toEqual([]);
    expect(problems("all")).toEqual(["/accepted"]);
    expect(problems([{ ...entry, reason: 5 }])).toEqual(["/accepted/0/reason"]);
    expect(problems([{ ...entry, by: undefined }])).toEqual(["/accepted/0/by"]);
    expect(problems([{ ...entry, found: "3" }])).toEqual(["/accepted/0/found"]);
    expect(problems([{ ...entry, reason: "x".repeat(2001) }])).toEqual(["/accepted/0/reason"]);
  });
});
