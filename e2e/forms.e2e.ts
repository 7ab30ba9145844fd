import { ownForm, type PartDocument, type StepDocument, type StockLibrary } from "@hillcrest/core";
import { expect, test } from "vitest";
import { isSaved, settled } from "./harness.ts";
import { opened } from "./opened.ts";
import { shapesIn } from "./saved-dxf.ts";
import { stepsByHand } from "./steps-by-hand.ts";

const { bench, page } = await opened({ demo: false, cards: false });

const INCH = 25.4;

const { step, choose, type, pressBlank, dxf, ...hand } = stepsByHand(page, bench.base);

/** Opens a new part that has a plate, and what else is given. */
const show = (name: string, values: Partial<PartDocument> = {}, more: readonly StepDocument[] = []) =>
  hand.show(name, values, [{ id: "s1", kind: "plate", width: "152.4", depth: "101.6" }, ...more]);

const kept = async (id: string) =>
  ((await (await page.request.get(`${bench.base}/api/parts/${id}`)).json()) as { document: PartDocument })
    .document;

async function shapes(): Promise<{ layer: string; kind: string; size: number }[]> {
  const text = await dxf();
  const read = shapesIn(text);
  return read.shapes.map((s, i) => ({
    layer: read.layers![i],
    kind: s.kind,
    size:
      s.kind === "line"
        ? Math.hypot(s.b[0] - s.a[0], s.b[1] - s.a[1])
        : s.kind === "circle" || s.kind === "arc"
          ? 2 * s.r
          : 0,
  }));
}

test("louvres are formed in an inch part by mouse and keys, one is left out by a click, and their cuts leave as lines", async () => {
  const id = await show("Shutter", { units: "in" });
  await pressBlank(50, 30);
  await page.waitForSelector("[data-pick-card] >> text=Plate");
  await page.keyboard.press("p");
  await step("s2").waitFor();
  await choose("s2", "shape", "louvre");
  await type("s2", "louvre_l", "1 1/2");
  await type("s2", "louvre_w", ".375");
  await type("s2", "louvre_h", "1/8");
  await type("s2", "x", "0");
  await type("s2", "y", "0");
  await choose("s2", "arranged", "grid");
  await type("s2", "count", "3");
  await type("s2", "pitch", "1.75");
  await type("s2", "rows", "4");
  await type("s2", "rowPitch", "0.75");
  await expect.poll(() => step("s2").innerText()).toContain("12 of them");
  await expect
    .poll(() => step("s2").locator('[data-note="made"]').innerText())
    .toMatch(/^stretched, none added: 0\.0\d+ in at its thinnest \(\d+ %\)$/);
  const all = await shapes();
  const cuts = all.filter((s) => s.kind === "line" && Math.abs(s.size - 1.5 * INCH) < 1e-6);
  expect(cuts.length).toBe(12);

  // A press on one of them takes that one: its step, or leaving it out.
  await page.keyboard.press("Escape");
  const zoom = await page.evaluate(() => {
    const view = document.querySelector('[data-view="blank"] > g') as SVGGElement;
    return view.transform.baseVal.consolidate()!.matrix.a;
  });
  const plate = (await page.locator('[data-view="blank"] [data-pick*="plate"]').first().boundingBox())!;
  await page.mouse.click(plate.x + plate.width / 2, plate.y + plate.height / 2 - 0.375 * INCH * zoom);
  await page.waitForSelector("[data-pick-card] >> text=Edit the louvre");
  await page.keyboard.press("Delete");
  await expect.poll(() => step("s2").innerText()).toContain("11 of them");
  expect((await shapes()).filter((s) => Math.abs(s.size - 1.5 * INCH) < 1e-6).length).toBe(11);
  await page.keyboard.press("ControlOrMeta+z");
  await expect.poll(() => step("s2").innerText()).toContain("12 of them");

  await isSaved(page);
  expect((await kept(id)).steps[1]).toMatchObject({
    louvre_l: "1 1/2 in",
    louvre_h: "1/8 in",
    shape: "louvre",
  });
});

