// From an edit to both views drawn, in the browser, for the battery tray: what the page's own thread spends on it, and
// what the first visit to the Shelf loads.
import { openBench, openPart } from "../e2e/harness.ts";
import { median } from "./compare.ts";
import { QUICK, tell } from "./tell.ts";

const EDITS = QUICK ? 10 : 50;

const bench = await openBench({ measured: true });
const shelf = await bench.newPage();
const session = await shelf.context().newCDPSession(shelf);
await session.send("Network.enable");
let bytes = 0;
const code = new Set<string>();
session.on("Network.responseReceived", ({ requestId, type }) => {
  if (type === "Script" || type === "Stylesheet") code.add(requestId);
});
session.on("Network.loadingFinished", ({ requestId, encodedDataLength }) => {
  if (code.has(requestId)) bytes += encodedDataLength;
});
await shelf.goto(bench.base);
await shelf.waitForSelector("[data-part]");
await shelf.waitForLoadState("networkidle");
tell({
  name: "first visit of the Shelf, all that crosses the wire",
  value: bytes / 1000,
  most: 350,
  unit: "kB",
});
await shelf.close();

const page = await bench.newPage();
await openPart(page, bench.base, "Battery tray");
await page.waitForTimeout(1500);
const metrics = await page.context().newCDPSession(page);
await metrics.send("Performance.enable", { timeDomain: "threadTicks" });
/** The processor's time that the page's own thread has had so far, ms: not what it waited while others had it. */
const spent = async (): Promise<number> => {
  const { metrics: all } = await metrics.send("Performance.getMetrics");
  const found = all.find((m) => m.name === "ThreadTime");
  if (!found) throw new Error("This browser does not tell the time of a page's thread.");
  return found.value * 1000;
};
const field = page.locator('[data-step="s2"] input[data-field="length"]');
const [worker, own]: [number[], number[]] = [[], []];
// One key for each edit, as somebody presses it: what drives the browser looks nothing up meanwhile.
await field.click();
await page.keyboard.press("End");
for (let i = 0; i < EDITS + 5; i++) {
  await page.keyboard.press("Shift+ArrowLeft");
  await page.waitForTimeout(50);
  const before = await spent();
  await page.keyboard.press(i % 2 === 0 ? "3" : "2");
  await page.waitForTimeout(350);
  const after = await spent();
  const took = await page.evaluate(
    () => (performance.getEntriesByName("hillcrest:built")[0] as PerformanceMark).detail as number,
  );
  // The first edits make programs of what runs from then on.
  if (i < 5) continue;
  worker.push(took);
  own.push(after - before);
}
await bench.close();
tell({ name: "an edit of the battery tray: the worker's time", value: median(worker), most: 50, unit: "ms" });
const p95 = [...own].sort((a, b) => a - b)[Math.floor(own.length * 0.95)];
const detail = `median ${median(own).toFixed(1)} ms`;
tell({ name: "the same: the page's own thread, of 95 in 100", value: p95, most: 50, unit: "ms", detail });
