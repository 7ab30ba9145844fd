// Speed, each measured as a ratio against a reference in the same run.
import { bin, buildAll, ensureChromium, installDependencies, run } from "./set-up.mjs";

installDependencies();
buildAll();
run(bin("tsc"), ["-b", "bench"]);
run("node", [".setup/bench-types/build.bench.js"]);
run("node", [".setup/bench-types/edit.bench.js"], { env: { ...process.env, CHROMIUM: ensureChromium() } });
