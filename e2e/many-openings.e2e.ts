import { newPart, type PartDocument } from "@hillcrest/core";
import { expect, test } from "vitest";
import { atRest, canvasAt, drawn, isSaved, onBlank, savedFile } from "./harness.ts";
import { opened } from "./opened.ts";

const { bench, page } = await opened({ demo: false });

const SIDE = 50;
const PITCH = 10;
const MANY = SIDE * SIDE;
const at = (i: number) => (i - (SIDE - 1) / 2) * PITCH;
const perforated: PartDocument = {
  ...newPart("Perforated"),
  steps: [
    {
      ...{ id: "s1", kind: "plate", width: String(SIDE * PITCH), depth: String(SIDE * PITCH + 40) },
      holes: Array.from({ length: MANY }, (_, i) => ({
        key: `h${i}`,
        x: String(at(i % SIDE)),
        y: String(at(Math.floor(i / SIDE))),
        d: "6",
      })),
    },
    { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "30" },
  ],
};

async function shown(): Promise<void> {
  const made = await page.request.post(`${bench.base}/api/parts`, { data: { document: perforated } });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`${bench.base}/parts/${id}`);
  await drawn(page);
  await page.waitForSelector(`canvas[data-openings="${MANY}"]`);
}

/** What a step of a drag may cost the page's own thread on average, and the dearest of fifty, ms. */
const [STEP_MS, DEAREST_MS] = [20, 150];

const row = (key: string) => page.locator(`[data-rows="holes"] [data-row="${key}"]`);

test("of thousands of openings the canvas draws all, and the pointer finds each, an edge and the plate", async () => {
  await shown();
  // None of them is an element of the page.
  expect(await page.locator('[data-view="blank"] [data-pick*="hole"]').count()).toBe(0);
  const rim = await onBlank(page, at(20) + 3, at(30));
  await page.mouse.click(rim.x, rim.y);
  await page.waitForSelector("[data-pick-card] >> text=Round hole");
  await page.keyboard.press("Escape");
  await page.waitForSelector("[data-pick-card]", { state: "detached" });
  const web = await onBlank(page, at(20) + PITCH / 2, at(30) + PITCH / 2);
  for (let i = 0; i < 4; i++) {
    await page.mouse.move(web.x, web.y);
    await page.mouse.wheel(0, -200);
  }
  await atRest(page, () => onBlank(page, at(20), at(30)));
  const closer = await onBlank(page, at(20) + PITCH / 2, at(30) + PITCH / 2);
  // The wheel zooms to the pointer, which stands on whole pixels: at first a good millimetre each.
  expect(Math.hypot(closer.x - web.x, closer.y - web.y)).toBeLessThan(120);
  await page.mouse.click(closer.x, closer.y);
  await page.waitForSelector("[data-pick-card] >> text=Plate");
  // An opening is picked in its middle as well as by its rim.
  await page.keyboard.press("Escape");
  await page.waitForSelector("[data-pick-card]", { state: "detached" });
  const middle = await onBlank(page, at(20), at(30));
  await page.mouse.click(middle.x, middle.y);
  await page.waitForSelector("[data-pick-card] >> text=Round hole");
  await page.keyboard.press("Escape");
  await page.waitForSelector("[data-pick-card]", { state: "detached" });
  await page.keyboard.press("z");
});

test("a table of thousands of rows renders those in sight; typing, adding and undo work at its other end", async () => {
  await shown();
  await page.click('[data-step="s1"]', { position: { x: 12, y: 12 } });
  await page.waitForSelector('[data-rows="holes"] [data-row="h0"] input');
  expect(await page.locator('[data-rows="holes"] [data-row]').count()).toBeLessThan(40);

  const first = row("h1").locator("input").first();
  await first.click();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("4.25");
  // A field that is scrolled away while it has the cursor keeps what is typed.
  await page.locator('[data-rows="holes"] ul').evaluate((e) => {
    e.parentElement!.scrollTop = e.scrollHeight;
  });
  await row(`h${MANY - 1}`).waitFor();
  await page.keyboard.press("Enter");
  await isSaved(page);
  const before = await savedFile(page, () => page.click('button:has-text("Save DXF")'));
  expect(circlesOf(before.text).filter((r) => r === 2.125)).toHaveLength(1);
  expect(circlesOf(before.text)).toHaveLength(MANY);

  await page.click('[data-add-row="holes"]');
  const added = page.locator('[data-rows="holes"] [data-row] input:focus');
  await added.waitFor();
  expect(await page.locator('[data-rows="holes"]').innerText()).toContain(String(MANY + 1));
  await page.keyboard.press("Escape");
  await page.keyboard.press("ControlOrMeta+z");
  await page.waitForFunction(
    (n) => document.querySelector('[data-rows="holes"]')?.textContent?.includes(`Round holes ${n}`),
    MANY,
  );
});

