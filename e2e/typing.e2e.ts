import {
  type FieldSpec,
  newPart,
  type PartDocument,
  STEP_KINDS,
  type StepDocument,
  type StepKind,
} from "@hillcrest/core";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { atRest, clickEdge, isSaved, settled } from "./harness.ts";
import { opened } from "./opened.ts";

const { bench, page } = await opened({ demo: false, cards: false });

const PLATE: StepDocument = { id: "s1", kind: "plate", width: "120", depth: "80" };
const FLANGE: StepDocument = {
  id: "s2",
  kind: "flange",
  edges: [{ key: "a", at: "s1.north" }],
  length: "30",
};
const PICKS: Readonly<Record<string, string>> = {
  edge: "s1.south",
  corner: "s1.east+south",
  bend: "s2a",
  plate: "s1",
  step: "s2",
};

const quantities = (fields: readonly FieldSpec[], raw: Record<string, unknown>) => {
  const choices = Object.fromEntries(
    fields.flatMap((f) => (f.kind === "choice" ? [[f.key, String(raw[f.key] ?? f.default)]] : [])),
  );
  return fields.filter((f) => f.kind === "quantity" && (f.shown?.(choices) ?? true)).map((f) => f.key);
};

/** Steps of a kind that between them show every field it has, each field named once. */
function variantsOf(kind: StepKind): { step: StepDocument; keys: readonly string[] }[] {
  const picks = Object.fromEntries(
    kind.fields.flatMap((f) => (f.kind === "picks" ? [[f.key, [{ key: "a", at: PICKS[f.of] }]]] : [])),
  );
  const rows = Object.fromEntries(
    kind.fields.flatMap((f) =>
      f.kind === "rows" && f.noun === "leg" ? [[f.key, [{ key: "a", length: "30", turn: "0" }]]] : [],
    ),
  );
  const done = new Set<string>();
  const out: { step: StepDocument; keys: readonly string[] }[] = [];
  const take = (values: Record<string, unknown>) => {
    const keys = quantities(kind.fields, values).filter((k) => !done.has(k));
    for (const k of keys) done.add(k);
    const id = `s${out.length + 3}`;
    // Only the first is built as it is typed into: all of them together would be no part.
    const paused = out.length > 0 ? { paused: true } : {};
    if (keys.length > 0)
      out.push({ step: { id, kind: kind.kind, ...picks, ...rows, ...values, ...paused }, keys });
  };
  take({});
  for (const f of kind.fields)
    if (f.kind === "choice") for (const { value } of f.options) take({ [f.key]: value });
  // Some are shown by two choices together.
  const options = kind.fields.flatMap((f) =>
    f.kind === "choice" ? [f.options.map(({ value }) => ({ [f.key]: value }))] : [],
  );
  options.forEach((ones, k) => {
    for (const others of options.slice(k + 1))
      for (const one of ones) for (const other of others) take({ ...one, ...other });
  });
  const all = kind.fields.filter((f) => f.kind === "quantity").map((f) => f.key);
  expect([...done].sort(), `fields of ${kind.kind} that no choice shows`).toEqual(all.sort());
  return out;
}

async function put(document: PartDocument): Promise<string> {
  const answer = await fetch(`${bench.base}/api/parts`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ document }),
  });
  expect(answer.status).toBe(201);
  return ((await answer.json()) as { id: string }).id;
}

const showOnly = async (views: string) => {
  // Beside the application, which would write down its own.
  await page.goto(`${bench.base}/api/openapi.json`);
  await page.evaluate((v) => localStorage.setItem("hillcrest:view", JSON.stringify({ views: v })), views);
};

const stored = async (id: string): Promise<PartDocument> =>
  ((await (await fetch(`${bench.base}/api/parts/${id}`)).json()) as { document: PartDocument }).document;

