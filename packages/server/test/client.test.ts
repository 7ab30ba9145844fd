import { execFile } from "node:child_process";
import { mkdirSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { promisify } from "node:util";
import { expect, test } from "vitest";
import { runServer } from "./running-server.ts";

const run = promisify(execFile);
/** A workspace of its own: its TypeScript is the one that the maker of clients reads. */
const here = fileURLToPath(new URL("../../client-check/", import.meta.url));
const { resolve } = createRequire(join(here, "package.json"));
const packageOf = (name: string) => dirname(resolve(`${name}/package.json`));

test("a client made from the description alone makes a part, changes, checks and exports it", async () => {
  const server = await runServer(":memory:");
  try {
    const { body } = await server.ask("GET", "/openapi.json");
    mkdirSync(join(here, "made"), { recursive: true });
    const description = join(here, "made", "openapi.json");
    writeFileSync(description, JSON.stringify(body));
    await run("node", [
      join(packageOf("openapi-typescript"), "bin/cli.js"),
      description,
      "--output",
      join(here, "made/api.ts"),
    ]);
    await run("node", [join(packageOf("typescript"), "bin/tsc"), "-p", here]).catch(
      ({ stdout }: { stdout: string }) => {
        throw new Error(stdout);
      },
    );
    const client = join(here, "made/run/make-a-part.js");
    const { stdout } = await run("node", [client, `http://127.0.0.1:${server.port}`]);
    expect(JSON.parse(stdout)).toEqual({
      revision: 2,
      gravest: null,
      refused: 'The part was not changed: "lenght" is not a value of a flange step; did you mean "length"?',
      state: "ready",
      refusedParts: [],
      zip: "PK",
    });
  } finally {
    await server.close();
  }
});
