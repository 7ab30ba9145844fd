import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    // Browser tests share two cores with a software renderer: one file at a time.
    fileParallelism: false,
    projects: [
      { test: { name: "web", root: "packages/web", include: ["test/**/*.test.ts"] } },
      { test: { name: "core", root: "packages/core", include: ["test/**/*.test.ts"], testTimeout: 120_000 } },
      {
        test: {
          name: "server",
          root: "packages/server",
          include: ["test/**/*.test.ts"],
          testTimeout: 60_000,
        },
      },
      { test: { name: "cli", root: "packages/cli", include: ["test/**/*.test.ts"], testTimeout: 60_000 } },
      {
        test: {
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
