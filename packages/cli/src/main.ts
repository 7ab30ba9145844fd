import { run } from "./run.ts";

await run(process.argv.slice(2));
