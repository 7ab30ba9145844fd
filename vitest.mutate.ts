import { defineConfig } from "vitest/config";

/** What a mutated core is tried against: all of its suites. */
export default defineConfig({
  test: {
    root: "packages/core",
    include: ["test/**/*.test.ts"],
    testTimeout: 60_000,
  },
});