test("another form keeps the values of the one before; a wrong value is told at its field and the last shape stays", async () => {
  await show("Feet", {}, [
    { id: "s2", kind: "form", shape: "foot", plate: [{ key: "a", at: "s1" }], x: "-40", y: "0" },
  ]);
  await step("s2").click();
  await type("s2", "foot_h", "6.5");
  await choose("s2", "shape", "collar");
  await type("s2", "collar_d", "4.2");
  await expect
    .poll(() => step("s2").locator('[data-note="made"]').innerText())
    .toContain("M5 is engaged over");
  const opening = (await shapes()).filter((s) => s.kind === "circle");
  expect(opening.length).toBe(1);
  expect(opening[0].size).toBeLessThan(4.2);
  await choose("s2", "shape", "foot");
  expect(await step("s2").locator('input[data-field="foot_h"]').inputValue()).toBe("6.5");
  await type("s2", "foot_top", "80");
  await expect.poll(() => step("s2").getAttribute("data-state")).toBe("wrong");
  await expect.poll(() => step("s2").innerText()).toMatch(/farther out than the one before|cannot be formed/);
  await type("s2", "foot_top", "9");
  await expect.poll(() => step("s2").getAttribute("data-state")).toBe("built");
  await choose("s2", "onBlank", "outline");
  expect((await shapes()).filter((s) => s.layer === "ENGRAVING").map((s) => [s.kind, s.size])).toEqual([
    ["circle", 24],
  ]);
});

test("a form of the shop's own is written in Stock, offered on the Bench, and kept whole by the part", async () => {
  await page.goto(`${bench.base}/stock/forms`);
  await page.click('button:has-text("New form")');
  const name = page.locator('[data-editor] input[data-field="name"]');
  await name.click();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("Ridge boss", { delay: 10 });
  await page.selectOption("[data-begin-with]", "foot");
  // A value that goes round in a circle is told before it can be saved.
  const first = page.locator('[data-editor] [aria-label*="Begins at" i]').first();
  await first.click();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("2*top", { delay: 10 });
  await expect.poll(() => page.locator("[data-form-details]").innerText()).toContain("Diameter at the root");
  await first.click();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("d + 1", { delay: 10 });
  await expect.poll(() => page.locator("[data-form-wrong]").innerText()).toContain("depends on itself");
  await first.click();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("26", { delay: 10 });
  await page.click("[data-save]");
  await page.waitForSelector("text=revision 1");

  const id = await show("Tray", {}, [
    { id: "s2", kind: "form", shape: "dimple", plate: [{ key: "a", at: "s1" }], x: "0", y: "0" },
  ]);
  await step("s2").click();
  await settled(page);
  await step("s2").locator('[data-field="shape"]').click();
  await page.click('[role="option"]:has-text("Ridge boss")');
  await expect.poll(() => step("s2").innerText()).toContain("Ridge boss");
  await isSaved(page);
  const [, made] = (await kept(id)).steps;
  expect(made.shape).toMatchObject({ name: "Ridge boss", outline: "round" });
});

test("hardware is written in Stock, set into four openings by hand and counted; the shop's next larger tool is taken by a click", async () => {
  await page.goto(`${bench.base}/stock/hardware`);
  await page.click('button:has-text("New piece of hardware")');
  const fill = async (field: string, text: string) => {
    await page
      .locator(`[data-editor] input[data-field="${field}"], [data-editor] [aria-label="${field}"]`)
      .first()
      .click();
    await page.keyboard.press("ControlOrMeta+a");
    await page.keyboard.type(text, { delay: 10 });
    await page.keyboard.press("Tab");
  };
  await fill("name", "Press nut M5");
  await page.locator('[data-editor] select[aria-label="Thread"]').selectOption("M5");
  await fill("Opening ⌀", "6.4");
  await page.click("[data-save]");
  await page.waitForSelector("text=revision 1");
  await page.goto(`${bench.base}/stock/openings`);
  for (const size of ["6.5", "8"]) {
    await page.click('button:has-text("New standard opening")');
    await fill("name", `Punch ${size}`);
    await fill("Diameter", size);
    await page.click("[data-save]");
    await page.waitForSelector("text=revision 1");
  }

  await show("Panel", {}, [
    {
      id: "s2",
      kind: "cut",
      form: "round",
      diameter: "6.2",
      plate: [{ key: "a", at: "s1" }],
      x: "-30",
      y: "0",
    },
  ]);
  await step("s2").click();
  await expect
    .poll(() => step("s2").locator("[data-shop-tool]").innerText())
    .toMatch(/no tool of the shop, next larger: ⌀ 6.5/);
  await page.click("[data-take-tool]");
  await expect
    .poll(() => step("s2").locator("[data-shop-tool]").innerText())
    .toBe("a tool of the shop: Punch 6.5");
  await choose("s2", "sized", "hardware");
  await expect.poll(() => step("s2").getAttribute("data-state")).toBe("wrong");
  await settled(page);
  await step("s2").locator('[data-field="hardware"]').click();
  // A choice of two is taken by the click itself.
  await expect.poll(() => step("s2").innerText()).toContain("Press nut M5");
  await choose("s2", "arranged", "row");
  await type("s2", "count", "4");
  await type("s2", "pitch", "20");
  const rounds = (await shapes()).filter((s) => s.kind === "circle");
  expect(rounds.map((s) => s.size)).toEqual([6.4, 6.4, 6.4, 6.4].map((v) => expect.closeTo(v, 6)));
  await page.click('[data-tab="bends"], button:has-text("Bends")');
  await expect.poll(() => page.locator("[data-set-in]").innerText()).toBe("Set in: 4 × Press nut M5");
});

