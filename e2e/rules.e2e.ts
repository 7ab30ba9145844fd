import { expect, test } from "vitest";
import { isSaved, openPart } from "./harness.ts";
import { opened } from "./opened.ts";

const { bench, page } = await opened();

const dial = page.locator('[aria-label="Fold dial"]');
const collisions = page.locator('[data-finding="collision"]');
const field = (step: string, key: string) => page.locator(`[data-step="${step}"] input[data-field="${key}"]`);
const gap = page.locator("[data-whole-gap]");
const gapText = async () => (await gap.innerText()).replace(/\s+/g, " ");
const openStep = (id: string) => page.click(`[data-step="${id}"]`, { position: { x: 12, y: 12 } });
const drawer = async (name: string) => {
  const tab = page.locator(`[data-drawer="${name}"]`);
  if ((await tab.getAttribute("aria-selected")) !== "true") await tab.click();
};

test("the least gap of the part with itself is said, follows the dial, and is measured by a click", async () => {
  await openPart(page, bench.base, "Battery tray");
  await drawer("measure");
  await expect.poll(gapText).toMatch(/^Least gap of the part with itself 1\.500 mm Plate C to Bend 7 show$/);
  await gap.locator("button").click();
  const row = page.locator('[data-measure="now"]');
  await row.waitFor();
  expect(await row.locator("[data-gap]").innerText()).toBe("1.500 mm");
  await dial.focus();
  await page.keyboard.press("Home");
  await expect.poll(gapText).not.toContain("1.500 mm");
  await page.keyboard.press("End");
  await expect.poll(gapText).toContain("1.500 mm");
  await page.keyboard.press("Escape");
});

test("grain and the side that is seen are the part's own, chosen beside its card, and undone", async () => {
  await page.click("[data-stock]");
  const card = page.locator('[role="dialog"]');
  await card.locator('[data-field="visibleSide"]').click();
  await page.click('[data-option="A"]');
  await page.keyboard.press("Escape");
  await drawer("findings");
  const told = page.locator('[data-finding="both-ways"]');
  await told.waitFor();
  expect(await told.innerText()).toContain(
    "Side A, which is seen, lies on the die for bends 1, 2, 3, 4, 6 and 7",
  );
  await page.keyboard.press("Control+z");
  await told.waitFor({ state: "detached" });
  await page.keyboard.press("Control+y");
  await told.waitFor();
  await isSaved(page);
  await page.reload();
  await drawer("findings");
  await told.waitFor();
});

test("what a typed value breaks elsewhere is said beside the column while it is typed, and nothing moves", async () => {
  await openPart(page, bench.base, "Rain gauge hood, first draft");
  await openStep("s3");
  const length = field("s3", "length");
  await length.click();
  const before = (await length.boundingBox())!;
  await page.keyboard.press("Control+a");
  await page.keyboard.type("25", { delay: 80 });
  const said = page.locator("[data-new-finding]");
  await expect.poll(() => said.allInnerTexts()).toEqual([expect.stringMatching(/deep in plate/)]);
  const after = (await length.boundingBox())!;
  expect([after.x, after.y]).toEqual([before.x, before.y]);
  // The field has kept the focus, and what was typed.
  expect(await length.evaluate((e) => e === document.activeElement)).toBe(true);
  expect(await length.inputValue()).toBe("25");
  await page.keyboard.press("Backspace");
  await page.keyboard.type("4", { delay: 80 });
  await said.waitFor({ state: "detached" });
  await page.keyboard.press("Backspace");
  await page.keyboard.type("5", { delay: 80 });
  await page.keyboard.press("Enter");
  await said.waitFor({ state: "detached" });
});

test("two legs that stand in one another are parted by one action, shown before, undone after", async () => {
  await drawer("findings");
  await collisions.first().waitFor();
  const shorten = page.locator('[data-mend]:has-text(" plate B by ")').first();
  await shorten.waitFor();
  expect(await shorten.innerText()).toBe("Lengthen plate B by 0.5 mm");
  const box = () => page.locator('[data-size="blank"]').innerText();
  const size = await box();
  await shorten.hover();
  await expect.poll(box).not.toBe(size);
  await page.locator('[data-drawer="findings"]').hover();
  await expect.poll(box).toBe(size);
  await shorten.click();
  // What is left of them meets on the way only, if at all.
  await expect
    .poll(async () => (await collisions.allInnerTexts()).filter((t) => /deep in plate/.test(t)))
    .toEqual([]);
  await page.keyboard.press("Control+z");
  await expect
    .poll(async () => (await collisions.allInnerTexts()).filter((t) => /deep in plate/.test(t)).length)
    .toBeGreaterThan(0);
  await page.keyboard.press("Control+z");
  await isSaved(page);
});

test("numbers of rules are typed key by key; what no shop can mean is said at the field and never saved", async () => {
  await page.goto(`${bench.base}/stock/rules/ridge-rules`);
  const rule = page.locator('[data-rule="narrow-slit"]');
  const kerf = rule.locator("input");
  const save = page.locator("[data-save]");
  const type = async (text: string) => {
    await kerf.click();
    await page.keyboard.press("Control+a");
    await page.keyboard.press("Delete");
    await page.keyboard.type(text, { delay: 25 });
  };
  await kerf.waitFor();
  for (const [text, says] of [
    ["-5", /below 0|least 0|from 0/],
    ["1e16", /./],
    ["wide", /./],
    ["", /./],
    ["1e-7x", /./],
  ] as const) {
    await type(text);
    const alert = rule.locator('[role="alert"]');
    await alert.waitFor();
    expect(await alert.innerText()).toMatch(says);
    expect(await kerf.inputValue()).toBe(text);
  }
  await type("0.22");
  await page.keyboard.press("Tab");
  expect(await rule.locator('[role="alert"]').count()).toBe(0);
  // A yes is clicked, a level chosen; each stands beside its rule.
  await page.locator('[data-rule="hem-kind"] input[type="checkbox"]').nth(2).check();
  await page.locator('[data-rule="slanted-end"] select').selectOption("off");
  expect(await page.locator('[data-rule="slanted-end"] input').count()).toBe(0);
  await save.click();
  // What it would do to the parts of the shop's cards is shown first; they may stay as they are.
  await page.click("[data-save-only]");
  await page.waitForSelector('[data-save]:disabled:has-text("Save")');
  const library = (await (await fetch(`${bench.base}/api/stock/library`)).json()) as {
    rules: Record<string, unknown>[];
  };
  expect(library.rules.find((r) => r.id === "ridge-rules")).toMatchObject({
    kerf: 0.22,
    noTeardropHems: true,
    "slanted-end": "off",
  });
});

test("the sheets that are kept are typed into a card, and a blank that fits none stops the part", async () => {
  await page.goto(`${bench.base}/stock/cards/ridge-galvanised-1-5`);
  await page.click("text=+ sheet");
  await page.locator('[aria-label="Sheet 1 length"]').waitFor();
  await page.keyboard.type("300", { delay: 40 });
  await page.keyboard.press("Tab");
  await page.keyboard.type("200", { delay: 40 });
  await page.keyboard.press("Tab");
  await page.locator("[data-save]:enabled").click();
  await page.locator('[role="dialog"] [data-impact] tr:has-text("Battery tray") input').check();
  await page.click("[data-save-parts]");
  await page.waitForSelector('[data-save]:disabled:has-text("Save")');
  await openPart(page, bench.base, "Battery tray");
  await drawer("findings");
  const told = page.locator('[data-finding="sheet-size"]');
  await told.waitFor();
  expect(await told.innerText()).toContain("fits none of the sheets that are kept (300 mm × 200 mm)");
});
