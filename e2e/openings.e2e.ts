import type { DrawnShapes, PartDocument, StepDocument } from "@hillcrest/core";
import { expect, test } from "vitest";
import { clickEdge, isSaved, settled } from "./harness.ts";
import { opened } from "./opened.ts";
import { shapesIn } from "./saved-dxf.ts";
import { stepsByHand } from "./steps-by-hand.ts";

const { bench, page } = await opened({ demo: false, cards: false });

const INCH = 25.4;

const { step, note, choose, type, pressBlank, dxf, ...hand } = stepsByHand(page, bench.base);

/** Opens a new part that has a plate, and what else is given. */
const show = (name: string, values: Partial<PartDocument>, more: readonly StepDocument[] = []) =>
  hand.show(name, values, [{ id: "s1", kind: "plate", width: "203.2", depth: "101.6" }, ...more]);

/** Presses on the plate in the blank, off its middle, so that its card opens. */
async function pickPlate(dx: number, dy: number): Promise<void> {
  await pressBlank(dx, dy);
  await page.waitForSelector("[data-pick-card] >> text=Plate");
}

/** Clicks a plate of the blank, off its middle. */
async function pickPlateOf(id: string): Promise<void> {
  await settled(page);
  const plate = page.locator(`[data-view="blank"] [data-pick*='"plate","id":"${id}"']`).first();
  const box = (await plate.boundingBox())!;
  await page.mouse.click(box.x + box.width * 0.3, box.y + box.height * 0.3);
}

/** How long the sides of a closed chain of straight pieces are. */
const sides = ({ corners, closed }: Extract<DrawnShapes["shapes"][number], { kind: "chain" }>) =>
  corners.slice(0, closed ? undefined : -1).map(({ at: a }, i) => {
    const { at: b } = corners[(i + 1) % corners.length];
    return Math.hypot(b[0] - a[0], b[1] - a[1]);
  });

async function circles(): Promise<{ x: number; y: number; r: number }[]> {
  const text = await dxf();
  const read = shapesIn(text);
  return read.shapes.flatMap((s) => (s.kind === "circle" ? [{ x: s.c[0], y: s.c[1], r: s.r }] : []));
}

