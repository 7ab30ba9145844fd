import { type CardSnapshot, cardOf, newPart, type PartDocument } from "@hillcrest/core";
import {
  addDemoStock,
  type BuildPool,
  closeDatabase,
  type ImpactLine,
  openDatabase,
  PartService,
  StockService,
  stockImpact,
} from "@hillcrest/server";
import { afterAll, beforeAll, expect, test } from "vitest";
import { demo } from "./running-server.ts";

const MANY = 60;
let source: Awaited<ReturnType<typeof openDatabase>>;
let [parts, stock]: [PartService, StockService] = [undefined!, undefined!];

beforeAll(async () => {
  source = await openDatabase(":memory:");
  [parts, stock] = [new PartService(source), new StockService(source)];
  await addDemoStock(stock, demo);
  const [card] = await stock.snapshots();
  const older = { ...card, thickness: card.thickness + 0.1 };
  for (let i = 0; i < MANY; i++) await parts.create(partOf(older, `Part ${i}`));
  await parts.create(partOf(card, "Up to date"));
});
afterAll(() => closeDatabase(source));

const partOf = (card: CardSnapshot, name: string): PartDocument => ({
  ...newPart(name),
  stock: { card } as PartDocument["stock"],
});

/** A pool that answers after a turn, out of order, and counts how often it was asked. */
function pool(answer: (nth: number) => unknown = () => ({ kind: "result", value: { allowance: 0 } })) {
  const counted = {
    asked: 0,
    cardChange: async () => {
      counted.asked++;
      const nth = counted.asked;
      await new Promise((done) => setTimeout(done, nth % 3));
      return answer(nth);
    },
  };
  return counted;
}
const told = (of: ReturnType<typeof pool>, signal = new AbortController().signal) =>
  stockImpact(parts, stock, of as unknown as BuildPool, { by: { client: "test", signal } });

test("the parts come first, then each in their order, though they are not reckoned in it", async () => {
  const of = pool();
  const lines: ImpactLine[] = [];
  for await (const line of told(of)) {
    lines.push(line);
    // Nothing is reckoned before the parts are told.
    if (lines.length === 1) expect(of.asked).toBe(0);
  }
  const [first, ...rest] = lines;
  if (!("parts" in first)) throw new Error("the parts were expected first");
  expect(first.parts.length).toBe(MANY);
  expect(rest.map((r) => "id" in r && r.id)).toEqual(first.parts.map((p) => p.id));
  expect(cardOf((await parts.read(first.parts[0].id))!.document.stock)?.revision).toBe(first.parts[0].from);
});

test("what nobody waits for any more is not reckoned to its end", async () => {
  const of = pool();
  const left = new AbortController();
  let lines = 0;
  for await (const _ of told(of, left.signal)) {
    lines++;
    if (lines === 3) left.abort();
  }
  expect(of.asked).toBeLessThan(10);
});

test("one that cannot be built has its reason; the others have their numbers", async () => {
  const of = pool((nth) =>
    nth === 2 ? { kind: "limit", message: "It takes longer than 20 s." } : { kind: "result", value: {} },
  );
  const problems: string[] = [];
  for await (const line of told(of)) if ("problem" in line) problems.push(line.problem);
  expect(problems).toEqual(["It takes longer than 20 s."]);
});
