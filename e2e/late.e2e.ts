import type { Page } from "playwright-core";
import { expect, test } from "vitest";
import { clickEdge, isSaved, openPart } from "./harness.ts";
import { opened } from "./opened.ts";

const { bench } = await opened();
/** Half a second behind the hand, as where a part is large or a machine busy. */
const page = await bench.newPage({ late: 500 });

const size = async (of: string) =>
  (await page.locator(`[data-size="${of}"]`).innerText()).replace(/\s+/g, " ");
const field = (step: string, key: string) => page.locator(`[data-step="${step}"] input[data-field="${key}"]`);
const openStep = (id: string) => page.click(`[data-step="${id}"]`, { position: { x: 12, y: 12 } });
const drawer = async (name: string) => {
  const tab = page.locator(`[data-drawer="${name}"]`);
  if ((await tab.getAttribute("aria-selected")) !== "true") await tab.click();
};
const newPart = async (on: Page) => {
  await on.goto(bench.base);
  await on.click("text=New part");
  await on.waitForSelector("text=Nothing on the Bench");
};
/** Collisions are not looked for any more. */
const atRest = () => page.waitForSelector("[data-looking]", { state: "detached" });

test("a plate becomes a drawn one as large as was typed just before", async () => {
  await newPart(page);
  await page.keyboard.press("p");
  await page.keyboard.type("200");
  await page.keyboard.press("Tab");
  await page.keyboard.type("90");
  await page.click('[data-step="s1"] [data-field="form"]');
  await page.click('[data-option="drawn"]');
  await page.waitForSelector("[data-point=c]");
  await expect.poll(() => size("folded")).toMatch(/^200\.00 × 90\.00/);
  expect(await page.locator("[data-dimension] text").allTextContents()).toEqual(["200.00", "90.00"]);
});

test("keys that move a length count, however many come before the shape", async () => {
  await newPart(page);
  await page.keyboard.press("p");
  await page.keyboard.type("100");
  await page.keyboard.press("Enter");
  await clickEdge(page, "s1.north");
  await page.keyboard.press("f");
  await page.keyboard.type("30");
  await page.keyboard.press("Enter");
  const handle = page.locator('[data-handle="length"]');
  await handle.waitFor();
  await handle.focus();
  for (let i = 0; i < 7; i++) await page.keyboard.press("ArrowUp", { delay: 90 });
  await page.keyboard.press("Shift+ArrowUp");
  expect(await field("s2", "length").inputValue()).toBe("37.1");
  // Once the shape is there they go on from it.
  await expect.poll(() => size("folded")).toMatch(/× 37\.10 mm$/);
  await page.keyboard.press("ArrowDown");
  expect(await field("s2", "length").inputValue()).toBe("36.1");
});

test("a step that has gone wrong a moment ago is not saved as DXF, and one put right a moment ago is", async () => {
  await openPart(page, bench.base, "Battery tray");
  await openStep("s1");
  const before = await field("s1", "depth").inputValue();
  await field("s1", "depth").click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("60 +");
  await page.keyboard.press("Control+e");
  await page.waitForSelector("text=A step is wrong");
  await page.keyboard.press("Escape");
  await field("s1", "depth").click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type(before);
  const [saved] = await Promise.all([page.waitForEvent("download"), page.keyboard.press("Control+e")]);
  expect(saved.suggestedFilename()).toBe("Battery tray.dxf");
  await page.keyboard.press("Escape");
});

test("what would work is done once, however often it is clicked before the shape comes", async () => {
  await openPart(page, bench.base, "Rain gauge hood, first draft");
  await openStep("s3");
  await field("s3", "length").click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("25");
  await page.keyboard.press("Enter");
  await drawer("findings");
  const shorten = page.locator('[data-mend]:has-text("Lengthen plate B by 0.5 mm")').first();
  await shorten.waitFor();
  await atRest();
  const before = await size("blank");
  await shorten.dblclick();
  await page.locator("[data-finding]:has-text('deep in plate D')").waitFor({ state: "detached" });
  await expect.poll(() => size("blank")).not.toBe(before);
  await atRest();
  const after = await size("blank");
  await page.keyboard.press("Control+z");
  await expect.poll(() => size("blank")).toBe(before);
  await page.keyboard.press("Control+y");
  await expect.poll(() => size("blank")).toBe(after);
  await page.keyboard.press("Control+z");
  await isSaved(page);
});

