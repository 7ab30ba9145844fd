import { readFileSync } from "node:fs";
import { join } from "node:path";
import {
  type CardSnapshot,
  examinePart,
  kByChart,
  type PartDocument,
  type StockLibrary,
  toRadians,
} from "@hillcrest/core";
import { expect, test } from "vitest";
import { isSaved, openPart, root, savedFile } from "./harness.ts";
import { opened } from "./opened.ts";

const { bench, page } = await opened();

const blankSize = () => page.locator('[data-size="blank"]').innerText();
const editor = (name: string) => page.waitForSelector(`[data-editor="${name}"]`);
const saved = () => page.waitForSelector('[data-save]:disabled:has-text("Save")');
const api = async <T>(path: string): Promise<T> =>
  (await fetch(`${bench.base}/api${path}`)).json() as Promise<T>;
const documentOf = async (name: string): Promise<{ id: string; document: PartDocument }> => {
  const { id } = (await api<{ id: string; name: string }[]>("/parts")).find((p) => p.name === name)!;
  return api(`/parts/${id}`);
};

test("every link of a number's chain opens its source", async () => {
  await openPart(page, bench.base, "Battery tray");
  await page.click('[data-size="blank"] button >> nth=0');
  // The blank's width is explained by what one crosses.
  expect(await page.locator("[data-why]").innerText()).toContain(
    "width = 39 + 3.3458 + 314 + 3.3458 + 39 = 398.6916",
  );
  await page.keyboard.press("Escape");
  await page.click('[data-drawer="bends"]');
  await page.click('[data-bend="1"] [aria-label*="allowance of bend 1"]');
  const links = await page
    .locator("[data-why] a")
    .evaluateAll((all) => all.map((a) => [a.textContent ?? "", a.getAttribute("href") ?? ""]));
  await page.click("[data-why] >> text=step 2");
  await page.waitForSelector('[data-step="s2"] [data-field="radius"]');
  const opens: Record<string, string> = {
    "stock card Galvanised 1.5, revision 1": "Galvanised 1.5",
    "Ridge brake chart, row 3": "Ridge brake chart",
    "Ridge brake chart, row 4": "Ridge brake chart",
    "test bends": "Ridge brake, autumn coupons",
  };
  expect(new Set(links.map(([text]) => text))).toEqual(new Set(Object.keys(opens)));
  for (const [text, address] of new Map(links.map(([t, a]) => [t, a]))) {
    await page.goto(bench.base + address);
    await editor(opens[text]);
    const row = /row (\d+)/.exec(text)?.[1];
    if (row) await page.waitForSelector(`[data-table] [data-row="${row}"].bg-amber-soft`);
  }
});

