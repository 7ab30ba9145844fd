import { expect, test } from "vitest";
import { opened } from "./opened.ts";
import { savedDxf } from "./saved-dxf.ts";

const { bench, page } = await opened({ demo: false });

const state = () => page.locator("[data-drawing-state]").innerText();
const blank = async () => (await page.locator('[data-size="blank"]').innerText()).replace(/\s+/g, " ");
const key = (k: string) => page.keyboard.press(k);
let actions = 0;
const did = () => {
  actions++;
};

/** Where the drawing's middle is on the page, and how many pixels a millimetre is: as two of its points say. */
const middle = async () => {
  const box = (await page.locator('[data-view="drawing"]').boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
};
/** Moves the pointer to a place of the drawing, pixels from its middle, up positive: in steps, as a hand does. */
async function point(dx: number, dy: number) {
  const { x, y } = await middle();
  await page.mouse.move(x + dx - 6, y - dy + 5);
  await page.mouse.move(x + dx, y - dy, { steps: 3 });
}
async function click(dx: number, dy: number, shift = false) {
  await point(dx, dy);
  if (shift) await page.keyboard.down("Shift");
  await page.mouse.down();
  await page.mouse.up();
  if (shift) await page.keyboard.up("Shift");
  did();
}
/** Types as a person does, key by key, and sees that the field that takes it neither moves nor loses the focus. */
async function type(text: string, field: string) {
  const input = page.locator(field);
  let at: { x: number; y: number } | undefined;
  for (const k of text) {
    await page.keyboard.type(k, { delay: 40 });
    const box = (await input.boundingBox())!;
    at ??= box;
    expect([box.x, box.y]).toEqual([at.x, at.y]);
    expect(await input.evaluate((e) => e === document.activeElement)).toBe(true);
  }
  did();
}
/** The points of the drawing on the page, by id. */
const points = async () =>
  Object.fromEntries(
    await page.locator("[data-point]").evaluateAll((all) =>
      all.map((e) => {
        const { x, y, width, height } = e.querySelector("circle")!.getBoundingClientRect();
        return [(e as SVGElement).dataset.point!, { x: x + width / 2, y: y + height / 2 }] as const;
      }),
    ),
  );

test("a plate is drawn with the mouse and driven by numbers that are typed, in at most 30 actions", async () => {
  await page.goto(bench.base);
  await page.click("text=New part");
  await page.waitForSelector("text=Nothing on the Bench");
  await page.click('[data-drawer="outlines"]');
  await page.click("[data-draw-new]");
  await page.click('[data-drawer="outlines"]');
  actions = 3;
  // Lines are taken up already: along the bottom 90 long, up, an arc that leads on, level back, and down to the beginning.
  await click(-130, -110);
  await point(60, -108);
  await type("90", '[data-typed="length"]');
  await key("Enter");
  did();
  await expect.poll(state).toMatch(/^2 left free|^3 left free/);
  const { p2 } = await points();
  const end = { x: p2.x - (await middle()).x, y: (await middle()).y - p2.y };
  await click(end.x, -10);
  await key("a");
  did();
  await point(end.x - 40, 42);
  await type("20", '[data-typed="radius"]');
  await key("Enter");
  did();
  await key("l");
  did();
  const now = await points();
  const arc = now.p4 ?? now.p3;
  // Over the beginning: the ray and the line over it cross there.
  await click(-128, (await middle()).y - arc.y + 1);
  await click(-130, -110);
  await key("Escape");
  did();
  // A hole, and what is left free.
  await key("c");
  did();
  await click(-70, -40);
  await point(-52, -40);
  await type("12.5", '[data-typed="diameter"]');
  await key("Enter");
  did();
  await key("Escape");
  did();
  await expect.poll(state).toMatch(/left free$/);
  await page.click("[data-hold]");
  did();
  await expect.poll(state).toBe("all fixed");
  await key("Enter");
  did();
  expect(await page.locator("[data-drawing]").count()).toBe(0);
  await key("p");
  await page.click('[data-step="s1"] [data-field="form"]');
  await page.click('[data-option="drawn"]');
  actions += 3;
  expect(actions).toBeLessThanOrEqual(30);
  await expect.poll(blank).toMatch(/^90\.00 × /);
  const dxf = await savedDxf(page);
  expect(dxf.width).toBeCloseTo(90, 6);
  expect(dxf.rounds).toBe(1);
  expect(dxf.circles.map((c) => c.radius)).toEqual([expect.closeTo(6.25, 9)]);
  const [bulge] = dxf.outlines.flatMap((o) => o.vertices.flatMap((v) => (v.bulge ? [v.bulge] : [])));
  expect(Math.abs(bulge)).toBeGreaterThan(0.1);
}, 90_000);

const fields = '[data-drawing-foot] [data-field^="drawn-"]';
/** A new part with a plate of 120 by 80 that is drawn, its drawing open. */
async function drawnPlate() {
  await page.goto(bench.base);
  await page.click("text=New part");
  await page.waitForSelector("text=Nothing on the Bench");
  await key("p");
  await page.click('[data-step="s1"] [data-field="form"]');
  await page.click('[data-option="drawn"]');
  await page.waitForSelector("[data-point=c]");
}
const pickDimension = (id: string) => page.locator(`[data-dimension="${id}"] text`).click();
const clickAt = async ({ x, y }: { x: number; y: number }) => {
  await page.mouse.move(x - 5, y + 4);
  await page.mouse.move(x, y, { steps: 2 });
  await page.mouse.click(x, y);
};
const folded = async () => (await page.locator('[data-size="folded"]').innerText()).replace(/\s+/g, " ");

test("a plate that becomes a drawn one is what it was, and its numbers are typed on the drawing", async () => {
  await drawnPlate();
  await expect.poll(folded).toMatch(/^120\.00 × 80\.00/);
  expect(await state()).toBe("all fixed");
  await pickDimension("d1");
  await page.locator(fields).click();
  await key("Control+a");
  await type("2*45.5", fields);
  await expect.poll(folded).toMatch(/^91\.00 × 80\.00/);
  await key("Enter");
  // One undo takes back all that was typed into the field.
  await key("Control+z");
  await expect.poll(folded).toMatch(/^120\.00 × 80\.00/);
});

test("corners are rounded one after another; undo takes back each as a whole", async () => {
  await drawnPlate();
  await key("u");
  await type("12", '[data-typed="size"]');
  await key("Tab");
  const corners = await points();
  await clickAt(corners.c);
  await clickAt(corners.d);
  await expect.poll(() => page.locator('[data-dimension] text:text-matches("R 12.00")').count()).toBe(2);
  await key("Escape");
  await key("Escape");
  await key("Enter");
  const dxf = await savedDxf(page);
  expect(dxf.rounds).toBe(2);
  expect([dxf.width, dxf.height]).toEqual([expect.closeTo(120, 6), expect.closeTo(80, 6)]);
  await key("Control+z");
  await key("Control+z");
  await key("Control+z");
  expect(await page.locator('[data-step="s1"] [data-field="width"]').inputValue()).toBe("120");
});

test("what goes against the rest only shows; made to drive it is named, and one is dropped by a click", async () => {
  await drawnPlate();
  const { a, c } = await points();
  await clickAt(a);
  await page.keyboard.down("Shift");
  await clickAt(c);
  await page.keyboard.up("Shift");
  await key("d");
  // The diagonal follows from the sides: it shows what it comes to, in brackets.
  await expect
    .poll(() => page.locator('[data-dimension] text:text-matches("^\\\\(144.22\\\\)$")').count())
    .toBe(1);
  await page.click('[data-drawing-foot] input[type="checkbox"]');
  const field = page.locator(fields);
  await field.click();
  await key("Control+a");
  await type("150", fields);
  await expect.poll(state).toBe("disagrees");
  const named = await page.locator("[data-conflicts] button").allInnerTexts();
  expect(named.some((t) => t.includes("length of south"))).toBe(true);
  await key("Enter");
  await page.locator('[data-conflicts] button:has-text("length of south")').click();
  await expect.poll(state).toBe("all fixed");
  // With a diagonal of 150 and 80 up it is as wide as Pythagoras says.
  await expect.poll(folded).toMatch(/^126\.89 × 80\.00/);
});

test("a relation is picked by its mark and removed; what is free then moves when it is dragged", async () => {
  await drawnPlate();
  await page.locator('[data-mark="upright"]').first().click();
  await key("Delete");
  await expect.poll(state).toMatch(/^1 left free$/);
  const before = await points();
  await page.mouse.move(before.c.x, before.c.y);
  await page.mouse.down();
  await page.mouse.move(before.c.x + 30, before.c.y, { steps: 6 });
  await page.mouse.up();
  const after = await points();
  expect(Math.abs(after.c.x - before.c.x) + Math.abs(after.d.x - before.d.x)).toBeGreaterThan(10);
  // Its sizes are as they were: what drives does so all the way.
  await expect.poll(() => page.locator('[data-dimension="d2"] text').textContent()).toBe("80.00");
  await key("Control+z");
  await expect.poll(async () => Math.round((await points()).c.x)).toBe(Math.round(before.c.x));
});

test.each([
  ["0", /must be above 0/],
  ["-5", /must be above 0/],
  ["1e16", /larger than a kilometre/],
  ["3/0", /./],
  ["wide", /./],
])("a diameter of %s is told beneath the drawing, and nothing is drawn", async (text, says) => {
  await drawnPlate();
  await key("c");
  const { o } = await points();
  await clickAt({ x: o.x - 60, y: o.y + 20 });
  await page.mouse.move(o.x - 40, o.y + 20);
  // Nothing but digits begins a number by itself: the field is gone into.
  await page.locator('[data-typed="diameter"]').click();
  for (const k of text) await page.keyboard.type(k, { delay: 20 });
  await key("Enter");
  await expect.poll(() => page.locator("[data-drawing-problem]").innerText()).toMatch(says);
  expect(await state()).toBe("all fixed");
  await key("Escape");
});

test("a dimension is typed over while it is picked, and where it stands after a double click", async () => {
  await drawnPlate();
  await key("Enter");
  await page.click('[data-step="s1"] [data-draw-outline]');
  await page.waitForSelector("[data-point=o]");
  await pickDimension("d1");
  await type("95", fields);
  await key("Enter");
  await page.waitForSelector('[data-dimension="d1"] text:text-is("95.00")');
  // Enter has ended the number, and not the drawing.
  await page.waitForSelector("[data-drawing]");
  await page.locator('[data-dimension="d2"] text').dblclick();
  await page.locator("[data-typing=d2] input:focus").waitFor();
  await page.keyboard.type("61.5", { delay: 30 });
  await key("Enter");
  await page.waitForSelector('[data-dimension="d2"] text:text-is("61.50")');
  await expect.poll(folded).toMatch(/^95\.00 × 61\.50/);
});

test("in an inch part a typed length is in inches, while drawing and after", async () => {
  await drawnPlate();
  await key("Enter");
  await page.click("[data-stock]");
  await page.click('[data-units="in"]');
  await key("Escape");
  await page.click('[data-step="s1"] [data-draw-outline]');
  await page.waitForSelector("[data-point=o]");
  await expect.poll(() => page.locator('[data-dimension="d1"] text').textContent()).toBe("4.7244");
  await key("c");
  const { o } = await points();
  await clickAt({ x: o.x - 60, y: o.y });
  await page.mouse.move(o.x - 40, o.y);
  await type("0.75", '[data-typed="diameter"]');
  await key("Enter");
  await key("Escape");
  await expect.poll(() => page.locator('[data-dimension] text:text-matches("0.7500")').count()).toBe(1);
  await pickDimension("d2");
  await page.locator(fields).click();
  await key("Control+a");
  await type("3.25", fields);
  await key("Enter");
  await expect.poll(folded).toMatch(/^4\.7244 × 3\.2500/);
  await key("Enter");
  const dxf = await savedDxf(page);
  expect(dxf.circles.map((c) => c.radius * 2)).toEqual([expect.closeTo(0.75, 9)]);
});

test("what is drawn on a plate's edge follows the edge", async () => {
  await page.goto(bench.base);
  await page.click("text=New part");
  await page.waitForSelector("text=Nothing on the Bench");
  await key("p");
  await page.waitForSelector('[data-edge="s1.north"]', { state: "attached" });
  await page.locator('[data-view="blank"]').click({ position: { x: 160, y: 340 } });
  await key("d");
  await page.waitForSelector('[data-behind="s1.north"]', { state: "attached" });
  const { y, mid } = await page.locator('[data-behind="s1.north"]').evaluate((e) => {
    const box = e.getBoundingClientRect();
    return { y: box.y, mid: box.x + box.width / 2 };
  });
  // A notch at the edge: from the edge in, along, back out to the edge, and along it to the beginning.
  await clickAt({ x: mid - 60, y });
  await expect.poll(() => page.locator("[data-hint]").getAttribute("data-hint")).toMatch(/on A north/);
  await clickAt({ x: mid - 60, y: y + 50 });
  await clickAt({ x: mid + 40, y: y + 50 });
  await clickAt({ x: mid + 40, y });
  await clickAt({ x: mid - 60, y });
  await key("Escape");
  await expect.poll(folded).toMatch(/^120\.00 × 80\.00/);
  await expect.poll(() => page.locator('[data-step="s2"] [role="alert"]').count()).toBe(0);
  await key("Enter");
  const before = await savedDxf(page);
  expect(before.outlines[0].vertices.length).toBe(8);
  const depths = (dxf: typeof before) => {
    const ys = [...new Set(dxf.outlines[0].vertices.map((v) => Math.round(v.y * 1e4) / 1e4))].sort(
      (p, q) => p - q,
    );
    return ys[ys.length - 1] - ys[ys.length - 2];
  };
  const deep = depths(before);
  expect(deep).toBeGreaterThan(5);
  const field = page.locator('[data-step="s1"] [data-field="depth"]');
  await field.click();
  await key("Control+a");
  await page.keyboard.type("100", { delay: 40 });
  await key("Enter");
  await expect.poll(folded).toMatch(/^120\.00 × 100\.00/);
  // Its mouth is still in the edge; how deep it is was left free, and stays where it was drawn.
  const wider = await savedDxf(page);
  expect(wider.outlines[0].vertices.length).toBe(8);
  expect(wider.height).toBeCloseTo(100, 6);
  expect(depths(wider)).toBeGreaterThan(deep + 5);
});

test("an open chain says where, and is closed by a click; an area is left out by one, and counts again", async () => {
  await page.goto(bench.base);
  await page.click("text=New part");
  await page.click('[data-drawer="outlines"]');
  await page.click("[data-draw-new]");
  await page.click('[data-drawer="outlines"]');
  await click(-100, -60);
  await click(60, -58);
  await click(62, 40);
  await key("Escape");
  expect(await page.locator("[data-mends]").count()).toBe(0);
  await key("Escape");
  await expect
    .poll(() => page.locator("[data-mends]").innerText())
    .toMatch(/ends at .* nothing goes on from there/);
  await page.click("[data-close-chains]");
  await expect.poll(() => page.locator('[data-counts="true"]').count()).toBe(1);
  expect(await page.locator("[data-mends]").count()).toBe(0);
  await click(20, -30);
  await page.click("[data-area=counts]");
  await expect.poll(() => page.locator('[data-counts="false"]').count()).toBe(1);
  await key("Delete");
  await expect.poll(() => page.locator('[data-counts="true"]').count()).toBe(1);
});

test("a step that is drawn takes its outline along into another part; the keys are listed for the drawing", async () => {
  await drawnPlate();
  await page.click('[aria-label="Keys"]');
  await page.waitForSelector("text=Trim a piece away");
  // It is open, and closes by Escape, once it has the focus.
  await page.waitForFunction(() => document.activeElement?.closest("[data-radix-popper-content-wrapper]"));
  await key("Escape");
  await page.waitForSelector("text=Trim a piece away", { state: "detached" });
  // The button that opened it has the focus again, and Enter is its key.
  await page.click("[data-drawing-done]");
  await page.click('[data-step="s1"]', { position: { x: 12, y: 12 } });
  await key("Control+c");
  await page.goto(bench.base);
  await page.click("text=New part");
  await page.waitForSelector("text=Nothing on the Bench");
  await key("Control+v");
  await expect.poll(folded).toMatch(/^120\.00 × 80\.00/);
  expect(await page.locator('[data-drawer="outlines"]').innerText()).toMatch(/Outlines\s*1/);
  // One undo takes both back.
  await key("Control+z");
  await page.waitForSelector("text=Nothing on the Bench");
  expect(await page.locator('[data-drawer="outlines"]').innerText()).toMatch(/Outlines\s*0?$/);
});

test("a dimension is given a name by hand, which others use, and another one is followed", async () => {
  await drawnPlate();
  const name = page.locator("[data-dimension-name]");
  await pickDimension("d1");
  await name.click();
  await type("wide", "[data-dimension-name]");
  await key("Enter");
  await expect.poll(() => page.locator('[data-dimension="d1"] text').textContent()).toBe("wide = 120.00");
  await pickDimension("d2");
  await page.locator(fields).click();
  await key("Control+a");
  await type("wide/4", fields);
  await key("Enter");
  await expect.poll(folded).toMatch(/^120\.00 × 30\.00/);
  await pickDimension("d1");
  await name.click();
  await key("Control+a");
  await type("broad", "[data-dimension-name]");
  await key("Enter");
  await pickDimension("d2");
  await expect.poll(() => page.locator(fields).inputValue()).toBe("broad/4");
  await expect.poll(folded).toMatch(/^120\.00 × 30\.00/);
  // What is no name is told, and the old one stays.
  await pickDimension("d1");
  await name.click();
  await key("Control+a");
  await type("2 wide", "[data-dimension-name]");
  await key("Enter");
  await expect.poll(() => page.locator("[data-drawing-problem]").innerText()).toMatch(/cannot be a name/);
  await expect.poll(() => page.locator('[data-dimension="d1"] text').textContent()).toBe("broad = 120.00");
});

test("numbers of every sort are typed key by key: sides, how many, angle, distance, with Tab between", async () => {
  await drawnPlate();
  const { o } = await points();
  const number = (k: string) => `[data-typed="${k}"]`;
  // Nothing but a digit begins the first number; Tab goes on to the next.
  await key("g");
  await clickAt({ x: o.x - 90, y: o.y });
  await page.mouse.move(o.x - 70, o.y);
  await type("8", number("sides"));
  await key("Tab");
  await type("24.5", number("diameter"));
  await key("Enter");
  await key("Escape");
  await expect.poll(() => page.locator('[data-dimension] text:text-matches("24.50$")').count()).toBe(1);
  const before = await page.locator("g[data-free]").count();
  // A circle, four times in a row by 12.5 at 90 degrees.
  await key("c");
  await clickAt({ x: o.x + 60, y: o.y + 60 });
  await page.mouse.move(o.x + 70, o.y + 60);
  await type("6", number("diameter"));
  await key("Enter");
  await key("Escape");
  const circle = page.locator("g[data-free][data-thing^=c]").last();
  await circle
    .locator("path")
    .last()
    .click({ position: { x: 1, y: 12 }, force: true });
  await key("n");
  await clickAt({ x: o.x + 60, y: o.y + 60 });
  await page.mouse.move(o.x + 60, o.y + 20);
  await type("4", number("count"));
  await key("Tab");
  await type("12.5", number("length"));
  await key("Tab");
  await type("90", number("angle"));
  await key("Enter");
  await expect.poll(() => page.locator("g[data-free]").count()).toBe(before + 4);
  await key("Escape");
  // A line beside the plate's south side, at a distance that is an expression.
  await page.locator('g[data-thing="south"] path').last().click({ force: true });
  await key("f");
  await page.mouse.move(o.x, o.y + 40);
  await type("10/4", number("distance"));
  await key("Enter");
  await key("Escape");
  await expect.poll(() => page.locator('[data-dimension] text:text-matches("^2.50$")').count()).toBe(1);
});

test("an outline is given another name by hand, long or short, and keeps the old one where it is left empty", async () => {
  await drawnPlate();
  const name = page.locator("[data-outline-name]");
  const long =
    "Eye plate of the northern guy wire, second design, with a wider foot and a bore for the 18 mm shackle";
  await name.click();
  await key("Control+a");
  await type("Rock foot", "[data-outline-name]");
  await key("Enter");
  await expect
    .poll(() => page.locator('[data-step="s1"] [data-field="drawn"]').innerText())
    .toBe("Rock foot");
  await name.click();
  await key("Control+a");
  await page.keyboard.insertText(long);
  await key("Enter");
  await expect.poll(() => page.locator('[data-step="s1"]').innerText()).toContain(long);
  // However long it is, what stands beside it is still there to be clicked.
  const done = (await page.locator("[data-drawing-done]").boundingBox())!;
  expect(done.x + done.width).toBeLessThanOrEqual(1280);
  await name.click();
  await key("Control+a");
  await key("Delete");
  await key("Enter");
  expect(await page.locator('[data-step="s1"]').innerText()).toContain(long);
});