test("what was found before a value is typed is not said of it, though it was looked for only meanwhile", async () => {
  const parts = (await (await fetch(`${bench.base}/api/parts`)).json()) as { id: string; name: string }[];
  const hood = parts.find((p) => p.name === "Rain gauge hood, first draft")!;
  // A field is typed into before the part's first shape is there, let alone what is found in it.
  const later = await bench.newPage({ late: 2000 });
  await later.goto(`${bench.base}/parts/${hood.id}`);
  await later.click('[data-step="s1"] input[data-field="width"]');
  await later.keyboard.press("End");
  await later.keyboard.type("  ", { delay: 100 });
  await later.waitForSelector("[data-looking]");
  await later.waitForSelector("[data-looking]", { state: "detached" });
  expect(await later.locator('[data-drawer="findings"]').innerText()).toMatch(/[1-9]/);
  await expect.poll(() => later.locator("[data-new-finding]").count()).toBe(0);
  await later.context().close();
});

test("what is pressed twice before the server answers is done once", async () => {
  const slow = await bench.newPage();
  await slow.route("**/api/**", async (route) => {
    if (route.request().method() !== "GET") await new Promise((done) => setTimeout(done, 700));
    await route.continue();
  });
  const parts = async () => {
    const all = (await (await fetch(`${bench.base}/api/parts`)).json()) as { name: string }[];
    return all.map((p) => p.name);
  };
  const before = (await parts()).length;
  await slow.goto(bench.base);
  await slow.dblclick('[aria-label="Copy Cable cover"]');
  await slow.waitForSelector('[data-part="Cable cover (copy)"]');
  await slow.dblclick("text=New part");
  await slow.waitForSelector("text=Nothing on the Bench");
  // One that was asked for a second time would be there by now.
  await slow.waitForLoadState("networkidle");
  expect((await parts()).length).toBe(before + 2);
  await slow.keyboard.press("p");
  await slow.click('[data-step="s1"] [data-field="form"]');
  await slow.click('[data-option="drawn"]');
  await slow.waitForSelector("[data-point=c]");
  await slow.keyboard.press("Escape");
  await slow.click('[data-drawer="outlines"]');
  await slow.dblclick("[data-keep]");
  await slow.waitForSelector("[data-keep]", { state: "detached" });
  await slow.waitForLoadState("networkidle");
  expect(await slow.locator("[data-outlines] [role=alert]").count()).toBe(0);
  await slow.context().close();
});

test("keys go to the drawing that a choice has opened, however late its list closes", async () => {
  const busy = await bench.newPage();
  // As where the page has so much to do that what it puts off comes a moment later.
  await busy.addInitScript(() => {
    const prompt = window.setTimeout;
    const late = (work: TimerHandler, ms = 0, ...rest: unknown[]) => prompt(work, Math.max(ms, 400), ...rest);
    Object.assign(window, { setTimeout: late });
  });
  await newPart(busy);
  await busy.keyboard.press("p");
  await busy.click('[data-step="s1"] [data-field="form"]');
  await busy.click('[data-option="drawn"]');
  await busy.waitForSelector("[data-point=c]");
  // What was put off before this has come then.
  await busy.evaluate(() => new Promise((done) => setTimeout(done, 0)));
  await busy.keyboard.press("Enter");
  await busy.waitForSelector('[data-view="blank"] [data-edge="s1.north"]', { state: "attached" });
  // A list that is closed without a choice gives the keys back to what opened it.
  await busy.click('[data-step="s1"] [data-field="form"]');
  await busy.waitForSelector('[data-option="drawn"]');
  await busy.keyboard.press("Escape");
  await expect
    .poll(() => busy.evaluate(() => document.activeElement?.getAttribute("data-field")))
    .toBe("form");
  await busy.context().close();
});

test("what waits for a shape is not done to another part that was opened before it came", async () => {
  const later = await bench.newPage({ late: 1500 });
  const stored = async (name: string) => {
    const all = (await (await fetch(`${bench.base}/api/parts`)).json()) as { id: string; name: string }[];
    const { id } = all.find((p) => p.name === name)!;
    return ((await (await fetch(`${bench.base}/api/parts/${id}`)).json()) as { document: object }).document;
  };
  const before = await stored("Cable cover");
  await newPart(later);
  await later.keyboard.press("p");
  await later.keyboard.type("77");
  await later.click('[data-step="s1"] [data-field="form"]');
  await later.click('[data-option="drawn"]');
  await later.click('[aria-label="Shelf"]');
  await later.click('[data-part="Cable cover"] a');
  await later.waitForSelector('[data-size="folded"]');
  await later.waitForSelector("[data-looking]", { state: "detached" });
  expect(await later.locator("[data-drawing]").count()).toBe(0);
  expect(await later.locator('[data-drawer="outlines"]').innerText()).not.toMatch(/\d/);
  expect(await stored("Cable cover")).toEqual(before);
  await later.context().close();
});
