import { newPart, type PartDocument, type StepDocument } from "@hillcrest/core";
import { beforeAll, expect, test } from "vitest";
import { atRest, canvasAt, drawn, frames, isSaved, onBlank } from "./harness.ts";
import { opened } from "./opened.ts";

const { bench, page } = await opened({ demo: false, cards: false });

const MANY = 160;
const PITCH = 10;
const inches = (mm: number) => `${(mm / 25.4).toFixed(4)} in`;
/** Flanges of an inch part in a row, up and down in turn, each a little longer than the one before. */
const comb: PartDocument = {
  ...newPart("Comb"),
  units: "in",
  steps: [
    { id: "s1", kind: "plate", width: inches(MANY * PITCH), depth: "2 in" },
    ...Array.from(
      { length: MANY },
      (_, i): StepDocument => ({
        ...{ id: `s${i + 2}`, kind: "flange", edges: [{ key: "a", at: "s1.north" }] },
        ...{ turn: i % 2 === 0 ? "up" : "down", length: inches(20 + i / 10), radius: inches(1 + i / 100) },
        ...{ span: "width", width: "0.25 in", at: "left", shift: inches(i * PITCH + 2) },
      }),
    ),
  ],
};

let id = "";
beforeAll(async () => {
  const made = await page.request.post(`${bench.base}/api/parts`, { data: { document: comb } });
  ({ id } = (await made.json()) as { id: string });
  await page.goto(`${bench.base}/parts/${id}`);
  await drawn(page);
  await page.waitForSelector('[data-views][aria-busy="false"]');
});

const rows = page.locator("[data-bend]");
const row = (n: number) => page.locator(`[data-bend="${n}"]`);
const list = page.locator('section[aria-label^="Bend list"] > div');
const tab = page.locator('section[aria-label^="Bend list"] header button', { hasText: "Bends" });
/** Where the cells of a row begin. */
const columns = (n: number) =>
  row(n).evaluate((e) => [...e.children].map((c) => Math.round(c.getBoundingClientRect().left * 8) / 8));

async function openList(): Promise<void> {
  if ((await rows.count()) === 0) await tab.click();
  await rows.first().waitFor();
}

