import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { packetBytes, Receiver, Sender } from "../src/index.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(20261201);
const RUNS = casesOf(80);

interface Item {
  readonly id: number;
}
interface Root {
  readonly list: readonly Item[];
  readonly other: readonly Item[];
}

const change = fc.record({
  kind: fc.constantFrom(
    "put",
    "add",
    "drop",
    "front",
    "end",
    "swap",
    "empty",
    "same",
    "half",
    "copy",
    "again",
  ),
  at: spread(0, 0.999),
  of: fc.constantFrom("list", "other"),
});
type Change = typeof change extends fc.Arbitrary<infer T> ? T : never;

let next = 10_000;
function changed(list: readonly Item[], { kind, at }: Pick<Change, "kind" | "at">): readonly Item[] {
  const i = Math.floor(at * list.length);
  const fresh = { id: next++ };
  switch (kind) {
    case "put":
      return list.map((v, k) => (k === i ? fresh : v));
    case "add":
      return list.toSpliced(i, 0, fresh);
    case "drop":
      return list.toSpliced(i, 1);
    case "front":
      return [fresh, ...list];
    case "end":
      return [...list, fresh];
    case "swap":
      return [...list.slice(i), ...list.slice(0, i)];
    case "copy":
      // Another record that says the same.
      return list.map((v, k) => (k === i ? { ...v } : v));
    case "again":
      return i < list.length ? list.toSpliced(list.length - i, 0, list[i]) : list;
    case "half":
      return list.filter((_, k) => k % 2 === 0);
    case "empty":
      return [];
    default:
      return [...list];
  }
}

const long = (n: number, from: number): Item[] => Array.from({ length: n }, (_, i) => ({ id: from + i }));

/** How many records the other side has. */
const recordsOf = (receiver: Receiver) =>
  (receiver as unknown as { records: Map<number, object> }).records.size;

describe("long lists that cross again and again", () => {
  test("arrive as they are, whatever is put in, taken out or turned round, with the very same entries", () => {
    fc.assert(
      fc.property(fc.array(change, { minLength: 3, maxLength: 12 }), spread(0, 700), (changes, size) => {
        const [sender, receiver] = [new Sender(), new Receiver()];
        let root: Root = { list: long(Math.floor(size), 0), other: long(400, 5000) };
        let before: Root | undefined;
        for (const one of [undefined, ...changes]) {
          if (one) root = { ...root, [one.of]: changed(root[one.of], one) };
          const packet = structuredClone(sender.pack(root));
          // The root, a list, and what was put into it.
          if (one) expect(packet.fresh.length).toBeLessThanOrEqual(3);
          const got = receiver.unpack<Root>(packet);
          expect(got).toEqual(root);
          const known = new Map(before?.list.map((v) => [v.id, v]));
          // An entry that was there is the very same record on the other side too.
          for (const v of got.list) if (known.has(v.id)) expect(known.get(v.id)).toBe(v);
          before = got;
        }
        // The other side has what is told, and nothing else.
        receiver.unpack(structuredClone(sender.pack({ none: true })));
        expect(recordsOf(receiver)).toBe(1);
      }),
      { numRuns: RUNS },
    );
  });

  test("cross as what differs: one of thousands is a few bytes, and what nobody holds is let go of on both sides", () => {
    const [sender, receiver] = [new Sender(), new Receiver()];
    let list: readonly Item[] = long(5000, 0);
    receiver.unpack(structuredClone(sender.pack({ list })));
    for (let i = 0; i < 50; i++) {
      list = changed(list, { kind: "put", at: (i * 0.137) % 0.99 });
      const packet = structuredClone(sender.pack({ list }));
      expect(packetBytes(packet)).toBeLessThan(400);
      expect(receiver.unpack(packet)).toEqual({ list });
    }
    expect(recordsOf(receiver)).toBe(5002);
    receiver.unpack(structuredClone(sender.pack({ list: [] })));
    expect(recordsOf(receiver)).toBe(2);
  });

  test("that hold one record many times hold it until the last is gone", () => {
    const [sender, receiver] = [new Sender(), new Receiver()];
    const one = { id: 1 };
    const send = (root: object) => receiver.unpack(structuredClone(sender.pack(root)));
    expect(send({ a: [one, one, one], b: one })).toEqual({ a: [one, one, one], b: one });
    expect(send({ a: [one] })).toEqual({ a: [one] });
    expect(send({ b: one, c: { d: one } })).toEqual({ b: one, c: { d: one } });
    expect(send({ none: true })).toEqual({ none: true });
    expect(send({ a: [one, one] })).toEqual({ a: [one, one] });
  });
});
