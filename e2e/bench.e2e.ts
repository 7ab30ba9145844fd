import { newPart } from "@hillcrest/core";
import type { Locator } from "playwright-core";
import { expect, test } from "vitest";
import { atRest, clickEdge, drawn, isSaved, openPart, savedFile } from "./harness.ts";
import { opened } from "./opened.ts";

const { bench, page } = await opened();

const size = (view: "folded" | "blank") => page.locator(`[data-size="${view}"]`).innerText();
const field = (step: string, key: string) => page.locator(`[data-step="${step}"] input[data-field="${key}"]`);

/** Where a thing is once it has stopped moving: handles follow the shape, which follows the worker. */
async function settled(thing: Locator): Promise<{ x: number; y: number; width: number; height: number }> {
  return (await atRest(page, () => thing.boundingBox()))!;
}

test("a wrong value keeps the last good shape, says what works, and mends when it does", async () => {
  await openPart(page, bench.base, "Mast bracket");
  const before = await size("blank");
  await page.click('[data-step="s3"]', { position: { x: 12, y: 12 } });
  await field("s3", "length").fill("2");
  await page.waitForSelector("[data-stale]");
  expect(await size("blank")).toBe(before);
  const alert = await page.locator('[data-step="s3"] [role="alert"]').innerText();
  expect(alert).toContain("it must be at least 3.465 mm");
  expect(await page.locator('button:has-text("Save DXF")').isEnabled()).toBe(false);
  await field("s3", "length").fill("3.465");
  await page.waitForSelector("[data-stale]", { state: "detached" });
  await field("s3", "length").fill("0/0");
  await page.waitForSelector('[data-step="s3"] [role="alert"]:has-text("divides by zero")');
  await page.keyboard.press("Escape");
  await page.waitForSelector("[data-stale]", { state: "detached" });
  expect(await size("blank")).toBe(before);
});

test("plates are picked in the folded view, and the same pick is lit in the blank", async () => {
  await openPart(page, bench.base, "Battery tray");
  const letter = await page.locator('[data-letter="D"]').boundingBox();
  await page.mouse.click(letter!.x - 14, letter!.y + 4);
  await page.waitForSelector("[data-pick-card] >> text=Plate");
  const card = await page.locator("[data-pick-card]").innerText();
  expect(card).toContain("D");
  const lit = page.locator('[data-view="blank"] path[stroke="var(--amber)"]');
  expect(await lit.count()).toBeGreaterThan(0);
  await page.keyboard.press("Escape");
  expect(await page.locator("[data-pick-card]").count()).toBe(0);
});

test("an edge is picked in the folded view where it stands in space", async () => {
  await page.click('[data-step="s3"]', { position: { x: 12, y: 12 } });
  const handle = page.locator('[data-handle="length"]');
  await handle.waitFor();
  const box = await settled(handle);
  // The arrow of D stands 20 pixels off the middle of its end, along the leg.
  const [dx, dy] = await handle.evaluate((h) => [Number(h.dataset.pxX), Number(h.dataset.pxY)]);
  const off = 20 / Math.hypot(dx, dy);
  await page.mouse.click(box.x + box.width / 2 - dx * off, box.y + box.height / 2 - dy * off);
  await page.waitForSelector("[data-pick-card] >> text=Edge");
  expect(await page.locator("[data-pick-card]").innerText()).toMatch(/D end\s+174\.00 mm/);
  await page.keyboard.press("Escape");
});

test("dragging the arrow sets the length on whole millimetres, and typing meanwhile sets it exactly", async () => {
  await page.click('[data-step="s4"]', { position: { x: 12, y: 12 } });
  const handle = page.locator('[data-handle="length"]');
  await handle.waitFor();
  const drag = async (act: () => Promise<void>) => {
    const box = await settled(handle);
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await act();
    await page.mouse.up();
  };
  const from = await settled(handle);
  await drag(() => page.mouse.move(from.x + from.width / 2, from.y + 40, { steps: 6 }));
  const dragged = await field("s4", "length").inputValue();
  expect(dragged).toMatch(/^\d+$/);
  expect(dragged).not.toBe("12");
  await drag(async () => {
    await page.mouse.move(from.x + 20, from.y + 20);
    await page.keyboard.type("17.5");
  });
  await page.waitForFunction(
    () =>
      document.querySelector<HTMLInputElement>('[data-step="s4"] input[data-field="length"]')?.value ===
      "17.5",
  );
  // One drag is one undo.
  await page.keyboard.press("Control+z");
  expect(await field("s4", "length").inputValue()).toBe(dragged);
  await page.keyboard.press("Control+z");
  expect(await field("s4", "length").inputValue()).toBe("12");
});