/** Turns the wheel over the list until a row is in sight. */
async function wheelTo(n: number): Promise<void> {
  const box = (await list.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  for (let turns = 0; turns < 300; turns++) {
    const seen = await rows.evaluateAll((all) => all.map((e) => Number((e as HTMLElement).dataset.bend)));
    if (seen.includes(n)) break;
    // The row that somebody is at is there wherever the list is: the others say where that is.
    const middle = seen[seen.length >> 1];
    await page.mouse.wheel(0, middle > n ? -400 : 400);
    await frames(page);
  }
  await row(n).waitFor();
}

test("the bend list has the rows that are in sight, its columns stand still, and its last row says what it is", async () => {
  await openList();
  expect(await rows.count()).toBeLessThan(45);
  expect(await page.locator('table[aria-rowcount="161"]').count()).toBe(1);
  const first = await columns(1);
  await wheelTo(MANY);
  expect(await columns(MANY)).toEqual(first);
  expect(await row(1).count()).toBe(0);
  expect(await row(MANY).getAttribute("aria-rowindex")).toBe("161");
  // 1 + 159/100 mm of radius at 90°, K 0.42, metal of 1.5 mm.
  const cells = (await row(MANY).locator("td").allInnerTexts()).map((t) => t.trim());
  const radius = Number(inches(1 + (MANY - 1) / 100).split(" ")[0]) * 25.4;
  const allowance = (Math.PI / 2) * (radius + 0.42 * 1.5);
  expect(cells.slice(0, 7)).toEqual([
    ...[`${MANY}`, cells[1], "▼ down", "90°"],
    ...[(radius / 25.4).toFixed(4), "0.420", (allowance / 25.4).toFixed(4)],
  ]);
  expect(cells[8]).toBe("0.2500");
  // Every bend is in its place: as many rows as there are, and none twice.
  const seen = new Set<number>();
  for (let turns = 0; turns < 120 && !seen.has(1); turns++) {
    for (const n of await rows.evaluateAll((all) => all.map((e) => Number((e as HTMLElement).dataset.bend))))
      seen.add(n);
    await page.mouse.wheel(0, -200);
    await frames(page);
  }
  expect(seen.size).toBe(MANY);
});

test("a row that somebody is at stays while the list is scrolled away; Tab goes on from row to row", async () => {
  await openList();
  await wheelTo(4);
  await row(4).locator('button[aria-haspopup="dialog"]').first().click();
  await page.waitForSelector("[data-why]");
  await wheelTo(100);
  expect(await row(4).count()).toBe(1);
  expect(await row(40).count()).toBe(0);
  expect(await page.locator("[data-why]").count()).toBe(1);
  await page.keyboard.press("Escape");
  // From the box of one row the next key is in the row after it, also where that was out of sight.
  await wheelTo(60);
  await row(60).locator("input").focus();
  for (let n = 61; n < 90; n++) {
    for (let keys = 0; keys < 14; keys++) {
      await page.keyboard.press("Tab");
      if (await page.evaluate(() => document.activeElement instanceof HTMLInputElement)) break;
    }
    const at = await page.evaluate(() =>
      Number(document.activeElement?.closest<HTMLElement>("[data-bend]")?.dataset.bend),
    );
    expect(at).toBe(n);
  }
});

/** What the canvas has about a point of the page: red, green and blue of what is most coloured within a pixel or two. */
async function inkAt(at: { x: number; y: number }): Promise<readonly number[]> {
  const data = await canvasAt(page, at, 2);
  let [best, most] = [[0, 0, 0], -1];
  for (let i = 0; i < data.length; i += 4) {
    const rgb = data.slice(i, i + 3);
    const colour = Math.max(...rgb) - Math.min(...rgb);
    if (data[i + 3] > 200 && colour > most) [best, most] = [rgb, colour];
  }
  return best;
}

test("a blank of many bends is drawn by the canvas: what is clicked on it is picked, what is pointed at is lit", async () => {
  if ((await rows.count()) > 0) await tab.click();
  await page.waitForSelector("canvas[data-openings]");
  expect(
    await page.locator('[data-view="blank"] [data-edge], [data-view="blank"] [data-corner]').count(),
  ).toBe(0);
  // The 81st flange goes up, the 82nd down. The plate's middle is at nought.
  const left = -(MANY * PITCH) / 2 + 80 * PITCH + 2;
  const [north, wide] = [25.4, 6.35];
  const bend = (Math.PI / 2) * (1.8 + 0.42 * 1.5);
  const start = await onBlank(page, left, north);
  await page.mouse.move(start.x, start.y);
  for (let i = 0; i < 7; i++) await page.mouse.wheel(0, -200);
  await atRest(page, () => onBlank(page, left, north));
  const middle = left + wide / 2;
  const what: [name: string, x: number, y: number][] = [
    ["Bend 81", middle - 2, north - 2.3 - 1.5 + bend / 2 + 1.2],
    ["Plate", middle, north + 9],
    ["Edge", left, north + 10],
    ["Edge", left + wide, north + 12],
  ];
  // Where the bend's middle lies exactly the list does not say: it is where its colour is.
  let [line, most] = [0, 0];
  for (let y = north - 5; y < north + 5; y += 0.1) {
    const [r, g, b] = await inkAt(await onBlank(page, middle - 2, y));
    const colour = Math.max(r, g, b) - Math.min(r, g, b);
    if (colour > most) [line, most] = [y, colour];
  }
  what[0][2] = line;
  expect(most).toBeGreaterThan(60);
  const up = await inkAt(await onBlank(page, middle, line));
  // Down is another colour.
  const inks: (readonly number[])[] = [];
  for (let x = 0.4; x < wide - 0.4; x += 0.1)
    inks.push(await inkAt(await onBlank(page, left + PITCH + x, line)));
  const coloured = inks.filter(([r, g, b]) => Math.max(r, g, b) - Math.min(r, g, b) > 40);
  expect(coloured.length).toBeGreaterThan(4);
  const sign = ([r, , b]: readonly number[]) => Math.sign(r - b);
  expect(sign(up)).toBe(1);
  for (const ink of coloured) expect(sign(ink)).toBe(-sign(up));
  for (const [name, x, y] of what) {
    const at = await onBlank(page, x, y);
    await page.mouse.move(at.x + 1, at.y);
    await page.mouse.move(at.x, at.y);
    if (name !== "Plate")
      await page.waitForSelector('[data-view="blank"] path[stroke="var(--amber)"]', { state: "attached" });
    await page.mouse.click(at.x, at.y);
    await page.waitForSelector(`[data-pick-card] >> text=/^${name.split(" ")[0]}/`);
    if (name.includes(" "))
      await page.waitForFunction(
        (n) => document.querySelector("[data-pick-card]")?.textContent?.includes(n),
        name.split(" ")[1],
      );
    await page.keyboard.press("Escape");
    await page.waitForSelector("[data-pick-card]", { state: "detached" });
  }
});

test("a flange is put on an edge that the canvas drew, typed by hand in inches", async () => {
  const left = -(MANY * PITCH) / 2 + 80 * PITCH + 2;
  await page.mouse.move(2, 2);
  // Up along the middle of the flange until an edge is found.
  let found = "";
  for (let y = 48; y < 60 && !found; y += 0.4) {
    const at = await onBlank(page, left + 3.2, y);
    await page.mouse.click(at.x, at.y);
    const card = page.locator("[data-pick-card]");
    if ((await card.count()) === 0) continue;
    const text = await card.innerText();
    if (text.includes("Edge")) found = text;
    else await page.keyboard.press("Escape");
  }
  expect(found).toMatch(/end/);
  await page.keyboard.press("f");
  const field = page.locator('[data-step="s162"] input[data-field="length"]');
  await field.waitFor();
  await field.click();
  await page.keyboard.press("ControlOrMeta+a");
  for (const key of "3/8") await page.keyboard.press(key, { delay: 60 });
  expect(await field.inputValue()).toBe("3/8");
  await page.keyboard.press("Enter");
  await isSaved(page);
  const { document } = (await (await fetch(`${bench.base}/api/parts/${id}`)).json()) as {
    document: PartDocument;
  };
  expect(document.steps.at(-1)).toMatchObject({
    kind: "flange",
    length: "3/8 in",
    edges: [{ at: "s82a.end" }],
  });
});

test("where frames are slow what a pointer comes to rest at is lit all the same", async () => {
  await openList();
  await wheelTo(1);
  await page.evaluate(() => {
    // A card that takes half a second for every frame, and a count of the frames.
    const counted = window as unknown as { frames: number };
    counted.frames = 0;
    const card = WebGL2RenderingContext.prototype;
    const { clear, getSyncParameter, fenceSync } = card;
    card.clear = function (mask) {
      counted.frames++;
      clear.call(this, mask);
    };
    const asked = new WeakMap<WebGLSync, number>();
    card.fenceSync = function (condition, flags) {
      const sync = fenceSync.call(this, condition, flags);
      if (sync) asked.set(sync, performance.now());
      return sync;
    };
    card.getSyncParameter = function (sync, name) {
      if (performance.now() - (asked.get(sync) ?? 0) < 500) return this.UNSIGNALED;
      return getSyncParameter.call(this, sync, name);
    };
  });
  const box = (await list.boundingBox())!;
  const drawn = () => page.evaluate(() => (window as unknown as { frames: number }).frames);
  // The first is lit at once, and found to have been slow.
  await page.mouse.move(box.x + 200, box.y + 40);
  await page.waitForFunction(() => (window as unknown as { frames: number }).frames > 0);
  await atRest(page, drawn);
  for (const y of [66, 92, 118]) {
    const before = await drawn();
    await page.mouse.move(box.x + 200, box.y + y);
    await page.waitForFunction((n) => (window as unknown as { frames: number }).frames > n, before);
  }
});
