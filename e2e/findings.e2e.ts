import { expect, test } from "vitest";
import { drawn, frames, isSaved, openPart, savedFile } from "./harness.ts";
import { opened } from "./opened.ts";

const { bench, page } = await opened();

const dial = () => page.locator("[data-fold-share]").innerText();
const collisions = page.locator('[data-finding="collision"]');
const field = (step: string, key: string) => page.locator(`[data-step="${step}"] input[data-field="${key}"]`);
/** How much red the folded view shows: what two pieces share is drawn in the colour of a stop. */
async function shownRed(): Promise<number> {
  const box = (await page.locator('[data-view="folded"]').boundingBox())!;
  const shot = await page.screenshot({ clip: box });
  return page.evaluate(async (data) => {
    const bytes = Uint8Array.from(atob(data), (c) => c.charCodeAt(0));
    const image = await createImageBitmap(new Blob([bytes], { type: "image/png" }));
    const canvas = new OffscreenCanvas(image.width, image.height);
    const pen = canvas.getContext("2d")!;
    pen.drawImage(image, 0, 0);
    const { data: px } = pen.getImageData(0, 0, image.width, image.height);
    let red = 0;
    for (let i = 0; i < px.length; i += 4) if (px[i] > 140 && px[i + 1] < 80 && px[i + 2] < 80) red++;
    return red;
  }, shot.toString("base64"));
}

test("what meets on the way is told with its moment, and the dial goes there", async () => {
  await openPart(page, bench.base, "Rain gauge hood, first draft");
  await page.click('[data-drawer="findings"]');
  await collisions.waitFor();
  expect(await collisions.count()).toBe(1);
  expect(await collisions.innerText()).toMatch(/Plate D and plate E meet on the way, at 59 % of folding/);
  expect(await page.locator("[data-contact-mark]").count()).toBe(1);
  await collisions.hover();
  // Fully folded the two are free: nothing is shared there.
  expect(await dial()).toBe("100 %");
  await drawn(page);
  expect(await shownRed()).toBe(0);
  await page.click("[data-first-contact]");
  await expect.poll(dial).toBe("59 %");
  await page.locator('[aria-label="Fold dial"]').focus();
  for (let i = 0; i < 20; i++) await page.keyboard.press("ArrowRight");
  await expect.poll(shownRed).toBeGreaterThan(8);
});

test("what stands in other metal fully folded stops the part, while it is typed and until it is mended", async () => {
  await page.click('[data-step="s3"]', { position: { x: 12, y: 12 } });
  await field("s3", "length").click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("25", { delay: 60 });
  // Lips that lie at one height run into one another.
  await page.waitForSelector('[data-step="s5"] [role="alert"]:has-text("deep in plate")');
  await page.locator('[aria-label="Fold dial"]').focus();
  await page.keyboard.press("End");
  await expect.poll(dial).toBe("100 %");
  await collisions.first().hover();
  await expect.poll(shownRed).toBeGreaterThan(8);
  const save = page.locator('button:has-text("Save DXF")');
  expect(await save.innerText()).toContain("■");
  // It does not leave unless that is meant: one more press, and the file says why.
  await page.keyboard.press("Control+e");
  await page.waitForSelector('[data-saved="false"]:has-text("A finding stops it: Plate")');
  const { text } = await savedFile(page, () => page.click("[data-save-anyway]"));
  expect(text).toMatch(/^ *999\r\nFindings stop this part: Plate/m);
  await page.keyboard.press("Escape");
  await page.waitForSelector("[data-save-anyway]", { state: "detached" });
  await page.keyboard.press("Control+z");
  await page.waitForSelector('[data-step="s5"] [role="alert"]', { state: "detached" });
  await expect.poll(() => save.innerText()).not.toContain("■");
  await isSaved(page);
});

test("while a leg is dragged, what it would break is said at the pointer before it is let go", async () => {
  await page.locator('[data-letter="C"]').waitFor();
  await page.click('[data-step="s3"]', { position: { x: 12, y: 12 } });
  await page.click('[data-view="folded"]', { position: { x: 8, y: 60 } });
  await page.click('[data-step="s3"]', { position: { x: 12, y: 12 } });
  const handle = page.locator('[data-handle="length"]');
  await handle.waitFor();
  const box = (await handle.boundingBox())!;
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  await page.mouse.move(middle.x, middle.y);
  await page.mouse.down();
  // The value may be typed while the button is held.
  await page.keyboard.type("25", { delay: 60 });
  const said = page.locator("[data-new-finding]");
  await expect.poll(() => said.allInnerTexts()).toEqual([expect.stringMatching(/deep in plate/)]);
  await page.keyboard.press("Backspace");
  await page.keyboard.type("4", { delay: 60 });
  await said.waitFor({ state: "detached" });
  await page.mouse.up();
  expect(await field("s3", "length").inputValue()).toBe("24");
  await page.keyboard.press("Escape");
});

