import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { carriersFrom, carrierTo, newDraft, reopen } from "../src/sheet/draft.ts";
import { DraftPieces } from "../src/sheet/draft-piece-list.ts";
import type { DraftBend, DraftCarrier } from "../src/sheet/draft-pieces.ts";
import { Records } from "../src/sheet/records.ts";
import { expectGrowth } from "./growth.ts";
import { casesOf, sameCases } from "./random-cases.ts";

sameCases(71);

const name = fc.integer({ min: 0, max: 12 }).map((i) => `r${i}`);
const record = fc.integer({ min: 0, max: 3 }).map((worth) => ({ worth }));

/** What is done to records: given, copied to go on with the copy, taken back to an earlier copy. */
const doing = fc.oneof(
  { weight: 6, arbitrary: fc.record({ do: fc.constant("set" as const), name, record }) },
  { weight: 2, arbitrary: fc.record({ do: fc.constant("copy" as const) }) },
  { weight: 1, arbitrary: fc.record({ do: fc.constant("become" as const), back: fc.nat(20) }) },
);

describe("records that share what stays the same with their copies", () => {
  test("are what a plain map is, in the same order, and no copy sees what comes after it", () => {
    fc.assert(
      fc.property(fc.array(doing, { maxLength: 60 }), (all) => {
        let [now, plain] = [new Records<object>(), new Map<string, object>()];
        let begun = new Map<string, object>();
        const copies: { kept: Records<object>; plain: ReadonlyMap<string, object> }[] = [];
        for (const one of all) {
          if (one.do === "set") {
            now.set(one.name, one.record);
            plain.set(one.name, one.record);
          } else if (one.do === "copy") {
            copies.push({ kept: now, plain: new Map(plain) });
            begun = new Map(plain);
            now = new Records(now);
          } else if (copies.length > 0) {
            const { kept, plain: then } = copies[copies.length - 1 - (one.back % copies.length)];
            // Only what was set since a copy is taken back: to the one that this was made from.
            if (kept !== copies[copies.length - 1].kept) continue;
            now.become(kept);
            plain = new Map(then);
          }
          expect([...now]).toEqual([...plain]);
          if (copies.length > 0) {
            const changed = [...plain].filter(([key, r]) => begun.get(key) !== r).map(([key]) => key);
            expect(now.changedFrom(copies[copies.length - 1].kept).sort()).toEqual(changed.sort());
          }
        }
        expect([[...now.keys()], [...now.values()], now.size]).toEqual([
          [...plain.keys()],
          [...plain.values()],
          plain.size,
        ]);
        for (const { kept, plain: then } of copies) {
          expect([...kept]).toEqual([...then]);
          for (const [key, r] of then) expect([kept.get(key), kept.has(key)]).toEqual([r, true]);
        }
      }),
      { numRuns: casesOf(400) },
    );
  });

  test("a part of thousands of steps is copied before each of them for what they change", () => {
    expectGrowth(1.5, [2000, 4000, 8000, 16_000], (n) => () => {
      let draft = newDraft(1);
      for (let i = 0; i < n; i++) {
        const open = reopen(draft);
        open.pieces.put(bend(`b${i}`, `p${i}`, `p${i + 1}`));
        if (carriersFrom(open, `p${i}`).length !== 1) throw new Error("One starts there.");
        draft = open;
      }
    });
  });
});

/** A bend of which only what it hangs between is looked at. */
const bend = (id: string, parent: string, child: string) =>
  ({ id, parent, child, origin: { x: 0, y: 0 }, out: { x: 0, y: 1 } }) as DraftBend;

describe("the bends of a draft", () => {
  const plate = fc.integer({ min: 0, max: 5 }).map((i) => `p${i}`);
  const given = fc.record({ id: name, parent: plate, child: plate, copied: fc.boolean() });

  test("are found by their plates as by looking at all of them, also where one goes over to another plate", () => {
    fc.assert(
      fc.property(fc.array(given, { maxLength: 40 }), (all) => {
        let bends = new DraftPieces();
        const before: { bends: DraftPieces; list: readonly DraftCarrier[] }[] = [];
        for (const { id, parent, child, copied } of all) {
          if (copied) {
            before.push({ bends, list: bends.carriers() });
            bends = new DraftPieces(bends);
          }
          bends.put(bend(id, parent, child));
        }
        for (const { bends: those, list } of [...before, { bends, list: bends.carriers() }])
          for (let i = 0; i <= 5; i++) {
            const at = `p${i}`;
            const draft = { ...newDraft(1), pieces: those };
            expect(carriersFrom(draft, at)).toEqual(list.filter((b) => b.parent === at));
            expect(carrierTo(draft, at)).toBe(list.find((b) => b.child === at));
          }
      }),
      { numRuns: casesOf(400) },
    );
  });

  test("go over to another plate by the thousand, and stand there in the order in which they came", () => {
    expectGrowth(2.2, [500, 1000, 2000, 4000], (n) => () => {
      const bends = new DraftPieces();
      for (let i = 0; i < n; i++) bends.put(bend(`b${i}`, "p", `q${i}`));
      // As when a plate is parted across its flanges: each second one goes, from the last on.
      for (let i = n - 1; i >= 0; i -= 2) bends.put(bend(`b${i}`, "r", `q${i}`));
      const moved = bends.from("r");
      if (moved.length !== n / 2 || moved.some((b, i) => b.id !== `b${2 * i + 1}`))
        throw new Error("They stand in another order.");
    });
  });

  test("are again what they were where work on them is taken back", () => {
    const bends = new DraftPieces();
    bends.put(bend("a", "p", "q"));
    const kept = new DraftPieces(bends);
    bends.put(bend("a", "r", "q"));
    bends.put(bend("b", "p", "s"));
    bends.become(kept);
    expect(bends.from("p").map((b) => b.id)).toEqual(["a"]);
    expect(bends.from("r")).toEqual([]);
    expect(bends.to("s")).toBeUndefined();
  });
});
