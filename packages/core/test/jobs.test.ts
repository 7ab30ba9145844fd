import { readFileSync } from "node:fs";
import { serialize } from "node:v8";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  createExaminer,
  meshSheet,
  newPart,
  type Packet,
  type PartDocument,
  Receiver,
  readDocument,
  Sender,
} from "../src/index.ts";
import { withChange } from "./plain-parts.ts";
import { casesOf } from "./random-cases.ts";

/** What crosses between two threads is cloned. */
const crossed = <T>(value: T): T => structuredClone(value);

const demo = (name: string): PartDocument => {
  const read = readDocument(
    JSON.parse(readFileSync(new URL(`../../../demo/${name}.json`, import.meta.url), "utf8")),
  );
  if (!read.ok) throw new Error(name);
  return read.value;
};

describe("a result that is sent after another", () => {
  const tree = fc.letrec((tie) => ({
    leaf: fc.oneof(fc.integer(), fc.string(), fc.constant(null), fc.constant(undefined), fc.boolean()),
    node: fc.oneof(
      { depthSize: "small", withCrossShrink: true },
      tie("leaf"),
      fc.array(tie("node"), { maxLength: 5 }),
      fc.dictionary(fc.string({ minLength: 1, maxLength: 3 }), tie("node"), {
        maxKeys: 5,
        noNullPrototype: true,
      }),
    ),
  })).node as fc.Arbitrary<unknown>;

  test("arrives whole, however it is nested, time after time", () => {
    fc.assert(
      fc.property(fc.array(tree, { minLength: 1, maxLength: 5 }), (values) => {
        const [sender, receiver] = [new Sender(), new Receiver()];
        let last: unknown = [];
        for (const value of values) {
          // Each holds what the one before did, and something of its own.
          const root = { value, last, again: value };
          expect(receiver.unpack(crossed(sender.pack(root)))).toEqual(root);
          last = value;
        }
      }),
      { numRuns: casesOf(300) },
    );
  });

  test("has the keys that it was given, whatever they are called", () => {
    const [sender, receiver] = [new Sender(), new Receiver()];
    for (const text of ['{"__proto__":{"a":1},"b":2}', '{"__proto__":7,"constructor":[{"a":1}]}']) {
      const got = receiver.unpack<object>(crossed(sender.pack(JSON.parse(text))));
      expect(Object.entries(got).sort()).toEqual(Object.entries(JSON.parse(text)).sort());
      expect(Object.getPrototypeOf(got)).toBe(Object.prototype);
    }
  });

  test("is the very same object where nothing has changed, and another where something has", () => {
    const [sender, receiver] = [new Sender(), new Receiver()];
    const [a, b] = [{ at: [1, 2] }, { at: [3, 4] }];
    const first = receiver.unpack<{ list: object[] }>(crossed(sender.pack({ list: [a, b] })));
    const second = receiver.unpack<{ list: object[] }>(crossed(sender.pack({ list: [a, { at: [5, 6] }] })));
    expect(second.list[0]).toBe(first.list[0]);
    expect(second.list[1]).toEqual({ at: [5, 6] });
    // What was let go of comes again when it is wanted again.
    const third = receiver.unpack<{ list: object[] }>(crossed(sender.pack({ list: [b] })));
    expect(third.list[0]).toEqual(b);
  });

  /** How many records the other side has. */
  const recordsOf = (receiver: Receiver) =>
    (receiver as unknown as { records: Map<number, object> }).records.size;

  test("takes what it holds from both sides, however many there were", () => {
    const [sender, receiver] = [new Sender(), new Receiver()];
    const still = Array.from({ length: 50 }, (_, i) => ({ i }));
    for (let i = 0; i < 500; i++)
      receiver.unpack(crossed(sender.pack({ still, fresh: [{ a: { i } }, { b: { i } }] })));
    expect(recordsOf(receiver)).toBeGreaterThan(50);
    expect(recordsOf(receiver)).toBeLessThan(60);
    receiver.unpack(crossed(sender.pack({ none: true })));
    expect(recordsOf(receiver)).toBe(1);
  });

  test("a list with something that does not cross by itself goes as it is, and leaves nothing behind", () => {
    const [sender, receiver] = [new Sender(), new Receiver()];
    const list: unknown[] = Array.from({ length: 400 }, (_, i) => ({ i }));
    const send = (root: object) => receiver.unpack(crossed(sender.pack(root)));
    for (const odd of [7, "text", null, undefined]) {
      send({ list });
      for (const at of [0, 200, 399]) {
        const mixed = list.map((v, i) => (i === at ? odd : v));
        expect(send({ mixed })).toEqual({ mixed });
      }
      send({ none: true });
      expect(recordsOf(receiver)).toBe(1);
    }
  });
});

const numbersIn = ({ fresh }: Packet) => fresh.filter((f) => f.numbers).length;

test("a build says how far it is, step by step and then what else is done, and never goes back", () => {
  const said: [number, string][] = [];
  const document: PartDocument = {
    ...newPart("Part"),
    steps: [
      { id: "s1", kind: "plate", width: "100", depth: "60" },
      { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "20" },
    ],
  };
  createExaminer()(document, (share, doing) => said.push([share, doing]));
  expect(said.map(([, doing]) => doing)).toEqual([
    "Step 1 of 2",
    "Step 2 of 2",
    "Outlines and blank",
    "Checks",
  ]);
  const shares = said.map(([share]) => share);
  expect(shares).toEqual([...shares].sort((a, b) => a - b));
  expect(shares[0]).toBeGreaterThan(0);
  expect(shares.at(-1)).toBeLessThan(1);
});

