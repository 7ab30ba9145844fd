import type { StockLibrary } from "@hillcrest/core";
import { expect, test } from "vitest";
import { Hand, isSaved, settled } from "./harness.ts";
import { opened } from "./opened.ts";
import { savedDxf } from "./saved-dxf.ts";

// What a part keeps when something else in it changes.
const { bench, page } = await opened({ cards: false });

const field = (step: string, key: string) => `[data-step="${step}"] input[data-field="${key}"]`;
const blank = (size: string) => page.waitForSelector(`[data-size="blank"]:has-text("${size}")`);

/** A new part of one plate, by hand. */
async function plate(width: string, depth: string): Promise<Hand> {
  await page.goto(bench.base);
  const hand = new Hand(page);
  await hand.click("header >> text=New part");
  await page.waitForSelector("text=Nothing on the Bench yet");
  await hand.key("p");
  await hand.type(width);
  await hand.key("Tab");
  await hand.type(depth);
  await hand.key("Enter");
  await blank(`${Number(width).toFixed(2)} × ${Number(depth).toFixed(2)}`);
  return hand;
}

const openStep = (id: string) => page.click(`[data-step="${id}"]`, { position: { x: 12, y: 12 } });

/** Where the round holes stand from the outline's lower left corner, in mm. */
async function holes(): Promise<{ x: number; y: number; r: number }[]> {
  const { circles } = await savedDxf(page);
  return circles
    .map(({ center, radius }) => ({ x: center.x, y: center.y, r: radius }))
    .sort((a, b) => a.x - b.x || a.y - b.y);
}

test("a hole placed from two edges keeps its distances, whatever becomes of the plate", async () => {
  const hand = await plate("100", "80");
  await hand.plate("s1", 0.8, 0.2);
  await hand.key("m");
  await hand.type("6");
  await hand.into(field("s2", "off1"), "12");
  await hand.into(field("s2", "off2"), "9.5");
  await hand.key("Enter");
  // The nearest edges are those at the top and at the right.
  expect(await holes()).toEqual([{ x: 90.5, y: 68, r: 3 }]);
  await openStep("s1");
  await hand.into(field("s1", "width"), "130");
  await hand.key("Enter");
  await blank("130.00 × 80.00");
  expect(await holes()).toEqual([{ x: 120.5, y: 68, r: 3 }]);
  // A flange on the edge moves the mould line, not the hole: its edge is where the bend begins.
  await hand.edge("s1.north");
  await hand.key("f");
  await hand.type("20");
  await hand.key("Enter");
  await page.waitForSelector('[data-drawer="bends"]:has-text("Bends 1")');
  const [moved] = await holes();
  const { height } = await savedDxf(page);
  const strip = (Math.PI / 2) * (1.5 + 0.42 * 1.5);
  const beyond = height - (80 - 3) - strip - 17;
  expect(beyond).toBeCloseTo(0, 9);
  expect(moved.y).toBeCloseTo(68, 9);
  // Undone step by step, it stands where it stood.
  for (let i = 0; i < 2; i++) await page.keyboard.press("Control+z");
  await blank("130.00 × 80.00");
  expect(await holes()).toEqual([{ x: 120.5, y: 68, r: 3 }]);
});

