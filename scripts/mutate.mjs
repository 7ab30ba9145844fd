// Changes the core line by line and sees whether its tests notice: npm run mutate -- FILE[:FROM-TO] …
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { bin, installDependencies, root, run } from "./set-up.mjs";

const paths = process.argv.slice(2);
if (paths.length === 0 || paths.some((p) => !/^packages\/core\/src\/.+\.ts(:\d+-\d+)?$/.test(p))) {
  process.stderr.write(
    "Say what to change: npm run mutate -- packages/core/src/part/run-steps.ts, or lines of it with :60-100.\n",
  );
  process.exit(2);
}
installDependencies();
const config = join(root, ".setup", "mutate.json");
mkdirSync(join(root, ".setup"), { recursive: true });
writeFileSync(
  config,
  JSON.stringify({
    testRunner: "vitest",
    plugins: ["@stryker-mutator/vitest-runner"],
    vitest: { configFile: "vitest.mutate.ts", related: false },
    mutate: paths,
    reporters: ["clear-text", "progress-append-only"],
    clearTextReporter: { reportTests: false, logTests: false, allowColor: false },
    // Messages say the same in other words: their texts are not what the numbers hang on.
    mutator: { excludedMutations: ["StringLiteral"] },
    concurrency: 2,
    timeoutMS: 20_000,
    ignorePatterns: [
      "e2e",
      "docs/screenshots",
      "packages/*/dist",
      "packages/web",
      "packages/server",
      ".setup",
    ],
    tempDirName: ".setup/mutate",
    // Below this share of changes noticed the run fails.
    thresholds: { high: 95, low: 85, break: 85 },
  }),
);
// The same random parts as ever, but fewer: a change that all of these miss is for a plain test to notice.
run(bin("stryker"), ["run", config], { env: { ...process.env, PROPERTY_FIXED: "12" } });
