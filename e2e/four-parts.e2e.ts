import { expect, test } from "vitest";
import { Hand } from "./harness.ts";
import { opened } from "./opened.ts";
import { savedDxf } from "./saved-dxf.ts";

// Ordinary parts as a new user makes them: from nothing, by mouse and keyboard, each within a number of actions, and judged
// by the file that comes out.
const { bench, page } = await opened({ demo: false, cards: false });

async function newPart(): Promise<Hand> {
  await page.goto(bench.base);
  const hand = new Hand(page);
  await hand.click("header >> text=New part");
  await page.waitForSelector("text=Nothing on the Bench yet");
  return hand;
}

const hasBends = (n: number) => page.waitForSelector(`[data-drawer="bends"]:has-text("Bends ${n}")`);

test("an inch Z bracket with two holes from two edges, which leaves in inches, in 35 actions", async () => {
  const hand = await newPart();
  await hand.click("[data-stock]");
  await hand.click('[data-units="in"]');
  await hand.into('input[data-field="thickness"]', "0.075");
  await hand.key("Escape");
  await hand.click('[data-add="profile"]');
  await hand.type("1-1/4");
  const leg = (row: string, column: string) =>
    `[data-step="s1"] [data-row="${row}"] input[data-field="leg-${column}"]`;
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
  hand.actions++;
  const { circles, width, height, bends } = await savedDxf(page);
  const [t, r, k] = [0.075, 1.5 / 25.4, 0.42];
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
