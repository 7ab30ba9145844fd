// Speed, each measured as a ratio against a reference in the same run.
import { bin, buildAll, ensureChromium, installDependencies, run } from "./set-up.mjs";

installDependencies();
buildAll();
run(bin("tsc"), ["-b", "e2e"]);
run("node", ["--expose-gc", ".setup/tools/bench/build.bench.js"]);
run("node", [".setup/tools/bench/growth.bench.js"]);
run("node", [".setup/tools/bench/charts.bench.js"]);
run("node", [".setup/tools/bench/collisions.bench.js"]);
run("node", [".setup/tools/bench/outlines.bench.js"]);
run("node", ["--expose-gc", ".setup/tools/bench/edit.bench.js"], {
  env: { ...process.env, CHROMIUM: ensureChromium() },
});
