import { newPart } from "@hillcrest/core";
import DxfParser, { type ICircleEntity, type ILineEntity } from "dxf-parser";
import { unzipSync } from "fflate";
import type { Page } from "playwright-core";
import { expect, test } from "vitest";
import { drawn, Hand, isSaved, openPart, savedFile } from "./harness.ts";
import { opened } from "./opened.ts";

const { bench, page } = await opened();
const hand = new Hand(page);

/** The page of the blank of a part, once its proof is there. */
async function openBlank(name: string): Promise<void> {
  await openPart(page, bench.base, name);
  await page.click('header >> text="Blank…"');
  await proven();
}
async function proven(): Promise<void> {
  await page.waitForSelector('[data-proof-card][aria-busy="false"] [data-proof]');
}

/** The DXF as it is saved from the page, read: entities by layer. */
async function savedBlank() {
  await proven();
  const { name, text } = await savedFile(page, () => page.click("[data-save-dxf]"));
  const { entities } = new DxfParser().parseSync(text)!;
  const on = (layer: string) => entities.filter((e) => e.layer === layer);
  const extents = /\$EXTMAX\r\n 10\r\n([\d.]+)\r\n 20\r\n([\d.]+)/.exec(text)!;
  const [width, height] = extents.slice(1).map(Number);
  return {
    name,
    text,
    on,
    entities,
    width,
    height,
    circles: on("OPENINGS") as ICircleEntity[],
  };
}

/** Clicks something on the blank while it is being picked. */
async function pick(kind: string, part: string): Promise<void> {
  const target = page.locator(`[data-end*='"${kind}"'][data-end*='${part}'] path`).first();
  const box = await target.evaluate((e) => e.getBoundingClientRect().toJSON() as DOMRect);
  // On the line itself, a third along, where no note stands.
  await page.mouse.click(
    box.x + box.width * (box.width > 14 ? 0.31 : 0.5),
    box.y + (kind === "hole" ? 1 : box.height * (box.height > 14 ? 0.31 : 0.5)),
  );
}
/** What stands in an element, also in one that is drawn. */
const said = (selector: string) =>
  page
    .locator(selector)
    .first()
    .evaluate((e) => (e as HTMLElement).innerText ?? e.textContent ?? "");
const overall = async () => [
  Number(await said('[data-overall="width"]')),
  Number(await said('[data-overall="height"]')),
];
test("the page shows the blank with its bend list, and its file proven before it is saved", async () => {
  await openBlank("Battery tray");
  expect(await overall()).toEqual([398.69, 268.04]);
  expect(await page.locator("[data-bend-table] tbody tr").count()).toBe(7);
  // 320 × 180 × 42 outside, as a caliper finds it.
  expect(await page.locator('[data-bend="3"] [data-outside]').allInnerTexts()).toEqual(["320.00", "42.00"]);
  expect(await page.locator('[data-proof="false"]').count()).toBe(0);
  const file = await savedBlank();
  expect(file.name).toBe("Battery tray.dxf");
  expect(file.width).toBeCloseTo(398.691592, 5);
  expect([
    file.on("OUTLINE").length,
    file.circles.length,
    file.on("BENDS_UP").length,
    file.on("BENDS_DOWN").length,
  ]).toEqual([1, 7, 6, 1]);
});

