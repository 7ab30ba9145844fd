// Makes docs/screenshots/ from the demo parts.
import { bin, buildAll, ensureChromium, installDependencies, run } from "./set-up.mjs";

installDependencies();
buildAll();
run(bin("tsc"), ["-b", "e2e"]);
run("node", [".setup/tools/e2e/screenshots.js"], { env: { ...process.env, CHROMIUM: ensureChromium() } });
