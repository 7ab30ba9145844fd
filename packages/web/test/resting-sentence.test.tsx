import { buildPart, type PartDocument, plateLabels, platesOf, type StepDocument } from "@hillcrest/core";
import { describe, expect, test } from "vitest";
import { buildActions } from "../src/state/build-slice.ts";
import { partActions } from "../src/state/part-slice.ts";
import "../src/state/part-tools.ts";
import { store } from "../src/state/store.ts";
import { demoDocuments } from "./demo-documents.ts";
import { rowMarkup } from "./row-markup.tsx";

/** A row as markup, of a part that is open. */
function row(document: PartDocument, step: StepDocument, whole: boolean): string {
  store.dispatch(partActions.opened({ id: "p", revision: 1, document }));
  const build = buildPart(document);
  store.dispatch(buildActions.built({ part: "p", build, document, edit: {}, took: 1 }));
  const labels = new Map([
    ...plateLabels(document),
    ...platesOf(build.sheet).map((p) => [p.id, p.letter] as const),
  ]);
  return rowMarkup({
    step,
    number: 7,
    stock: build.stock,
    labels,
    outcome: build.steps.find((o) => o.id === step.id),
    units: document.units ?? "mm",
    last: true,
    whole,
  });
}

/** What is read in a row: values for their fields, without what is offered or worked out beside them. */
const words = (html: string): string =>
  html
    .replace(/<span class="num absolute[^>]*>7<\/span>/, "")
    .replace(/<span class="num text-quiet">.*?<\/span>/g, "")
    .replace(/<span data-note.*?<\/span>/g, "")
    .replace(/<span[^>]*data-grip.*?<\/span>/g, "")
    .replace(/<button[^>]*(data-pick-more|aria-label="Take)[^>]*>.*?<\/button>/g, "")
    .replace(/<input[^>]*>/g, (input) => {
      const said = (name: string) => input.match(new RegExp(` ${name}="([^"]*)"`))?.[1];
      return said("value") || said("placeholder") || "";
    })
    .replace(/<[^>]*>/g, "")
    .replaceAll("&amp;", "&")
    .replace(/[\s×▾]/g, "");

describe("a step that is out of sight", () => {
  test.each(demoDocuments)("of %s says what it says in sight, in words alone", (_, document) => {
    let dots = 0;
    for (const step of document.steps) {
      const resting = row(document, step, false);
      expect(resting).toContain("data-resting");
      expect(resting).not.toMatch(/<(input|button|select)/);
      // What a step stands on that is no edge, corner or plate is a few dots.
      const [before, ...after] = words(resting).split("…");
      const said = words(row(document, step, true));
      expect(said.startsWith(before), `${said} begins with ${before}`).toBe(true);
      let from = before.length;
      for (const part of after) {
        const at = said.indexOf(part, from);
        expect(at, `${said} has ${part}`).toBeGreaterThan(from);
        from = at + part.length;
      }
      expect(said.length, said).toBe(from);
      dots += after.length;
    }
    expect(dots).toBeLessThanOrEqual(document.steps.length);
  });
});