/** Clicks a thing in the steps column where it stands right now, as a hand does, without waiting for frames. */
async function point(selector: string, at?: { x: number; y: number }): Promise<void> {
  const place = await page.locator(selector).evaluate((e) => {
    e.scrollIntoView({ block: "nearest" });
    const { x, y, width, height } = e.getBoundingClientRect();
    return { x, y, width, height };
  });
  await page.mouse.click(place.x + (at?.x ?? place.width / 2), place.y + (at?.y ?? place.height / 2));
}

/** Types into a field as a person does: a click, then one key after another. Returns what stands there. */
async function typeInto(selector: string, text: string, delay: number): Promise<string> {
  const focused = () => page.locator(selector).evaluate((e) => e === document.activeElement);
  await point(selector);
  if (!(await focused())) {
    // A sentence that says what is wrong came while the hand was on its way: somebody who sees that clicks once more.
    await page.waitForSelector("[data-looking]", { state: "detached" });
    await point(selector);
  }
  await page.keyboard.type(text, { delay });
  const input = page.locator(selector);
  expect(await input.evaluate((e) => e === document.activeElement), `${selector} lost the focus`).toBe(true);
  return input.inputValue();
}

/** Every field of every kind is typed into where PROPERTY_RUNS asks for all; else those of a kind's first step, and of one more. */
const ALL = process.env.PROPERTY_RUNS === "full";
const sampled = <T>(variants: readonly T[], nth: number): readonly T[] =>
  ALL ? variants : variants.filter((_, i) => i === 0 || i === 1 + (nth % (variants.length - 1)));

describe.each(
  STEP_KINDS.map((k, nth) => [k.kind, k, nth] as const),
)("typing into a %s step", (name, kind, nth) => {
  // Only the blank is shown: 1 and 2 as keys of the views would bring the folded part back, and it draws slowly.
  beforeAll(() => showOnly("blank"));
  afterAll(() => showOnly("both"));
  const ways = [
    ["mm", "4.1325", 0],
    ["in", "1.1325", 25],
  ] as const;
  const slow = ["plate", "flange", "jog", "profile"].includes(name);
  test.each(
    slow ? ways : ways.slice(0, 1),
  )("of a part in %s keeps every key, and gives none to the views", async (units, text, delay) => {
    const variants = sampled(variantsOf(kind), nth);
    const steps = [PLATE, FLANGE, ...variants.map((v) => v.step)];
    const id = await put({ ...newPart(`Typing ${kind.kind} ${units}`), units, steps });
    await page.goto(`${bench.base}/parts/${id}`);
    await page.waitForSelector(`[data-step="${steps[steps.length - 1].id}"]`);
    for (const { step, keys } of variants) {
      await settled(page);
      // What is found last makes rows higher: a click is meant for where they stand then.
      await page.waitForSelector("[data-looking]", { state: "detached" });
      await point(`[data-step="${step.id}"]`, { x: 12, y: 12 });
      await page.waitForSelector(`[data-step="${step.id}"] [aria-label^="Remove step"]`);
      for (const key of keys) {
        const selector = `[data-step="${step.id}"] input[data-field="${key}"]`;
        expect(await typeInto(selector, text, delay), `${step.id} ${key}`).toBe(text);
        await page.keyboard.press("Enter");
      }
    }
    await isSaved(page);
    const saved = await stored(id);
    for (const { step, keys } of variants)
      for (const key of keys) {
        const field = kind.fields.find((f) => f.key === key)!;
        const length = field.kind === "quantity" && field.dimension === "length";
        const now = saved.steps.find((s) => s.id === step.id)![key];
        expect(now, `${step.id} ${key}`).toBe(length && units === "in" ? `${text} in` : text);
      }
    await page.waitForSelector('[data-view="blank"]');
    expect(await page.locator('[data-view="folded"]').count()).toBe(0);
    expect(await page.locator("[data-step]").count()).toBe(steps.length);
  });
});