test("seen from its other side bends change their way, text stays readable, and the file is of that side", async () => {
  await openBlank("Battery tray");
  const before = await savedBlank();
  await page.click('[data-blank-tools] >> text="Side B up"');
  await page.waitForSelector('[data-blank-tools] >> text="Side A up"');
  expect(await page.locator('[data-bend-line="down"]').count()).toBe(6);
  expect(await said('[data-note*="▼"]')).toMatch(/^\d▼/);
  // Nothing on the page is turned inside out.
  const flips = await page
    .locator("[data-view=blank] [transform]")
    .evaluateAll((all) =>
      all.map((e) => e.getAttribute("transform") ?? "").filter((t) => /scale\(-|matrix\(-/.test(t)),
    );
  expect(flips).toEqual([]);
  const after = await savedBlank();
  expect([after.on("BENDS_UP").length, after.on("BENDS_DOWN").length]).toEqual([1, 6]);
  const mirrored = before.circles.map((c) => before.width - c.center.x).sort((p, q) => p - q);
  expect(after.circles.map((c) => c.center.x).sort((p, q) => p - q)).toEqual(
    mirrored.map((x) => expect.closeTo(x, 6)),
  );
  await page.keyboard.press("Control+z");
  await page.waitForSelector('[data-blank-tools] >> text="Side B up"');
});

test("it lies as it is told to: by an angle typed key by key, by a picked edge, in the smallest rectangle", async () => {
  await openBlank("Guy wire eye");
  const [w, h] = await overall();
  await page.selectOption('[aria-label="How the blank lies"]', "angle");
  const angle = '[aria-label="Angle that the blank is turned by"]';
  await hand.into(angle, "90");
  await page.keyboard.press("Enter");
  await page.waitForFunction(
    (width) => document.querySelector('[data-overall="width"]')?.textContent === width,
    h.toFixed(2),
  );
  expect(await overall()).toEqual([h, w]);
  // What cannot be is told while it is typed, and given up it lies as it did.
  for (const [typed, told] of [
    ["1e16", "-360"],
    ["5 mm", "angle"],
    ["/", ""],
  ] as const) {
    await page.click(angle);
    await page.keyboard.press("Control+a");
    await page.keyboard.type(typed, { delay: 20 });
    expect(await page.getAttribute(angle, "aria-invalid")).toBe("true");
    expect(await page.getAttribute(angle, "title")).toContain(told);
    await page.keyboard.press("Escape");
    await page.waitForFunction(
      (width) => document.querySelector('[data-overall="width"]')?.textContent === width,
      h.toFixed(2),
    );
  }
  await page.selectOption('[aria-label="How the blank lies"]', "smallest");
  const least = (await said("[data-smallest]")).match(/[\d.]+/g)!.map(Number);
  await page.waitForFunction(
    (width) => document.querySelector('[data-overall="width"]')?.textContent === width,
    least[0].toFixed(2),
  );
  expect(await overall()).toEqual(least);
  await page.selectOption('[aria-label="How the blank lies"]', "edge");
  await pick("edge", "s1.");
  await page.waitForSelector("text=a picked edge level");
  const file = await savedBlank();
  expect([file.width, file.height]).toEqual((await overall()).map((v) => expect.closeTo(v, 2)));
  await page.selectOption('[aria-label="How the blank lies"]', "grain");
  expect(await said("[data-blank-tools] [role=alert]")).toContain("Nothing is said of its grain");
});

test("dimensions are picked, follow the part, are drawn elsewhere, and go again", async () => {
  await openBlank("Battery tray");
  await page.keyboard.press("d");
  await pick("hole", "s1 ");
  await pick("edge", "s2b.end");
  await page.waitForSelector("[data-dimension-card]");
  const value = async () => Number(await said("[data-dimension] text"));
  const before = await value();
  expect(before).toBeGreaterThan(20);
  // Drawn away from what it measures: the number stays.
  const line = page.locator("[data-dimension] rect").first();
  const box = (await line.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 60, box.y + box.height / 2 + 60, { steps: 6 });
  await page.mouse.up();
  expect(await value()).toBe(before);
  expect((await line.boundingBox())!.x).not.toBeCloseTo(box.x, 0);
  await isSaved(page);
  // The tray is made 20 mm deeper on the Bench: the hole in the middle is 10 mm farther from its edge.
  await page.click('header >> text="Battery tray"');
  await drawn(page);
  await page.click('[data-step="s1"]', { position: { x: 12, y: 12 } });
  await page.fill('[data-step="s1"] [data-field="depth"]', "200");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await isSaved(page);
  await page.click('header >> text="Blank…"');
  await page.waitForFunction(
    (v) => Number(document.querySelector("[data-dimension] text")?.textContent) > v + 5,
    before,
  );
  expect(await value()).toBeCloseTo(before + 10, 1);
  await page.locator("[data-dimension] text").first().click();
  await page.waitForSelector("[data-dimension-card]");
  await page.keyboard.press("Delete");
  await page.waitForSelector("[data-dimension]", { state: "detached" });
  await page.keyboard.press("Control+z");
  await page.waitForSelector("[data-dimension]");
  // Undo reaches back over the Bench: one visit, one history.
  for (let i = 0; i < 3; i++) await page.keyboard.press("Control+z");
  await page.waitForFunction(
    () => document.querySelector('[data-overall="height"]')?.textContent === "268.04",
  );
});

test("the same thing twice is its own size; two that have nothing between them are told", async () => {
  await openBlank("Cable cover");
  await page.click('text="Dimension"');
  await pick("hole", "hole");
  await pick("hole", "hole");
  expect(await said("[data-dimension] text")).toMatch(/^⌀/);
  await page.keyboard.press("Escape");
  await page.click('text="Dimension"');
  await page.waitForSelector("text=Click an edge");
  await page.keyboard.press("Escape");
  await page.waitForSelector("text=Click an edge", { state: "detached" });
});

test("what goes into the file is what is ticked, and how it is written what is chosen", async () => {
  await openBlank("Battery tray");
  await page.click('[data-content="bendsUp"]');
  await page.click('[data-content="tangents"]');
  let file = await savedBlank();
  expect([file.on("BENDS_UP").length, file.on("BENDS_DOWN").length, file.on("TANGENTS").length]).toEqual([
    0, 1, 14,
  ]);
  await page.selectOption('[aria-label="Preset"]', "ridge-laser");
  file = await savedBlank();
  expect(file.text).toContain("AC1009");
  expect(file.on("CUT").length).toBe(1);
  expect(file.on("CUT_FIRST").length).toBe(7);
  // Engraved: two ticks of 8 mm for each of seven bends, and the name.
  const ticks = file.on("ENGRAVE").filter((e) => e.type === "LINE") as ILineEntity[];
  const long = ticks.filter(
    (t) =>
      Math.abs(Math.hypot(t.vertices[0].x - t.vertices[1].x, t.vertices[0].y - t.vertices[1].y) - 8) < 1e-9,
  );
  expect(long.length).toBe(14);
});

test("in an inch part lengths of the file are typed key by key and taken whole; what cannot be is told", async () => {
  await openPart(page, bench.base, "Mast bracket");
  await page.click("[data-stock]");
  await page.click('[data-units="in"]');
  await page.keyboard.press("Escape");
  await page.click('header >> text="Blank…"');
  await proven();
  expect(await said('[data-overall="width"]')).toMatch(/^\d+\.\d{4}$/);
  await page.selectOption('aside [data-field="bendLines"], aside select[aria-label="Bend lines"]', "ticks");
  const ticks = 'aside [data-field="tickLength"], aside [aria-label="Length of ticks"]';
  await page.click(ticks);
  await page.keyboard.type("1/4in", { delay: 40 });
  await page.keyboard.press("Enter");
  const { text } = await savedBlank();
  const { entities } = new DxfParser().parseSync(text)!;
  const lengths = entities
    .filter((e) => e.layer.startsWith("BENDS_"))
    .map((e) => (e as ILineEntity).vertices)
    .map(([a, b]) => Math.hypot(a.x - b.x, a.y - b.y));
  // The file of an inch part is in inches.
  expect(text).toMatch(/\$INSUNITS\r?\n *70\r?\n *1\r?\n/);
  expect(lengths.every((l) => Math.abs(l - 0.25) < 1e-9)).toBe(true);
  for (const wrong of ["0", "-3", "1e16", "", "abc"]) {
    await page.click(ticks);
    await page.keyboard.press("Control+a");
    await page.keyboard.press("Delete");
    await page.keyboard.type(wrong, { delay: 20 });
    expect(await page.locator(ticks).first().getAttribute("aria-invalid"), wrong).toBe("true");
    await page.keyboard.press("Escape");
  }
  await proven();
});

test("a preset is kept in the Stock from here, and parts go by it", async () => {
  await openBlank("Logger box");
  await page.click('text="More…"');
  await page.click('aside [data-field="partName"], aside [aria-label="Engrave the part\'s name"]');
  await page.click('text="Keep as preset…"');
  await page.click('[aria-label="Name of the preset"]');
  await page.keyboard.type("Named blanks", { delay: 15 });
  await page.keyboard.press("Enter");
  await page.waitForFunction(
    () =>
      (document.querySelector('[aria-label="Preset"]') as HTMLSelectElement)?.selectedOptions[0]?.text ===
      "Named blanks",
  );
  const { on } = await savedBlank();
  // Beside the outlines of its four feet.
  const engraved = on("ENGRAVING");
  const texts = engraved.filter((e) => e.type === "TEXT" || e.type === "MTEXT");
  expect(texts.map((e) => (e as unknown as { text: string }).text)).toEqual(["Logger box"]);
  expect(engraved.length - texts.length).toBe(4);
  await isSaved(page);
  await page.goto(`${bench.base}/stock/presets`);
  await page.click('text="Named blanks"');
  await page.waitForFunction(() =>
    [...document.querySelectorAll("input")].some((e) => e.value === "Named blanks"),
  );
  const saved = await savedFile(page, () => page.click('[data-preset-file] >> text="Save as JSON"'));
  expect(JSON.parse(saved.text)).toMatchObject({
    format: "hillcrest-preset",
    preset: { name: "Named blanks", partName: true },
  });
  // Taken out of the stock, it is said where it is missed, and nothing leaves by another unawares.
  const entries = (await (await fetch(`${bench.base}/api/stock`)).json()) as {
    section: string;
    item: { id: string; name: string };
  }[];
  const { id } = entries.find((e) => e.item.name === "Named blanks")!.item;
  await fetch(`${bench.base}/api/stock/presets/${id}`, { method: "DELETE" });
  await openPart(page, bench.base, "Logger box");
  await page.keyboard.press("Control+e");
  await page.waitForSelector("text=not in the stock any more");
});

test("what has left is kept with its proof, and says when the part is another since", async () => {
  await openBlank("Solar panel foot");
  await page.fill('[aria-label="Who saves it"]', "Ada");
  await savedBlank();
  await page.click('[data-drawer="exports"]');
  await page.waitForSelector('[data-export] [data-since="same"]');
  const row = await said("[data-export]");
  expect(row).toMatch(/Solar panel foot\.dxf[\s\S]*by Ada[\s\S]*revision 1 · Plain/);
  await page.click('[data-export] >> text="proof"');
  expect(await said("[data-export] .break-all")).toMatch(/SHA-256 [0-9a-f]{64}/);
  await page.click('header >> text="Solar panel foot"');
  await drawn(page);
  await page.click('[data-step="s1"]', { position: { x: 12, y: 12 } });
  const field = page.locator('[data-step="s1"] input[data-field="width"]');
  await field.fill(String(Number.parseFloat(await field.inputValue()) + 5));
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await isSaved(page);
  await page.click('header >> text="Blank…"');
  await page.click('[data-drawer="exports"]');
  await page.waitForSelector('[data-export] [data-since="changed"]');
  expect(await said("[data-since]")).toMatch(/since then: blank [\d.]+ × [\d.]+ mm → /);
});

test("a file that came back is held against the blank, and what differs is drawn and listed", async () => {
  await openBlank("Rain gauge hood, first draft");
  const { text } = await savedBlank();
  const drop = (name: string, content: string) =>
    page.setInputFiles('[data-files="returned"]', {
      name,
      mimeType: "application/dxf",
      buffer: Buffer.from(content),
    });
  await drop("same.dxf", text);
  await page.waitForSelector('[data-compared="true"]');
  expect(await said("[data-compared]")).toContain("It is this blank, within 0.01 mm.");
  const moved = text.replace(/(CIRCLE[\s\S]*? 10\r\n)([\d.]+)/, (_, head, x) => `${head}${Number(x) + 0.03}`);
  await drop("moved.dxf", moved);
  await page.waitForSelector('[data-difference="moved"]');
  expect(await page.locator("[data-difference]").count()).toBe(1);
  expect(await said("[data-difference]")).toMatch(/moved\s+opening ⌀[\d.]+[\s\S]*by 0\.030 mm/);
  expect(await page.locator("[data-differences]").count()).toBe(1);
  await page.selectOption('[aria-label="Tolerance of the comparison"]', "0.05");
  await page.waitForSelector('[data-compared="true"]');
  const inches = text.replaceAll(
    /( 1[01]\r\n| 2[01]\r\n| 40\r\n)(-?[\d.]+)/g,
    (_, code, v) => `${code}${Number(v) / 25.4}`,
  );
  await drop("inches.dxf", inches);
  await page.waitForSelector("text=inches read as millimetres");
  await drop("none.dxf", "this is no drawing");
  await page.waitForSelector("text=cannot be read as a DXF");
  await page.click('text="Forget it"');
  await page.waitForSelector('[data-drawer="compare"]', { state: "detached" });
});

test("on paper it is as large as it is, or reduced to a common scale, with a ruler to check that by", async () => {
  await page.addInitScript(() => {
    window.print = () => undefined;
  });
  await openBlank("Mast bracket");
  const blank = await page.evaluate(() => document.querySelector("[data-metal]")!.getAttribute("d")!.length);
  expect(blank).toBeGreaterThan(100);
  for (const [paper, size, pages] of [
    ["A4", "fit", 1],
    ["A3", "true", undefined],
    ["Letter", "true", undefined],
  ] as const) {
    await page.click('text="Print…"');
    await page.selectOption('[aria-label="Paper"]', paper);
    await page.selectOption('[aria-label="Size"]', size);
    const plan = await said("[data-print-plan]");
    await page.click("[data-print]");
    await page.waitForSelector("[data-printed-page]", { state: "attached" });
    await page.emulateMedia({ media: "print" });
    const [count, width, ruler] = await page.evaluate(() => [
      document.querySelectorAll("[data-printed-page]").length,
      document.querySelector("[data-printed-page] [data-metal]")!.getBoundingClientRect().width,
      document.querySelector("[data-ruler] path")!.getBoundingClientRect().width,
    ]);
    const mm = 25.4 / 96;
    expect(ruler * mm).toBeCloseTo(100, 0);
    const real = await page.evaluate(
      async (id) => (await (await fetch(`/api/parts/${id}/files/json`)).json()).width as number,
      page.url().split("/").at(-2),
    );
    const scale = size === "true" ? 1 : 1 / Number(/1 : ([\d.]+)/.exec(plan)![1]);
    // The drawn line adds half its width on either side.
    expect(Math.abs(width * mm - real * scale)).toBeLessThan(1);
    if (pages !== undefined) expect(count).toBe(pages);
    expect(plan).toContain(count === 1 ? "1 page" : `${count} pages`);
    const pdf = (await page.pdf({ preferCSSPageSize: true })).toString("latin1");
    expect(pdf.match(/\/Type \/Page\b/g)!.length).toBeGreaterThanOrEqual(count);
    await page.emulateMedia({ media: null });
    await page.evaluate(() => window.dispatchEvent(new Event("afterprint")));
    await page.waitForSelector("[data-printed-page]", { state: "detached" });
  }
});

test("of a part that a collision stops every way out says so: paper, file and each of its pieces", async () => {
  const walls = ["west", "east"].map((edge, i) => ({
    ...{ id: `s${i + 2}`, kind: "flange", edges: [{ key: "a", at: `s1.${edge}` }], length: "60" },
    angle: "120",
  }));
  const document = {
    ...newPart("Station cowl"),
    steps: [{ id: "s1", kind: "plate", width: "40", depth: "80" }, ...walls],
  };
  const made = await page.request.post(`${bench.base}/api/parts`, { data: { document } });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`${bench.base}/parts/${id}/blank`);
  await page.waitForSelector("text=Findings stop this part from being made");
  await page.click('text="Print…"');
  await page.click("[data-print]");
  await page.waitForSelector('[data-printed-stop]:has-text("Findings stop this part: Plate")', {
    state: "attached",
  });
  await page.evaluate(() => window.dispatchEvent(new Event("afterprint")));
  for (const format of ["svg", "stl", "3mf"]) {
    await page.click(`[data-format="${format}"]`);
    await page.waitForSelector('[data-saved="false"]:has-text("A finding stops it: Plate")');
    const { name } = await savedFile(page, () => page.click("[data-save-anyway]"));
    expect(name).toBe(`Station cowl.${format}`);
    await page.waitForSelector("[data-saved]:has-text('is saved')");
  }
  // The bend list is no file for making: it is saved, and says so.
  const list = await savedFile(page, () => page.click('[data-format="csv"]'));
  expect(list.text).toMatch(/^stopped,"?Findings stop this part: Plate/m);
});

test("bends are formed in the order that is put in by hand; their numbers stay", async () => {
  await openBlank("Cable cover");
  await page.click('[data-forming="2"]');
  await page.keyboard.type("1");
  await page.keyboard.press("Tab");
  await page.keyboard.type("12", { delay: 30 });
  await page.keyboard.press("Enter");
  expect(await page.inputValue('[data-forming="3"]')).toBe("12");
  await page.click('[data-forming="1"]');
  for (const wrong of ["0", "-1", "1.5", "1e16", "first"]) {
    await page.keyboard.press("Control+a");
    await page.keyboard.type(wrong);
    expect(await page.getAttribute('[data-forming="1"]', "aria-invalid"), wrong).toBe("true");
  }
  await page.keyboard.press("Enter");
  expect(await page.inputValue('[data-forming="1"]')).not.toBe("first");
  const { text } = await savedFile(page, () => page.click('section >> text="CSV"'));
  expect(
    text
      .split("\r\n")
      .slice(1, 4)
      .map((l) => l.split(",").slice(0, 2).join()),
  ).toEqual([expect.stringMatching(/^1,/), "2,1", "3,12"]);
});

test("nothing that is said of bends covers a line, an opening or another, on any demo part", async () => {
  for (const name of [
    "Battery tray",
    "Logger box",
    "Cable cover",
    "Mast bracket",
    "Rain gauge hood, first draft",
  ]) {
    await openBlank(name);
    const boxes = (
      await page
        .locator("[data-note-box]")
        .evaluateAll((all) => all.map((e) => (e as SVGElement).dataset.noteBox!))
    ).map((t) => t.split(" ").map((p) => p.split(",").map(Number)));
    expect(boxes.length, name).toBeGreaterThan(2);
    const parted = (p: number[][], q: number[][]) => {
      const axes = [p, q].flatMap((b) => [0, 1].map((k) => [b[k + 1][0] - b[k][0], b[k + 1][1] - b[k][1]]));
      return axes.some(([x, y]) => {
        const along = (b: number[][]) => b.map(([u, v]) => u * x + v * y);
        return (
          Math.max(...along(p)) <= Math.min(...along(q)) + 1e-6 ||
          Math.max(...along(q)) <= Math.min(...along(p)) + 1e-6
        );
      });
    };
    boxes.forEach((p, i) => {
      for (const q of boxes.slice(i + 1)) expect(parted(p, q), name).toBe(true);
    });
  }
});

test("a part without bends leaves like any other; one that is nothing says so", async () => {
  await page.goto(bench.base);
  await page.click("header >> text=New part");
  await drawnNothing(page);
  await page.click('header >> text="Blank…"');
  await page.waitForSelector("text=There is nothing to cut yet");
  const drawing =
    "0\nSECTION\n2\nENTITIES\n0\nCIRCLE\n8\n0\n10\n0\n20\n0\n40\n30\n0\nCIRCLE\n8\n0\n10\n5\n20\n0\n40\n4\n0\nENDSEC\n0\nEOF\n";
  await page.goto(bench.base);
  await page.setInputFiles('[data-files="parts"]', {
    name: "Washer.dxf",
    mimeType: "application/dxf",
    buffer: Buffer.from(drawing),
  });
  await page.click('text="Millimetres"');
  await page.waitForSelector('[data-part="Washer"]');
  await openBlank("Washer");
  await page.waitForSelector("text=This part has no bends: it is flat.");
  const { entities } = await savedBlank();
  expect(entities.map((e) => (e as ICircleEntity).radius).sort((p, q) => p - q)).toEqual([
    expect.closeTo(4, 9),
    expect.closeTo(30, 9),
  ]);
});

async function drawnNothing(p: Page): Promise<void> {
  await p.waitForSelector('header >> text="Blank…"');
}

test("many parts leave from the Shelf at once, each as often as it is wanted", async () => {
  await page.goto(bench.base);
  await page.click('text="Choose"');
  await page.click('[aria-label="Choose Battery tray"]');
  await page.click('[aria-label="Choose Guy wire eye"]');
  const quantity = '[aria-label="How many of Guy wire eye"]';
  await page.click(quantity);
  await page.keyboard.type("12", { delay: 40 });
  for (const wrong of ["0", "1e16", "two"]) {
    await page.keyboard.press("Control+a");
    await page.keyboard.type(wrong);
    expect(await page.getAttribute(quantity, "aria-invalid"), wrong).toBe("true");
  }
  await page.keyboard.press("Control+a");
  await page.keyboard.type("12", { delay: 40 });
  await page.keyboard.press("Enter");
  expect(await said("[data-chosen]")).toBe("2 parts, 13 pieces");
  await page.click('text="Export…"');
  const pattern = '[aria-label="Pattern of file names"]';
  await page.click(pattern);
  await page.keyboard.press("Control+a");
  await page.keyboard.type("{part}-{sort}", { delay: 10 });
  await page.waitForSelector("text=There is no {sort}");
  expect(await page.isEnabled("[data-export]")).toBe(false);
  await page.keyboard.press("Control+a");
  await page.keyboard.type("{quantity} x {part}", { delay: 10 });
  const zip = await savedFile(page, () => page.click("[data-export]"));
  await page.waitForSelector('[data-export-state="ready"]');
  const files = unzipSync(new Uint8Array(zip.bytes));
  expect(Object.keys(files).sort()).toEqual([
    "1 x Battery tray.dxf",
    "12 x Guy wire eye.dxf",
    "cut list.csv",
    "proofs.txt",
  ]);
  await page.click('[role=dialog] >> text="Done"');
  await page.click('text="Export…"');
  await page.selectOption('[aria-label="As"]', "together");
  await page.selectOption('[aria-label="Stocks"]', "groups");
  const one = await savedFile(page, () => page.click("[data-export]"));
  const { entities } = new DxfParser().parseSync(one.text)!;
  expect(entities.filter((e) => e.layer === "OUTLINE").length).toBe(13);
});
