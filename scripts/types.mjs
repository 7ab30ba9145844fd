// Checks the types of everything. What it writes on the way is built as a whole: no program is left older than its types.
import { bin, buildPrograms, installDependencies, run } from "./set-up.mjs";

installDependencies();
buildPrograms();
const projects = [
  "packages/web",
  "packages/core/test",
  "packages/server/test",
  "packages/cli/test",
  "packages/web/test",
  "e2e",
];
run(bin("tsc"), ["-b", ...projects]);
