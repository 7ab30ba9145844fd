import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import {
  type BendChart,
  type CardSnapshot,
  type ChartRow,
  examinePart,
  itemOf,
  STOCK_SECTIONS,
  type StockCard,
  type StockItem,
  type StockLibrary,
  type StockSection,
} from "@hillcrest/core";
import {
  addDemoParts,
  addDemoStock,
  type CardChange,
  closeDatabase,
  type ImpactLine,
  openDatabase,
  type PartBehind,
  type PartEntry,
  PartService,
  type StockEntry,
  StockService,
  type StoredPart,
  type TakeOverState,
} from "@hillcrest/server";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { demo, type RunningServer, runServer } from "./running-server.ts";

const folder = mkdtempSync(join(tmpdir(), "hillcrest-stock-"));
const file = join(folder, "stock.sqlite");
let api: RunningServer;
const start = async () => {
  api = await runServer(file, async (source) => {
    const stock = new StockService(source);
    if (!(await stock.isEmpty())) return;
    await addDemoStock(stock, demo);
    await addDemoParts(new PartService(source), demo);
  });
};
const close = () => api.close();
const ask = <T = unknown>(method: string, path: string, body?: unknown) => api.ask<T>(method, path, body);

beforeAll(start);
afterAll(async () => {
  await close();
  rmSync(folder, { recursive: true });
});

const entry = async <T extends StockItem>(section: StockSection, id: string) =>
  (await ask<StockEntry & { item: T }>("GET", `/stock/${section}/${id}`)).body;
const library = async () => (await ask<StockLibrary>("GET", "/stock/library")).body;
const partOf = async (name: string) => {
  const { id } = (await ask<PartEntry[]>("GET", "/parts")).body.find((p) => p.name === name)!;
  return (await ask<StoredPart>("GET", `/parts/${id}`)).body;
};

type Reckoned = PartBehind & Pick<CardChange, "before" | "after" | "allowance">;

/** What an impact tells: first the parts, then each with its numbers. */
async function impactOf(body: object): Promise<{ parts: readonly PartBehind[]; reckoned: Reckoned[] }> {
  const answer = await fetch(`http://127.0.0.1:${api.port}/api/stock/impact`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify(body),
  });
  expect(answer.headers.get("content-type")).toContain("application/x-ndjson");
  const [first, ...rest] = (await answer.text())
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line) as ImpactLine);
  if (!("parts" in first)) throw new Error("the parts were expected first");
  const reckoned = rest.map((line) => {
    if ("parts" in line || "problem" in line) throw new Error("numbers were expected");
    return { ...first.parts.find((p) => p.id === line.id)!, ...line };
  });
  return { parts: first.parts, reckoned };
}

/** The shop's own chart with another K where the battery tray stands. */
async function changedChart(k: number): Promise<{ revision: number; item: BendChart }> {
  const { revision, item } = await entry<BendChart>("charts", "ridge-brake");
  if (item.rule.method !== "table") throw new Error("a table was expected");
  const rows = item.rule.rows.map(
    (r): ChartRow => (r[0] === 1.5 && r[1] === 1.5 ? [r[0], r[1], r[2], k] : r),
  );
  return { revision, item: { ...item, rule: { ...item.rule, rows } } };
}

/** The demo parts of the card whose chart is changed. */
const USING = ["Battery tray", "Rain gauge hood, first draft", "Sensor shelter side", "Terminal cover"];

