// Everything that must hold: lint, types, unit, property, API and end-to-end tests.
import { spawnSync } from "node:child_process";
import { mkdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { bin, buildAll, ensureChromium, ensureDxfReader, installDependencies, root, run } from "./set-up.mjs";

installDependencies();
const chromium = ensureChromium();
ensureDxfReader();
buildAll();
process.stdout.write("Lint and format…\n");
run(bin("biome"), ["check", "--error-on-warnings", "."]);
process.stdout.write("Types…\n");
run("npm", ["run", "--silent", "types"]);
process.stdout.write("Tests…\n");
mkdirSync(join(root, ".setup"), { recursive: true });
const report = join(root, ".setup", "tests.json");
const tests = spawnSync(
  bin("vitest"),
  ["run", "--reporter=default", "--reporter=json", `--outputFile.json=${report}`],
  {
    cwd: root,
    stdio: "inherit",
    env: { ...process.env, CHROMIUM: chromium },
  },
);
const { numPassedTests, numFailedTests, numTotalTests } = JSON.parse(readFileSync(report, "utf8"));
process.stdout.write(`\ntests: ${numPassedTests} passed, ${numFailedTests} failed\n`);
if (numTotalTests === 0) process.exit(1);
process.exit(tests.status ?? 1);