test("steps are kept under a name and put into another part on what is picked there, with their values", async () => {
  await show("Source", { variables: [{ key: "a", name: "bore", value: "9" }] }, [
    {
      id: "s2",
      kind: "cut",
      form: "round",
      diameter: "bore",
      plate: [{ key: "a", at: "s1" }],
      x: "-40",
      y: "0",
    },
    { id: "s3", kind: "form", shape: "dimple", plate: [{ key: "a", at: "s1" }], x: "10", y: "0" },
  ]);
  await step("s2").click();
  await step("s2").locator("[data-keep-steps]").click();
  const name = page.locator("[data-group-name]");
  await name.click();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("Bore and dimple", { delay: 10 });
  await page.click('[data-grouped="s3"]');
  await page.click("[data-keep-group]");
  await page.waitForSelector("[data-group-name]", { state: "detached" });

  const id = await show("Target");
  await pressBlank(50, 30);
  await page.waitForSelector("[data-pick-card] >> text=Plate");
  await page.click("[data-add-step]");
  await page.click('[data-put-group]:has-text("Bore and dimple")');
  await expect.poll(async () => page.locator("[data-step]").count()).toBe(3);
  await isSaved(page);
  const { steps, variables } = await kept(id);
  expect(steps.map((s) => s.kind)).toEqual(["plate", "cut", "form"]);
  expect(steps.slice(1).map((s) => (s.plate as { at: string }[])[0].at)).toEqual(["s1", "s1"]);
  expect(variables!.map((v) => [v.name, v.value])).toEqual([["bore", "9"]]);
  expect((await shapes()).filter((s) => s.kind === "circle").map((s) => s.size)).toEqual([9]);
  await page.keyboard.press("ControlOrMeta+z");
  await expect.poll(async () => page.locator("[data-step]").count()).toBe(1);
});

test("of a shop with hundreds of forms the list opens at once, is told by words, and is gone through within the window", async () => {
  const library = (await (await fetch(`${bench.base}/api/stock/library`)).json()) as StockLibrary;
  const boss = ownForm("dimple")!;
  const forms = Array.from({ length: 600 }, (_, i) => ({
    ...boss,
    id: `shop-${i}`,
    name: `Boss no. ${String(i).padStart(3, "0")}`,
    note: "",
  }));
  const taken = await page.request.post(`${bench.base}/api/stock/library`, {
    data: { library: { ...library, forms: [...(library.forms ?? []), ...forms] } },
  });
  expect(taken.ok(), await taken.text()).toBe(true);
  await show("Many", {}, [
    { id: "s2", kind: "form", shape: "dimple", plate: [{ key: "a", at: "s1" }], x: "0", y: "0" },
  ]);
  await step("s2").click({ position: { x: 12, y: 12 } });
  await settled(page);
  const began = Date.now();
  await step("s2").locator('[data-field="shape"]').click();
  await page.waitForSelector('[data-option="shop shop-599"]', { state: "attached" });
  expect(Date.now() - began).toBeLessThan(3000);
  const list = page.locator('[role="listbox"]');
  expect(await list.locator("svg").count()).toBe(0);
  const box = (await list.boundingBox())!;
  const { height } = page.viewportSize()!;
  expect(box.y).toBeGreaterThanOrEqual(0);
  expect(box.y + box.height).toBeLessThanOrEqual(height);
  await page.click('[data-option="shop shop-599"]');
  await expect.poll(() => step("s2").innerText()).toContain("Boss no. 599");
});
