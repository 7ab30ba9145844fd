import type { Page } from "playwright-core";
import { Hand } from "./harness.ts";
import { opened } from "./opened.ts";
import { savedDxf } from "./saved-dxf.ts";

/** The inside of a field of a step, and of one of a profile's legs. */
export const field = (step: string, key: string) => `[data-step="${step}"] input[data-field="${key}"]`;
export const leg = (row: string, column: string) =>
  `[data-step="s1"] [data-row="${row}"] input[data-field="leg-${column}"]`;

/** The application for tests that make parts from nothing, by mouse and keyboard, and count what that takes. */
export async function fromNothing() {
  const { bench, page } = await opened({ demo: false, cards: false });
  return {
    page,
    newPart: async (): Promise<Hand> => {
      await page.goto(bench.base);
      const hand = new Hand(page);
      await hand.click("header >> text=New part");
      await page.waitForSelector("text=Nothing on the Bench yet");
      return hand;
    },
    hasBends: (n: number) => page.waitForSelector(`[data-drawer="bends"]:has-text("Bends ${n}")`),
    findings: () => findingsOf(page),
    /** The last action: the file. */
    finished: async (hand: Hand) => {
      hand.actions++;
      return savedDxf(page);
    },
  };
}

/** What the findings' tab says, once the shape stands and collisions have been looked for in it. */
async function findingsOf(page: Page): Promise<string> {
  await page.waitForSelector("[data-stale]", { state: "detached" });
  await page.waitForSelector("[data-looking]", { state: "detached" });
  return page.locator('[data-drawer="findings"]').innerText();
}
