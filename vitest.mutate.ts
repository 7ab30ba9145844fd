import { statSync } from "node:fs";
import { basename } from "node:path";
import { defineConfig } from "vitest/config";
import { BaseSequencer, type TestSpecification } from "vitest/node";

/** Suites that notice much in little time come first: the first that notices ends the run of a change. */
const FIRST = [
  "noticed",
  "expression",
  "real-metal",
  "steps",
  "part",
  "places",
  "layout",
  "hem-rules",
  "profile-corners",
  "corner-fillet.property",
  "clean-surface",
  "bend-piece.property",
  "told-to-the-page",
  "rebuilding.property",
];

class QuickestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const place = ({ moduleId }: TestSpecification) => {
      const at = FIRST.indexOf(basename(moduleId, ".test.ts"));
      return at < 0 ? FIRST.length + statSync(moduleId).size : at;
    };
    return [...files].sort((a, b) => place(a) - place(b));
  }
}

/** What a mutated core is tried against: all of its suites but those that are about time. */
export default defineConfig({
  test: {
    root: "packages/core",
    include: process.env.MUTATE_SUITES?.split(",").map((s) => `test/${s}.test.ts`) ?? ["test/**/*.test.ts"],
    // What is about time, what looks at more than the core, and what puts a module in the place of another.
    exclude: ["test/sizes.test.ts", "test/documents.test.ts", "test/made-up-kind.test.ts"],
    testTimeout: 60_000,
    isolate: false,
    sequence: { sequencer: QuickestFirst },
  },
});
