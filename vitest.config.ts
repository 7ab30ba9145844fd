import { defineConfig } from "vitest/config";

// Browser tests share two cores with a software renderer, and some look at the clock: one file at a time. The
// suites that need neither, of the core, the page's state and the command line, come first, two at a time.
const alone = { maxWorkers: 1, sequence: { groupOrder: 1 } } as const;
const paired = { maxWorkers: 2, sequence: { groupOrder: 0 } } as const;

export default defineConfig({
  test: {
    projects: [
      { test: { ...paired, name: "web", root: "packages/web", include: ["test/**/*.test.{ts,tsx}"] } },
      {
        test: {
          ...paired,
          name: "core",
          root: "packages/core",
          include: ["test/**/*.test.ts"],
          testTimeout: 120_000,
        },
      },
      {
        test: {
          ...alone,
          name: "server",
          root: "packages/server",
          include: ["test/**/*.test.ts"],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          ...paired,
          name: "cli",
          root: "packages/cli",
          include: ["test/**/*.test.ts"],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          ...alone,
          name: "e2e",
          root: "e2e",
          include: ["**/*.e2e.ts"],
          testTimeout: 120_000,
          hookTimeout: 120_000,
        },
      },
    ],
  },
});