test("the angle handle turns the flange in steps of five degrees", async () => {
  const box = await settled(page.locator('[data-handle="angle"]'));
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 3, box.y - 26, { steps: 5 });
  await page.mouse.up();
  const angle = Number(await field("s4", "angle").inputValue());
  expect(angle % 5).toBe(0);
  expect(angle).not.toBe(90);
  await page.keyboard.press("Control+z");
});

test("a field of a closed step is hit by the first click, although the step opens under it", async () => {
  await page.keyboard.press("Escape");
  await page.waitForSelector('[data-step="s2"] [aria-label="Remove step 2"]', { state: "detached" });
  await page.click('[data-step="s2"] [data-field="lengthTo"]');
  await page.waitForSelector('[data-option="inner-mould"] svg');
  expect(await page.locator('[data-option="tangent"]').innerText()).toContain("leg 42.00");
  await page.keyboard.press("Escape");
});

test("where the bend sits is chosen on section pictures that carry the legs", async () => {
  await page.click('[data-step="s2"] [data-field="place"]');
  await page.waitForSelector('[data-option="inner-face"] svg');
  expect(await page.locator('[data-option="inner-face"]').innerText()).toContain("−1.50");
  const before = await size("blank");
  await page.click('[data-option="inner-face"]');
  await page.waitForFunction((b) => document.querySelector('[data-size="blank"]')?.textContent !== b, before);
  // Each of the two walls now stands one thickness further out.
  expect(await size("folded")).toContain("193.50");
  await page.keyboard.press("Control+z");
});

test("a bend is held flat from the list, and the file of the part does not change by it", async () => {
  await page.click('[data-drawer="bends"]');
  const row = page.locator('[data-bend="5"]');
  expect(await row.innerText()).toMatch(/B \/ F\s+▼ down\s+90°\s+1\.50\s+0\.420\s+3\.35\s+2\.65\s+308\.00/);
  const dxf = await savedFile(page, () => page.keyboard.press("Control+e"));
  await row.locator("input[type=checkbox]").check();
  await page.waitForSelector('[data-view="blank"] >> text=flat');
  await isSaved(page);
  expect((await savedFile(page, () => page.keyboard.press("Control+e"))).text).toBe(dxf.text);
  await row.locator("input[type=checkbox]").uncheck();
});

test("a number of the list says why", async () => {
  await page.click('[data-bend="1"] button:has-text("3.35")');
  const why = await page.locator("[data-why]").innerText();
  expect(why).toContain("BA = θ (r + K·t)");
  expect(why).toContain("BA = 1.5708 × (1.5 + 0.42 × 1.5) = 3.3458");
  await page.keyboard.press("Escape");
  await page.click('[data-drawer="bends"]');
});

test("what unfolds is opened and closed by a press on the same, by keys, and by a press elsewhere", async () => {
  await openPart(page, bench.base, "Mast bracket");
  const mass = page.locator('button[aria-label*="mass: why?"]');
  const state = async () => [
    await mass.getAttribute("aria-expanded"),
    await page.locator("[data-why]").count(),
  ];
  expect(await state()).toEqual(["false", 0]);
  await mass.click();
  await page.waitForSelector("[data-why]");
  expect(await state()).toEqual(["true", 1]);
  // What opened it names what it has opened.
  const named = await mass.getAttribute("aria-controls");
  expect(await page.locator(`[id="${named}"] [data-why]`).count()).toBe(1);
  await mass.click();
  await page.waitForSelector("[data-why]", { state: "detached" });
  expect(await state()).toEqual(["false", 0]);
  // By keys: the focus goes into it, and back to where it was.
  await mass.focus();
  await page.keyboard.press("Enter");
  await page.waitForSelector("[data-why]");
  expect(await mass.evaluate((e) => e === document.activeElement)).toBe(false);
  await page.keyboard.press("Escape");
  await page.waitForSelector("[data-why]", { state: "detached" });
  await expect.poll(() => mass.evaluate((e) => e === document.activeElement)).toBe(true);
  // A press on something else closes it, and the focus is where was pressed.
  await mass.click();
  await page.waitForSelector("[data-why]");
  await page.click('[data-step="s1"]', { position: { x: 12, y: 12 } });
  await page.waitForSelector("[data-why]", { state: "detached" });
  expect(await mass.evaluate((e) => e === document.activeElement)).toBe(false);
  // A choice of more than two likewise: by Enter, an arrow and Enter.
  await page.click('[data-step="s2"]', { position: { x: 12, y: 12 } });
  const place = page.locator('[data-step="s2"] [data-field="place"]');
  const before = await place.innerText();
  await place.focus();
  await page.keyboard.press("Enter");
  await page.waitForSelector("[role=listbox] [role=option]");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  await page.waitForSelector("[role=listbox]", { state: "detached" });
  expect(await place.innerText()).not.toBe(before);
  await expect.poll(() => place.evaluate((e) => e === document.activeElement)).toBe(true);
});

