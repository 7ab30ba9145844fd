// The properties of the core at their full counts of cases, and new cases each time; `npm test` tries a sample, always the
// same. npm run prove [-- CASES], of each property so many.
import { spawnSync } from "node:child_process";
import { bin, ensureDxfReader, installDependencies, root } from "./set-up.mjs";

const cases = process.argv[2] ?? "full";
if (!/^(full|[1-9]\d{0,6})$/.test(cases)) {
  process.stderr.write("Say how many cases of each property: npm run prove -- 2000\n");
  process.exit(2);
}
installDependencies();
ensureDxfReader();
const { status } = spawnSync(
  bin("vitest"),
  ["run", "--project", "core", "--testTimeout", "3600000", "--reporter=dot"],
  { cwd: root, stdio: "inherit", env: { ...process.env, PROPERTY_RUNS: cases } },
);
process.exit(status ?? 1);
