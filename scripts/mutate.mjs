// Changes the core line by line and sees whether its tests notice: npm run mutate -- FILE[:FROM-TO] …
import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { bin, installDependencies, root, run } from "./set-up.mjs";

const words = process.argv.slice(2);
const chosen = words.find((w) => w.startsWith("--suites="))?.slice("--suites=".length);
const paths = words.filter((w) => !w.startsWith("--suites="));
if (paths.length === 0 || paths.some((p) => !/^packages\/core\/src\/.+\.ts(:\d+-\d+)?$/.test(p))) {
  process.stderr.write(
    "Say what to change: npm run mutate -- packages/core/src/part/run-steps.ts, or lines of it with :60-100.\n" +
      "With --suites=steps,part it is tried against these suites alone: quicker, and what all notice is no less.\n",
  );
  process.exit(2);
}
installDependencies();
/** Below this share (%) of changes noticed the run fails. */
const LEAST = 85;
const config = join(root, ".setup", "mutate.json");
const report = join(root, ".setup", "mutate-report.json");
rmSync(report, { force: true });
mkdirSync(join(root, ".setup"), { recursive: true });
writeFileSync(
  config,
  JSON.stringify({
    testRunner: "vitest",
    plugins: ["@stryker-mutator/vitest-runner"],
    vitest: { configFile: "vitest.mutate.ts", related: false },
    mutate: paths,
    reporters: ["clear-text", "progress-append-only", "json"],
    jsonReporter: { fileName: report },
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
    thresholds: { high: 95, low: LEAST, break: null },
  }),
);
// The same random parts as ever, but fewer: a change that all of these miss is for a plain test to notice.
run(bin("stryker"), ["run", config], {
  env: { ...process.env, PROPERTY_FIXED: "12", ...(chosen ? { MUTATE_SUITES: chosen } : {}) },
});

/**
 * Changes that make no other program: where a comparison has a tolerance, whether exactly the tolerance
 * still counts, and how many tolerances it is, are no numbers of a part.
 */
function isEquivalent(original, replacement) {
  // What is divided by a sign is multiplied by it.
  const bySign = (text) => text.replace(/[*/] (way|s)\b/g, "*");
  if (original !== replacement && bySign(original) === bySign(replacement)) return true;
  const tolerance = /\b(SAME|HAIR|FLAT)\b|\b\de-\d+\b/;
  if (!tolerance.test(original)) return false;
  const border = (text) => text.replace(/([<>])=/g, "$1");
  const size = (text) => text.replace(/\bSAME [*/] \d+/g, "SAME");
  const sign = (text) => text.replace(/[-+] ?(SAME|HAIR|\de-\d+)/g, "$1");
  return [border, size, sign].some((of) => of(original) === of(replacement));
}

const { files } = JSON.parse(readFileSync(report, "utf8"));
const counts = { noticed: 0, missed: 0 };
const leftOut = [];
for (const [file, { source, mutants }] of Object.entries(files)) {
  const lines = source.split("\n");
  for (const { location, replacement, status } of mutants) {
    const { start, end } = location;
    const original =
      start.line === end.line ? lines[start.line - 1].slice(start.column - 1, end.column - 1) : undefined;
    if (["Killed", "Timeout"].includes(status)) counts.noticed++;
    else if (["Survived", "NoCoverage"].includes(status)) {
      if (original !== undefined && isEquivalent(original, replacement))
        leftOut.push(`  ${file}:${start.line}: ${original} → ${replacement}`);
      else counts.missed++;
    }
  }
}
const share = (100 * counts.noticed) / (counts.noticed + counts.missed || 1);
process.stdout.write(
  `${leftOut.length} changes at the border of a tolerance make no other program and are left out:\n${leftOut.join("\n")}\n` +
    `noticed ${counts.noticed} of ${counts.noticed + counts.missed}: ${share.toFixed(1)} % (at least ${LEAST} %)\n`,
);
process.exit(share >= LEAST ? 0 : 1);