test("a chart is pasted, refused by row and column, mended, and what it changes is shown before it counts", async () => {
  await page.goto(`${bench.base}/stock/charts/ridge-brake`);
  await editor("Ridge brake chart");
  // Pasted into a cell, several cells are meant for the table.
  await page
    .locator('[data-table] [data-row="1"] input')
    .first()
    .evaluate((cell, text) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData("text/plain", text);
      cell.dispatchEvent(new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }));
    }, "thickness\tradius\tangle\tK\n1,5\t1,5\t30\t0,40\n1,5\t1,5\tx\t0,40");
  const rows = page.locator('textarea[aria-label="Rows"]');
  await page.click("[data-take-rows]");
  const told = await page.locator("[data-row-problems]").innerText();
  expect(told).toContain('Row 2, thickness: "1,5" has a decimal comma');
  expect(told).toContain('Row 3, angle: "x" is not a number');
  expect(await page.locator("[data-table] [data-row]").count()).toBe(8);
  // A file is taken at once, or told what is wrong with it; mended, it can be chosen again.
  const choose = (k: string) =>
    page.setInputFiles('[data-files="rows"]', {
      name: "ridge.csv",
      mimeType: "text/csv",
      buffer: Buffer.from(`thickness,radius,angle,K\n1.5,1.5,90,${k}\n`),
    });
  await choose("much");
  await page.waitForSelector("[data-row-problems] >> text=Row 2, K");
  await page.waitForSelector("text=ridge.csv");
  expect(await page.locator("[data-table] [data-row]").count()).toBe(8);
  await choose("0.41");
  await page.waitForSelector('[data-table] [data-row="2"]', { state: "detached" });
  expect(await rows.count()).toBe(0);
  await page.keyboard.press("Control+z");
  await page.waitForSelector('[data-table] [data-row="8"]');
  await page.click("[data-paste]");
  await rows.fill("thickness\tradius\tangle\tK\n1,5\t1,5\t135\t0,40\n1,5\t1,5\t30\t0,40\n1\t1\t90\t0,42");
  await page.click("[data-take-rows]");
  await page.click("text=Read commas as points");
  await page.waitForSelector("[data-row-problems] >> text=Row 3, angle: 30° stands after 135°");
  await page.click("text=Sort, then take");
  await page.waitForSelector("[data-row-problems]", { state: "detached" });
  expect(await page.locator("[data-table] [data-row]").count()).toBe(3);
  // Ctrl + Z brings the old table back, Ctrl + Shift + Z the new one.
  await page.keyboard.press("Control+z");
  await page.waitForSelector('[data-table] [data-row="8"]');
  await page.keyboard.press("Control+Shift+z");
  await page.waitForSelector('[data-table] [data-row="8"]', { state: "detached" });
  await page.click("[data-save]");
  const impact = page.locator("[data-impact]");
  await impact.waitFor();
  // Two bends lie across the tray's width: BA falls by π/2 · 0.02 · 1.5 for each.
  expect(await impact.innerText()).toContain("Battery tray");
  await expect.poll(() => impact.innerText()).toContain("−0.094 × −0.141");
  await page.click("[data-save-only]");
  await saved();

  await openPart(page, bench.base, "Battery tray");
  expect(await blankSize()).toBe("398.69 × 268.04 mm");
  await page.click("[data-stock]");
  const newer = page.locator("[data-newer-card]");
  await newer.waitFor();
  expect(await newer.innerText()).toContain("changes the blank by −0.094 mm × −0.141 mm");
  await page.click("[data-take-over]");
  await page.waitForSelector('[data-size="blank"]:has-text("398.60 × 267.90 mm")');
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+z");
  await page.waitForSelector('[data-size="blank"]:has-text("398.69 × 268.04 mm")');
  await isSaved(page);
});

test("a radius that the card does not allow is marked until a reason is given", async () => {
  await openPart(page, bench.base, "Battery tray");
  await page.click('[data-step="s4"]', { position: { x: 12, y: 12 } });
  await page.click('[data-step="s4"] [data-radii]');
  await page.click('[data-die="v-12"]');
  // 0.16 of V 12 is 1.92 mm: air bent, but not one of the card's radii.
  await page.waitForSelector('[data-step="s4"]:has-text("= 1.92")');
  await page.waitForSelector('[data-step="s4"] >> text=radius 1.92 mm is not one that the card allows');
  await page.waitForSelector('[data-step="s4"] [aria-label="warning"]');
  await page.fill('[data-step="s4"] [data-field="reason"]', "only the wide V is free");
  await page.keyboard.press("Enter");
  await page.waitForSelector('[data-step="s4"] >> text=It is meant: only the wide V is free');
  await page.click('[data-step="s4"] [data-radii]');
  await page.click('[data-radius="2"]');
  await page.waitForSelector('[data-step="s4"] >> text=It is meant', { state: "detached" });
  await isSaved(page);
});

test("a part speaks inches at a click, takes either, and keeps its shape", async () => {
  await openPart(page, bench.base, "Solar panel foot");
  await isSaved(page);
  const before = examinePart((await documentOf("Solar panel foot")).document);
  await page.click("[data-stock]");
  await page.click('[data-units="in"]');
  await page.keyboard.press("Escape");
  const inches = (mm: number) => (mm / 25.4).toFixed(4);
  const { width, height } = before.blank!;
  await page.waitForSelector(`[data-size="blank"]:has-text("${inches(width)} × ${inches(height)} in")`);
  await page.click("[data-stock]");
  await page.click('[data-units="fractions"]');
  await page.keyboard.press("Escape");
  await page.waitForSelector('[data-size="blank"]:has-text("≈2 23/64")');
  await isSaved(page);
  const after = examinePart((await documentOf("Solar panel foot")).document);
  expect(after.blank).toEqual(before.blank);
  // Typed plainly it is inches now; with its unit it may be anything.
  const field = page.locator('[data-step="s3"] input[data-field="length"]').first();
  await field.fill("1 1/2");
  await page.keyboard.press("Enter");
  await isSaved(page);
  const step = async () => (await documentOf("Solar panel foot")).document.steps[2];
  expect((await step()).length).toBe("1 1/2 in");
  await field.fill("38.1mm");
  await page.keyboard.press("Enter");
  await isSaved(page);
  expect((await step()).length).toBe("38.1mm");
});

