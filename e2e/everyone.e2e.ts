import type { PartDocument } from "@hillcrest/core";
import axe from "axe-core";
import type { Page } from "playwright-core";
import { expect, test } from "vitest";
import { clickEdge, openPart } from "./harness.ts";
import { opened } from "./opened.ts";

// Everything that can be looked at, by day and by night: nothing that WCAG 2.2 A or AA forbids.
const { bench } = await opened();

interface Violation {
  readonly id: string;
  readonly where: readonly string[];
}

/** What is wrong on the page as it stands, each with the first elements that it is wrong of. */
async function violations(page: Page): Promise<Violation[]> {
  // A colour that is still fading is none of the page's.
  await page.evaluate(() =>
    Promise.all(document.getAnimations().map((a) => a.finished.catch(() => undefined))),
  );
  await page.evaluate(axe.source);
  return page.evaluate(async () => {
    const rules = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22a", "wcag22aa"];
    const { violations: found } = await (window as unknown as { axe: { run: typeof axe.run } }).axe.run(
      document,
      { runOnly: rules },
    );
    return found.map((v) => ({
      id: v.id,
      where: v.nodes.slice(0, 4).map((n) => `${n.html.slice(0, 140)} — ${n.any[0]?.message ?? ""}`),
    }));
  });
}

/** An editor of the stock: of one item, or of the first of a section. */
async function editing(page: Page, at: string): Promise<void> {
  await page.goto(`${bench.base}/stock/${at}`);
  if (!at.includes("/")) await page.locator("[data-item]").first().click();
  await page.waitForSelector("[data-editor]");
}

/** The places of the application, each brought about as a person would. */
const PLACES: Readonly<Record<string, (page: Page) => Promise<unknown>>> = {
  "the Shelf": async (page) => {
    await page.goto(bench.base);
    await page.waitForSelector('[data-part="Battery tray"]');
  },
  "the Bench with a step open": async (page) => {
    await openPart(page, bench.base, "Battery tray");
    await page.click('[data-step="s2"]', { position: { x: 12, y: 12 } });
  },
  "a picked edge": async (page) => {
    await page.keyboard.press("Escape");
    await clickEdge(page, "s4a.end");
    await page.waitForSelector("[data-pick-card]");
  },
  "adding a step": async (page) => {
    await page.keyboard.press("Escape");
    await page.click('button:has-text("Add a step")');
    await page.waitForSelector("[data-add=flange]");
  },
  "the bend list": async (page) => {
    await page.keyboard.press("Escape");
    await page.click('[data-drawer="bends"]');
    await page.waitForSelector('[data-bend="1"]');
  },
  "why a number is so": async (page) => {
    await page.click('[data-bend="1"] button:has-text("3.35")');
    await page.waitForSelector("[data-why]");
  },
  "the findings": async (page) => {
    await page.keyboard.press("Escape");
    await page.click('[data-drawer="findings"]');
  },
  "the named values": async (page) => page.click('[data-drawer="values"]'),
  measuring: async (page) => page.click('[data-drawer="measure"]'),
  "the stock of a part": async (page) => {
    await page.click("[data-stock]");
    await page.waitForSelector("[role=dialog]");
  },
  "what goes into the file": async (page) => {
    await page.keyboard.press("Escape");
    await page.click(`[aria-label="The file's proof, and other files"]`);
    await page.waitForSelector("[data-proof]");
  },
  "the blank": async (page) => {
    await page.keyboard.press("Escape");
    await page.click('header >> text="Blank…"');
    await page.waitForSelector("[data-proof]");
  },
  "a dimension being picked": async (page) => {
    await page.keyboard.press("d");
    await page.waitForSelector("[data-end]", { state: "attached" });
  },
  "what has left": async (page) => {
    await page.keyboard.press("Escape");
    await page.click('[data-drawer="exports"]');
  },
  "the layers of a file": async (page) => {
    await page.click('text="Layers…"');
    await page.waitForSelector("[role=dialog]");
  },
  printing: async (page) => {
    await page.keyboard.press("Escape");
    await page.click('text="Print…"');
    await page.waitForSelector("[data-print-plan]");
  },
  "parts being chosen": async (page) => {
    await page.goto(bench.base);
    await page.click('text="Choose"');
    await page.click('[aria-label="Choose Battery tray"]');
  },
  "how they leave": async (page) => {
    await page.click('text="Export…"');
    await page.waitForSelector("[role=dialog]");
  },
  "the Stock": async (page) =>
    page.goto(`${bench.base}/stock`).then(() => page.waitForLoadState("networkidle")),
  "a bend chart": (page) => editing(page, "charts/ridge-brake"),
  "what a changed chart would do": async (page) => {
    for (const row of await page.locator("[data-table] [data-row]").all()) {
      const cell = row.locator("input").last();
      await cell.fill(String(Number(await cell.inputValue()) + 0.02));
    }
    await page.click("[data-save]");
    await page.waitForSelector("[data-impact]");
  },
  "rows to be pasted, and what is wrong with them": async (page) => {
    await page.keyboard.press("Escape");
    await page.click('button:has-text("Paste or import")');
    await page.fill('textarea[aria-label="Rows"]', "1,5\tx");
    await page.click("[data-take-rows]");
    await page.waitForSelector("[data-row-problems]");
  },
  "test bends": (page) => editing(page, "testBends"),
  "a stock card": (page) => editing(page, "cards"),
  "a die": (page) => editing(page, "dies"),
  "a material": (page) => editing(page, "materials"),
  thicknesses: (page) => editing(page, "gauges"),
  "the history of a part": async (page) => {
    await openPart(page, bench.base, "Mast bracket");
    await page.click('[aria-label="History"]');
    await page.waitForSelector('[data-looked] [aria-label="Folded"] svg');
  },
  "a part saved elsewhere too": async (page) => {
    await openPart(page, bench.base, "Cable cover");
    const address = page.url().replace("/parts/", "/api/parts/");
    const { document, revision } = (await (await fetch(address)).json()) as {
      document: PartDocument;
      revision: number;
    };
    const [first, ...rest] = document.steps;
    const answer = await fetch(address, {
      method: "PUT",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({
        document: { ...document, steps: [{ ...first, width: String(251 + revision) }, ...rest] },
        revision,
      }),
    });
    expect(answer.status).toBe(200);
    await page.fill('[data-step="s1"] input[data-field="width"]', "249");
    await page.waitForSelector("[role=dialog] >> text=saved elsewhere too");
  },
  "the Bend study": async (page) =>
    page.goto(`${bench.base}/study`).then(() => page.waitForLoadState("networkidle")),
  "a part that is not there": async (page) => {
    await page.goto(`${bench.base}/parts/nowhere`);
    await page.waitForLoadState("networkidle");
  },
};

for (const theme of ["light", "dark"] as const)
  test(`no page, drawer or dialog shuts anybody out, ${theme}`, async () => {
    const page = await bench.newPage({ theme });
    const wrong: Record<string, Violation[]> = {};
    for (const [place, go] of Object.entries(PLACES)) {
      await go(page);
      const found = await violations(page);
      if (found.length > 0) wrong[place] = found;
    }
    expect(wrong).toEqual({});
    await page.context().close();
  });
