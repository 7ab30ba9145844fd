import { expect, test } from "vitest";
import { leg as cell, field, fromNothing } from "./from-nothing.ts";
import { savedDxf } from "./saved-dxf.ts";

// Five parts as a stranger makes them: from nothing, with mouse and keyboard alone, each within a
// number of actions, and judged by the file that comes out.
const { page, newPart, hasBends, findings, finished } = await fromNothing();

// A part without a card: t 1.5, r 1.5, K 0.42.
const [T, R, K] = [1.5, 1.5, 0.42];
const allowance = (degrees: number, r = R) => ((degrees * Math.PI) / 180) * (r + K * T);
const DEDUCTION = 2 * (R + T) - allowance(90);

const shows = (view: "folded" | "blank", size: string) =>
  page.waitForSelector(`[data-size="${view}"]:has-text("${size}")`);

test("a saddle with an upright, lugs, three flanges and six chamfers, in 45 actions", async () => {
  const hand = await newPart();
  await hand.click('[data-add="profile"]');
  await hand.type("28");
  await hand.into(cell("a", "length"), "52");
  await hand.key("Tab");
  await hand.type("-90");
  await hand.toggle("s1", "form", '[data-row="b"]');
  await hand.into(cell("b", "turn"), "180");
  await hand.key("Tab");
  await hand.type("18");
  await hand.key("Tab");
  await hand.type("-90");
  await hand.into(cell("c", "length"), "52");
  await hand.key("Tab");
  await hand.type("90");
  await hand.click('[data-step="s1"] [data-add-row="legs"]');
  await hand.type("55");
  await hand.choose("s1", "on", "middle");
  await hasBends(4);
  await hand.edge("s1.east");
  await hand.edge("s1.west", true);
  await hand.key("l");
  await hand.type("9");
  await hand.key("Tab", "Tab");
  await hand.type("24");
  await hand.edge("s1.south");
  await hand.edge("s1d.east", true);
  await hand.edge("s1d.west", true);
  await hand.key("f");
  await hand.type("65");
  await hand.click('[data-own="s1d.east"]');
  await hand.into('input[data-field="own-length"]', "18");
  await hand.click('[data-own="s1d.west"]');
  await hand.into('input[data-field="own-length"]', "14");
  await hasBends(7);
  await hand.corner("s3a.left+end");
  await hand.key("a", "c");
  await hand.type("3");
  const { outlines, bends, width, height, sides } = await finished(hand);

  // The chain runs in the middle of the thickness. An arc of 18 meets the straight at a corner that is
  // rounded by the stock's radius: both circles touch 20.25 apart, the smaller one 2.25 from the line.
  const [arc, mid] = [18, R + T / 2];
  const reach = Math.sqrt((arc + mid) ** 2 - mid ** 2);
  const tilt = (Math.asin(mid / (arc + mid)) * 180) / Math.PI;
  const strip =
    2 * (70 - reach) -
    mid +
    2 * allowance(90 - tilt) +
    allowance(180 - 2 * tilt, arc - T / 2) +
    allowance(90) +
    55 -
    mid;
  expect(outlines.length).toBe(1);
  expect(bends).toBe(7);
  expect(height).toBeCloseTo(strip + 65 - DEDUCTION, 5);
  expect(width).toBeCloseTo(28 + 18 + 14 - 2 * DEDUCTION, 5);
  expect(sides(3 * Math.SQRT2)).toBe(6);
  expect(sides(24)).toBe(2);
  await expect.poll(findings).toMatch(/ 0$/);
  expect(hand.actions).toBeLessThanOrEqual(45);
});

