import type { ICircleEntity, ILineEntity, ILwpolylineEntity } from "dxf-parser";
import { expect, test } from "vitest";
import { clickEdge, Hand, isSaved, openPart, settled } from "./harness.ts";
import { opened } from "./opened.ts";
import { savedDxf } from "./saved-dxf.ts";

const { bench, page } = await opened({ cards: false });
const hand = new Hand(page);

const field = (step: string, key: string) => page.locator(`[data-step="${step}"] input[data-field="${key}"]`);
const shows = (view: "folded" | "blank", size: string) =>
  page.waitForSelector(`[data-size="${view}"]:has-text("${size}")`);

/** Types into the field that has the cursor, and goes on to the next. */
async function type(...values: readonly string[]): Promise<void> {
  for (const [i, value] of values.entries()) {
    if (i > 0) await page.keyboard.press("Tab");
    await page.keyboard.type(value);
  }
  await page.keyboard.press("Enter");
}

async function newPart(): Promise<void> {
  await page.goto(bench.base);
  await page.click("header >> text=New part");
  await page.waitForSelector("text=Nothing on the Bench yet");
}

async function plate(width: string, depth: string): Promise<void> {
  await newPart();
  await page.keyboard.press("p");
  await type(width, depth);
  await shows("blank", `${Number(width).toFixed(2)} × ${Number(depth).toFixed(2)}`);
}

async function addStep(kind: string): Promise<void> {
  await page.click('button:has-text("Add a step")');
  await page.click(`[data-add="${kind}"]`);
}

// t 1.5, r 1.5, K 0.42.
const ALLOWANCE = (Math.PI / 2) * (1.5 + 0.42 * 1.5);

test("a logger box: four walls, corners closed by one pick, hems on the rims", async () => {
  await plate("150", "100");
  await clickEdge(page, "s1.north");
  for (const side of ["east", "south", "west"]) await clickEdge(page, `s1.${side}`, ["Shift"]);
  await page.keyboard.press("f");
  await type("48");
  await shows("folded", "150.00 × 100.00 × 48.00");
  await addStep("corner");
  await hand.choose("s3", "relief", "round");
  const open = await page.locator('[data-step="s3"] [data-field="size"]').count();
  expect(open).toBe(1);
  await clickEdge(page, "s2a.end");
  await clickEdge(page, "s2c.end", ["Shift"]);
  await page.keyboard.press("h");
  await type("7");
  await page.click('[data-step="s4"] [role=button][data-field="turn"]');
  await page.waitForSelector('[data-drawer="bends"]:has-text("6")');
  const { outlines, on, spans } = await savedDxf(page);
  expect(outlines.length).toBe(1);
  expect(on("BENDS_UP").length).toBe(4);
  expect(on("BENDS_DOWN").length).toBe(2);
  // Each relief leaves an arc of the outline at its corner.
  expect(outlines[0].vertices.filter((v) => v.bulge).length).toBeGreaterThanOrEqual(4);
  const wall = 45 + ALLOWANCE - 3;
  expect(spans[0][0]).toBeCloseTo(150 + 2 * wall, 5);
});

test("one corner is picked on the blank and closed another way than the others", async () => {
  await page.click('[data-step="s3"]', { position: { x: 12, y: 12 } });
  await page.locator('[data-step="s3"] [data-field="corners"] >> button:has-text("pick a corner")').click();
  await hand.corner("s1.north+east");
  await page.keyboard.press("Enter");
  await page.waitForSelector('[data-step="s3"]:has-text("A north–east")');
  const before = await savedDxf(page);
  // With one single pick its values are the step's own picks' values.
  await page.keyboard.press("Escape");
  await page.waitForSelector('[data-drawer="findings"]:has-text("0")');
  expect(before.outlines.length).toBe(1);
});

test("an arm clamp: a profile from its table, with an arc, its end dragged in the section", async () => {
  await newPart();
  await page.click('[data-add="profile"]');
  await page.waitForSelector('[data-step="s1"] [data-row="c"]');
  await shows("blank", "60.00 ×");
  const cell = (row: string, column: string) =>
    page.locator(`[data-step="s1"] [data-row="${row}"] input[data-field="leg-${column}"]`);
  await cell("b", "turn").fill("-30");
  await cell("c", "length").fill("30");
  await page.click('[data-step="s1"] [data-add-row="legs"]');
  await page.click('[data-step="s1"] [data-row="d"] [role=button][data-field="form"]');
  await cell("d", "turn").fill("180");
  await cell("d", "radius").fill("16");
  await page.waitForSelector('[data-drawer="bends"]:has-text("3")');
  const end = await page.locator('[data-profile] [data-leg-end="a"]').boundingBox();
  await page.mouse.move(end!.x + end!.width / 2, end!.y + end!.height / 2);
  await page.mouse.down();
  await page.mouse.move(end!.x + end!.width / 2 + 12, end!.y + end!.height / 2, { steps: 4 });
  await page.mouse.up();
  const dragged = Number(await cell("a", "length").inputValue());
  expect(dragged).toBeGreaterThan(25);
  await settled(page);
  const { on, spans } = await savedDxf(page);
  expect(on("BENDS_UP").length + on("BENDS_DOWN").length).toBe(3);
  const arc = Math.PI * (16 - 1.5 + 0.42 * 1.5);
  const small = (Math.PI / 6) * (1.5 + 0.42 * 1.5);
  const setbacks = 2 * 3 + 2 * Math.tan(Math.PI / 12) * 3;
  expect(spans[0][1]).toBeCloseTo(dragged + 40 + 30 - setbacks + ALLOWANCE + small + arc, 5);
});