describe("focus and keys", () => {
  beforeAll(async () => {
    const id = await put({ ...newPart("Keys"), steps: [PLATE, FLANGE] });
    await page.goto(`${bench.base}/parts/${id}`);
    await page.waitForSelector('[data-step="s2"]');
    await page.waitForSelector('[data-view="blank"] [data-edge="s1.south"]', { state: "attached" });
  });
  const focused = () =>
    page.evaluate(() => {
      const { activeElement: at } = document;
      return `${at?.closest<HTMLElement>("[data-step]")?.dataset.step ?? ""} ${at?.closest<HTMLElement>("[data-field]")?.dataset.field ?? ""}`;
    });
  const shown = async (view: string) => (await page.locator(`[data-view="${view}"]`).count()) === 1;

  test("a value that is emptied and typed anew stays in its place", async () => {
    await page.click('[data-step="s2"]', { position: { x: 12, y: 12 } });
    const radius = '[data-step="s2"] input[data-field="radius"]';
    await page.click(radius);
    await page.keyboard.type("4.2");
    await page.keyboard.press("Enter");
    await page.click(radius);
    await page.keyboard.press("Control+a");
    await page.keyboard.press("Backspace");
    await page.keyboard.type("3.1", { delay: 40 });
    expect(await page.locator(radius).inputValue()).toBe("3.1");
    await page.keyboard.press("Tab");
    expect(await focused()).toMatch(/^s2/);
  });

  test("while a step is open letters and digits are not keys of the views", async () => {
    await page.locator('[data-step="s2"] input[data-field="length"]').press("Enter");
    expect(await focused()).toMatch(/^s2/);
    for (const key of ["1", "3", "b", "l", "t"]) await page.keyboard.press(key);
    expect(await shown("blank")).toBe(true);
    expect(await shown("folded")).toBe(true);
    expect(await page.locator('[data-drawer="bends"]').getAttribute("aria-expanded")).toBe("false");
  });

  test("a click on a view hands the keys to the views", async () => {
    await clickEdge(page, "s1.south");
    await page.keyboard.press("Escape");
    await page.keyboard.press("3");
    expect(await shown("folded")).toBe(false);
    await page.keyboard.press("2");
    expect(await shown("folded")).toBe(true);
  });

  test("keys still work after a checkbox was ticked", async () => {
    await page.keyboard.press("b");
    await page.click('[aria-label="Show bend 1 flat"]');
    await page.keyboard.press("3");
    expect(await shown("folded")).toBe(false);
    await page.keyboard.press("2");
    await page.click('[aria-label="Show bend 1 flat"]');
    await page.keyboard.press("b");
  });

  test("a step added with the mouse or the keyboard has the focus in its first value, and typing fills it", async () => {
    await clickEdge(page, "s1.south");
    await page.click('[data-pick-card] [data-action="Flange"]');
    expect(await focused()).toBe("s3 length");
    await page.keyboard.type("33.25");
    expect(await page.locator('[data-step="s3"] input[data-field="length"]').inputValue()).toBe("33.25");
    await page.keyboard.press("Escape");
    await page.keyboard.press("Escape");
    await clickEdge(page, "s1.east");
    await page.click('button:has-text("Add a step")');
    await page.click('[data-add="hem"]');
    expect(await focused()).toBe("s4 length");
    await page.keyboard.type("11.5");
    expect(await page.locator('[data-step="s4"] input[data-field="length"]').inputValue()).toBe("11.5");
    await page.keyboard.press("Escape");
    await page.keyboard.press("Escape");
    await page.focus('button:has-text("Add a step")');
    await page.keyboard.press("Enter");
    await page.focus('[data-add="flange"]');
    await page.keyboard.press("Enter");
    expect(await focused()).toBe("s5 edges");
    await page.keyboard.press("Enter");
    expect(await focused()).toBe("s5 length");
  });

  test("Escape closes Add a step, a row of choices, picking, and a measurement that waits", async () => {
    await page.keyboard.press("Escape");
    await page.keyboard.press("Escape");
    await page.click('button:has-text("Add a step")');
    await page.waitForSelector("[data-add]");
    await page.keyboard.press("Escape");
    await page.waitForSelector("[data-add]", { state: "detached" });

    await page.click('[data-step="s3"] [data-field="place"]');
    await page.waitForSelector("[role=option]");
    await page.keyboard.press("Escape");
    await page.waitForSelector("[role=option]", { state: "detached" });
    await expect.poll(focused).toBe("s3 place");

    await page.click('[data-step="s3"] [data-pick-more]');
    await page.waitForSelector("text=Done (Enter)");
    await page.keyboard.press("Escape");
    await page.waitForSelector("text=Done (Enter)", { state: "detached" });
    expect(await page.locator('[data-step="s3"] [data-list]').count()).toBe(1);

    await page.click('[data-drawer="measure"]');
    await clickEdge(page, "s1.west");
    await page.waitForSelector("text=And to what?");
    await page.keyboard.press("Escape");
    await page.waitForSelector("text=Click two things");
    await page.click('[data-drawer="measure"]');
  });

  test("a click into a field takes its value whole, also where the focus was before, and the next sets the cursor", async () => {
    const id = await put({ ...newPart("Clicks"), steps: [PLATE] });
    await page.goto(`${bench.base}/parts/${id}`);
    await clickEdge(page, "s1.south");
    await page.keyboard.press("f");
    const length = page.locator('[data-step] input[data-field="length"]:focus');
    await length.waitFor();
    const step = await length.evaluate((e) => e.closest<HTMLElement>("[data-step]")!.dataset.step);
    const selector = `[data-step="${step}"] input[data-field="length"]`;
    const end = { x: 3, y: 6 };
    await point(selector, end);
    await page.keyboard.type("31");
    expect(await page.inputValue(selector)).toBe("31");
    // A second click is meant for a place in the text.
    await point(selector, end);
    await page.keyboard.press("Home");
    await page.keyboard.type("2");
    expect(await page.inputValue(selector)).toBe("231");
    await point(selector);
    await page.keyboard.press("End");
    await page.keyboard.type(".5");
    expect(await page.inputValue(selector)).toBe("231.5");
    await page.keyboard.press("Escape");
  });
});

