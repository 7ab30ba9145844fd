import { expect, test } from "vitest";
import { opened } from "./opened.ts";
import { savedDxf } from "./saved-dxf.ts";

const { bench, page } = await opened({ demo: false });
const SOON = { timeout: 10_000 };

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
  await expect.poll(state, SOON).toMatch(/^2 left free|^3 left free/);
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
  await expect.poll(state, SOON).toMatch(/left free$/);
  await page.click("[data-hold]");
  did();
  await expect.poll(state, SOON).toBe("all fixed");
  await key("Enter");
  did();
  expect(await page.locator("[data-drawing]").count()).toBe(0);
  await key("p");
  await page.click('[data-step="s1"] [data-field="form"]');
  await page.click('[data-option="drawn"]');
  actions += 3;
  expect(actions).toBeLessThanOrEqual(30);
  await expect.poll(blank, SOON).toMatch(/^90\.00 × /);
  const dxf = await savedDxf(page);
  expect(dxf.width).toBeCloseTo(90, 6);
  expect(dxf.rounds).toBe(1);
  expect(dxf.circles.map((c) => c.radius)).toEqual([expect.closeTo(6.25, 9)]);
  const [bulge] = dxf.outlines.flatMap((o) => o.vertices.flatMap((v) => (v.bulge ? [v.bulge] : [])));
  expect(Math.abs(bulge)).toBeGreaterThan(0.1);
}, 90_000);