test("the list is walked by F8, put together by rule or piece, and leaves levels out", async () => {
  await page.click("[data-views]", { position: { x: 200, y: 200 } });
  await page.keyboard.press("F8");
  const lines = page.locator("[data-finding]");
  const texts = await lines.allInnerTexts();
  const focused = () => page.evaluate(() => (document.activeElement as HTMLElement).innerText);
  expect(await focused()).toBe(texts[0]);
  await page.keyboard.press("F8");
  expect(await focused()).toBe(texts[1]);
  await page.keyboard.press("Shift+F8");
  await page.keyboard.press("Shift+F8");
  expect(await focused()).toBe(texts.at(-1));
  await page.selectOption('[aria-label="How findings are put together"]', "piece");
  const heads = await page.locator("[data-findings] h3").allInnerTexts();
  expect(heads.some((h) => /Plate D\s*\d/.test(h))).toBe(true);
  expect(heads.some((h) => /Bend 5\s*\d/.test(h))).toBe(true);
  await page.selectOption('[aria-label="How findings are put together"]', "rule");
  expect(await page.locator("[data-findings] h3").allInnerTexts()).toContain("Collision 1");
  await page.selectOption('[aria-label="How findings are put together"]', "none");
  await page.click('button[title="Leave warnings out"]');
  // What is left are notes: of bends that must be made before others.
  const notes = await lines.allInnerTexts();
  expect(notes.length).toBeGreaterThan(0);
  expect(notes.every((t) => t.includes("cannot be turned by itself"))).toBe(true);
  await page.click('button[title="Leave notes out"]');
  expect(await lines.count()).toBe(0);
  await page.waitForSelector('text="All findings are of levels that are left out above."');
  await page.click('button[title="List warnings too"]');
  await page.click('button[title="List notes too"]');
  expect(await lines.allInnerTexts()).toEqual(texts);
});

test("over HTTP the same is told as on the Bench, with depth, volume and moment", async () => {
  const list = (await (await fetch(`${bench.base}/api/parts`)).json()) as { id: string; name: string }[];
  const hood = list.find((p) => p.name.startsWith("Rain gauge hood"))!;
  const answer = await fetch(`${bench.base}/api/parts/${hood.id}/findings`);
  const { findings } = (await answer.json()) as { findings: Record<string, unknown>[] };
  expect(findings.find((f) => f.rule === "collision")).toMatchObject({
    level: "warn",
    pieces: ["D", "E"],
    at: expect.closeTo(0.5866, 3),
    full: false,
    depth: expect.closeTo(22.28, 1),
    volume: expect.closeTo(162.7, 0),
  });
  expect((await fetch(`${bench.base}/api/parts/nothing/findings`)).status).toBe(404);
});

test("a mend is shown before it is taken, taken by a click, and taken back by one undo", async () => {
  const lines = page.locator("[data-finding]");
  const radius = page.locator('[data-finding="card-radius"]');
  const before = await lines.count();
  const blank = () => page.locator('[data-size="blank"]').innerText();
  const size = await blank();
  const button = page.locator('[data-mend]:has-text("Take radius 2 mm")');
  await button.hover();
  await expect.poll(blank).not.toBe(size);
  const tried = await blank();
  // The steps still say what they said, and looking away shows the part as it is.
  expect(await field("s6", "radius").inputValue()).toBe("3");
  await page.locator("[data-findings] li").first().hover();
  await expect.poll(blank).toBe(size);
  await button.click();
  await radius.waitFor({ state: "detached" });
  expect(await field("s6", "radius").inputValue()).toBe("2");
  await expect.poll(blank).toBe(tried);
  await page.keyboard.press("Control+z");
  await radius.waitFor();
  expect(await lines.count()).toBe(before);
  await expect.poll(blank).toBe(size);
  // Its line has come back under the pointer, which has not moved: the part stays as it is until it does.
  await frames(page, 30);
  expect(await blank()).toBe(size);
  const box = (await button.boundingBox())!;
  await page.mouse.move(box.x + 9, box.y + 5);
  await expect.poll(blank).toBe(tried);
  await page.locator("[data-findings] li").first().hover();
  await expect.poll(blank).toBe(size);
});