describe("changing what parts stand on", () => {
  test("says which parts it would change and by how much, and changes none of them", async () => {
    const before = await partOf("Battery tray");
    const { revision, item } = await changedChart(0.4);
    const { parts, reckoned } = await impactOf({ section: "charts", item });
    expect(parts.map((p) => p.name).sort()).toEqual(USING);
    expect(reckoned.map((p) => p.id)).toEqual(parts.map((p) => p.id));
    const tray = reckoned.find((p) => p.name === "Battery tray")!;
    // Two bends of 90° lie across the width, three across the height.
    const each = (Math.PI / 2) * 0.02 * 1.5;
    expect(tray.before.blank![0] - tray.after.blank![0]).toBeCloseTo(2 * each, 9);
    expect(tray.before.blank![1] - tray.after.blank![1]).toBeCloseTo(3 * each, 9);
    expect(tray.allowance).toBeCloseTo(each, 9);
    expect([tray.from, tray.to]).toEqual([1, 2]);
    expect((await ask("PUT", "/stock/charts/ridge-brake", { revision, item })).status).toBe(200);
    expect(await partOf("Battery tray")).toEqual(before);
  });

  test("raises the cards that use it, and parts take them over when asked to", async () => {
    expect((await entry("cards", "ridge-galvanised-1-5")).revision).toBe(2);
    expect((await entry("cards", "ridge-mild-3")).revision).toBe(1);
    const { reckoned: behind } = await impactOf({ card: "ridge-galvanised-1-5" });
    expect(behind.map((p) => p.name).sort()).toEqual(USING);
    expect((await impactOf({ card: "ridge-mild-3" })).parts).toEqual([]);
    // A change of something else stands behind none of them, though they are not up to date.
    const other = await entry<StockCard>("cards", "ridge-mild-3");
    const parts = (await impactOf({ section: "cards", item: { ...other.item, thickness: 3.2 } })).parts;
    expect(parts.filter((p) => USING.includes(p.name))).toEqual([]);
    expect(parts.length).toBeGreaterThan(0);
    const { id } = (await ask<TakeOverState>("POST", "/stock/take-over", { parts: behind.map((p) => p.id) }))
      .body;
    await expect
      .poll(async () => (await ask<TakeOverState>("GET", `/stock/take-over/${id}`)).body)
      .toMatchObject({ state: "finished", done: USING.length, skipped: 0 });
    const tray = await partOf("Battery tray");
    expect((tray.document.stock.card as CardSnapshot).revision).toBe(2);
    const build = examinePart(tray.document);
    const said = behind.find((p) => p.name === "Battery tray")!;
    expect(build.blank!.width).toBeCloseTo(said.after.blank![0], 9);
    expect(await impactOf({})).toEqual({ parts: [], reckoned: [] });
  });

  test("a stale save is told, and what is used is not removed", async () => {
    const { item } = await entry<BendChart>("charts", "ridge-brake");
    const stale = await ask<{ current: StockEntry }>("PUT", "/stock/charts/ridge-brake", {
      revision: 1,
      item,
    });
    expect(stale).toMatchObject({ status: 409, body: { current: { revision: 2 } } });
    const removed = await ask<{ detail: string }>("DELETE", "/stock/charts/ridge-brake");
    expect(removed.status).toBe(409);
    expect(removed.body.detail).toContain("Galvanised 1.5");
    expect((await ask("DELETE", "/stock/cards/ridge-stainless-1")).status).toBe(204);
    expect((await ask("GET", "/stock/cards/ridge-stainless-1")).status).toBe(404);
  });

  test("is there after the server was stopped and started again", async () => {
    const before = await library();
    await close();
    await start();
    expect(await library()).toEqual(before);
  });
});

describe("bad input is refused with its place, and nothing is kept", () => {
  const die = { id: "d", name: "D", v: 12, angle: 86, radius: 1, length: 500, mostForce: 100 };
  test.each([
    ["dies", { ...die, v: -1 }, "V-width: -1 mm must be more than 0 mm"],
    ["dies", { ...die, name: " " }, "Name is needed"],
    [
      "gauges",
      {
        id: "g",
        name: "G",
        note: "",
        rows: [
          { name: "a", thickness: 1 },
          { name: "a", thickness: 2 },
        ],
      },
      "Row 2, called",
    ],
    [
      "gauges",
      { id: "g", name: "G", note: "", rows: [1, 3, 2, 4].map((t) => ({ name: `${t}`, thickness: t })) },
      "Row 3, thickness: 2 stands after 3",
    ],
    [
      "charts",
      { id: "c", name: "C", note: "", reason: "", rule: { method: "one K", k: 1.2 } },
      "outside 0 to 1",
    ],
    ["cards", { id: "k" }, "Name"],
  ])("%s %j: %s", async (section, item, said) => {
    const { status, body } = await ask<{ detail: string }>(
      "PUT",
      `/stock/${section}/${(item as { id: string }).id}`,
      {
        revision: 0,
        item,
      },
    );
    expect(status).toBe(400);
    expect(body.detail).toContain(said);
    expect((await ask("GET", `/stock/${section}/${(item as { id: string }).id}`)).status).toBe(404);
  });

  test("a card may not refer to what is not there", async () => {
    const { item } = await entry("cards", "ridge-galvanised-1");
    const { status, body } = await ask<{ detail: string }>("PUT", "/stock/cards/new", {
      revision: 0,
      item: { ...item, id: "new", chart: "gone" },
    });
    expect(status).toBe(400);
    expect(body.detail).toContain("bend chart that is not there");
  });

  test("a library with one bad row is not taken in at all", async () => {
    const before = await library();
    const chart = before.charts[0] as BendChart;
    const bad = {
      ...before,
      materials: before.materials.map((m) => ({ ...m, density: 1 })),
      charts: [{ ...chart, rule: { ...chart.rule, rows: [[1, 1, 360, 0.4]] } }, ...before.charts.slice(1)],
    };
    const { status, body } = await ask<{ detail: string }>("POST", "/stock/library", { library: bad });
    expect(status).toBe(400);
    expect(body.detail).toContain("Row 1, angle");
    expect(await library()).toEqual(before);
  });
});