test("a solar-panel foot: a jog from an edge, slots mirrored, corners rounded", async () => {
  await plate("60", "120");
  await clickEdge(page, "s1.south");
  await page.keyboard.press("j");
  await page.waitForSelector('[data-step="s2"] input[data-field="distance"]:focus');
  await type("46");
  await field("s2", "offset").fill("14");
  await field("s2", "angle").fill("60");
  await shows("folded", "60.00 × 120.00 × 15.50");
  await hand.plate("s1", 0.25);
  await page.keyboard.press("c");
  await page.waitForSelector('[data-step="s3"] input[data-field="width"]:focus');
  await type("9", "20");
  await hand.choose("s3", "form", "slot");
  // The step that was open is what it mirrors.
  await addStep("mirror");
  await page.waitForSelector('[data-step="s4"] [data-name="s3"], [data-step="s4"]:has-text("3 Cut")');
  await addStep("round");
  await hand.choose("s5", "which", "all");
  await field("s5", "radius").fill("6");
  await settled(page);
  await page.waitForSelector('[data-drawer="findings"]:has-text("0")');
  const { on, outlines } = await savedDxf(page);
  expect(on("OPENINGS").length).toBe(2);
  expect(outlines[0].vertices.filter((v) => v.bulge).length).toBe(4);
  expect([on("BENDS_UP").length, on("BENDS_DOWN").length]).toEqual([1, 1]);
});

test("a cable cover: bends held flat, a cut across one of them, folded again", async () => {
  await plate("240", "46");
  await clickEdge(page, "s1.north");
  await clickEdge(page, "s1.south", ["Shift"]);
  await page.keyboard.press("f");
  await type("28");
  await page.click('[data-step="s2"] [role=button][data-field="turn"]');
  await addStep("hold");
  await hand.plate("s1", 0.75);
  await page.keyboard.press("c");
  await page.waitForSelector('[data-step="s4"] input[data-field="width"]:focus');
  await type("12", "30");
  await field("s4", "y").fill("23");
  await addStep("hold");
  await page.click('[data-step="s5"] [role=button][data-field="does"]');
  await page.waitForSelector('[data-step="s5"] [data-field="does"]:has-text("Let fold again")');
  await page.waitForSelector('[data-drawer="findings"]:has-text("0")');
  const { on } = await savedDxf(page);
  const [cut] = on("OPENINGS") as ILwpolylineEntity[];
  const ys = cut.vertices.map((v) => v.y);
  expect(Math.max(...ys) - Math.min(...ys)).toBeCloseTo(30, 9);
  // The bend's line is interrupted where the cut crosses it.
  const lines = on("BENDS_DOWN") as ILineEntity[];
  const high = Math.max(...lines.map((l) => l.vertices[0].y));
  const pieces = lines.filter((l) => l.vertices[0].y === high);
  expect(pieces.length).toBe(2);
  const length = pieces.reduce((sum, l) => sum + Math.abs(l.vertices[0].x - l.vertices[1].x), 0);
  expect(length).toBeCloseTo(240 - 12, 6);
});

test("named values stand in fields, and a new name is followed", async () => {
  await plate("100", "80");
  await page.click('[data-drawer="values"]');
  await page.click("[data-add-variable]");
  await page.fill('[data-variable="value1"] [data-field="variable-value1"]', "30");
  await field("s1", "width").fill("value1 * 4");
  await shows("blank", "120.00 × 80.00");
  await page.fill('[data-variable="value1"] [data-field="variable-name"]', "module");
  await page.keyboard.press("Enter");
  await page.waitForSelector('[data-variable="module"]');
  expect(await field("s1", "width").inputValue()).toBe("module * 4");
  await page.fill('[data-variable="module"] [data-field="variable-name"]', "mm");
  await page.waitForSelector("text=already means a unit");
  await page.keyboard.press("Escape");
  await page.fill('[data-variable="module"] [data-field="variable-module"]', "module + 1");
  await page.waitForSelector("text=it goes in a circle: module → module");
  await page.keyboard.press("Escape");
  await shows("blank", "120.00 × 80.00");
});

