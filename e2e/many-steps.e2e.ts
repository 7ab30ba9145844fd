import { newPart, type PartDocument, type StepDocument } from "@hillcrest/core";
import { beforeAll, expect, test } from "vitest";
import { atRest, drawn, frames, isSaved } from "./harness.ts";
import { opened } from "./opened.ts";

const { bench, page } = await opened({ demo: false, cards: false });

const MANY = 160;
const inches = (mm: number) => `${(mm / 25.4).toFixed(4)} in`;

const flange = (i: number): StepDocument => ({
  ...{ id: `s${i + 2}`, kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "0.8 in" },
  ...{ span: "width", width: "0.25 in", at: "left", shift: inches(i * 10 + 2) },
  // Sentences of several lengths, which take rows of several heights.
  ...(i % 3 === 0 ? { radius: "0.06 in" } : {}),
  ...(i === 78 ? { name: "The one in the middle" } : {}),
});

/** Some of the rows are higher with their fields than they are in words alone. */
const isScrews = (nth: number): boolean => nth > 61 && nth < 125 && nth % 4 === 3;
const screws = (i: number): StepDocument => ({
  ...{ id: `s${i + 2}`, kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round" },
  ...{
    sized: "clearance",
    thread: "M4",
    placed: "edge",
    edge1: [{ key: "a", at: "s1.south" }],
    off1: "0.3 in",
  },
  ...{ arranged: "edge", spaced: "evenly", count: "2", ends: inches(i * 4) },
});

const comb: PartDocument = {
  ...newPart("Comb"),
  units: "in",
  steps: [
    { id: "s1", kind: "plate", width: `${(MANY * 10) / 25.4} in`, depth: "2 in" },
    ...Array.from({ length: MANY - 1 }, (_, i) => (isScrews(i + 2) ? screws(i) : flange(i))),
  ],
};

let id = "";
const stored = async (): Promise<PartDocument> =>
  ((await (await fetch(`${bench.base}/api/parts/${id}`)).json()) as { document: PartDocument }).document;
const row = (nth: number) => page.locator(`[data-step="s${nth}"]`);
const field = (nth: number) => row(nth).locator('input[data-field="length"]');
const isResting = (nth: number) => row(nth).evaluate((e) => e.hasAttribute("data-resting"));
const column = page.locator('aside[aria-label="Steps"] > div').first();

/** Where a row stands in the window. */
const top = (nth: number) => row(nth).evaluate((e) => e.getBoundingClientRect().top);

/** Turns the wheel over the column until a row is in sight, as somebody does who looks for it. */
async function wheelTo(nth: number): Promise<void> {
  await page.mouse.move(1150, 500);
  for (let turns = 0; turns < 300; turns++) {
    const at = await top(nth);
    if (at > 90 && at < 700) break;
    await page.mouse.wheel(0, Math.max(-2500, Math.min(2500, at - 300)));
    await frames(page);
  }
  await standsStill(nth);
}

async function standsStill(nth: number): Promise<void> {
  await atRest(page, () => top(nth));
}

/** Clicks into a field where it stands, takes all of it and types. */
async function typeInto(nth: number, text: string): Promise<void> {
  const box = (await field(nth).boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await page.keyboard.press("ControlOrMeta+a");
  for (const key of text) await page.keyboard.press(key === " " ? "Space" : key, { delay: 40 });
}

async function show(document: PartDocument): Promise<void> {
  const made = await page.request.post(`${bench.base}/api/parts`, { data: { document } });
  ({ id } = (await made.json()) as { id: string });
  await page.goto(`${bench.base}/parts/${id}`);
  await drawn(page);
  await page.waitForSelector(`[data-step="s${MANY}"][data-state]`);
}

beforeAll(() => show(comb));

test("of hundreds of steps those near to sight have their fields; the others say the same in words alone", async () => {
  const seen = await column.evaluate((e) => {
    const rows = [...e.querySelectorAll("[data-step]")];
    const whole = rows.filter((r) => !r.hasAttribute("data-resting"));
    const resting = rows.filter((r) => r.hasAttribute("data-resting"));
    return {
      rows: rows.length,
      whole: whole.length,
      heaviest: Math.max(...resting.map((r) => r.querySelectorAll("*").length)),
      inputs: resting.reduce((sum, r) => sum + r.querySelectorAll("input, button").length, 0),
    };
  });
  expect(seen.rows).toBe(MANY);
  // Both ends of the column, and what is near to sight.
  expect(seen.whole).toBeLessThan(70);
  expect(seen.inputs).toBe(0);
  expect(seen.heaviest).toBeLessThanOrEqual(4);

  const words = (await row(80).innerText()).replace(/\s+/g, " ");
  expect(words).toMatch(/^80 The one in the middle Flange on A north, up 0\.8 to the outer mould point/);
  const before = (await row(81).innerText()).replace(/\s+/g, " ").replace(/^81 /, "");
  const high = await row(81).evaluate((e) => e.getBoundingClientRect().height);
  await wheelTo(81);
  expect(await isResting(81)).toBe(false);
  // The same words, with values in fields; what is offered beside them is no word of the sentence.
  const after = await row(81).evaluate((e) => {
    const copy = e.cloneNode(true) as HTMLElement;
    const inputs = [...e.querySelectorAll("input")];
    copy.querySelectorAll("input").forEach((input, i) => {
      input.replaceWith(inputs[i].value || inputs[i].placeholder);
    });
    for (const offer of copy.querySelectorAll("[data-pick-more], [data-grip]")) offer.remove();
    return copy.textContent!;
  });
  const letters = (text: string) => text.replace(/[\s×]/g, "");
  expect(letters(after).replace(/^81/, "")).toBe(letters(before));
  // And about as high: a line more or less at most.
  const now = await row(81).evaluate((e) => e.getBoundingClientRect().height);
  expect(Math.abs(now - high)).toBeLessThan(40);
});

test("what is typed key by key in the middle and at the end stands, and is taken back by undo", async () => {
  for (const nth of [77, MANY]) {
    await wheelTo(nth);
    await typeInto(nth, "7/8 + 0.05");
    expect(await field(nth).inputValue()).toBe("7/8 + 0.05");
    await page.keyboard.press("Enter");
    await isSaved(page);
    const lengths = (await stored()).steps.map((s) => s.length);
    expect(lengths[nth - 1]).toBe("in(7/8 + 0.05)");
    expect(lengths.filter((l) => l === "in(7/8 + 0.05)")).toHaveLength(1);
    await page.keyboard.press("ControlOrMeta+z");
    await page.waitForFunction(
      (n) =>
        document.querySelector<HTMLInputElement>(`[data-step="s${n}"] input[data-field="length"]`)?.value ===
        "0.8",
      nth,
    );
    await page.keyboard.press("Escape");
  }
});

test("who reads on, upwards or downwards, goes as far as the wheel was turned, while rows get their fields and grow", async () => {
  await wheelTo(110);
  for (const turn of [-2400, -1400, 1300, -1900]) {
    // What is in sight, and where, is read as the turn ends: a busy machine turns long after the wheel was sent.
    const seen = await column.evaluateHandle((e) => {
      const top = (row: Element) => row.getBoundingClientRect().top;
      const firstSeen = () =>
        [...e.querySelectorAll<HTMLElement>("[data-step]")].find((row) => top(row) > top(e) + 80)!;
      const before = firstSeen();
      const stood = top(before);
      const ended: { row?: { nth: number; top: number; turned: number } } = {};
      const look = () => {
        const row = firstSeen();
        ended.row = { nth: Number(row.dataset.step!.slice(1)), top: top(row), turned: top(before) - stood };
      };
      e.addEventListener("scrollend", look, { once: true });
      return ended;
    });
    await page.mouse.wheel(0, turn);
    await page.waitForFunction((ended) => ended.row, seen);
    const first = (await seen.jsonValue()).row!;
    // As far as the wheel was turned, and not what rows have grown by on the way.
    expect(Math.abs(first.turned + turn)).toBeLessThan(2);
    await page.waitForFunction(
      (n) => !document.querySelector(`[data-step="s${n}"][data-resting]`),
      first.nth,
    );
    await standsStill(first.nth);
    // The browser holds what is in sight to whole pixels.
    expect(Math.abs((await top(first.nth)) - first.top)).toBeLessThan(0.75);
  }
});

test("a field that is typed into keeps what is typed, and the cursor, while the column is scrolled far away", async () => {
  await wheelTo(60);
  await typeInto(60, "0.");
  await wheelTo(125);
  expect(await isResting(60)).toBe(false);
  await page.keyboard.press("9");
  expect(await field(60).inputValue()).toBe("0.9");
  await page.keyboard.press("Enter");
  await isSaved(page);
  expect((await stored()).steps[59].length).toBe("0.9 in");
  // Closed and left, far out of sight, it rests as others do.
  await page.keyboard.press("Escape");
  await wheelTo(25);
  await wheelTo(125);
  await page.waitForSelector('[data-step="s60"][data-resting]');
});

test("the Tab key goes on from field to field through rows that were out of sight", async () => {
  await wheelTo(18);
  const box = (await field(18).boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  const at = () =>
    page.evaluate(() =>
      Number(document.activeElement?.closest<HTMLElement>("[data-step]")?.dataset.step?.slice(1) ?? 0),
    );
  let last = await at();
  expect(last).toBe(18);
  for (let keys = 0; keys < 200 && last < 25; keys++) {
    await page.keyboard.press("Tab");
    const now = await at();
    // A mark between two rows is of neither.
    if (now === 0) continue;
    expect(now - last === 0 || now - last === 1, `from step ${last} to ${now}`).toBe(true);
    last = now;
  }
  expect(last).toBe(25);
});

test("a finding about a step far out of sight opens it, with the cursor in the value that it is about", async () => {
  const short = {
    ...comb,
    steps: comb.steps.map((s) => (s.id === "s90" ? { ...s, length: "0.08", radius: "1/" } : s)),
  };
  await show(short);
  await page.waitForSelector('[data-step="s90"] [role=alert]', { state: "attached" });
  expect(await isResting(90)).toBe(true);
  await page.click('button:has-text("Findings")');
  await page.locator("[data-finding]").first().click();
  await page.waitForSelector('[data-step="s90"] [data-list]');
  const at = await page.evaluate(() => [
    document.activeElement?.closest<HTMLElement>("[data-step]")?.dataset.step,
    (document.activeElement as HTMLElement).dataset.field,
  ]);
  expect(at).toEqual(["s90", "radius"]);
  const [box, all] = [await row(90).boundingBox(), await column.boundingBox()];
  expect(box!.y).toBeGreaterThanOrEqual(all!.y - box!.height);
  expect(box!.y).toBeLessThan(all!.y + all!.height);
  for (const key of "1/16") await page.keyboard.press(key, { delay: 40 });
  await page.keyboard.press("Enter");
  await isSaved(page);
  expect((await stored()).steps[89].radius).toBe("1/16 in");
});