test("a library is exported and imported elsewhere as it was", async () => {
  const exported = await library();
  const other = await openDatabase(":memory:");
  const stock = new StockService(other);
  expect(await stock.take(exported)).toEqual({
    added: STOCK_SECTIONS.reduce((sum, s) => sum + exported[s].length, 0),
    replaced: 0,
  });
  expect(await stock.library()).toEqual(exported);
  expect(await stock.take(exported)).toEqual({ added: 0, replaced: 0 });
  // What a card stands on comes in changed: the card is another one by that, and says so.
  const dies = exported.dies.map((d) => ({ ...d, radius: d.radius + 0.1 }));
  expect(await stock.take({ ...exported, dies })).toEqual({ added: 0, replaced: dies.length });
  const revisions = async (id: string) => (await stock.read("cards", id))!.revision;
  expect(await revisions("ridge-galvanised-1-5")).toBe(2);
  await closeDatabase(other);
});

test("a chart of a hundred thousand rows is kept, listed short and read whole", async () => {
  const rows = Array.from(
    { length: 100_000 },
    (_, i): ChartRow => [0.5 + Math.floor(i / 1000) * 0.01, 0.1 + (i % 1000) * 0.01, 90, 0.4],
  );
  const item: BendChart = {
    id: "huge",
    name: "Huge",
    note: "",
    starting: false,
    reason: "",
    rule: {
      method: "table",
      gives: "K",
      angleIs: "bend angle",
      deductionTo: "mould points",
      acrossThickness: false,
      rows,
    },
  };
  expect((await ask("PUT", "/stock/charts/huge", { revision: 0, item })).status).toBe(200);
  const short = (await ask<StockEntry[]>("GET", "/stock")).body.find((e) => e.item.id === "huge")!;
  expect([short.rows, (short.item as BendChart).rule]).toMatchObject([100_000, { rows: [] }]);
  expect((await entry<BendChart>("charts", "huge")).item).toEqual(item);
  expect(itemOf(await library(), "charts", "huge")).toEqual(item);
});

describe("a kept outline", () => {
  const outline = (width: number) => ({
    format: "hillcrest-outline",
    version: 1,
    name: "Lug",
    points: { a: [0, 0], b: [30, 0], c: [30, 20] },
    curves: [
      { id: "s", kind: "line", a: "a", b: "b" },
      { id: "e", kind: "line", a: "b", b: "c" },
      { id: "w", kind: "line", a: "c", b: "a" },
    ],
    relations: [{ id: "r1", kind: "level", of: ["s"] }],
    dimensions: [{ id: "d1", kind: "length", of: ["s"], value: width, name: "wide" }],
  });
  const item = (width: number) => ({ id: "lug", name: "Lug", note: "", outline: outline(width) });
  const put = (revision: number, what: unknown) =>
    ask<{ revision: number }>("PUT", "/stock/outlines/lug", { revision, item: what });

  test("is kept with its revision, and is in the library that leaves the shop", async () => {
    const saved = await put(0, item(30));
    expect(saved.status).toBe(200);
    expect(saved.body.revision).toBe(1);
    expect((await entry("outlines", "lug")).item).toEqual(item(30));
    expect((await put(1, item(45))).body.revision).toBe(2);
    const left = await library();
    expect(left.outlines.map((o) => o.outline.dimensions[0].value)).toEqual([45]);
    const back = await ask<{ added: number; replaced: number }>("POST", "/stock/library", { library: left });
    expect(back.status).toBe(200);
  });

  test("that someone else has changed meanwhile is refused, and one that is none is told by its place", async () => {
    const { revision } = await entry("outlines", "lug");
    expect((await put(revision - 1, item(50))).status).toBe(409);
    const wrong = await put(revision, { ...item(50), outline: { ...outline(50), points: { a: [0, 0] } } });
    expect(wrong.status).toBe(400);
    expect(JSON.stringify(wrong.body)).toContain("/outline/curves/0/b");
    expect((await put(revision, { ...item(50), outline: undefined })).status).toBe(400);
    expect((await entry("outlines", "lug")).revision).toBe(revision);
  });

  test("is removed, and the parts that have it keep their own", async () => {
    expect((await ask("DELETE", "/stock/outlines/lug")).status).toBeLessThan(300);
    expect((await ask("GET", "/stock/outlines/lug")).status).toBe(404);
    expect((await library()).outlines).toEqual([]);
  });
});
