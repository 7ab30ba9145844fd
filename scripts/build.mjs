import { buildAll, installDependencies } from "./set-up.mjs";

installDependencies();
buildAll();
