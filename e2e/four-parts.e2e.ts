import { expect, test } from "vitest";
import { field, fromNothing, leg } from "./from-nothing.ts";
import { settled } from "./harness.ts";
import { savedDxf } from "./saved-dxf.ts";

// Ordinary parts as a new user makes them: from nothing, by mouse and keyboard, each within a number of actions, and judged
// by the file that comes out.
const { page, newPart, hasBends, findings, finished } = await fromNothing();

test("an inch Z bracket with two holes from two edges, which leaves in inches, in 35 actions", async () => {
  const hand = await newPart();
  await hand.click("[data-stock]");
  await hand.click('[data-units="in"]');
  await hand.into('input[data-field="thickness"]', "0.075");
  await hand.key("Escape");
  await hand.click('[data-add="profile"]');
  await hand.type("1-1/4");
  // What a new step begins with is round in inches, and nothing is in mm.
  expect(await page.inputValue(leg("b", "length"))).toBe("1.5");
  expect(await page.locator('[data-step="s1"]').innerText()).not.toMatch(/mm\b/);
  await hand.into(leg("a", "length"), "2");
  await hand.into(leg("b", "length"), "1-1/2");
  await hand.key("Tab");
  await hand.type("-90");
  await hand.into(leg("c", "length"), "3/4");
  await hasBends(2);
  // Pointed at, while the cursor is in a number still: the key is the view's.
  await hand.point("s1", 0.3, 0.25);
  await hand.key("m");
  await hand.type("9/32");
  await hand.key("Tab");
  await hand.type("3/8");
  await hand.key("Tab");
  await hand.type("1/2");
  await hand.point("s1", 0.7, 0.25);
  await hand.key("m");
  await hand.type("3/8");
  await hand.key("Tab");
  await hand.type("1/2");
  const { circles, width, height, bends } = await finished(hand);
  // A part that is nothing yet begins with a radius that is round in inches.
  const [t, r, k] = [0.075, 0.06, 0.42];
  const flat = 2 + 1.5 + 0.75 - 2 * (2 * (r + t) - (Math.PI / 2) * (r + k * t));
  expect(bends).toBe(2);
  expect(width).toBeCloseTo(1.25, 6);
  expect(height).toBeCloseTo(flat, 6);
  expect(circles.map((c) => c.radius)).toEqual([9 / 64, 9 / 64].map((v) => expect.closeTo(v, 6)));
  expect(circles.map((c) => [c.center.x, c.center.y])).toEqual(
    [
      [0.375, 0.5],
      [0.875, 0.5],
    ].map((place) => place.map((v) => expect.closeTo(v, 6))),
  );
  expect(hand.actions).toBeLessThanOrEqual(35);
});

test("a box with closed corners and hems, a ring of holes on its pitch circle, and another height and sheet, in 42 actions", async () => {
  const hand = await newPart();
  await hand.click("[data-stock]");
  await hand.into('input[data-field="thickness"]', "1");
  await hand.into('input[data-field="radius"]', "1");
  await hand.key("Escape");
  await hand.key("p");
  await hand.type("260");
  await hand.key("Tab");
  await hand.type("180");
  await hand.plate("s1", 0.3, 0.3);
  await hand.key("w");
  await hand.type("70");
  await hasBends(4);
  // One upper edge, the others like it, a hem on each: into the box, and none stands in another.
  await hand.edge("s2a.end");
  await hand.key("a", "h");
  await hand.type("8");
  await hasBends(8);
  await expect.poll(findings).toMatch(/ 0$/);
  // Four holes about the middle of the floor: it is pointed at roughly, and that is what is meant.
  await hand.point("s1", 0.505, 0.49);
  await hand.key("c");
  await hand.choose("s4", "form", "round");
  await hand.choose("s4", "arranged", "round");
  await hand.into(field("s4", "diameter"), "5.5");
  await hand.into(field("s4", "count"), "4");
  await hand.into(field("s4", "pitchCircle"), "60");
  await page.waitForSelector('[data-step="s4"] >> text=pitch circle');
  const before = await savedDxf(page);
  const middle = [before.width / 2, before.height / 2];
  expect(before.circles).toHaveLength(4);
  for (const { center, radius } of before.circles) {
    expect(radius).toBeCloseTo(2.75, 6);
    expect(Math.hypot(center.x - middle[0], center.y - middle[1])).toBeCloseTo(30, 5);
  }
  await hand.click('[data-step="s2"]');
  await hand.into(field("s2", "length"), "80");
  await hand.click("[data-stock]");
  await hand.into('[role=dialog] input[data-field="thickness"]', "1.5");
  await hand.key("Escape");
  const after = await finished(hand);
  await expect.poll(findings).toMatch(/ 0$/);
  const wall = (length: number, t: number, r: number) =>
    length - (2 * (r + t) - (Math.PI / 2) * (r + 0.42 * t)) - t + Math.PI * 0.42 * t + (8 - t);
  expect(before.width).toBeCloseTo(260 + 2 * wall(70, 1, 1), 5);
  expect(after.width).toBeCloseTo(260 + 2 * wall(80, 1.5, 1), 5);
  expect(after.height).toBeCloseTo(180 + 2 * wall(80, 1.5, 1), 5);
  expect(hand.actions).toBeLessThanOrEqual(42);
});

test("a distance is typed where the blank shows it, and nothing else takes what is typed", async () => {
  const hand = await newPart();
  await hand.key("p");
  await hand.type("120");
  await hand.key("Tab");
  await hand.type("80");
  await hand.point("s1", 0.3, 0.3);
  await hand.key("m");
  await hand.type("9");
  await settled(page);
  const here = page.locator('[data-type-here="off1"]');
  await here.click();
  await page.locator('foreignObject [data-field="off1"]:focus').waitFor();
  await page.keyboard.type("21.5", { delay: 30 });
  await page.keyboard.press("Enter");
  await expect.poll(() => page.inputValue(field("s2", "off1"))).toBe("21.5");
  await page.waitForSelector('[data-place-dim="21.50"]');
  // What is absurd is told at its step, and Escape puts back what was there.
  await here.click();
  await page.keyboard.type("1e16", { delay: 20 });
  await page.waitForSelector('[data-step="s2"] input[data-field="off1"][aria-invalid]');
  await page.keyboard.press("Escape");
  await expect.poll(() => page.inputValue(field("s2", "off1"))).toBe("21.5");
});

test("a step is carried onto another plate, where its edges are those that face the same way", async () => {
  const hand = await newPart();
  await hand.key("p");
  await hand.type("120");
  await hand.key("Tab");
  await hand.type("80");
  await hand.plate("s1", 0.3, 0.3);
  await hand.key("w");
  await hand.type("40");
  await hasBends(4);
  // In the floor, near its left and its upper edge.
  await hand.point("s1", 0.15, 0.3);
  await hand.key("m");
  await hand.type("6");
  await hand.key("Tab");
  await hand.type("12");
  await hand.key("Tab");
  await hand.type("9");
  await hand.key("Enter");
  await page.waitForSelector('[data-place-dim="12.00"]');
  await hand.key("ControlOrMeta+c");
  await hand.point("s2b", 0.5, 0.5);
  await hand.key("ControlOrMeta+v");
  await page.waitForSelector('[data-step="s4"]');
  await settled(page);
  const text = await page.locator('[data-step="s4"]').innerText();
  expect(text).toMatch(/from [A-Z] (left|right)/);
  expect(text).toMatch(/from [A-Z] end/);
  expect(await page.inputValue(field("s4", "off1"))).toBe("12");
  const { circles } = await savedDxf(page);
  expect(circles).toHaveLength(2);
});