test("coupons are typed in, become a chart, and the chart a card that a part uses", async () => {
  await page.goto(`${bench.base}/stock/testBends`);
  await page.click('[data-new="testBends"]');
  await editor("New set of test bends");
  const worked = (
    JSON.parse(readFileSync(join(root, "packages/core/test/cases/worked-numbers.json"), "utf8")) as {
      testBends: Record<string, number>[];
    }
  ).testBends[1];
  for (const row of [1, 2]) {
    await page.click('[data-add-row="coupons"]');
    const cell = (key: string) =>
      page
        .locator('[data-rows="coupons"] tbody tr')
        .nth(row - 1)
        .locator(`[data-field="coupon-${key}"]`);
    for (const [key, from] of [
      ["thickness", "t"],
      ["radius", "r"],
      ["angle", "angle"],
      ["before", "flatBefore"],
      ["legA", "legA"],
      ["legB", "legB"],
    ])
      await cell(key).fill(String(worked[from]));
  }
  expect(await page.locator("[data-fit-k]").innerText()).toBe("0.4370");
  await page.click("[data-save]");
  await saved();
  await page.click("[data-make-chart]");
  await editor("New set of test bends: chart");
  await page.click("[data-save]");
  await saved();
  const library = await api<StockLibrary>("/stock/library");
  const chart = library.charts.find((c) => c.testBends === "new-set-of-test-bends")!;
  expect(kByChart(chart, { t: 2, r: 2.4, angle: toRadians(90) }).k).toBe(0.437);

  await page.click('nav >> text="Stock cards"');
  await page.click('[data-item="Galvanised 2"]');
  await editor("Galvanised 2");
  await page.fill('[aria-label="Inside radii that are allowed, number 1"]', "2.4");
  await page.selectOption('select[aria-label="Bend chart"]', chart.id);
  await page.click("[data-save]");
  await page.locator("[role=dialog] [data-impact] >> text=Solar panel foot").click();
  await page.click("[data-save-parts]");
  await saved();
  const build = examinePart((await documentOf("Solar panel foot")).document);
  expect(build.bends.map((b) => b.radius)).toEqual([2.4, 2.4, 2.4]);
  expect(build.bends[2].k).toBe(0.437);
  // Only 90° was ever bent: one line names both bends of 60°.
  const outside = build.findings.filter((f) => f.rule === "outside-chart");
  expect(outside).toHaveLength(1);
  expect(outside[0].message).toMatch(/^Bends 1 and 2/);
});

