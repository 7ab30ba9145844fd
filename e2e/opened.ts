import type { Page } from "playwright-core";
import { afterAll } from "vitest";
import { type Bench, openBench, withoutCards } from "./harness.ts";

/**
 * The application for the tests of one file, with a first page: opened at once, closed after the last
 * test. Without `cards`, parts made anew say their own values.
 */
export async function opened({
  demo = true,
  cards = true,
} = {}): Promise<{ readonly bench: Bench; readonly page: Page }> {
  const bench = await openBench({ demo });
  afterAll(() => bench.close());
  if (!cards) await withoutCards(bench.base);
  return { bench, page: await bench.newPage() };
}
