import { defineConfig } from "vitest/config";

// Browser tests share two cores with a software renderer, and some look at the clock: one file at a time. The
// suites that need neither, of the core, the page's state and the command line, come first, two at a time.
const alone = { maxWorkers: 1, sequence: { groupOrder: 1 } } as const;
const paired = { maxWorkers: 2, sequence: { groupOrder: 0 } } as const;

/** Puts a kind of step of its own into the registry, which no other file must see. */
const MADE_UP = "test/made-up-kind.test.ts";

/** The core as it is built, read by node itself: hundreds of modules less to be transformed for each file. */
const BUILT = { deps: { external: [/packages\/core\/dist/] } };

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
          exclude: [MADE_UP],
          // The core is read once for all files of a worker: it keeps nothing that one could leave to the next.
          isolate: false,
          testTimeout: 120_000,
        },
      },
      { test: { ...paired, name: "core with a kind of its own", root: "packages/core", include: [MADE_UP] } },
      {
        test: {
          ...alone,
          name: "server",
          root: "packages/server",
          server: BUILT,
          include: ["test/**/*.test.ts"],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          ...paired,
          name: "cli",
          root: "packages/cli",
          server: BUILT,
          include: ["test/**/*.test.ts"],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          ...alone,
          name: "e2e",
          root: "e2e",
          server: BUILT,
          include: ["**/*.e2e.ts"],
          testTimeout: 120_000,
          hookTimeout: 120_000,
        },
      },
    ],
  },
});