describe("what is found above, while somebody is at a row further down", () => {
  const top = (selector: string) => page.locator(selector).evaluate((e) => e.getBoundingClientRect().top);
  const field = '[data-step="s6"] input[data-field="radius"]';
  const said = '[data-step="s2"] p:has-text("from the tangent line of bend")';
  /** Openings that are clear of the bend until the radius of the flange is large: then their rows, above its own, say so. */
  const open = async () => {
    const cut = (id: string, x: string, y = "26"): StepDocument => ({
      ...{ id, kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round" },
      ...{ diameter: "6", x, y },
    });
    const walls = ["s1.south", "s1.east", "s1.west"].map(
      (at, i): StepDocument => ({
        ...FLANGE,
        ...{ id: `s${7 + i}`, edges: [{ key: "a", at }], length: "12" },
      }),
    );
    const flange = { ...FLANGE, id: "s6" };
    const near = ["-45", "-15", "15", "45"].map((x, i) => cut(`s${2 + i}`, x));
    // So many that the column is scrolled, with what is found and without.
    const more = Array.from({ length: 8 }, (_, i) => cut(`s${10 + i}`, `${-40 + 11 * i}`, "-8"));
    const own = [PLATE, ...near, flange, ...walls, ...more];
    const id = await put({ ...newPart("Held"), steps: own });
    await page.setViewportSize({ width: 1280, height: 480 });
    await page.goto(`${bench.base}/parts/${id}`);
    await page.waitForSelector('[data-step="s17"]');
    await settled(page);
    await page.waitForSelector("[data-looking]", { state: "detached" });
    await point('[data-step="s6"]', { x: 12, y: 12 });
    await page.waitForSelector(field);
  };
  /** The wheel turns on for some pictures after the hand is still. */
  const scrolled = () => atRest(page, () => top('[data-step="s9"]'));
  beforeAll(() => showOnly("blank"));
  afterAll(async () => {
    await page.setViewportSize({ width: 1280, height: 800 });
    await showOnly("both");
  });

  test("the field that is typed into stays under the hand", async () => {
    await open();
    await point(field);
    expect(await page.locator(said).count()).toBe(0);
    const before = await top(field);
    // So much comes above it that it would be pushed out of sight.
    await page.keyboard.type("9", { delay: 40 });
    await page.waitForSelector(said);
    await settled(page);
    expect(Math.abs((await top(field)) - before)).toBeLessThan(1.5);
    // And when it is taken back, and no longer said.
    await page.keyboard.press("Backspace");
    await page.keyboard.type("2");
    await page.waitForSelector(said, { state: "detached" });
    await settled(page);
    expect(Math.abs((await top(field)) - before)).toBeLessThan(1.5);
    expect(await page.inputValue(field)).toBe("2");
  });

  test("also where the browser brings the field into sight before the rows are drawn, as it does at every key", async () => {
    await open();
    await point(field);
    const before = await top(field);
    const moved = await page.evaluate(async (selector) => {
      const typed = document.querySelector<HTMLElement>(selector)!;
      const more = document.createElement("div");
      more.style.height = "600px";
      const tops: number[] = [];
      for (const change of [
        () => document.querySelector('[data-step="s2"]')!.append(more),
        () => more.remove(),
      ]) {
        change();
        // A key is told after what the task before has left to do.
        await Promise.resolve();
        typed.scrollIntoView({ block: "nearest" });
        await new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn)));
        tops.push(typed.getBoundingClientRect().top);
      }
      return tops;
    }, field);
    for (const now of moved) expect(Math.abs(now - before)).toBeLessThan(1.5);
  });

  test("a list that was unfolded there stays where it is, and what is clicked in it is what is taken", async () => {
    await open();
    await point(field);
    await page.keyboard.type("9");
    await page.keyboard.press("Enter");
    // At once, before what the radius does is built and looked at.
    await page.click('[data-step="s6"] [data-field="place"]');
    const option = "[role=option] >> nth=0";
    await page.waitForSelector(option);
    const early = (await page.locator(said).count()) === 0;
    const before = await top(option);
    await page.waitForSelector(said);
    await settled(page);
    const after = await top(option);
    expect(after).toBeGreaterThan(0);
    expect(after).toBeLessThan(480);
    // Where it was unfolded before that was found, it has not moved.
    if (early) expect(Math.abs(after - before)).toBeLessThan(1.5);
    await page.click(option);
    await page.waitForSelector("[role=option]", { state: "detached" });
  });

  test("whoever has scrolled on, and is at no row, reads on where the eyes are", async () => {
    await open();
    await point(field);
    await page.keyboard.type("9");
    await page.keyboard.press("Enter");
    await page.waitForSelector(said);
    // Beside the rows: nothing there takes the focus, and none of them keeps it.
    await page.click('[aria-label="Steps"] header');
    expect(await page.evaluate(() => document.activeElement?.closest("[data-step]"))).toBeNull();
    const last = '[data-step="s9"]';
    await settled(page);
    const { x, y } = (await page.locator('[aria-label="Steps"]').boundingBox())!;
    await page.mouse.move(x + 100, y + 200);
    // Past all that changes, and not so far that too little would be left above.
    await page.mouse.wheel(0, 1060);
    await scrolled();
    const before = await top(last);
    await page.keyboard.press("Control+z");
    await page.waitForSelector(said, { state: "detached" });
    await settled(page);
    expect(Math.abs((await top(last)) - before)).toBeLessThan(1.5);
  });
});