describe("typed arrays", () => {
  test("are kept on the other side while something else is sent under another name", () => {
    const [sender, receiver] = [new Sender(), new Receiver()];
    const shape = { a: Float64Array.of(1, 2, 3) };
    receiver.unpack(crossed(sender.pack(shape, "build")));
    receiver.unpack(crossed(sender.pack({ text: "a file" })));
    const again = sender.pack({ again: shape }, "build");
    expect(numbersIn(again)).toBe(0);
    expect(receiver.unpack(crossed(again))).toEqual({ again: shape });
    // Under the same name the one lets go of the other, and it has to cross again.
    receiver.unpack(crossed(sender.pack({ none: true }, "build")));
    const last = sender.pack({ last: shape }, "build");
    expect(numbersIn(last)).toBe(1);
    expect(receiver.unpack(crossed(last))).toEqual({ last: shape });
  });

  test("cross once, and again when one number in them is another", () => {
    const [sender, receiver] = [new Sender(), new Receiver()];
    const floats = (last: number) => Float32Array.of(1, 2.5, -0, last);
    const send = (root: object) => {
      const packet = sender.pack(root);
      return { packet, got: receiver.unpack<{ a: Float32Array; b?: Uint8Array }>(crossed(packet)) };
    };
    const first = send({ a: floats(3), b: Uint8Array.of(1, 2, 3, 4, 5) });
    expect(numbersIn(first.packet)).toBe(2);
    expect([...first.got.a]).toEqual([1, 2.5, -0, 3]);
    const second = send({ a: floats(3), b: Uint8Array.of(1, 2, 3, 4, 6) });
    expect(numbersIn(second.packet)).toBe(1);
    expect(second.got.a).toBe(first.got.a);
    expect([...second.got.b!]).toEqual([1, 2, 3, 4, 6]);
    // Of other kinds or lengths they are others, whatever their bytes.
    const third = send({ a: floats(Number.NaN), b: new Uint8Array(0) });
    expect([...third.got.a]).toEqual([1, 2.5, -0, Number.NaN]);
    expect(third.got.b!.length).toBe(0);
    expect(send({ a: Float32Array.of(0) }).got.a[0]).toBe(0);
    expect(Object.is(send({ a: Float32Array.of(-0) }).got.a[0], -0)).toBe(true);
  });

  test("differ wherever a single number differs", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer(), { minLength: 1, maxLength: 40 }),
        fc.nat(),
        fc.integer({ min: 1 }),
        (list, at, by) => {
          const other = list.map((v, i) => (i === at % list.length ? v ^ by : v));
          const [sender, receiver] = [new Sender(), new Receiver()];
          receiver.unpack(crossed(sender.pack({ a: Int32Array.from(list) })));
          const { a } = receiver.unpack<{ a: Int32Array }>(
            crossed(sender.pack({ a: Int32Array.from(other) })),
          );
          expect([...a]).toEqual(other);
        },
      ),
      { numRuns: casesOf(500) },
    );
  });
});

describe("a build that crosses to the page", () => {
  const bytes = (value: unknown) => serialize(value).length;

  test.each([
    "battery-tray",
    "logger-box",
    "cable-cover",
    "mast-bracket",
  ])("of the %s is what it was, and after an edit only what is another crosses", (name) => {
    const document = demo(name);
    const [examine, sender, receiver] = [createExaminer(), new Sender(), new Receiver()];
    const answer = (of: PartDocument) => {
      const build = examine(of);
      return { build, mesh: build.sheet && meshSheet(build.sheet, 0.05) };
    };
    const first = answer(document);
    const whole = bytes(first);
    expect(receiver.unpack(crossed(sender.pack(first)))).toEqual(first);
    const last = document.steps.at(-1)!;
    const renamed = withChange(document, last.id, { name: "Called anew" });
    const named = sender.pack(answer(renamed));
    expect(receiver.unpack(crossed(named))).toEqual(answer(renamed));
    expect(bytes(named)).toBeLessThan(whole / 12);
    // Back again, and once more: the same each time.
    for (const of of [document, renamed, document])
      expect(receiver.unpack(crossed(sender.pack(answer(of))))).toEqual(answer(of));
  });

  test("an edit of the tray sends what it changes", () => {
    const document = demo("battery-tray");
    const [examine, sender, receiver] = [createExaminer(), new Sender(), new Receiver()];
    const figures: Record<string, number> = {};
    const send = (what: string, of: PartDocument) => {
      const build = examine(of);
      const result = { build, mesh: build.sheet && meshSheet(build.sheet, 0.05) };
      const packet = sender.pack(result);
      figures[`${what}, whole`] = bytes(result);
      figures[`${what}, sent`] = bytes(packet);
      expect(receiver.unpack(crossed(packet))).toEqual(result);
    };
    send("opened", document);
    const flange = document.steps.findLast((s) => s.kind === "flange")!;
    send("a length of the last flange", withChange(document, flange.id, { length: "11" }));
    send("and back", document);
    process.stdout.write(`bytes to the page: ${JSON.stringify(figures)}\n`);
    expect(figures["a length of the last flange, sent"]).toBeLessThan(figures["opened, whole"]);
  });
});