test("the fold dial takes the part from flat to folded by keys, and the views by theirs", async () => {
  const share = () => page.locator("[data-fold-share]").innerText();
  await page.locator('[aria-label="Fold dial"]').focus();
  await page.keyboard.press("Home");
  expect(await share()).toBe("0 %");
  await page.keyboard.press("End");
  expect(await share()).toBe("100 %");
  await page.locator('[aria-label="Lay flat"]').click();
  await page.waitForSelector('[data-fold-share]:has-text("0 %")');
  await page.locator('[aria-label="Fold up"]').click();
  await page.waitForSelector('[data-fold-share]:has-text("100 %")');
  await page.keyboard.press("3");
  await page.waitForSelector('[data-view="folded"]', { state: "detached" });
  await page.keyboard.press("1");
  await page.waitForSelector('[data-view="blank"]', { state: "detached" });
  await page.keyboard.press("2");
  await page.waitForSelector('[data-view="blank"]');
});

test("steps are paused, moved, copied and removed with what hangs on them", async () => {
  await openPart(page, bench.base, "Battery tray");
  const steps = () =>
    page.locator("[data-step]").evaluateAll((rows) => rows.map((r) => (r as HTMLElement).dataset.step));
  const open = (step: string) => page.click(`[data-step="${step}"]`, { position: { x: 12, y: 12 } });
  await open("s2");
  await page.click('[aria-label="Pause step 2"]');
  await page.waitForSelector('[data-step="s4"] [role="alert"]:has-text("step 2 is paused")');
  await page.waitForSelector('[data-drawer="bends"]:has-text("Bends 4")');
  await page.click('[aria-label="Let step 2 work again"]');
  await page.waitForSelector('[data-drawer="bends"]:has-text("Bends 7")');
  // Step 4 stands on step 2 and may go up only as far as that.
  await open("s4");
  await page.keyboard.press("Alt+ArrowUp");
  expect(await steps()).toEqual(["s1", "s2", "s4", "s3", "s5"]);
  await page.keyboard.press("Alt+ArrowUp");
  await page.waitForSelector("text=Step 3 stands on what step 2 makes");
  expect(await steps()).toEqual(["s1", "s2", "s4", "s3", "s5"]);
  await page.click("text=All right");
  // By mouse: the grip is dragged to the gap below the last step. Shut, the steps leave that in sight.
  await page.keyboard.press("Escape");
  const row = (await page.locator('[data-step="s5"]').boundingBox())!;
  await page.hover('[data-grip="s4"]');
  await page.mouse.down();
  await page.mouse.move(row.x + 100, row.y - 30, { steps: 4 });
  await page.waitForSelector("[data-gap]", { state: "attached" });
  const gap = (await page.locator('[data-gap="4"]').boundingBox())!;
  await page.mouse.move(gap.x + 120, gap.y + gap.height / 2, { steps: 6 });
  // While the browser drags, the page draws no frames that could be waited for: the hand moves once more.
  await page.mouse.move(gap.x + 121, gap.y + gap.height / 2);
  await page.mouse.up();
  await page.waitForFunction(() => {
    const rows = [...document.querySelectorAll<HTMLElement>("[data-step]")].map((r) => r.dataset.step);
    return rows.join() === "s1,s2,s3,s4,s5";
  });
  await open("s2");
  await page.click('[aria-label="Remove step 2"]');
  await page.waitForSelector("[role=dialog] >> text=4 Flange");
  await page.click('[role=dialog] button:has-text("Remove all of it")');
  await page.waitForSelector('[data-step="s4"]', { state: "detached" });
  expect((await steps()).includes("s2")).toBe(false);
  while ((await steps()).length < 5) await page.click('[aria-label="Undo"]');
  await page.waitForSelector('[data-drawer="bends"]:has-text("Bends 7")');
});

test("the bookmark builds up to a step and lets go again", async () => {
  await page.locator('[data-bookmark="s1"]').click();
  await page.waitForSelector("text=built up to here");
  await page.waitForSelector('[data-drawer="bends"]:has-text("Bends 0")');
  await page.click("text=built up to here");
  await page.waitForSelector('[data-drawer="bends"]:has-text("Bends 7")');
});

