import { readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { expect, test } from "vitest";
import { isSaved, root, savedFile } from "./harness.ts";
import { opened } from "./opened.ts";

const { bench, page } = await opened({ demo: false });

const file = join(tmpdir(), `hillcrest-bracket-${process.pid}.json`);
const example = /```json\n([\s\S]*?)```/.exec(readFileSync(join(root, "docs/format/outline.md"), "utf8"))![1];
writeFileSync(file, example);
const blank = async () => (await page.locator('[data-size="blank"]').innerText()).replace(/\s+/g, " ");
const state = () => page.locator('[data-outline][aria-pressed="true"]').innerText();
const value = page.locator('[data-outline-value="width"] input');

test("an outline is read in, a plate is made of it, and both follow a value that is typed", async () => {
  await page.goto(bench.base);
  await page.click("text=New part");
  await page.click('[data-drawer="outlines"]');
  await page.waitForSelector("text=No outlines yet");
  await page.setInputFiles('[data-files="outlines"]', file);
  await expect.poll(state).toMatch(/Bracket\s*fixed/);
  await page.keyboard.press("p");
  await page.click('[data-step="s1"] [data-field="form"]');
  await page.click('[data-option="drawn"]');
  // What was read in and is in no use yet is what is meant.
  await expect.poll(blank).toMatch(/60\.00 × 40\.00/);
  await value.click();
  const before = (await value.boundingBox())!;
  await page.keyboard.press("Control+a");
  for (const key of "97.5") {
    await page.keyboard.type(key, { delay: 60 });
    // The field keeps its place and the focus while it is typed into.
    expect((await value.boundingBox())!.y).toBe(before.y);
    expect(await value.evaluate((e) => e === document.activeElement)).toBe(true);
  }
  expect(await value.inputValue()).toBe("97.5");
  await expect.poll(blank).toMatch(/97\.50 × 65\.00/);
  await page.keyboard.press("Enter");
  await page.keyboard.press("Control+z");
  await expect.poll(blank).toMatch(/60\.00 × 40\.00/);
});

test("numbers typed one after another all stay, however late the shape comes", async () => {
  const late = await bench.newPage({ late: 700 });
  await late.goto(bench.base);
  await late.click("text=New part");
  await late.click('[data-drawer="outlines"]');
  await late.setInputFiles('[data-files="outlines"]', file);
  const width = late.locator('[data-outline-value="width"] input');
  const radius = late.locator('[data-outline-dimension="d3"] input');
  await width.click();
  await late.keyboard.press("Control+a");
  await late.keyboard.type("96");
  await late.keyboard.press("Enter");
  await radius.click();
  await late.keyboard.press("Control+a");
  await late.keyboard.type("7");
  await late.keyboard.press("Enter");
  // What is shown is what was typed, not what the last shape was built of.
  expect([await width.inputValue(), await radius.inputValue()]).toEqual(["96", "7"]);
  await isSaved(late);
  await late.reload();
  await late.click('[data-drawer="outlines"]');
  await radius.waitFor();
  expect([await width.inputValue(), await radius.inputValue()]).toEqual(["96", "7"]);
  await expect.poll(() => late.locator('[data-outline-dimension="d2"]').innerText()).toContain("64.000 mm");
  await late.context().close();
}, 60_000);

test.each([
  "0",
  "-5",
  "1e16",
  "wide",
  "60 +",
])("a width of %s is told, and the last shape stands", async (text) => {
  await value.click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type(text, { delay: 30 });
  await expect.poll(state).toContain("disagrees");
  await page.waitForSelector("[data-outlines] [role='alert']");
  await page.waitForSelector('[data-step="s1"] [role="alert"]');
  expect(await value.inputValue()).toBe(text);
  await page.keyboard.press("Escape");
  await expect.poll(state).toMatch(/fixed/);
  await expect.poll(blank).toMatch(/60\.00 × 40\.00/);
});

test("numbers that do not go together are named, and one of them is dropped by a click", async () => {
  const outline = JSON.parse(example);
  outline.name = "Twice";
  outline.dimensions.push({ id: "d9", kind: "length", of: ["north"], value: 40 });
  writeFileSync(file, JSON.stringify(outline));
  await page.setInputFiles('[data-files="outlines"]', file);
  await expect.poll(state).toContain("disagrees");
  const conflicts = page.locator("[data-conflicts] button");
  expect((await conflicts.allInnerTexts()).some((t) => t.startsWith("d9: length of north"))).toBe(true);
  await page.locator('[data-conflicts] button:has-text("d3")').click();
  await expect.poll(state).toMatch(/fixed/);
  await page.keyboard.press("Control+z");
  await expect.poll(state).toContain("disagrees");
  await page.locator('[data-conflicts] button:has-text("d9")').click();
  await expect.poll(state).toMatch(/fixed/);
});

test("what is free is counted, and held as it is", async () => {
  const outline = JSON.parse(example);
  outline.name = "Loose";
  outline.dimensions = outline.dimensions.filter((d: { id: string }) => d.id !== "d3");
  writeFileSync(file, JSON.stringify(outline));
  await page.setInputFiles('[data-files="outlines"]', file);
  await expect.poll(state).toMatch(/Loose\s*1 left free/);
  await page.click("[data-hold]");
  await expect.poll(state).toMatch(/fixed/);
});

test("what is no outline is refused with its place, and nothing is lost", async () => {
  writeFileSync(file, '{"format":"hillcrest-outline","version":1,"name":"x","points":{"a":[0]}}');
  const before = await page.locator("[data-outline]").count();
  await page.setInputFiles('[data-files="outlines"]', file);
  await page.waitForSelector("text=at /points/a: A point is two numbers");
  writeFileSync(file, "not json at all");
  await page.setInputFiles('[data-files="outlines"]', file);
  await page.waitForSelector("text=Line 1, column 1");
  expect(await page.locator("[data-outline]").count()).toBe(before);
});

test("the part is saved with its outlines, and its DXF has the arc", async () => {
  await isSaved(page);
  await page.reload();
  await page.click('[data-drawer="outlines"]');
  await expect.poll(() => page.locator("[data-outline]").count()).toBe(3);
  await expect.poll(blank).toMatch(/60\.00 × 40\.00/);
  const { text } = await savedFile(page, () => page.click('button:has-text("Save DXF")'));
  expect(text.split(/\r?\n/).some((l) => Math.abs(Math.abs(Number(l)) - Math.tan(Math.PI / 8)) < 1e-9)).toBe(
    true,
  );
});

/** A DXF of one closed chain with a round corner and a circle, in units that it may say. */
function dxf(units?: number): string {
  const header =
    units === undefined ? [] : [0, "SECTION", 2, "HEADER", 9, "$INSUNITS", 70, units, 0, "ENDSEC"];
  const corners = [
    [0, 0, 0],
    [4, 0, 0],
    [4, 2, Math.tan(Math.PI / 8)],
    [3, 3, 0],
    [0, 3, 0],
  ].flatMap(([x, y, bulge]) => [10, x, 20, y, 42, bulge]);
  const pairs = [
    ...header,
    ...[0, "SECTION", 2, "ENTITIES"],
    ...[0, "LWPOLYLINE", 8, "0", 90, 5, 70, 1, ...corners],
    ...[0, "CIRCLE", 8, "0", 10, 1.5, 20, 1.5, 30, 0, 40, 0.5],
    ...[0, "TEXT", 8, "0", 10, 1, 20, 1, 40, 0.2, 1, "upside"],
    ...[0, "ENDSEC", 0, "EOF"],
  ];
  return pairs.join("\n");
}

test("a damaged drawing is told with its line, and the page goes on", async () => {
  const cut = join(dirname(file), "cut.dxf");
  writeFileSync(cut, "0\nSECTION\n2\nENTITIES\n0\nPOLYLINE\n8\n0\n66\n1\n0\nVERTEX\n10\n0\n20\n0\n");
  await page.setInputFiles('[data-files="outlines"]', cut);
  await page.waitForSelector("text=cut.dxf cannot be read as a DXF: line 17: the file ends without EOF");
  const svg = join(dirname(file), "cut.svg");
  writeFileSync(svg, '<svg xmlns="http://www.w3.org/2000/svg"><rect width="5"');
  await page.setInputFiles('[data-files="outlines"]', svg);
  await page.waitForSelector("text=cut.svg cannot be read as an SVG");
});

test("a DXF is read in: its units asked for, what is no line told, and what holds in it related", async () => {
  const drawing = file.replace(/json$/, "dxf");
  writeFileSync(drawing, dxf());
  const before = await page.locator("[data-outline]").count();
  await page.setInputFiles('[data-files="outlines"]', drawing);
  await page.click('[data-which-units] >> text="an inch"');
  await expect.poll(() => page.locator("[data-outline]").count()).toBe(before + 1);
  await page.waitForSelector("text=Left out: 1 TEXT.");
  await expect.poll(state).toMatch(/left free/);
  const free = () => state().then((text) => Number(/(\d+) left free/.exec(text)?.[1] ?? 0));
  const loose = await free();
  await page.click("[data-relate]");
  await expect.poll(free).toBeLessThan(loose - 5);
  await page.click('[data-step="s1"] [data-field="drawn"]');
  await page.locator("[data-option]").last().click();
  await expect.poll(blank).toMatch(/101\.60 × 76\.20/);
  // One that says its units is taken at once; one that is none is told.
  writeFileSync(drawing, dxf(4));
  await page.setInputFiles('[data-files="outlines"]', drawing);
  await expect.poll(() => page.locator("[data-outline]").count()).toBe(before + 2);
  writeFileSync(drawing, "0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n");
  await page.setInputFiles('[data-files="outlines"]', drawing);
  await page.waitForSelector("text=The file has no lines, arcs or circles.");
  writeFileSync(drawing, "\u0000\u0001 no drawing");
  await page.setInputFiles('[data-files="outlines"]', drawing);
  await page.waitForSelector("text=cannot be read as a DXF");
  expect(await page.locator("[data-outline]").count()).toBe(before + 2);
});

test("an outline is kept on Stock, taken into another part, and what changes is said before it is taken over", async () => {
  const bracket = JSON.parse(example);
  bracket.name = "Kept bracket";
  writeFileSync(file, JSON.stringify(bracket));
  const newPart = async () => {
    await page.goto(bench.base);
    await page.click("text=New part");
    await page.click('[data-drawer="outlines"]');
  };
  await newPart();
  await page.setInputFiles('[data-files="outlines"]', file);
  await page.click("[data-keep]");
  await page.waitForSelector("[data-keep]", { state: "detached" });
  await isSaved(page);
  const first = page.url();
  // Another part takes it, with a number of its own.
  await newPart();
  await page.selectOption("[data-take-kept]", { label: "Kept bracket" });
  await expect.poll(state).toMatch(/Kept bracket\s*fixed/);
  await value.click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("120", { delay: 40 });
  await page.keyboard.press("Enter");
  await isSaved(page);
  const second = page.url();
  // The first one changes what is kept: a radius of 8.
  await page.goto(first);
  await page.click('[data-drawer="outlines"]');
  const radius = page.locator('[data-outline-dimension="d3"] input');
  await radius.click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("8", { delay: 40 });
  await page.keyboard.press("Enter");
  await page.click("[data-keep-changes]");
  await page.waitForSelector("[data-keep-changes]", { state: "detached" });
  await page.goto(second);
  await page.click('[data-drawer="outlines"]');
  await expect
    .poll(() => page.locator("[data-kept-newer]").innerText())
    .toMatch(/“Kept bracket” was changed on Stock: 1 dimension otherwise/);
  await page.click("[data-take-over]");
  await page.waitForSelector("[data-kept-newer]", { state: "detached" });
  expect(await radius.inputValue()).toBe("8");
  expect(await value.inputValue()).toBe("120");
  // On Stock it is among the outlines, drawn with its numbers.
  await page.goto(`${bench.base}/stock/outlines`);
  await page.waitForSelector('[data-kept-outline] svg[aria-label="The outline Kept bracket"]');
  expect(await page.locator("[data-kept-outline] table").innerText()).toMatch(/radius\s+8/);
}, 60_000);

test("a kept outline is put into a drawing by two places, mirrored, beside what is there", async () => {
  await page.goto(bench.base);
  await page.click("text=New part");
  await page.click('[data-drawer="outlines"]');
  await page.click("[data-draw-new]");
  await page.click('[data-drawer="outlines"]');
  const box = (await page.locator('[data-view="drawing"]').boundingBox())!;
  const at = async (dx: number, dy: number) => {
    await page.mouse.move(box.x + box.width / 2 + dx - 5, box.y + box.height / 2 - dy + 4);
    await page.mouse.move(box.x + box.width / 2 + dx, box.y + box.height / 2 - dy, { steps: 2 });
    await page.mouse.down();
    await page.mouse.up();
  };
  await page.selectOption("[data-put-kept]", { label: "Kept bracket, mirrored" });
  await at(-90, 60);
  await at(60, 60);
  await expect.poll(() => page.locator('[data-dimension] text:text-matches("^w = 60.00$")').count()).toBe(1);
  await expect.poll(() => page.locator('[data-counts="true"]').count()).toBe(1);
  // Mirrored it lies below the line along which it was put.
  const area = (await page.locator('[data-counts="true"]').boundingBox())!;
  expect(area.y).toBeGreaterThan(box.y + box.height / 2 - 60 - 3);
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+z");
  await expect.poll(() => page.locator("[data-point]").count()).toBe(0);
});

test("an SVG is a flat part on the Shelf once it is said in what it is drawn", async () => {
  const svg = join(tmpdir(), `hillcrest-cover-${process.pid}.svg`);
  writeFileSync(
    svg,
    '<svg xmlns="http://www.w3.org/2000/svg"><rect width="4" height="2.5" rx="0.25"/><circle cx="2" cy="1.25" r="0.5"/></svg>',
  );
  await page.goto(bench.base);
  await page.setInputFiles('[data-files="parts"]', svg);
  await page.click("text=Inches");
  await page.click(`text=hillcrest-cover-${process.pid}`);
  await expect.poll(blank).toMatch(/101\.60 × 63\.50/);
  const text = (await savedFile(page, () => page.keyboard.press("Control+e"))).text;
  expect(text.match(/^CIRCLE$/gm)?.length).toBe(1);
  writeFileSync(svg, "<svg><rect");
  await page.goto(bench.base);
  await page.setInputFiles('[data-files="parts"]', svg);
  await page.waitForSelector("text=cannot be read");
});

test("several drawings that do not say their units are asked about one after another", async () => {
  const files = [1, 2].map((n) => {
    const path = join(tmpdir(), `hillcrest-shim${n}-${process.pid}.svg`);
    writeFileSync(path, `<svg xmlns="http://www.w3.org/2000/svg"><rect width="${n}0" height="5"/></svg>`);
    return path;
  });
  await page.goto(bench.base);
  await page.setInputFiles('[data-files="parts"]', files);
  await page.waitForSelector("[role=dialog] >> text=shim1");
  await page.click("text=Millimetres");
  await page.waitForSelector("[role=dialog] >> text=shim2");
  await page.click("text=Inches");
  await page.click(`text=hillcrest-shim2-${process.pid}`);
  await expect.poll(blank).toMatch(/508\.00 × 127\.00/);
  await page.goto(bench.base);
  await page.click(`text=hillcrest-shim1-${process.pid}`);
  await expect.poll(blank).toMatch(/10\.00 × 5\.00/);
});

test("a kept outline is given a name and a note by hand on Stock, and a file that is none is refused there", async () => {
  await page.goto(`${bench.base}/stock/outlines`);
  await page.waitForSelector("[data-kept-outline]");
  const name = page.locator('[data-field="name"]');
  await name.click();
  await page.keyboard.press("Control+a");
  for (const k of "Bracket of the mast") {
    await page.keyboard.type(k, { delay: 25 });
    expect(await name.evaluate((e) => e === document.activeElement)).toBe(true);
  }
  await page.locator('[data-field="note"]').click();
  await page.keyboard.type("for the anemometer arm", { delay: 15 });
  await page.click("[data-save]");
  await page.waitForSelector('[data-item="Bracket of the mast"]');
  writeFileSync(file, JSON.stringify({ ...JSON.parse(example), points: {} }));
  await page.setInputFiles('[data-files="kept-outline"]', file);
  await page.waitForSelector("[data-kept-outline] [role=alert] >> text=There is no point called");
  // What was kept is as it was.
  await page.waitForSelector('[data-kept-outline] svg[aria-label="The outline Kept bracket"]');
});