test("all of a kind are mended at once, and stay so", async () => {
  await page.selectOption('[aria-label="How findings are put together"]', "rule");
  await page.click('[data-findings] section:has(h3:has-text("Relief")) [data-mend]:has-text("Mend all 2")');
  await page.locator('[data-finding="relief"]').first().waitFor({ state: "detached" });
  await page.selectOption('[aria-label="How findings are put together"]', "none");
  await isSaved(page);
  await page.reload();
  await page.click('[data-drawer="findings"]');
  await collisions.waitFor();
  expect(await page.locator('[data-finding="relief"]').count()).toBe(0);
  await page.keyboard.press("Escape");
});

test("a finding is accepted with a reason and a name, stays so over a reload, and is taken back", async () => {
  await page.click('[data-step="s3"]', { position: { x: 12, y: 12 } });
  await field("s3", "length").click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("25", { delay: 30 });
  await page.keyboard.press("Enter");
  await page.waitForSelector('[data-step="s5"] [role="alert"]:has-text("deep in plate")');
  const line = page.locator('[data-findings] li:has([data-finding="collision"])').first();
  const save = page.locator('button:has-text("Save DXF")');
  await expect.poll(() => save.innerText()).toContain("■");
  await line.locator("[data-accept]").click();
  expect(await page.locator("[data-accept-it]").isEnabled()).toBe(false);
  await page.locator("[data-reason]").click();
  await page.keyboard.type("the lips are bent one after the other, by hand", { delay: 15 });
  await page.locator("[data-by]").click();
  await page.keyboard.type("Rowan Ash", { delay: 15 });
  await page.keyboard.press("Enter");
  await page.waitForSelector("[data-accepted]");
  await expect.poll(() => save.innerText()).not.toContain("■");
  expect(await page.locator('[data-step="s5"] [role="alert"]').count()).toBe(0);
  await isSaved(page);
  await page.reload();
  await page.click('[data-drawer="findings"]');
  const accepted = page.locator("[data-accepted]");
  await accepted.waitFor();
  expect(await accepted.innerText()).toContain("by hand (Rowan Ash)");
  await accepted.locator('button:has-text("take back")').click();
  await accepted.waitFor({ state: "detached" });
  await expect.poll(() => save.innerText()).toContain("■");
  await page.keyboard.press("Control+z");
  await accepted.waitFor();
  await isSaved(page);
});

test("a shop's rules are typed into Stock, and a part of a card that names them is held to them", async () => {
  await page.goto(`${bench.base}/stock/rules/ridge-rules`);
  const length = page.locator('[data-editor="Ridge workshop"] input[aria-label="Length of the brake"]');
  await length.click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("90", { delay: 50 });
  await page.keyboard.press("Tab");
  await page.locator('[data-editor="Ridge workshop"] button:has-text("Save"):enabled').click();
  // What it would do to the parts of the shop's cards is shown before it is saved.
  await page.click("[data-impact] >> text=Battery tray");
  await page.click("[data-save-parts]");
  await page.waitForSelector('[data-editor="Ridge workshop"] >> text=revision 2');
  await page.reload();
  await expect.poll(() => length.inputValue()).toBe("90");
  await expect.poll(() => page.innerText("body")).toContain("3 answers of its own");
  const library = (await (await fetch(`${bench.base}/api/stock/library`)).json()) as {
    rules: { id: string; brakeLength: number }[];
  };
  expect(library.rules.find((r) => r.id === "ridge-rules")?.brakeLength).toBe(90);
  await page.goto(bench.base);
  const stopped = page.locator('[data-part="Battery tray"] [data-counts][title*="stop"]');
  await stopped.waitFor();
  // Its counts by level, and only parts that have such.
  await page.selectOption('[aria-label="Parts by what was found on them"]', "stop");
  await expect.poll(() => page.locator("[data-part]").count()).toBe(1);
  await page.selectOption('[aria-label="Parts by what was found on them"]', "none");
  await expect.poll(() => page.locator('[data-part="Battery tray"]').count()).toBe(0);
  await expect.poll(() => page.locator('[data-part="Logger box"]').count()).toBe(1);
  await page.selectOption('[aria-label="Parts by what was found on them"]', "all");
  await openPart(page, bench.base, "Battery tray");
  await page.click('[data-drawer="findings"]');
  const long = page.locator('[data-finding="long-bend"]').first();
  await long.waitFor();
  expect(await long.innerText()).toMatch(/Bend \d is .* mm long; the brake takes 90 mm/);
});
