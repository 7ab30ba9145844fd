// The fold dial: a frame with another fold state against a frame of a plain scene of as many triangles and lines that
// stand still, in the same browser and the same run.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { newPart, type PartDocument, readDocumentText } from "@hillcrest/core";
import { chromium } from "playwright-core";
import { FLAGS, root } from "../e2e/harness.ts";
import { field } from "./parts.ts";
import { tell } from "./tell.ts";

const FRAMES = Number(process.env.BENCH_QUICK ? 15 : 33);
const median = (v: readonly number[]) => [...v].sort((a, b) => a - b)[v.length >> 1];

const box = readDocumentText(readFileSync(join(root, "demo/logger-box.json"), "utf8"));
if (!box.ok) throw new Error("The logger box cannot be read.");
const parts: readonly [name: string, document: PartDocument, frames: number][] = [
  ["the logger box", box.value, FRAMES],
  ["a plate with 10,000 holes", { ...newPart("Field"), ...field(10_000) }, Math.min(FRAMES, 9)],
];
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: [...FLAGS],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.addScriptTag({ path: join(root, ".setup/scenes/folding.js"), type: "module" });
for (const [name, document, frames] of parts) {
  const { triangles, still, folding } = await page.evaluate(
    ([document, frames]) =>
      (window as unknown as { measureFolding(d: unknown, n: number): FoldingTimes }).measureFolding(
        document,
        frames,
      ),
    [document, frames] as const,
  );
  tell({
    name: `fold dial, ${name} (${triangles} triangles): a frame against one that stands still`,
    value: median(folding) / median(still),
    most: 1.2,
    unit: "×",
    detail: `${median(folding).toFixed(1)} ms against ${median(still).toFixed(1)} ms`,
  });
}
await browser.close();

interface FoldingTimes {
  readonly triangles: number;
  readonly still: readonly number[];
  readonly folding: readonly number[];
}