test("a measurement between two picked walls is live, and stays when it is pinned", async () => {
  await openPart(page, bench.base, "Battery tray");
  await page.click('[data-drawer="measure"]');
  await hand.plate("s2a", 0.1);
  await hand.plate("s2b", 0.1);
  const distance = page.locator("[data-measure] [data-distance]");
  await distance.waitFor();
  expect(await distance.innerText()).toBe("177.000 mm");
  // No metal of the two comes nearer: a lip of one would.
  expect(await page.locator("[data-measure] [data-gap]").innerText()).toBe("177.000 mm");
  await page.click('[data-measure] >> text="pin"');
  await page.locator('[data-measure] select[aria-label="Face"]').first().selectOption("A");
  await page.locator('[data-measure] select[aria-label="Face"]').last().selectOption("A");
  await page.waitForSelector('[data-distance]:has-text("180.000")');
  // A second one pinned: the first stays first when its faces change, and is saved so.
  await hand.plate("s1", 0.3);
  await hand.plate("s2a", 0.1);
  await page.click('[data-measure="now"] >> text="pin"');
  await expect.poll(() => distance.count()).toBe(2);
  const keys = () =>
    page.locator("[data-measure]").evaluateAll((rows) => rows.map((r) => r.getAttribute("data-measure")));
  const inOrder = await keys();
  const face = page.locator('[data-measure] select[aria-label="Face"]').first();
  await face.selectOption("B");
  await page.waitForSelector('[data-distance]:has-text("178.500")');
  expect(await keys()).toEqual(inOrder);
  await face.selectOption("A");
  await page.locator("[data-measure]").last().locator('text="let go"').click();
  await field("s1", "depth").fill("190");
  await page.waitForSelector('[data-distance]:has-text("190.000")');
});

test("an edge that is gone offers others in its place, and one click puts it right", async () => {
  await plate("100", "80");
  await clickEdge(page, "s1.north");
  await page.keyboard.press("f");
  await type("25");
  await clickEdge(page, "s2a.end");
  await page.keyboard.press("f");
  await type("10");
  await page.click('[data-step="s2"]', { position: { x: 12, y: 12 } });
  await page.click('[aria-label="Pause step 2"]');
  await page.waitForSelector('[data-step="s3"] [data-offer]');
  await page.click('[data-step="s3"] [data-offer="s1.north"]');
  await page.waitForSelector('[data-step="s3"] [role="alert"]', { state: "detached" });
  await page.waitForSelector('[data-step="s3"]:has-text("A north")');
});

test("one edge of several differs from the others, and a step is carried to another part", async () => {
  await plate("100", "80");
  await clickEdge(page, "s1.north");
  await clickEdge(page, "s1.south", ["Shift"]);
  await page.keyboard.press("f");
  await type("25");
  await page.click('[data-step="s2"]', { position: { x: 12, y: 12 } });
  await page.click('[data-own="s1.south"]');
  await page.fill('[data-field="own-length"]', "40");
  await page.keyboard.press("Enter");
  await shows("folded", "100.00 × 80.00 × 40.00");
  await page.keyboard.press("Escape");
  await page.click('[data-step="s2"]', { position: { x: 12, y: 12 } });
  await page.keyboard.press("Control+c");
  await isSaved(page);
  await plate("60", "50");
  await page.keyboard.press("Control+v");
  await shows("folded", "60.00 × 50.00 × 40.00");
  const { on } = await savedDxf(page);
  expect(on("BENDS_UP").length).toBe(2);
  expect((on("OPENINGS") as ICircleEntity[]).length).toBe(0);
});

test("a copy that follows its part takes over what changes there, and keeps what is its own", async () => {
  await plate("100", "80");
  await isSaved(page);
  await page.goto(bench.base);
  await page.locator('[data-part="New part"]').first().hover();
  await page.locator('[aria-label="Copy that follows New part"]').first().click();
  await page.click('[data-part="New part (follows)"] a');
  await page.waitForSelector("[data-follows]:has-text('New part')");
  await clickEdge(page, "s1.north");
  await page.keyboard.press("f");
  await type("25");
  await shows("folded", "100.00 × 80.00 × 25.00");
  await isSaved(page);
  await page.click("[data-follows] a");
  await shows("blank", "100.00 × 80.00");
  await field("s1", "width").fill("140");
  await shows("blank", "140.00 × 80.00");
  await isSaved(page);
  await page.goto(bench.base);
  await page.click('[data-part="New part (follows)"] a');
  await shows("folded", "140.00 × 80.00 × 25.00");
  await page.click("text=Stop following");
  await page.waitForSelector('[data-step="s1"]');
  await field("s1", "width").fill("90");
  await shows("folded", "90.00 × 80.00 × 25.00");
});
