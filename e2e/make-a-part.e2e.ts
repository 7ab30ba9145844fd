import DxfParser, { type ICircleEntity, type ILineEntity, type ILwpolylineEntity } from "dxf-parser";
import { expect, test } from "vitest";
import { clickEdge, Hand, isSaved, savedFile } from "./harness.ts";
import { opened } from "./opened.ts";

const { bench, page } = await opened({ demo: false, cards: false });

test("a tray is made from nothing to DXF by mouse and keyboard, in under 25 actions", async () => {
  await page.goto(bench.base);
  await page.waitForSelector("text=The Shelf is empty");
  const hand = new Hand(page);
  await hand.click("header >> text=New part");
  await page.waitForSelector("text=Nothing on the Bench yet");
  // Typed as fast as a hand can: each key must find its field without waiting.
  await hand.key("p");
  await hand.type("200");
  await hand.key("Tab");
  await hand.type("6in/2 + 23.8");
  await hand.key("Enter");
  await page.waitForSelector('[data-size="blank"]:has-text("200.00 × 100.00")');
  // Walls on all four edges at once, then a lip on one of them.
  await hand.edge("s1.north");
  for (const side of ["east", "south", "west"]) await hand.edge(`s1.${side}`, true);
  await page.waitForSelector("[data-pick-card] >> text=4 edges");
  await hand.key("f");
  await hand.type("20*t");
  await hand.key("Enter");
  await page.waitForSelector('[data-size="folded"]:has-text("200.00 × 100.00 × 30.00")');
  await hand.edge("s2a.end");
  await hand.key("f");
  await hand.type("12");
  await hand.key("Enter");
  await hand.click('[data-step="s3"] [data-field="turn"]');
  await page.waitForSelector('[data-step="s3"] [data-field="turn"]:has-text("down")');
  // A hole in the plate, where it is picked.
  await hand.plate("s1");
  await hand.key("o");
  await hand.type("8");
  await hand.key("Enter");
  await page.waitForSelector('[data-drawer="bends"]:has-text("5")');
  await isSaved(page);
  const { name, text } = await savedFile(page, () => hand.click('button:has-text("Save DXF")'));

  expect(hand.actions).toBeLessThan(25);
  expect(name).toBe("New part.dxf");
  const file = new DxfParser().parseSync(text)!;
  const on = (layer: string) => file.entities.filter((e) => e.layer === layer);
  const [outline] = on("OUTLINE") as ILwpolylineEntity[];
  expect(on("OUTLINE").length).toBe(1);
  expect(outline.shape).toBe(true);
  expect(on("BENDS_UP").length).toBe(4);
  expect(on("BENDS_DOWN").length).toBe(1);
  expect((on("OPENINGS") as ICircleEntity[]).map((c) => c.radius)).toEqual([4]);
  expect(file.header.$INSUNITS).toBe(4);
  // t 1.5, r 1.5, K 0.42: each wall takes 3 from the plate and gives BA 3.345796 and a leg of 27.
  const span = (axis: "x" | "y") =>
    Math.max(...outline.vertices.map((v) => v[axis])) - Math.min(...outline.vertices.map((v) => v[axis]));
  expect(span("x")).toBeCloseTo(200 + 2 * (30 - 2.654204), 5);
  expect(span("y")).toBeCloseTo(100 + 2 * (30 - 2.654204) + 12 - 2.654204, 5);
  const [lip] = on("BENDS_DOWN") as ILineEntity[];
  expect(Math.abs(lip.vertices[0].x - lip.vertices[1].x)).toBeCloseTo(194, 6);
});

test("and is found unchanged after loading the page again, down to the file", async () => {
  const before = await savedFile(page, () => page.keyboard.press("Control+e"));
  const sentences = await page.locator("[data-step]").allInnerTexts();
  await page.reload();
  await page.waitForSelector('[data-view="blank"] [data-edge="s3a.end"]', { state: "attached" });
  const after = await savedFile(page, () => page.keyboard.press("Control+e"));
  expect(after.text).toBe(before.text);
  // The step that was open shows more of itself: the sentences begin the same.
  const again = await page.locator("[data-step]").allInnerTexts();
  expect(again.map(firstLine)).toEqual(sentences.map(firstLine));
});

test("undo goes back to the empty part and redo returns to the same file", async () => {
  await page.goto(bench.base);
  await page.click("header >> text=New part");
  await page.waitForSelector("text=Nothing on the Bench yet");
  await page.keyboard.press("p");
  await page.waitForSelector('[data-step="s1"] input:focus');
  await page.keyboard.press("Escape");
  await page.waitForSelector('[data-edge="s1.north"]', { state: "attached" });
  await clickEdge(page, "s1.north");
  await page.keyboard.press("f");
  await page.waitForSelector('[data-step="s2"] input[data-field="length"]:focus');
  await page.keyboard.type("40");
  await page.keyboard.press("Enter");
  await page.waitForSelector('[data-size="folded"]:has-text("40.00")');
  const made = await savedFile(page, () => page.keyboard.press("Control+e"));
  while (await page.locator('[aria-label="Undo"]').isEnabled()) await page.keyboard.press("Control+z");
  await page.waitForSelector("text=Nothing on the Bench yet");
  while (await page.locator('[aria-label="Redo"]').isEnabled()) await page.keyboard.press("Control+Shift+z");
  await page.waitForSelector('[data-size="folded"]:has-text("40.00")');
  const redone = await savedFile(page, () => page.keyboard.press("Control+e"));
  expect(redone.text).toBe(made.text);
});

/** A step's sentence; what stands below it shows only while the step is open. */
const firstLine = (step: string) =>
  step
    .split("\n")
    .filter((line) => line && line !== "name…")
    .slice(0, 2)
    .join(" ");
