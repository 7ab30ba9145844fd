import { copyFileSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { openServer } from "./harness.ts";

/** How long the pictures of the demo may take, ms. */
const PATIENCE = 120_000;

interface Listed {
  readonly pictured?: unknown;
  readonly summary?: unknown;
}

/**
 * Makes the demo's database once for all tests, with the pictures and the findings of its parts: each test file begins with a
 * copy, and nothing is built beside it that it does not ask for.
 */
export default async function makeDemoDatabase(): Promise<() => void> {
  const folder = mkdtempSync(join(tmpdir(), "hillcrest-demo-"));
  const file = join(folder, "working.sqlite");
  const server = await openServer(file, { demo: true });
  const late = performance.now() + PATIENCE;
  for (let made = false; !made; ) {
    const parts = (await (await fetch(`${server.base}/api/parts`)).json()) as Listed[];
    made = parts.length > 0 && parts.every(({ pictured, summary }) => pictured && summary);
    if (!made && performance.now() > late) throw new Error("The demo's pictures are not made.");
    if (!made) await new Promise((done) => setTimeout(done, 100));
  }
  // A server that is stopped leaves all in the one file.
  await server.stop();
  const ready = join(folder, "demo.sqlite");
  copyFileSync(file, ready);
  process.env.HILLCREST_TEST_DATABASE = ready;
  return () => rmSync(folder, { recursive: true, force: true });
}