test("a tank strap plate with a folded tongue, two flanges, roundings, holes from edges, in 65 actions", async () => {
  const hand = await newPart();
  await hand.key("p");
  await hand.type("84");
  await hand.key("Tab");
  await hand.type("160");
  await hand.choose("s1", "form", "drawn");
  await page.waitForSelector("[data-drawing]");
  await hand.key("Enter");
  await page.waitForSelector('[data-view="blank"] [data-edge="s1.north"]', { state: "attached" });
  // The tongue, and the fold along its end.
  await hand.edge("s1.north");
  await hand.key("l");
  await hand.type("30");
  await hand.key("Tab", "Tab");
  await hand.type("40");
  await hand.edge("s1.s2a-end");
  await hand.key("d");
  await hand.type("12");
  await hasBends(1);
  // Two flanges, 22 inside; the plate keeps its width over their outer faces.
  await hand.edge("s1.east");
  await hand.edge("s1.west", true);
  await hand.key("f");
  await hand.type("22");
  await hand.choose("s4", "lengthTo", "inner-mould");
  await hasBends(3);
  await shows("folded", "84.00 ×");
  // Eight roundings: the flanges' four, the tongue's two, and the two where it leaves the plate.
  await hand.corner("s4a.left+end");
  await hand.key("a");
  for (const name of ["s3.s2a-end+s2a-right", "s3.s2a-left+s2a-end"]) await hand.corner(name, true);
  for (const name of ["s1.s2a-right+north@s2a-right", "s1.north+s2a-left"]) await hand.corner(name, true);
  await hand.key("r");
  await hand.type("4");
  // Three holes from the edges nearest to each, and their mirror images.
  await hand.plate("s1", 0.25, 0.75);
  await hand.key("m");
  await hand.type("7");
  await hand.into(field("s6", "off1"), "15");
  await hand.into(field("s6", "off2"), "20");
  for (const [step, y, up] of [
    ["s7", 0.5, "70"],
    ["s8", 0.3, "35"],
  ] as const) {
    await hand.plate("s1", 0.25, y);
    await hand.key("m");
    await hand.type("15");
    await hand.into(field(step, "off2"), up);
  }
  await hand.click('button:has-text("Add a step")');
  await hand.click('[data-add="mirror"]');
  await hand.click('[data-step="s9"] [data-pick-more]');
  for (const name of ["s6", "s7"]) await hand.click(`[data-step="s9"] [data-name="${name}"]`);
  const { outlines, width, height, circles, rounds, bends } = await finished(hand);

  expect(outlines.length).toBe(1);
  expect(bends).toBe(3);
  // The plate keeps its width over the flanges' outer faces; a leg is 22 and the thickness from the inside.
  expect(width).toBeCloseTo(84 - 2 * (R + T) + 2 * (allowance(90) + 22 - R), 5);
  // A tongue of the plate is as long folded or not: its line lies in the middle of the bend.
  expect(height).toBeCloseTo(160 + 30, 5);
  expect(rounds).toBe(8);
  // Six holes, in pairs about the middle, at their distances from the sides and from the two ends.
  const side = allowance(90) + 22 - R - (R + T);
  const places = circles.map((c) => [c.center.x - side, c.center.y].map((v) => Math.round(v * 1e5) / 1e5));
  expect(circles.map((c) => c.radius)).toEqual(Array(6).fill(3.5));
  expect(places.sort((a, b) => a[1] - b[1] || a[0] - b[0])).toEqual(
    [20, 160 - 70, 160 - 35].flatMap((y) => [15, 84 - 15].map((x) => [x, y])),
  );
  await expect.poll(findings).toMatch(/ 0$/);
  expect(hand.actions).toBeLessThanOrEqual(65);
});

test("a leaning stand with an inset flange, holes from edges and one across a bend, in 42 actions", async () => {
  const hand = await newPart();
  await hand.click('[data-add="profile"]');
  await hand.type("120");
  await hand.toggle("s1", "angles");
  await hand.into(cell("a", "length"), "140");
  await hand.key("Tab");
  await hand.type("108");
  await hand.into(cell("b", "length"), "90");
  await hand.key("Tab");
  await hand.type("108");
  await hand.into(cell("c", "length"), "110");
  await hasBends(2);
  await hand.edge("s1.east");
  await hand.key("f");
  await hand.type("20");
  await hand.choose("s2", "span", "inset");
  await hand.into(field("s2", "leftInset"), "30");
  await hand.key("Tab");
  await hand.type("30");
  await hasBends(3);
  await hand.plate("s1", 0.2, 0.3);
  await hand.key("m");
  await hand.type("8");
  await hand.into(field("s3", "off1"), "20");
  await hand.into(field("s3", "off2"), "45");
  await hand.plate("s1", 0.8, 0.7);
  await hand.key("m");
  await hand.type("25");
  await hand.into(field("s4", "off2"), "30");
  await hand.bend("s1b");
  await hand.key("x");
  await hand.type("60");
  const { outlines, circles, bends, width, height } = await finished(hand);
  expect(outlines.length).toBe(1);
  // Two bend lines whole, and that under the large hole in the two pieces that are left of it.
  expect(bends).toBe(4);
  // An inside angle of 108° is a turn of 72°, which takes tan 36° (r + t) from both legs at their bend.
  const leaning = 2 * Math.tan(Math.PI / 5) * (R + T) - allowance(72);
  expect(height).toBeCloseTo(140 + 90 + 110 - 2 * leaning, 5);
  expect(width).toBeCloseTo(120 + 20 - DEDUCTION, 5);
  const [first, second, across] = [...circles].sort((a, b) => a.radius - b.radius || a.center.x - b.center.x);
  expect([first, second, across].map((c) => c.radius)).toEqual([4, 4, 30]);
  // Two holes keep their distances from the sides that were nearest to them, and from the foot's front.
  const places = [first.center.x, first.center.y, 120 - second.center.x, second.center.y];
  expect(places.map((x) => Math.round(x * 1e5) / 1e5)).toEqual([20, 45, 25, 30]);
  // The large one stands in the middle of the strip that bends.
  const strip = 140 - Math.tan(Math.PI / 5) * (R + T) + allowance(72) / 2;
  expect(across.center.y).toBeCloseTo(strip, 2);
  expect(across.center.x).toBeCloseTo(60, 6);
  expect(hand.actions).toBeLessThanOrEqual(42);
});

