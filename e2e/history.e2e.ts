import { applyCommands, newPart } from "@hillcrest/core";
import type { StoredPart, StoredRevision } from "@hillcrest/server";
import { expect, test } from "vitest";
import { frames, Hand, isSaved, settled } from "./harness.ts";
import { opened } from "./opened.ts";
import { savedDxf } from "./saved-dxf.ts";

// What was saved, seen and taken back.
const { bench, page } = await opened({ demo: false, cards: false });
const hand = new Hand(page);
const field = (step: string, key: string) => `[data-step="${step}"] input[data-field="${key}"]`;
const api = async <T>(path: string): Promise<T> =>
  (await fetch(`${bench.base}/api${path}`)).json() as Promise<T>;
const partId = () => /parts\/([^/]+)/.exec(page.url())![1];
const openStep = (id: string) => page.click(`[data-step="${id}"]`, { position: { x: 12, y: 12 } });

/** Waits until the last edit is on the server. */
async function arrived(): Promise<void> {
  await settled(page);
  await frames(page);
  await isSaved(page);
}

test("each save is told in words, looked at as it was, and taken back", async () => {
  await page.goto(bench.base);
  await hand.click("header >> text=New part");
  await page.waitForSelector("text=Nothing on the Bench yet");
  await hand.key("p");
  await hand.type("120");
  await hand.key("Tab");
  await hand.type("80");
  await hand.key("Enter");
  await arrived();
  await hand.edge("s1.north");
  await hand.key("f");
  await hand.type("25");
  await hand.key("Enter");
  await arrived();
  await openStep("s1");
  await hand.into(field("s1", "width"), "150");
  await hand.key("Enter");
  await arrived();
  const wide = await savedDxf(page);
  expect(wide.width).toBeCloseTo(150, 9);
  const id = partId();

  await hand.click('[aria-label="History"]');
  await page.waitForSelector("[data-revision]");
  const rows = await page.locator("[data-revision]").allInnerTexts();
  const said = rows.map((r) => r.split("\n").slice(1).join("; "));
  expect(said[0]).toBe("Plate 1: width 120 → 150");
  expect(said.some((words) => words.includes("Flange added"))).toBe(true);
  expect(said.at(-1)).toBe("Put on the Shelf");
  await page.waitForSelector("[data-looked] >> text=150.00 ×");
  expect(await page.locator("[data-take-back]").isDisabled()).toBe(true);
  // Down the list by the arrow key: as it was before the last edit.
  await page.focus("[data-revision][aria-current=true]");
  await page.keyboard.press("ArrowDown");
  await page.waitForSelector("[data-looked] >> text=120.00 ×");
  await page.waitForSelector('[data-looked] [aria-label="Folded"] svg');
  await page.fill("[data-revision-name]", "As ordered");
  await page.keyboard.press("Enter");
  await page.waitForSelector('[data-revision] >> text="As ordered"');
  await page.click("[data-take-back]");
  await page.waitForSelector('[data-size="blank"]:has-text("120.00 ×")');
  expect((await savedDxf(page)).width).toBeCloseTo(120, 9);

  await hand.click('[aria-label="History"]');
  await page.waitForSelector('[data-revision] >> text="Taken back to “As ordered”"');
  // What had been newest is there, too.
  await page.click('[data-revision]:has-text("width 120 → 150")');
  await page.waitForSelector("[data-looked] >> text=150.00 ×");
  await page.click('header a:has-text("New part")');
  await page.waitForSelector('[data-size="blank"]:has-text("120.00 ×")');

  // All commands from the first on, done again, make the part.
  const list = await api<{ number: number }[]>(`/parts/${id}/revisions`);
  let now = newPart("Nothing");
  for (const { number } of list.reverse()) {
    const { commands } = await api<StoredRevision>(`/parts/${id}/revisions/${number}`);
    const done = applyCommands(now, commands);
    if (!done.ok) throw new Error(done.error);
    now = done.value.document;
  }
  expect(now).toEqual((await api<StoredPart>(`/parts/${id}`)).document);
});

test("what is typed goes to the server as what it is, and undo as what takes it back", async () => {
  const id = partId();
  const sent: { commands: readonly unknown[] }[] = [];
  page.on("request", (r) => {
    if (r.method() === "PATCH") sent.push(r.postDataJSON());
  });
  await openStep("s1");
  await hand.into(field("s1", "depth"), "95");
  await hand.key("Enter");
  await arrived();
  expect(sent.map((s) => s.commands)).toEqual([[{ do: "set", step: "s1", values: { depth: "95" } }]]);
  await page.keyboard.press("Control+z");
  await arrived();
  expect(sent.at(-1)!.commands).toEqual([{ do: "patch", set: { s1: { depth: "80" } } }]);
  // Both keys in one go: pressed one after the other, on a busy machine the first is sent before the second comes.
  const [again, back] = await page.evaluate(async (depth) => {
    const press = async (key: string, shiftKey: boolean) => {
      (document.activeElement ?? document.body).dispatchEvent(
        new KeyboardEvent("keydown", { key, shiftKey, ctrlKey: true, bubbles: true, cancelable: true }),
      );
      await new Promise((drawn) => requestAnimationFrame(drawn));
      return document.querySelector<HTMLInputElement>(depth)!.value;
    };
    return [await press("Z", true), await press("z", false)];
  }, '[data-step="s1"] input[data-field="depth"]');
  expect([again, back]).toEqual(["95", "80"]);
  // Done again and taken back before it was sent: there is nothing to send, and the next edit is the next that goes.
  await arrived();
  await hand.into(field("s1", "depth"), "81");
  await hand.key("Enter");
  await arrived();
  expect(sent.slice(2).map((s) => s.commands)).toEqual([
    [{ do: "set", step: "s1", values: { depth: "81" } }],
  ]);
  const kept = await api<StoredPart>(`/parts/${id}`);
  expect(kept.document.steps[0].depth).toBe("81");
});

test("a history that is not there says so, and one that cannot be reached is looked for again", async () => {
  await page.goto(`${bench.base}/parts/nowhere/history`);
  await page.waitForSelector('[role="alert"]:has-text("There is no such part")');
  await page.goto(bench.base);
  await page.click("[data-part] a");
  await page.waitForSelector('[aria-label="History"]');
  await page.click('[aria-label="History"]');
  await page.waitForSelector("[data-revision]");
  await bench.stopServer();
  await page.locator("[data-revision]").last().click();
  await page.waitForSelector("[data-looked] >> text=It cannot be shown just now");
  await page.click("[data-take-back]");
  await page.waitForSelector('[role="alert"] >> text=Look again');
  await bench.startServer();
  await page.click("text=Look again");
  await page.waitForSelector('[role="alert"] >> text=Look again', { state: "detached" });
});
