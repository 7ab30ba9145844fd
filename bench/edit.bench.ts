// From an edit to both views drawn, in the browser, for the battery tray: what the page's own thread spends on it, and
// what the first visit to the Shelf loads.
import { newPart } from "@hillcrest/core";
import { drawn, openBench, openPart } from "../e2e/harness.ts";
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

/** How long a part takes from a cold page, with nothing kept in the browser, to its views at rest, ms. */
async function firstPicture(id: string, isDrawn: boolean): Promise<number> {
  const cold = await bench.newPage();
  await cold.goto(`${bench.base}/parts/${id}`);
  if (isDrawn) await drawn(cold);
  await cold.waitForSelector('[data-views][aria-busy="false"]');
  const took = await cold.evaluate(() => performance.now());
  await cold.context().close();
  return took;
}
const parts = (await (await fetch(`${bench.base}/api/parts`)).json()) as { id: string; name: string }[];
const tray = parts.find((p) => p.name === "Battery tray")!.id;
const made = await fetch(`${bench.base}/api/parts`, {
  method: "POST",
  headers: { "content-type": "application/json" },
  body: JSON.stringify({ document: newPart("Nothing yet") }),
});
const { id: empty } = (await made.json()) as { id: string };
const [whole, nothing]: [number[], number[]] = [[], []];
for (let i = 0; i < (QUICK ? 3 : 7); i++) {
  nothing.push(await firstPicture(empty, false));
  whole.push(await firstPicture(tray, true));
}
tell({
  name: "the first picture of the battery tray from a cold page, against an empty part",
  value: median(whole) / median(nothing),
  most: 1.5,
  unit: "×",
  detail: `${median(whole).toFixed(0)} ms against ${median(nothing).toFixed(0)} ms`,
});

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