test("a leg as trapezoid, L, T and drawn, then used on another edge, in 25 actions", async () => {
  const hand = await newPart();
  await hand.key("p");
  await hand.type("100");
  await hand.key("Tab");
  await hand.type("60");
  await hand.edge("s1.north");
  await hand.key("f");
  await hand.type("40");
  await hand.choose("s2", "shape", "angles");
  await hand.into(field("s2", "leftLean"), "10");
  await hand.key("Tab");
  await hand.type("10");
  const trapezoid = await savedDxf(page);
  await hand.choose("s2", "shape", "step");
  await hand.into(field("s2", "rightStep"), "0");
  const ell = await savedDxf(page);
  await hand.key("Control+a");
  await hand.type("20");
  const tee = await savedDxf(page);
  await hand.choose("s2", "shape", "drawn");
  await page.waitForSelector("[data-drawing]");
  // More edges for the same leg: the drawing makes room for what is picked.
  const drawn = await savedDxf(page);
  await hand.click('[data-step="s2"] [data-pick-more]');
  await hand.edge("s1.south");
  await hasBends(2);
  const both = await finished(hand);
  const leg = 40 - (R + T);
  expect(trapezoid.corners).toEqual([6]);
  expect(trapezoid.sides(100 - 2 * leg * Math.tan(Math.PI / 18))).toBe(1);
  // Without its step on the right the T of the start is an L, with another a T again; drawn it keeps its shape.
  expect(ell.corners).toEqual([6]);
  expect(ell.sides(95)).toBe(1);
  expect(tee.corners).toEqual([8]);
  expect(tee.sides(75)).toBe(1);
  expect(drawn.outlines[0].vertices).toEqual(tee.outlines[0].vertices);
  expect(both.corners).toEqual([12]);
  expect(both.sides(75)).toBe(2);
  expect(both.height).toBeCloseTo(60 + 2 * (40 - DEDUCTION), 5);
  expect(hand.actions).toBeLessThanOrEqual(25);
});

test("a box with closed corners, hems and 20 slots follows its width, stock and radius, in 35 actions", async () => {
  const hand = await newPart();
  await hand.key("p");
  await hand.type("300");
  await hand.key("Tab");
  await hand.type("200");
  await hand.edge("s1.north");
  await hand.key("a", "f");
  await hand.type("60");
  await hand.toggle("s2", "meet");
  await hasBends(4);
  await hand.edge("s2a.end");
  await hand.key("a", "h");
  await hand.type("8");
  await hasBends(8);
  await hand.plate("s2a", 0.92, 0.5);
  await hand.key("c");
  await hand.type("6");
  await hand.key("Tab");
  await hand.type("30");
  await hand.choose("s4", "form", "slot");
  await hand.click('button:has-text("Add a step")');
  await hand.click('[data-add="pattern"]');
  await hand.type("20");
  await hand.key("Tab");
  await hand.type("12");
  const before = await savedDxf(page);
  await hand.into(field("s1", "width"), "320");
  await hand.click("[data-stock]");
  await hand.into('[role=dialog] input[data-field="thickness"]', "2");
  await hand.into('[role=dialog] input[data-field="radius"]', "2");
  await hand.key("Escape");
  await shows("folded", "320.00 × 200.00 × 60.00");
  const after = await finished(hand);
  // A closed hem lies on itself: it takes its own thickness from the wall, and its tip is flat.
  const wall = (t: number, r: number) =>
    60 - (2 * (r + t) - (Math.PI / 2) * (r + K * t)) - t + Math.PI * K * t + (8 - t);
  expect(before.width).toBeCloseTo(300 + 2 * wall(1.5, 1.5), 5);
  expect(before.height).toBeCloseTo(200 + 2 * wall(1.5, 1.5), 5);
  expect(before.on("OPENINGS").length).toBe(20);
  expect(after.width).toBeCloseTo(320 + 2 * wall(2, 2), 5);
  expect(after.height).toBeCloseTo(200 + 2 * wall(2, 2), 5);
  expect(after.on("OPENINGS").length).toBe(20);
  expect([before.bends, after.bends]).toEqual([8, 8]);
  // Hems of neighbouring walls end before one another: there is nothing to be told.
  await expect.poll(findings).toMatch(/ 0$/);
  expect(hand.actions).toBeLessThanOrEqual(35);
});