test("the stock changes every bend, and a thickness of nothing is told at its field", async () => {
  await page.click("[data-stock]");
  // A card fixes the thickness; a part without one says it itself, at first the same.
  await page.selectOption("[data-card]", "");
  const thickness = page.locator('[role=dialog] input[data-field="thickness"]');
  await thickness.fill("0");
  await page.waitForSelector("[role=dialog] [role=alert]:has-text('must be more than 0 mm')");
  await page.waitForSelector("[data-stale]");
  await thickness.fill("2");
  await page.waitForSelector("[data-stale]", { state: "detached" });
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await page.click('[data-drawer="bends"]');
  await page.waitForSelector('[data-bend="1"]:has-text("3.68")');
  await page.click('[data-drawer="bends"]');
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await page.waitForSelector('[data-stock]:has-text("Galvanised 1.5")');
});

test("the proof reads the file back and agrees with the blank; the STL is that of the part", async () => {
  await page.click(`[aria-label="The file's proof, and other files"]`);
  await page.waitForSelector("[data-proof]");
  const lines = await page.locator("[data-proof]").allInnerTexts();
  expect(lines.length).toBe(10);
  expect(lines.join("\n")).toMatch(
    /8 closed loops, none open[\s\S]*area [\d.]+ mm² = blank[\s\S]*7 round openings[\s\S]*bends up ▲: 6 lines/,
  );
  expect(await page.locator('[data-proof="false"]').count()).toBe(0);
  const stl = await savedFile(page, () => page.click("text=STL folded"));
  expect(stl.bytes.readUInt32LE(80) * 50 + 84).toBe(stl.bytes.length);
  await page.keyboard.press("Escape");
});

test("a flange without an edge asks for one, and takes the edges that are clicked", async () => {
  await page.goto(bench.base);
  await page.click("header >> text=New part");
  await page.click('[data-add="plate"]');
  await page.waitForSelector('[data-edge="s1.east"]', { state: "attached" });
  await page.keyboard.press("Escape");
  await page.click("text=Add a step");
  await page.click('[data-add="flange"]');
  await page.waitForSelector('[data-step="s2"] [role="alert"]:has-text("Pick at least one edge")');
  await clickEdge(page, "s1.east");
  await page.waitForSelector('[data-step="s2"] >> text=A east');
  await clickEdge(page, "s1.west");
  await page.keyboard.press("Enter");
  await page.waitForSelector('[data-drawer="bends"]:has-text("Bends 2")');
  await drawn(page);
});

test("a finding lights the bends it is about in both views while it is pointed at or has the focus", async () => {
  const torn = { length: "20", span: "width", width: "30", leftRelief: "none", rightRelief: "square" };
  const flange = (id: string, edge: string) => ({
    ...{ id, kind: "flange", edges: [{ key: "a", at: `s1.${edge}` }] },
    ...torn,
  });
  const answer = await fetch(`${bench.base}/api/parts`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({
      document: {
        ...newPart("Tearing"),
        steps: [
          { id: "s1", kind: "plate", width: "100", depth: "60" },
          flange("s2", "north"),
          flange("s3", "south"),
          { ...flange("s4", "east"), leftRelief: "square" },
        ],
      },
    }),
  });
  const { id } = (await answer.json()) as { id: string };
  await page.goto(`${bench.base}/parts/${id}`);
  await drawn(page);
  await page.click('[data-drawer="findings"]');
  const finding = page.locator("li button", { hasText: "Bends 1 and 2 have metal beside their left ends" });
  const lit = page.locator('[data-view="blank"] path[stroke="var(--amber)"][fill="none"]');
  await finding.waitFor();
  expect(await lit.count()).toBe(0);
  const folded = page.locator('[data-view="folded"] canvas');
  const before = await folded.screenshot();
  await finding.hover();
  await lit.waitFor({ state: "attached" });
  // The lines of bends 1 and 2, north and south, each 30 long, and not that of bend 3.
  const path = (await lit.getAttribute("d")) ?? "";
  const lines = path.split("M").slice(1);
  const ends = lines.map((l) => (l.match(/-?[\d.]+/g) ?? []).map(Number));
  expect(ends.map(([x0, y0, x1, y1]) => [Math.abs(x1 - x0), Math.abs(y1 - y0)])).toEqual([
    [30, 0],
    [30, 0],
  ]);
  await expect.poll(async () => (await folded.screenshot()).equals(before)).toBe(false);
  await page.mouse.move(5, 5);
  await expect.poll(() => lit.count()).toBe(0);
  await page.focus('[data-drawer="findings"]');
  await page.keyboard.press("Tab");
  for (let i = 0; i < 12 && !(await finding.evaluate((b) => b === document.activeElement)); i++)
    await page.keyboard.press("Tab");
  await expect.poll(() => lit.getAttribute("d")).toBe(path);
  await page.keyboard.press("Enter");
  // Its field stands open to be mended.
  await page.waitForSelector('[data-step="s2"] [data-field="leftRelief"]');
  expect(
    await page.evaluate(() => document.activeElement?.closest("[data-step]")?.getAttribute("data-step")),
  ).toBe("s2");
});
