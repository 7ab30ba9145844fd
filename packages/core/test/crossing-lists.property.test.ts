import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { packetBytes, Receiver, Sender } from "../src/index.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(20261201);
const RUNS = casesOf(80);

interface Item {
  readonly id: number;
  readonly own?: { readonly id: number };
  readonly look?: object;
  readonly name?: string | null;
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
function changed(
  list: readonly Item[],
  { kind, at }: Pick<Change, "kind" | "at">,
  make: Make,
): readonly Item[] {
  const i = Math.floor(at * list.length);
  const fresh = make(next++);
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

/** Entries that hold a record of their own cross one by one; others cross as tables. */
type Make = (id: number) => Item;
const OWN: Make = (id) => ({ id, own: { id } });
const LOOKS = [{ kind: "round" }, { kind: "slot", size: { width: 3 } }];
const FLAT: Make = (id) => ({
  id,
  look: LOOKS[id % 2],
  name: id % 7 === 0 ? null : `n${id}`,
});

const long = (make: Make, n: number, from: number): Item[] =>
  Array.from({ length: n }, (_, i) => make(from + i));

/** How many records the other side has. */
const recordsOf = (receiver: Receiver) =>
  (receiver as unknown as { records: Map<number, object> }).records.size;

describe("long lists that cross again and again", () => {
  test.each([
    ["one by one", OWN],
    ["as tables", FLAT],
  ])("arrive as they are %s, whatever is put in, taken out or turned round, with the very same entries", (_, make) => {
    fc.assert(
      fc.property(fc.array(change, { minLength: 3, maxLength: 12 }), spread(0, 700), (changes, size) => {
        const [sender, receiver] = [new Sender(), new Receiver()];
        let root: Root = { list: long(make, Math.floor(size), 0), other: long(make, 400, 5000) };
        let before: Root | undefined;
        for (const one of [undefined, ...changes]) {
          if (one) root = { ...root, [one.of]: changed(root[one.of], one, make) };
          const packet = structuredClone(sender.pack(root));
          // The root, a list, what was put into it, and what that holds.
          if (one && make === OWN) expect(packet.fresh.length).toBeLessThanOrEqual(4);
          const got = receiver.unpack<Root>(packet);
          expect(got).toEqual(root);
          const known = new Map(before?.list.map((v) => [v.id, v]));
          // An entry that was there is the very same record on the other side too.
          // Of alike ones a copy that says the same is another.
          const copied = one?.kind === "copy" && make === FLAT;
          for (const v of got.list) if (known.has(v.id) && !copied) expect(known.get(v.id)).toBe(v);
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
    let list: readonly Item[] = long(OWN, 5000, 0);
    receiver.unpack(structuredClone(sender.pack({ list })));
    for (let i = 0; i < 50; i++) {
      list = changed(list, { kind: "put", at: (i * 0.137) % 0.99 }, OWN);
      const packet = structuredClone(sender.pack({ list }));
      expect(packetBytes(packet)).toBeLessThan(400);
      expect(receiver.unpack(packet)).toEqual({ list });
    }
    expect(recordsOf(receiver)).toBe(10_002);
    receiver.unpack(structuredClone(sender.pack({ list: [] })));
    expect(recordsOf(receiver)).toBe(2);
  });

  test("of alike records cross as a few columns, and one more as one row of them", () => {
    const [sender, receiver] = [new Sender(), new Receiver()];
    let list: readonly Item[] = long(FLAT, 5000, 0);
    const first = structuredClone(sender.pack({ list }));
    // The root, the list and the two looks, one of which has its size.
    expect(first.fresh).toHaveLength(5);
    expect(receiver.unpack(first)).toEqual({ list });
    for (let i = 0; i < 50; i++) {
      list = changed(list, { kind: "put", at: (i * 0.137) % 0.99 }, FLAT);
      const packet = structuredClone(sender.pack({ list }));
      expect(packetBytes(packet)).toBeLessThan(400);
      expect(receiver.unpack(packet)).toEqual({ list });
      // What was before is let go of, however often it changes.
      expect(recordsOf(receiver)).toBe(5);
    }
  });

  test("that cannot be told as columns arrive as they are", () => {
    const [sender, receiver] = [new Sender(), new Receiver()];
    const odd = [
      long(FLAT, 300, 0).map((v, i) => (i === 150 ? { ...v, more: 1 } : v)),
      long(FLAT, 300, 0).map((v, i) => (i === 150 ? { name: "x", look: v.look, id: 1 } : v)),
      long(FLAT, 300, 0).map((v, i) => (i === 299 ? { ...v, id: [1, 2] } : v)),
      long(FLAT, 300, 0).map((v, i) => (i % 2 ? { ...v, look: undefined, id: i % 3 ? -0 : Number.NaN } : v)),
      Array.from({ length: 300 }, () => ({})),
      Array.from({ length: 300 }, (_, i) => (i === 7 ? null : { id: i })),
      Array.from({ length: 300 }, () => LOOKS[0]),
      Array.from({ length: 300 }, (_, i) => ({ ["__proto__"]: i, ref: { ref: i } })),
    ];
    for (const list of odd)
      expect(receiver.unpack(structuredClone(sender.pack({ list })))).toStrictEqual({ list });
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
