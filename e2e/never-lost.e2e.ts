import { writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Page } from "playwright-core";
import { expect, test } from "vitest";
import { isSaved, nextSave, openPart, savedFile } from "./harness.ts";
import { opened } from "./opened.ts";

const { bench, ...first } = await opened();
let { page } = first;

const width = (p: Page) => p.locator('[data-step="s1"] input[data-field="width"]');

test("work goes on while the server is away, and is saved when it is back", async () => {
  await openPart(page, bench.base, "Cable cover");
  await bench.stopServer();
  await width(page).fill("250");
  await page.waitForSelector('[data-saving="unreachable"]');
  await page.waitForSelector('[data-size="folded"]:has-text("250.00")');
  await bench.startServer();
  await page.waitForSelector('[data-saving="saved"]', { timeout: 30_000 });
  await page.reload();
  await page.waitForSelector('[data-size="folded"]:has-text("250.00")');
});

test("what had not reached the server when the window closed is there when it opens again", async () => {
  await bench.stopServer();
  await width(page).fill("260");
  await page.waitForSelector('[data-saving="unreachable"]');
  const { context } = { context: page.context() };
  const url = page.url();
  await page.close();
  await bench.startServer();
  page = await context.newPage();
  await page.goto(url);
  await page.waitForSelector('[data-size="folded"]:has-text("260.00")');
  await isSaved(page);
});

test("what is done while a save is under way is saved too, when the part is left at once", async () => {
  await page.route("**/api/parts/*", async (route) => {
    if (route.request().method() === "PATCH") await new Promise((done) => setTimeout(done, 1200));
    await route.continue();
  });
  const underWay = page.waitForRequest((r) => r.method() === "PATCH");
  await width(page).fill("261");
  await underWay;
  await width(page).fill("262");
  await page.click('[aria-label="Shelf"]');
  // The Shelf waits for what was just left, and shows it.
  await page.waitForSelector('[data-part="Cable cover"] >> text=262 ×');
  await page.unroute("**/api/parts/*");
  await page.evaluate(() => localStorage.clear());
  await page.click('[data-part="Cable cover"] a');
  await page.waitForSelector('[data-size="folded"]:has-text("262.00")');
  await isSaved(page);
  await Promise.all([nextSave(page), width(page).fill("260")]);
  await page.waitForSelector('[data-size="folded"]:has-text("260.00")');
  await isSaved(page);
});

test("a part saved in two windows asks, and keeps either or both", async () => {
  const other = await page.context().newPage();
  await other.goto(page.url());
  await other.waitForSelector('[data-size="folded"]:has-text("260.00")');
  const meet = async (mine: string, theirs: string) => {
    await Promise.all([nextSave(other), width(other).fill(theirs)]);
    await isSaved(other);
    await width(page).fill(mine);
    await page.waitForSelector("[role=dialog] >> text=saved elsewhere too");
  };
  await meet("270", "280");
  await page.click('[role=dialog] button:has-text("Take the other")');
  await page.waitForSelector('[data-size="folded"]:has-text("280.00")');
  // Undo brings back what was set aside.
  await page.keyboard.press("Control+z");
  await page.waitForSelector('[data-size="folded"]:has-text("270.00")');
  await isSaved(page);
  await other.reload();
  await other.waitForSelector('[data-size="folded"]:has-text("270.00")');
  await meet("290", "300");
  await page.click('[role=dialog] button:has-text("Keep mine")');
  await isSaved(page);
  await other.reload();
  await other.waitForSelector('[data-size="folded"]:has-text("290.00")');
  await meet("310", "320");
  await page.click('[role=dialog] button:has-text("Keep both")');
  await page.waitForSelector('[data-size="folded"]:has-text("320.00")');
  await page.goto(bench.base);
  await page.waitForSelector('[data-part="Cable cover (mine)"] >> text=310');
  await page.waitForSelector('[data-part="Cable cover"] >> text=320');
  await other.close();
});

test("a part goes into the bin and back; search finds it by name or stock", async () => {
  await page.goto(bench.base);
  await page.hover('[data-part="Mast bracket"]');
  await page.click('[aria-label="Put Mast bracket into the bin"]');
  await page.waitForSelector('[data-part="Mast bracket"]', { state: "detached" });
  await page.click("text=Put it back");
  await page.waitForSelector('[data-part="Mast bracket"]');
  await page.fill('[aria-label="Search parts"]', "mild br");
  await page.waitForSelector('[data-part="Battery tray"]', { state: "detached" });
  expect(await page.locator("[data-part]").count()).toBe(1);
  await page.fill('[aria-label="Search parts"]', "zinc whisker");
  await page.waitForSelector("text=No part matches");
});

test("a file that cannot be read is refused with every place, and one that can is put on the Shelf", async () => {
  const put = (name: string, text: string) => {
    const path = join(tmpdir(), name);
    writeFileSync(path, text);
    return path;
  };
  await page.goto(bench.base);
  await page.waitForSelector("[data-part]");
  const count = await page.locator("[data-part]").count();
  await page.setInputFiles(
    "[data-files='parts']",
    put("half.json", '{"format":"hillcrest-part","version":1,'),
  );
  await page.waitForSelector("[role=dialog] >> text=the file ends in the middle");
  await page.click("[role=dialog] button:has-text('All right')");
  await page.setInputFiles(
    "[data-files='parts']",
    put("later.json", '{"format":"hillcrest-part","version":12}'),
  );
  await page.waitForSelector("[role=dialog] >> text=reads up to version 4");
  await page.click("[role=dialog] button:has-text('All right')");
  expect(await page.locator("[data-part]").count()).toBe(count);
  const name =
    "A name that somebody made very long indeed, to see where it would go when there is no room for it";
  const good = {
    format: "hillcrest-part",
    version: 1,
    name,
    stock: {},
    steps: [{ id: "s1", kind: "plate" }],
  };
  await page.setInputFiles("[data-files='parts']", put("good.json", JSON.stringify(good)));
  await page.waitForSelector(`[data-part="${name}"]`);
});

test("a page that fails shows no white screen, and hands the part over", async () => {
  await page.route("**/api/parts/*", async (route) => {
    const answer = await route.fetch();
    const part = await answer.json();
    part.document.steps = { not: "a list" };
    await route.fulfill({ json: part });
  });
  await page.goto(bench.base);
  await page.click('[data-part="Battery tray"] a');
  await page.waitForSelector("text=This page failed");
  const { text } = await savedFile(page, () => page.click("text=Download the part"));
  expect(JSON.parse(text).name).toBe("Battery tray");
  await page.unroute("**/api/parts/*");
  await page.click("text=Load again");
  await page.waitForSelector('[data-size="folded"]:has-text("320.00")');
});

test("an address without a part, and one without a page, say so and lead back", async () => {
  await page.goto(`${bench.base}/parts/nothing`);
  await page.waitForSelector("text=There is no such part");
  await page.goto(`${bench.base}/somewhere`);
  await page.waitForSelector("text=There is no page here");
  await page.click("text=To the Shelf");
  await page.waitForSelector("[data-part]");
});
