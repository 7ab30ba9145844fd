// One picture of each main view, from the demo parts. Run by `npm run screenshots`.
import { join } from "node:path";
import type { Page } from "playwright-core";
import { clickEdge, frames, openBench, openPart, root } from "./harness.ts";

const bench = await openBench();
const shoot = async (page: Page, name: string) => {
  await frames(page, 60);
  await page.screenshot({ path: join(root, "docs/screenshots", `${name}.png`) });
};

const page = await bench.newPage({ sharp: true });
// Without a graphics card the metal would be drawn without its reflections.
const reflecting = (p: Page) => p.addInitScript(() => localStorage.setItem("hillcrest:reflections", "on"));
await reflecting(page);
await page.goto(bench.base);
await page.waitForSelector("[data-part]");
await page.waitForFunction(() => !document.body.innerText.includes("being drawn"));
await shoot(page, "shelf");

await openPart(page, bench.base, "Battery tray");
await frames(page, 60);
await clickEdge(page, "s2b.end");
await shoot(page, "bench-pick");
await page.keyboard.press("Escape");
await page.click('[data-drawer="bends"]');
await page.click('[data-bend="1"] button:has-text("2.65")');
await shoot(page, "bench-why");
await page.keyboard.press("Escape");
await page.click('[data-drawer="bends"]');
await page.click('header >> text="Blank…"');
await page.click('button:has-text("Shown")');
for (const key of ["letters", "ordinates"]) await page.click(`[data-show="${key}"]`);
await page.keyboard.press("Escape");
await page.selectOption('[aria-label="Preset"]', "ridge-laser");
await page.waitForSelector('[data-proof-card][aria-busy="false"] [data-proof]');
await page.click('text="Dimension"');
for (const n of [0, 4]) {
  const box = (await page
    .locator(`[data-end*='"hole"'] path`)
    .nth(n * 2)
    .boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + 1);
}
await page.keyboard.press("Escape");
await shoot(page, "blank");
const dxf = await (
  await page.request.get(
    `${page
      .url()
      .replace("/parts/", "/api/parts/")
      .replace(/blank$/, "files/dxf")}?preset=plain`,
  )
).text();
const moved = dxf.replace(/(CIRCLE[\s\S]*? 10\r\n)([\d.]+)/, (_, head, x) => `${head}${Number(x) + 6}`);
await page.selectOption('[aria-label="Preset"]', "plain");
await page.setInputFiles('[data-files="returned"]', {
  name: "from the valley.dxf",
  mimeType: "application/dxf",
  buffer: Buffer.from(moved),
});
await page.waitForSelector("[data-difference]");
await shoot(page, "blank-compared");

await openPart(page, bench.base, "Rain gauge hood, first draft");
await page.click('[data-drawer="findings"]');
await page.click("[data-first-contact]");
await frames(page, 60);
await page.locator('[aria-label="Fold dial"]').focus();
for (let i = 0; i < 20; i++) await page.keyboard.press("ArrowRight");
await shoot(page, "bench-findings");

await openPart(page, bench.base, "Logger box");
await page.click('[data-drawer="values"]');
await page.click('[data-step="s3"]', { position: { x: 12, y: 12 } });
await shoot(page, "bench-values");
await openPart(page, bench.base, "Anemometer arm clamp");
await page.click('[data-step="s1"]', { position: { x: 12, y: 12 } });
await shoot(page, "bench-profile");

await page.fill('[data-step="s1"] [data-field="leg-length"] >> nth=0', "44");
await page.keyboard.press("Enter");
await frames(page, 60);
await page.click("[data-stock]");
await page.click('[data-units="in"]');
await page.keyboard.press("Escape");
await frames(page, 60);
await page.click('[aria-label="History"]');
await page.waitForSelector('[data-looked] [aria-label="Folded"] svg');
await page.fill("[data-revision-name]", "Second clamp, longer ears");
await page.keyboard.press("Enter");
await shoot(page, "history");

await openPart(page, bench.base, "Sensor shelter side");
await page.click('[data-step="s4"]', { position: { x: 12, y: 12 } });
await shoot(page, "bench-vents");

await openPart(page, bench.base, "Terminal cover");
await page.click('[data-step="s6"]', { position: { x: 12, y: 12 } });
await page.click('[data-step="s6"] [data-field="shape"]');
await page.waitForSelector('[data-option="louvre"]');
await shoot(page, "bench-forms");
await page.keyboard.press("Escape");

await openPart(page, bench.base, "Guy wire eye");
await page.click('[data-drawer="outlines"]');
await page.click("[data-draw]");
await page.click('[data-drawer="outlines"]');
await page.waitForSelector("[data-dimension]");
await shoot(page, "bench-drawing");
await page.click("[data-drawing-done]");

await page.goto(`${bench.base}/stock/cards/ridge-galvanised-1-5`);
await page.waitForSelector("[data-editor]");
await page.waitForSelector("text=None: every part");
await shoot(page, "stock-card");
await page.goto(`${bench.base}/stock/forms/ridge-boss`);
await page.waitForSelector("[data-form-details]");
await shoot(page, "stock-form");
await page.goto(`${bench.base}/stock/charts/start-galvanised?row=700`);
await page.waitForSelector("[data-editor]");
await shoot(page, "stock-chart");
await page.goto(`${bench.base}/stock/rules/ridge-rules`);
await page.waitForSelector("[data-editor]");
await shoot(page, "stock-rules");
await page.goto(`${bench.base}/stock/materials/galvanised`);
await page.waitForSelector("[data-editor]");
await page.fill('[data-field="density"]', "7800");
await page.click("[data-save]");
await page.waitForSelector("[data-impact]");
await page.waitForSelector("[data-reckoned]", { state: "detached" });
await page.click('[aria-label="All parts"]');
await shoot(page, "stock-impact");
await page.goto(`${bench.base}/study?t=2&r=3&angle=110&chart=start-mild-steel`);
await page.waitForSelector("[data-neutral]");
await page.click('[data-follows="deduction"] button[aria-label*="why"]');
await shoot(page, "study");
const night = await bench.newPage({ theme: "dark", sharp: true });
await reflecting(night);
await openPart(night, bench.base, "Cable cover");
await night.locator('[aria-label="Fold dial"]').focus();
for (let i = 0; i < 4; i++) await night.keyboard.press("PageDown");
await shoot(night, "bench-night");

await bench.close();
