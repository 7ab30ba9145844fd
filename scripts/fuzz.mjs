// Looks longer for files and parts that break something than `npm test` does: damaged and foreign drawings, shuffled
// entities, shared space, surfaces, messages. New cases each time. npm run fuzz [-- DAMAGED]
import { spawnSync } from "node:child_process";
import { bin, ensureDxfReader, installDependencies, root } from "./set-up.mjs";

const damaged = process.argv[2] ?? "5000";
if (!/^[1-9]\d{0,6}$/.test(damaged)) {
  process.stderr.write("Say how many damaged files: npm run fuzz -- 5000\n");
  process.exit(2);
}
installDependencies();
ensureDxfReader();
/** Suites, and how many cases of each. */
const suites = [
  ["dxf-reading", { FUZZ_DAMAGED: damaged, FUZZ_WRITTEN: "400" }],
  ["walls-and-names", { PROPERTY_RUNS: "2000" }],
  ["shared-volume", { PROPERTY_RUNS: "50000" }],
  ["mesh-box", { PROPERTY_RUNS: "1500" }],
  ["lattice", { PROPERTY_RUNS: "200" }],
  ["compare", { PROPERTY_RUNS: "1" }],
];
let failed = 0;
for (const [suite, counts] of suites) {
  process.stdout.write(`${suite}: ${JSON.stringify(counts)}\n`);
  const { status } = spawnSync(
    bin("vitest"),
    ["run", "--project", "core", suite, "--testTimeout", "1800000", "--reporter=dot"],
    { cwd: root, stdio: "inherit", env: { ...process.env, ...counts } },
  );
  if (status !== 0) failed++;
}
process.stdout.write(`${suites.length - failed} passed, ${failed} failed\n`);
process.exit(failed === 0 ? 0 : 1);