/** What the canvas has at a point of the page: red, green, blue and how opaque. */
const inkAt = (at: { x: number; y: number }) => canvasAt(page, at, 0);

test("the canvas has metal between the openings and nothing within them, and lights the plate that is pointed at", async () => {
  await shown();
  const place = { x: at(12) + PITCH / 2, y: at(12) + PITCH / 2 };
  const far = await onBlank(page, place.x, place.y);
  // So near that no border is within reach of the middle of a web.
  await page.mouse.move(far.x, far.y);
  for (let i = 0; i < 5; i++) await page.mouse.wheel(0, -200);
  await page.mouse.move(2, 2);
  await atRest(page, () => onBlank(page, place.x, place.y));
  const web = await onBlank(page, place.x, place.y);
  const middle = await onBlank(page, at(12), at(12));
  const plain = await inkAt(web);
  expect(plain[3]).toBe(255);
  expect((await inkAt(middle))[3]).toBe(0);
  await page.mouse.move(web.x, web.y);
  await page.mouse.move(web.x + 2, web.y);
  await expect.poll(() => inkAt(web)).not.toEqual(plain);
  expect((await inkAt(web))[3]).toBe(255);
  // What lights the plate is taken out of its openings too.
  expect((await inkAt(middle))[3]).toBe(0);
  await page.mouse.move(2, 2);
  await expect.poll(() => inkAt(web)).toEqual(plain);
});

test("in an inch part a row with long words is as high as it needs, and what is typed key by key stands", async () => {
  const holes = Array.from({ length: 80 }, (_, i) => ({
    key: `h${i}`,
    x: i % 4 === 1 ? `width/2 - 12.5 mm - ${i} mm` : `${(i % 10) * 10 - 45} mm`,
    y: `${Math.floor(i / 10) * 9 - 34} mm`,
    d: i % 4 === 1 ? "wide_name_of_a_value*2" : "5 mm",
  }));
  const inch: PartDocument = {
    ...newPart("Inch"),
    units: "in",
    variables: [{ key: "v", name: "wide_name_of_a_value", value: "2 mm" }],
    steps: [{ id: "s1", kind: "plate", width: "120 mm", depth: "90 mm", holes }],
  };
  const made = await page.request.post(`${bench.base}/api/parts`, { data: { document: inch } });
  await page.goto(`${bench.base}/parts/${((await made.json()) as { id: string }).id}`);
  await drawn(page);
  await page.click('[data-step="s1"]', { position: { x: 12, y: 12 } });
  await row("h1").waitFor();
  const boxes = await page.locator('[data-rows="holes"] [data-row]').evaluateAll((rows) =>
    rows.map((e) => {
      const { top, bottom, right } = e.getBoundingClientRect();
      const button = e.querySelector("button:last-of-type")!.getBoundingClientRect();
      return { top, bottom, right, button: button.right };
    }),
  );
  expect(boxes.length).toBeGreaterThan(4);
  expect(new Set(boxes.map((b) => Math.round(b.bottom - b.top))).size).toBeGreaterThan(1);
  boxes.forEach((b, i) => {
    if (i > 0) expect(b.top).toBeGreaterThanOrEqual(boxes[i - 1].bottom - 1);
    // Its button is never pushed out of sight.
    expect(b.button).toBeLessThanOrEqual(b.right + 1);
  });
  const diameter = row("h2").locator("input").first();
  await diameter.click();
  await page.keyboard.press("ControlOrMeta+a");
  for (const key of "1/8 + 0.05") await page.keyboard.press(key === " " ? "Space" : key, { delay: 60 });
  expect(await diameter.inputValue()).toBe("1/8 + 0.05");
  await page.keyboard.press("Enter");
  await isSaved(page);
  const file = await savedFile(page, () => page.click('button:has-text("Save DXF")'));
  // A DXF in inches: 0.175 across.
  expect(circlesOf(file.text).some((r) => Math.abs(r - 0.175 / 2) < 1e-6)).toBe(true);
});

