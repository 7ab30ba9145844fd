import { defineConfig } from "vitest/config";

// Two files at a time: first what needs no browser, then what does. A browser waits for its software renderer a third
// of the time; two of them leave no core idle. What looks at the clock comes last, one file at a time.
const paired = { maxWorkers: 2, sequence: { groupOrder: 0 } } as const;
const browsers = { maxWorkers: 2, sequence: { groupOrder: 1 } } as const;
const alone = { maxWorkers: 1, sequence: { groupOrder: 2 } } as const;

/** How long it takes is said in these. */
const BY_THE_CLOCK = ["forms.e2e.ts", "many-openings.e2e.ts", "shelf.e2e.ts"];
const SERVER_BY_THE_CLOCK = [
  "test/responsive.test.ts",
  "test/load-script.test.ts",
  "test/exports-api.test.ts",
  "test/hardening.test.ts",
];
const BROWSED = {
  root: "e2e",
  globalSetup: ["demo-database.ts"],
  testTimeout: 120_000,
  hookTimeout: 120_000,
  // What comes on a busy machine comes late.
  expect: { poll: { timeout: 15_000 } },
};

/** These put a kind of step of their own into the registry, which no other file must see. */
const MADE_UP = "test/made-up-*.test.ts";

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
          ...paired,
          name: "server",
          root: "packages/server",
          server: BUILT,
          include: ["test/**/*.test.ts"],
          exclude: SERVER_BY_THE_CLOCK,
          testTimeout: 60_000,
        },
      },
      {
        test: {
          ...alone,
          name: "server by the clock",
          root: "packages/server",
          server: BUILT,
          include: SERVER_BY_THE_CLOCK,
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
          ...browsers,
          ...BROWSED,
          name: "e2e",
          server: BUILT,
          include: ["**/*.e2e.ts"],
          exclude: BY_THE_CLOCK,
        },
      },
      { test: { ...alone, ...BROWSED, name: "e2e by the clock", server: BUILT, include: BY_THE_CLOCK } },
    ],
  },
});
