import fc from "fast-check";
import { expect, test } from "vitest";
import { applyCommand, examineFully, type Finding, mendCommand, type PartDocument } from "../src/index.ts";
import { casesOf, sameCases } from "./random-cases.ts";
import { crowdedPart } from "./random-parts.ts";

sameCases(20261129);
const RUNS = casesOf(20);

const about = (f: Finding): string => (f.pieces ?? []).map((p) => `${p.kind} ${p.id}`).join(", ");
const meeting = (document: PartDocument): Finding[] =>
  examineFully(document).findings.filter((f) => f.rule === "collision" && f.collision?.full);

test("a mend of two pieces that stand in one another parts these two, whatever the part", () => {
  let [mended, refused] = [0, 0];
  fc.assert(
    fc.property(crowdedPart, (document) => {
      for (const f of meeting(document).slice(0, 3)) {
        const command = f.mend && mendCommand(document, [f.mend]);
        if (!command) {
          refused++;
          continue;
        }
        const done = applyCommand(document, command);
        if (!done.ok) throw new Error(done.error);
        mended++;
        expect(meeting(done.value.document).map(about)).not.toContain(about(f));
      }
    }),
    { numRuns: RUNS },
  );
  // It is said only where it works, and it works often.
  expect(mended).toBeGreaterThan(refused / 4);
}, 600_000);