test("while thousands are built it says what is being done; it can be stopped, and built after all", async () => {
  const side = 120;
  const holes = Array.from({ length: side * side }, (_, i) => ({
    key: `h${i}`,
    x: String(((i % side) - side / 2) * 9),
    y: String((Math.floor(i / side) - side / 2) * 9),
    d: "5",
  }));
  const huge = {
    ...newPart("Huge"),
    steps: [{ id: "s1", kind: "plate", width: String(side * 9 + 20), depth: String(side * 9 + 20), holes }],
  };
  const made = await page.request.post(`${bench.base}/api/parts`, { data: { document: huge } });
  await page.goto(`${bench.base}/parts/${((await made.json()) as { id: string }).id}`);
  await page.click("[data-building] >> text=Stop");
  await page.waitForSelector("[data-building] >> text=Stopped: nothing is built yet.");
  await page.waitForSelector('[data-views][aria-busy="false"]');
  await page.click("[data-building] >> text=Build it");
  await page.waitForSelector(`canvas[data-openings="${side * side}"]`, { timeout: 60_000 });
  expect(await page.locator("[data-building]").count()).toBe(0);
});

test("on the blank's own page the canvas draws thousands of openings; a dimension is picked on two of them, and dragging keeps up", async () => {
  await shown();
  await page.goto(`${page.url().split("?")[0]}/blank`);
  await page.waitForSelector(`canvas[data-openings="${MANY}"]`);
  const lies = 250;
  // The blank lies with its lower left corner at nought.
  const on = (x: number, y: number) => onBlank(page, x + lies, y + lies + 20);
  expect(await page.locator('[data-view="blank"] [data-metal]').count()).toBe(0);
  const start = await on(at(21), at(20) + 3);
  await page.mouse.move(start.x, start.y);
  for (let i = 0; i < 5; i++) await page.mouse.wheel(0, -200);
  await page.mouse.move(2, 2);
  await atRest(page, () => on(at(20), at(20)));
  const [web, hole] = [await on(at(20) + PITCH / 2, at(20) + PITCH / 2), await on(at(20), at(20))];
  expect((await inkAt(web))[3]).toBe(255);
  expect((await inkAt(hole))[3]).toBe(0);
  await page.keyboard.press("d");
  // Nothing of the openings becomes an element while something is picked.
  await page.waitForSelector("text=Click an edge, a corner, an opening or a bend line.");
  expect(await page.locator('[data-view="blank"] [data-end*="hole"]').count()).toBe(0);
  const [rim, other] = [await on(at(20), at(20) + 3), await on(at(23), at(20) + 3)];
  await page.mouse.move(rim.x, rim.y);
  await page.waitForSelector('[data-view="blank"] [data-end*="s1 h1020"]');
  await page.mouse.click(rim.x, rim.y);
  await page.waitForSelector("text=And to what?");
  await page.mouse.move(other.x, other.y);
  await page.waitForSelector('[data-view="blank"] [data-end*="s1 h1023"]');
  // What was clicked first stays lit.
  expect(await page.locator('[data-view="blank"] [data-end*="s1 h1020"]').count()).toBe(1);
  await page.mouse.click(other.x, other.y);
  await page.waitForSelector("[data-dimension-card]");
  expect(await page.locator("[data-dimension-card]").innerText()).toContain("30");
  await page.keyboard.press("Escape");
  // Dragged by fifty steps: the view follows, and no step is work for the page that would hold it up. It is the processor's
  // time that counts, not the clock's: the machine may have others to serve.
  const metrics = await page.context().newCDPSession(page);
  await metrics.send("Performance.enable", { timeDomain: "threadTicks" });
  const spent = async () =>
    (await metrics.send("Performance.getMetrics")).metrics.find((m) => m.name === "ThreadTime")!.value * 1000;
  const before = await on(0, 0);
  await page.mouse.move(web.x, web.y);
  await page.mouse.down();
  const times = [await spent()];
  for (let i = 1; i <= 50; i++) {
    await page.mouse.move(web.x + i * 2, web.y + i);
    times.push(await spent());
  }
  await page.mouse.up();
  const after = await on(0, 0);
  expect([after.x - before.x, after.y - before.y]).toEqual([expect.closeTo(100, 0), expect.closeTo(50, 0)]);
  expect((times[50] - times[0]) / 50).toBeLessThan(STEP_MS);
  expect(Math.max(...times.slice(1).map((t, i) => t - times[i]))).toBeLessThan(DEAREST_MS);
});

/** Radii of all circles in a DXF. */
const circlesOf = (dxf: string): number[] =>
  [...dxf.matchAll(/\n\s*0\r?\nCIRCLE\r?\n([\s\S]*?)(?=\n\s*0\r?\n)/g)].map(([, body]) =>
    Number(/\n\s*40\r?\n\s*([\d.]+)/.exec(`\n${body}`)![1]),
  );