test("holes and walls are measured between their middles and their faces, and pinned ones follow", async () => {
  const hand = await plate("100", "80");
  for (const [x, off] of [
    [0.2, "10"],
    [0.8, "25"],
  ] as const) {
    await hand.plate("s1", x, 0.8);
    await hand.key("m");
    const step = x < 0.5 ? "s2" : "s3";
    await hand.into(field(step, "diameter"), "8");
    await hand.into(field(step, "off1"), off);
    await hand.into(field(step, "off2"), "20");
    await hand.key("Enter", "Escape");
  }
  const before = await holes();
  const apart = Math.hypot(before[1].x - before[0].x, before[1].y - before[0].y);
  await hand.click('[data-drawer="measure"]');
  for (const id of ["s2", "s3"]) await hand.hole(id);
  const distance = page.locator("[data-measure] [data-distance]");
  await distance.waitFor();
  expect(await distance.innerText()).toBe(`${apart.toFixed(3)} mm`);
  await hand.click('[data-measure] >> text="pin"');
  await openStep("s1");
  await hand.into(field("s1", "width"), "150");
  await hand.key("Enter");
  await blank("150.00 × 80.00");
  const after = await holes();
  const wider = Math.hypot(after[1].x - after[0].x, after[1].y - after[0].y);
  expect(wider).toBeGreaterThan(apart + 40);
  await page.waitForSelector(`[data-distance]:has-text("${wider.toFixed(3)} mm")`);
  await isSaved(page);
  await page.reload();
  await hand.click('[data-drawer="measure"]');
  await page.waitForSelector(`[data-distance]:has-text("${wider.toFixed(3)} mm")`);
  await hand.click('[data-measure] >> text="let go"');
  await page.waitForSelector("[data-measure]", { state: "detached" });
});

test("a step keeps the name that it is given, and Escape gives it none", async () => {
  const hand = await plate("60", "40");
  await openStep("s1");
  await hand.click("[data-name-step]");
  // Letters of the views' and the steps' keys are letters here.
  await hand.type("Base plate 3, for f & p");
  await hand.key("Enter");
  await page.waitForSelector('[data-step="s1"] >> text="Base plate 3, for f & p"');
  await hand.click("[data-name-step]");
  await hand.type(" no more");
  await hand.key("Escape");
  await page.waitForSelector('[data-step="s1"] >> text="Base plate 3, for f & p"');
  await isSaved(page);
  await page.reload();
  await page.waitForSelector('[data-step="s1"] >> text="Base plate 3, for f & p"');
  expect(await page.locator("[data-step]").count()).toBe(1);
  await page.keyboard.press("Control+z");
  await openStep("s1");
  await hand.click("[data-name-step]");
  await page.keyboard.press("Control+a");
  await page.keyboard.press("Delete");
  await hand.key("Enter");
  await page.waitForSelector('[data-name-step] >> text="name…"');
});

test("a part of a material of the shop follows it when it is asked to, and no sooner", async () => {
  const mass = () => page.locator('button[aria-label$="mass: why?"]').innerText();
  const hand = await plate("200", "120");
  await hand.click("[data-stock]");
  await page.selectOption("[data-library-material]", "mild-steel");
  await page.waitForSelector("[role=dialog] >> text=7850 kg/m³");
  await hand.key("Escape");
  await settled(page);
  // 200 · 120 · 1.5 mm³ at 7,850 kg/m³.
  expect(await mass()).toBe((0.2 * 0.12 * 0.0015 * 7850).toFixed(3));
  await isSaved(page);
  const address = page.url();
  await page.goto(`${bench.base}/stock/materials/mild-steel`);
  await page.fill('[data-editor] [data-field="density"]', "8000");
  await page.keyboard.press("Enter");
  await page.click("[data-save]");
  await page.waitForFunction(
    () => document.querySelector("[data-save]:disabled") || document.querySelector("[data-impact]"),
  );
  if (await page.locator("[data-impact]").count()) await page.click("[data-save-only]");
  await page.waitForSelector('[data-save]:disabled:has-text("Save")');
  const library = (await (await fetch(`${bench.base}/api/stock/library`)).json()) as StockLibrary;
  expect(library.materials.find((m) => m.id === "mild-steel")?.density).toBe(8000);

  await page.goto(address);
  await page.waitForSelector('[data-step="s1"]');
  await settled(page);
  expect(await mass()).toBe("0.283");
  await hand.click("[data-stock]");
  await hand.click("[data-take-material]");
  await hand.key("Escape");
  await page.waitForFunction(() => document.body.innerText.includes("0.288"));
  // Let go of, its values stay as the part's own.
  await hand.click("[data-stock]");
  await page.selectOption("[data-library-material]", "");
  await hand.key("Escape");
  await settled(page);
  expect(await mass()).toBe("0.288");
});
