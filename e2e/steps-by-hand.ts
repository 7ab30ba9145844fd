import { newPart, type PartDocument, type StepDocument } from "@hillcrest/core";
import type { Locator, Page } from "playwright-core";
import { drawn, isSaved, savedFile, settled } from "./harness.ts";
import { saveByKey } from "./saved-dxf.ts";

/** What a person does to the steps of a part, by mouse and keys alone. */
export function stepsByHand(page: Page, base: string) {
  const step = (id: string): Locator => page.locator(`[data-step="${id}"]`);
  return {
    step,
    /** All that stands at a step. */
    note: (id: string): Promise<string> => step(id).innerText(),

    /** Opens a new part of some steps. */
    async show(name: string, values: Partial<PartDocument>, steps: readonly StepDocument[]): Promise<string> {
      const document: PartDocument = { ...newPart(name), ...values, steps };
      const made = await page.request.post(`${base}/api/parts`, { data: { document } });
      const { id } = (await made.json()) as { id: string };
      await page.goto(`${base}/parts/${id}`);
      await drawn(page);
      return id;
    },

    /** Chooses an option by mouse: of two the other, of more from what opens. */
    async choose(id: string, field: string, option: string): Promise<void> {
      // What the build says beside a field comes a moment later, and moves what stands below it.
      await settled(page);
      await step(id).locator(`[data-field="${field}"]`).click();
      await page.click(`[data-option="${option}"]`);
    },

    /** Types into a field as a person does: a click, all of it marked, key after key, Tab. */
    async type(id: string, field: string, text: string): Promise<void> {
      await settled(page);
      await step(id).locator(`input[data-field="${field}"]`).click();
      await page.keyboard.press("ControlOrMeta+a");
      await page.keyboard.type(text, { delay: 15 });
      await page.keyboard.press("Tab");
    },

    /** Presses on the blank, so far from the middle of its view. */
    async pressBlank(dx: number, dy: number): Promise<void> {
      const box = (await page.locator('[data-view="blank"]').boundingBox())!;
      await page.mouse.click(box.x + box.width / 2 + dx, box.y + box.height / 2 + dy);
    },

    /** The DXF as it leaves by its button. */
    async dxf(): Promise<string> {
      await isSaved(page);
      const { text } = await savedFile(page, () =>
        saveByKey(page, () => page.click('button:has-text("Save DXF")')),
      );
      return text;
    },
  };
}