test("a plate in inches is filled with openings by mouse and keys, one is left out by a click and comes back", async () => {
  await show("Sieve", { units: "in" });
  await pickPlate(40, 12);
  await page.keyboard.press("c");
  await step("s2").locator("input:focus").waitFor();
  await choose("s2", "form", "round");
  await choose("s2", "arranged", "fill");
  await choose("s2", "rowsStand", "triangle");
  await type("s2", "diameter", "3/16");
  await type("s2", "pitch", ".375");
  await type("s2", "margin", "1/4");
  await expect.poll(() => note("s2")).toMatch(/\d+ openings, [\d.]+ in² open, [\d.]+ %/);
  const all = await circles();
  expect(all.length).toBeGreaterThan(150);
  expect(await note("s2")).toContain(`${all.length} openings`);
  const share = (100 * all.length * Math.PI * (3 / 32) ** 2) / 32;
  expect(await note("s2")).toContain(`in² open, ${Math.round(share * 10) / 10} %`);
  // Each as wide as typed, its margin kept, its neighbours at the pitch.
  const [width, depth] = [8 * INCH, 4 * INCH];
  const [x0, y0] = [Math.min(...all.map((c) => c.x)), Math.min(...all.map((c) => c.y))];
  const [x1, y1] = [Math.max(...all.map((c) => c.x)), Math.max(...all.map((c) => c.y))];
  for (const c of all) expect(c.r).toBeCloseTo((3 / 32) * INCH, 6);
  expect(x1 - x0).toBeLessThanOrEqual(width - 2 * (1 / 4 + 3 / 32) * INCH + 1e-6);
  expect(y1 - y0).toBeLessThanOrEqual(depth - 2 * (1 / 4 + 3 / 32) * INCH + 1e-6);
  const nearest = (c: { x: number; y: number }) =>
    Math.min(...all.filter((o) => o !== c).map((o) => Math.hypot(o.x - c.x, o.y - c.y)));
  for (const c of all.slice(0, 20)) expect(nearest(c)).toBeCloseTo(0.375 * INCH, 5);

  // An opening is picked in its middle.
  await page.keyboard.press("Escape");
  const hole = page.locator('[data-view="blank"] [data-within]').nth(Math.floor(all.length / 4));
  const box = (await hole.boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await page.waitForSelector("[data-pick-card] >> text=Leave this one out");
  await page.keyboard.press("Delete");
  await expect.poll(() => note("s2")).toContain(`${all.length - 1} openings`);
  const left = await circles();
  expect(left.length).toBe(all.length - 1);
  const gone = all.filter((c) => !left.some((o) => Math.hypot(o.x - c.x, o.y - c.y) < 1e-4));
  expect(gone.length).toBe(1);
  await page.keyboard.press("ControlOrMeta+z");
  await expect.poll(() => note("s2")).toContain(`${all.length} openings`);
  expect((await circles()).length).toBe(all.length);
});

test("a hole for a thread is made by two keys and a choice, and says where its size comes from", async () => {
  await show("Lid", {});
  await pickPlate(-40, 12);
  await page.keyboard.press("m");
  await step("s2").locator("input:focus").waitFor();
  await choose("s2", "sized", "clearance");
  await choose("s2", "thread", "M6");
  await expect.poll(() => note("s2")).toContain("⌀ 6.6 mm: ISO 273 for M6, medium");
  await choose("s2", "fit", "fine");
  await choose("s2", "arranged", "edge");
  await choose("s2", "spaced", "fit");
  await type("s2", "pitch", "40");
  await type("s2", "ends", "12");
  await expect.poll(() => note("s2")).toMatch(/\d openings/);
  const made = await circles();
  expect(made.length).toBeGreaterThan(1);
  for (const c of made) expect(c.r).toBeCloseTo(3.2, 6);
  // The next hole begins as the last one was: the same thread, and no more to choose.
  await page.keyboard.press("Escape");
  await pickPlate(0, 30);
  await page.keyboard.press("m");
  await step("s3").waitFor();
  await expect.poll(() => note("s3")).toContain("M6");
  expect((await circles()).length).toBe(made.length + 1);
});

test("a round hole is pointed at in its middle, in the blank and in the folded view, and changed from there", async () => {
  const hole = { id: "s2", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round", diameter: "30" };
  await show("Gland plate", {}, [hole]);
  const card = page.locator("[data-pick-card]");
  const middleOf = async (selector: string) => {
    const { x, y, width, height } = (await page.locator(selector).first().boundingBox())!;
    return { x: x + width / 2, y: y + height / 2 };
  };
  // From above the hole, in the plate's middle, is in the view's.
  await page.keyboard.press("t");
  await settled(page);
  for (const view of ['[data-view="blank"] [data-within="cut:s2"]', '[data-view="folded"] canvas']) {
    const at = await middleOf(view);
    await page.mouse.move(at.x - 40, at.y);
    await page.mouse.move(at.x, at.y);
    await page.mouse.click(at.x, at.y);
    await expect.poll(() => card.innerText(), { message: view }).toContain("Round hole");
    expect(await card.innerText()).toContain("in A");
    await page.keyboard.press("Escape");
    await card.waitFor({ state: "detached" });
  }
  const at = await middleOf('[data-view="blank"] [data-within="cut:s2"]');
  await page.mouse.click(at.x, at.y);
  await card.waitFor();
  await page.keyboard.press("e");
  await step("s2").locator('input[data-field="diameter"]').waitFor();
  await type("s2", "diameter", "12.5");
  await expect.poll(async () => (await circles()).map((c) => c.r)).toEqual([6.25]);

  // Where a plate is asked for, one of its holes stands for it.
  const wall: StepDocument = {
    id: "s3",
    kind: "flange",
    edges: [{ key: "a", at: "s1.north" }],
    length: "60",
  };
  const other = { ...hole, id: "s4", diameter: "20", plate: [{ key: "a", at: "s3a" }], x: "40", y: "30" };
  await show("Gland plate with a wall", {}, [hole, wall, other]);
  const wide = await middleOf('[data-view="blank"] [data-within="cut:s2"]');
  await page.click('[data-step="s4"]', { position: { x: 12, y: 12 } });
  await step("s4").locator('[data-field="plate"] [data-pick-more]').click();
  await page.mouse.click(wide.x, wide.y);
  await expect
    .poll(() => page.locator('[data-view="blank"] [data-pick*=\'"s1","key":"cut:s4"\']').count())
    .toBeGreaterThan(0);
  expect(await card.count()).toBe(0);
});

test("a vent is made by one key and its numbers; what cannot be is said at its field, and nothing is lost", async () => {
  await show("Shelter side", {});
  await pickPlate(5, 12);
  await page.keyboard.press("v");
  await step("s2").locator('input[data-field="width"]:focus').waitFor();
  await page.keyboard.type("90");
  await page.keyboard.press("Tab");
  await page.keyboard.type("60");
  await page.keyboard.press("Tab");
  await type("s2", "bars", "4");
  await type("s2", "bar", "4");
  await type("s2", "soft", "2");
  // Border less bars, less what is rounded: all corners of five openings by 2, but for the border's own by 4.
  const open = 90 * 44 - ((4 - Math.PI) / 4) * (16 * 4 + 4 * 16);
  await expect.poll(() => note("s2")).toContain("5 openings");
  const text = await dxf();
  const arcs = shapesIn(text).shapes.filter((s) => s.kind !== "circle");
  expect(arcs.length).toBeGreaterThan(0);
  const said = Number(/([\d.]+) mm² open/.exec(await note("s2"))![1]);
  expect(said).toBe(Math.round(open));
  const before = await note("s2");
  await type("s2", "bars", "40");
  await expect.poll(() => note("s2")).toContain("40 bars of 4 mm leave nothing open; at most 14 have room.");
  expect(await step("s2").locator('input[data-field="bars"]').inputValue()).toBe("40");
  await page.keyboard.press("ControlOrMeta+z");
  await expect.poll(() => note("s2")).toBe(before);
  await step("s2").locator('[data-field="filling"]').click();
  await page.click('[data-option="holes"]');
  await expect.poll(() => note("s2")).toMatch(/\d+ openings, \d+ mm² open/);
  expect((await circles()).length).toBeGreaterThan(60);
});

test("a copy is left out of its pattern by a key on what it made", async () => {
  await show("Fence", {}, [
    {
      ...{ id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "15" },
      ...{ span: "width", width: "20", at: "left", shift: "10" },
    },
    { id: "s3", kind: "pattern", steps: [{ key: "a", at: "s2" }], form: "row", count: "4", pitch: "45" },
  ]);
  const legs = page.locator('[data-view="blank"] [data-pick*="s2a"][data-pick*="plate"]');
  await expect.poll(() => legs.count()).toBe(4);
  await settled(page);
  await page.locator('[data-view="blank"] [data-pick*="\\"plate\\",\\"id\\":\\"s2a-s3-2"]').click();
  await page.waitForSelector("[data-pick-card] >> text=Leave this one out");
  await page.keyboard.press("Delete");
  await expect.poll(() => legs.count()).toBe(3);
  expect(await page.locator('[data-view="blank"] [data-pick*="s2a-s3-2"]').count()).toBe(0);
  await page.keyboard.press("ControlOrMeta+z");
  await expect.poll(() => legs.count()).toBe(4);
});

test("tabs and their slots are made by picks and numbers, and come out of the file as long as they are said", async () => {
  await show("Divider", {}, [
    {
      ...{ id: "s2", kind: "plate", width: "60", depth: "20", stands: "front", at: "corner" },
      ...{ x: "-30", z: "1.5" },
    },
  ]);
  await clickEdge(page, "s2.south");
  await page.click("[data-add-step]");
  await page.click('[data-add="tabs"]');
  await step("s3").waitFor();
  await step("s3").locator('[data-pick-field="plate"], [data-field="plate"]').first().click();
  await pickPlateOf("s1");
  await expect.poll(() => note("s3")).toContain("slots in");
  await type("s3", "count", "3");
  await type("s3", "width", "9");
  await type("s3", "clearance", "0.2");
  await settled(page);
  const text = await dxf();
  const lines = shapesIn(text).shapes.flatMap((s) =>
    s.kind === "line" ? [Math.hypot(s.b[0] - s.a[0], s.b[1] - s.a[1])] : s.kind === "chain" ? sides(s) : [],
  );
  const of = (length: number) => lines.filter((l) => Math.abs(l - length) < 1e-4).length;
  // Each slot: two sides of 9.4 and two of 1.9; each tab: its end of 9 and two sides of 1.5.
  expect([of(9.4), of(1.9), of(9), of(1.5)]).toEqual([6, 6, 3, 6]);
});

test("an opening that cuts an edge in two is measured from the whole of it, not from what it makes itself", async () => {
  await show("Bracket", { units: "in" }, [
    {
      ...{ id: "s2", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round", diameter: "7.14375" },
      ...{ x: "5", y: "-50" },
    },
  ]);
  await step("s2").click({ position: { x: 12, y: 12 } });
  await choose("s2", "placed", "edges");
  await expect.poll(() => note("s2")).toMatch(/from A south/);
  await settled(page);
  expect(await note("s2")).not.toMatch(/@|beyond the cut|any more/);
  expect(await step("s2").locator('[role="alert"]:has-text("no edge")').count()).toBe(0);
  // It stays where it is: so far below the middle and over the edge as before.
  await type("s2", "off1", ".25");
  await expect.poll(() => step("s2").locator('input[data-field="off1"]').inputValue()).toMatch(/\.25/);
  expect(await step("s2").locator('[role="alert"]').count()).toBe(0);
});

test("further places are typed key by key in an inch part, each with a turn and a width of its own", async () => {
  await show("Slots", { units: "in" }, [
    {
      ...{ id: "s2", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "slot", width: "20", height: "6" },
      ...{ arranged: "list", x: "-20", y: "0" },
    },
  ]);
  await step("s2").click({ position: { x: 12, y: 12 } });
  await page.click('[data-add-row="places"]');
  await page.locator('[data-rows="places"] input:focus').waitFor();
  for (const text of ["1.5", ".25", "90", "3/4"]) {
    await page.keyboard.press("ControlOrMeta+a");
    await page.keyboard.type(text, { delay: 15 });
    await page.keyboard.press("Tab");
  }
  await settled(page);
  await expect.poll(() => note("s2")).toContain("2 openings");
  const text = await dxf();
  const slots = shapesIn(text).shapes.flatMap((s) =>
    s.kind === "chain" && s.corners.some((c) => c.bulge !== 0) ? [s.corners.map((c) => c.at)] : [],
  );
  const box = (points: readonly (readonly [number, number])[]) => {
    const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
    const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
    return { x: (x0 + x1) / 2, y: (y0 + y1) / 2, wide: x1 - x0, high: y1 - y0 };
  };
  const [first, second] = slots.map(box).sort((p, q) => p.x - q.x);
  expect([first.wide, first.high]).toEqual([14, 6].map((v) => expect.closeTo(v, 4)));
  // Three quarters of an inch long, upright, one and a half to the right of the first and a quarter above it.
  expect([second.wide, second.high]).toEqual([6, 0.75 * INCH - 6].map((v) => expect.closeTo(v, 4)));
  expect([second.x - first.x, second.y - first.y]).toEqual(
    [1.5, 0.25].map((v) => expect.closeTo(v * INCH, 4)),
  );
});

test("a hole by hand goes straight on through the folded part, through the other wall and both bends, and out of the file whole", async () => {
  const wall = (id: string, edge: string): StepDocument => ({
    ...{ id, kind: "flange", edges: [{ key: "a", at: edge }], length: "50.8" },
  });
  await show("Trunking", { units: "in" }, [wall("s2", "s1.north"), wall("s3", "s1.south")]);
  await pickPlateOf("s2a");
  await page.keyboard.press("c");
  await step("s4").locator("input:focus").waitFor();
  await choose("s4", "form", "round");
  await type("s4", "diameter", "1/2");
  await choose("s4", "placed", "middle");
  await type("s4", "x", "0");
  // So low in its wall that it opens the bends below both walls.
  await type("s4", "y", "-.875");
  await choose("s4", "through", "folded");
  await expect.poll(() => note("s4")).toContain("and bends 1, 2");
  const text = await dxf();
  // Each opening is one closed chain over a wall and its bend: half of it is the circle that was typed.
  const chains = shapesIn(text).shapes.flatMap((s) =>
    s.kind === "chain" && s.closed && s.corners.some((c) => c.bulge !== 0) ? [s] : [],
  );
  expect(chains.length).toBe(2);
  for (const chain of chains) {
    expect(Math.min(...sides(chain))).toBeGreaterThan(0.05);
    const xs = chain.corners.map((c) => c.at[0]);
    // Across the bends it is as wide as typed; where the circle is cut off by a corner's chord, a little less.
    expect(Math.max(...xs) - Math.min(...xs)).toBeGreaterThan(INCH / 2 - 0.6);
    expect(Math.max(...xs) - Math.min(...xs)).toBeLessThan(INCH / 2 + 1e-3);
  }
});

const keptSteps = async (id: string) => {
  await isSaved(page);
  const got = await page.request.get(`${bench.base}/api/parts/${id}`);
  return ((await got.json()) as { document: PartDocument }).document.steps;
};

test("gussets are pressed into a bend by a key on it; their values are typed key by key in inches and stand", async () => {
  const id = await show("Shelf angle", { units: "in" }, [
    { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "50.8" },
  ]);
  await settled(page);
  await page.locator('[data-view="blank"] [data-pick*=\'"bend","id":"s2a"\']').first().click({ force: true });
  await page.waitForSelector("[data-pick-card] >> text=Bend");
  await page.keyboard.press("g");
  await step("s3").waitFor();
  await type("s3", "count", "3");
  await type("s3", "width", "1/2");
  await type("s3", "depth", ".625");
  await expect.poll(() => step("s3").getAttribute("data-state")).toBe("built");
  expect((await keptSteps(id))[2]).toMatchObject({
    kind: "gusset",
    bends: [{ at: "s2a" }],
    count: "3",
    width: "1/2 in",
    depth: ".625 in",
  });
  // Too many of them have no room: it says so at its field, and what was there stays.
  await type("s3", "count", "40");
  await expect.poll(() => step("s3").getAttribute("data-state")).toBe("wrong");
  expect(await note("s3")).toMatch(/no room|at most|fewer|narrower/i);
  await page.keyboard.press("ControlOrMeta+z");
  await expect.poll(() => step("s3").getAttribute("data-state")).toBe("built");
});

test("openings are matched to those of the plate behind by a key and a pick, clear by what is typed in inches", async () => {
  await show("Cover", { units: "in" }, [
    { id: "s2", kind: "plate", width: "203.2", depth: "101.6", z: "20" },
    {
      ...{ id: "s3", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round", diameter: "12.7" },
      ...{ x: "-20", y: "10" },
    },
  ]);
  await pickPlateOf("s2");
  await page.waitForSelector("[data-pick-card] >> text=Plate");
  await page.keyboard.press("k");
  await step("s4").waitFor();
  await settled(page);
  await step("s4").locator('[data-pick-field="behind"], [data-field="behind"]').first().click();
  await pickPlateOf("s1");
  await choose("s4", "takes", "openings");
  await type("s4", "clearance", "1/16");
  await expect.poll(() => step("s4").getAttribute("data-state")).toBe("built");
  const radii = async () => (await circles()).map((c) => c.r).sort((p, q) => p - q);
  await expect.poll(radii).toEqual([INCH / 4, INCH / 4 + INCH / 16].map((r) => expect.closeTo(r, 6)));
  // It follows: another diameter behind is another in front.
  await page.keyboard.press("Escape");
  await step("s3").click({ position: { x: 12, y: 12 } });
  await type("s3", "diameter", ".75");
  await expect.poll(async () => (await radii())[1]).toBeCloseTo(0.4375 * INCH, 6);
});

test("a cut leans by what is typed, to either side; more than it can is told at its field", async () => {
  const id = await show("Slanted", { units: "in" }, [
    { id: "s2", kind: "plate", width: "203.2", depth: "101.6", z: "25.4" },
    {
      ...{ id: "s3", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round", diameter: "12.7" },
      ...{ x: "-20", y: "10", through: "folded" },
    },
  ]);
  await step("s3").click({ position: { x: 12, y: 12 } });
  await expect.poll(async () => (await circles()).length).toBe(2);
  await type("s3", "leans", "22.5");
  await type("s3", "leansTo", "90");
  await expect.poll(async () => (await circles()).length).toBe(0);
  expect((await keptSteps(id))[2]).toMatchObject({ leans: "22.5", leansTo: "90" });
  await type("s3", "leans", "75");
  await expect.poll(() => step("s3").getAttribute("data-state")).toBe("wrong");
  expect(await note("s3")).toContain("at most 60°");
  await type("s3", "leans", "0");
  await expect.poll(async () => (await circles()).length).toBe(2);
});
