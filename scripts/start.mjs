import { buildAll, installDependencies, root } from "./set-up.mjs";

installDependencies();
buildAll();
await import(`${root}packages/server/dist/main.js`);