test("the study solves for K, and the part takes its number to the last digit", async () => {
  await openPart(page, bench.base, "Cable cover");
  await page.click('[data-drawer="bends"]');
  await page.click('[data-bend="1"] >> text=section');
  await page.waitForSelector('select[aria-label="Bend"]');
  await page.click('[data-follows="allowance"] >> text=set');
  await page.fill('[data-solve="allowance"] [data-field="wanted"]', "3.2");
  await page.keyboard.press("Enter");
  const copied = async (of: string) =>
    Number(await page.locator(`[data-follows="${of}"] [data-copy]`).getAttribute("data-copy"));
  const allowance = await copied("allowance");
  const deduction = await copied("deduction");
  expect(allowance).toBeCloseTo(3.2, 12);
  await page.click("[data-use]");
  await page.waitForSelector("[data-step] >> text=Change bends");
  await isSaved(page);
  const build = examinePart((await documentOf("Cable cover")).document);
  expect(build.bends[0].allowance).toBe(allowance);
  expect(build.bends[0].deduction).toBe(deduction);
  expect(build.bends[1].allowance).not.toBe(allowance);
  await page.keyboard.press("Control+z");
  await page.waitForSelector("[data-step] >> text=Change bends", { state: "detached" });

  // The neutral axis is dragged, and stays under the pointer.
  await page.goto(`${bench.base}/study?t=2&r=4&angle=90&k=0.4`);
  const grip = page.locator("[data-neutral]");
  const middle = async () => {
    const box = (await grip.boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  const from = await middle();
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 8, from.y + 8, { steps: 4 });
  await page.mouse.up();
  expect(Number(await page.inputValue('[data-field="k"]'))).toBeGreaterThan(0.45);
  const to = await middle();
  expect(Math.hypot(to.x - from.x - 8, to.y - from.y - 8)).toBeLessThan(1.5);
});

test("unsaved changes of the stock outlive the window, and the library leaves and comes back whole", async () => {
  await page.goto(`${bench.base}/stock/dies/v-8`);
  await editor("V 8");
  await page.fill('[data-field="mostForce"]', "x");
  await page.waitForSelector('[role="alert"]:has-text("is not a unit")');
  await page.click("h2");
  await page.click("[data-new]", { trial: true });
  await page.fill('[data-field="mostForce"]', "450");
  await page.waitForSelector('[data-unsaved="1"]');
  page.once("dialog", (d) => void d.accept());
  await page.reload();
  await editor("V 8");
  expect(await page.inputValue('[data-field="mostForce"]')).toBe("450");
  await page.click("[data-save]");
  await page.waitForFunction(
    () => document.querySelector('[data-unsaved="0"]') || document.querySelector("[data-impact]"),
  );
  if (await page.locator("[data-impact]").count()) await page.click("[data-save-only]");
  await page.waitForSelector('[data-unsaved="0"]', { state: "attached" });
  const file = await savedFile(page, () => page.click("text=Export library"));
  const library = JSON.parse(file.text) as StockLibrary;
  expect(library.dies.find((d) => d.id === "v-8")?.mostForce).toBe(450);
  const broken = { ...library, dies: [{ ...library.dies[0], v: "wide" }, ...library.dies.slice(1)] };
  await page.setInputFiles("[data-files='library']", {
    name: "broken.json",
    mimeType: "application/json",
    buffer: Buffer.from(JSON.stringify(broken)),
  });
  await page.waitForSelector('li:has-text("/dies/0/v V-width must be a number")');
  await page.click("text=All right");
  await page.setInputFiles("[data-files='library']", {
    name: "library.json",
    mimeType: "application/json",
    buffer: Buffer.from(
      JSON.stringify({ ...library, dies: library.dies.map((d) => ({ ...d, length: 1000 })) }),
    ),
  });
  await page.waitForSelector("text=0 added, 6 replaced");
});

test("a card behind a hundred parts is changed without waiting for their numbers; all take it over, though the page is left and the server killed", async () => {
  const tray = (await documentOf("Battery tray")).document;
  const more = Array.from({ length: 100 }, (_, i) => ({ ...tray, name: `Tray of row ${i + 1}` }));
  for (const document of more)
    await fetch(`${bench.base}/api/parts`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ document }),
    });
  const card = (tray.stock.card as CardSnapshot).id;
  await page.goto(`${bench.base}/stock/cards/${card}`);
  const behind = page.locator("[data-behind]");
  await behind.waitFor();
  const dies = page.locator('[aria-label="Inside radii that are allowed, number 1"]');
  const typed = Number(await dies.inputValue()) + 0.1;
  await dies.click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type(String(typed), { delay: 30 });
  await page.keyboard.press("Enter");
  await page.click("[data-save]");
  const rows = page.locator("[role=dialog] [data-impact] tbody tr");
  // They are named while most of them are still being reckoned, and it is said how many are not.
  const said = await page.locator("[role=dialog] [data-reckoned]").innerText();
  const count = await rows.count();
  expect(count).toBeGreaterThan(100);
  expect(said).toMatch(new RegExp(`^\\d+ of ${count} reckoned`));
  await page.click("[data-save-only]");
  await saved();
  // What nobody waits for is not reckoned to its end: the server is free for what is asked next.
  await expect.poll(() => behind.locator("[data-impact] tbody tr").count()).toBe(count);
  await behind.locator('[aria-label="All parts"]').check();
  await behind.locator(`button:has-text("Take over in ${count} parts")`).click();
  await page.locator("[data-taking-over=working]").waitFor();
  await page.goto(bench.base);
  const far = async () => (await (await fetch(`${bench.base}/api/stock/take-over`)).json())[0];
  await expect.poll(async () => (await far()).done, { interval: 10 }).toBeGreaterThan(3);
  await bench.stopServer("SIGKILL");
  await bench.startServer();
  await page.goto(`${bench.base}/stock/cards/${card}`);
  await page.locator(`[data-taking-over=finished]:has-text("${count} parts updated.")`).waitFor();
  await behind.locator("text=None: every part that uses it").waitFor();
  await page.click("text=Show the parts");
  await expect.poll(() => page.locator("[data-changed] li").count()).toBe(count);
  await page.click("[role=dialog] >> text=All right");
  await page.click("[data-taking-over] >> text=Close");
  await page.reload();
  await behind.waitFor();
  expect(await page.locator("[data-taking-over]").count()).toBe(0);
  const last = (await documentOf("Tray of row 100")).document;
  expect((last.stock.card as CardSnapshot).radii[0]).toBe(typed);
});
