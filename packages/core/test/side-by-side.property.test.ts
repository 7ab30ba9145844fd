import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { examinePart, type StepDocument } from "../src/index.ts";
import { type Bounds, boundsMeet, dot, point } from "../src/plane/point.ts";
import { newDraft } from "../src/sheet/draft.ts";
import { DraftPieces } from "../src/sheet/draft-piece-list.ts";
import type { DraftBend, DraftCarrier } from "../src/sheet/draft-pieces.ts";
import { freeBeside, NO_ROW, onStretch, rowWith, rowWithout } from "../src/sheet/edge-row.ts";
import { takenBy } from "../src/sheet/growing/site.ts";
import { BoxLog } from "../src/sheet/shaping/box-log.ts";
import { expectGrowth } from "./growth.ts";
import { part, plate } from "./plain-parts.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(229);

describe("boxes that are written down one after the other", () => {
  /** As differently large as what is done to a plate, from nothing on; on whole numbers too. */
  const size = fc.oneof(fc.constantFrom(0, 2 ** -12, 1, 2, 4, 8, 64, 300), spread(0, 5), spread(0, 40));
  const place = fc.oneof(spread(-60, 60), fc.integer({ min: -64, max: 64 }));
  const box = fc
    .record({ x: place, y: place, w: size, h: size })
    .map(({ x, y, w, h }): Bounds => ({ minX: x, minY: y, maxX: x + w, maxY: y + h }));
  const many = fc.array(box, { minLength: 150, maxLength: 400 });

  test("are found by where they lie as by going through all of them, in the order in which they came", () => {
    fc.assert(
      fc.property(many, fc.array(box, { minLength: 4, maxLength: 8 }), fc.nat(400), (all, asked, early) => {
        const log = new BoxLog(8);
        const found = (among: number) => {
          for (const b of asked) {
            const meets = all.slice(0, among).flatMap((a, i) => (boundsMeet(a, b) ? [i] : []));
            expect(log.near(b, among)).toEqual(meets);
          }
        };
        for (const [i, b] of all.entries()) {
          log.write(b);
          // Asked in between too: what comes after that has to be filed.
          if (i === early) found(i + 1);
        }
        found(all.length);
        found(Math.floor(all.length * 0.7));
      }),
      { numRuns: casesOf(150) },
    );
  });

  test("may be asked of everywhere, of nowhere and of no number, and may be of nothing", () => {
    const log = new BoxLog(1);
    const nothing = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
    const all = Array.from({ length: 100 }, (_, i) =>
      i % 2 === 0 ? { minX: i, minY: 0, maxX: i + 1, maxY: 1 } : nothing,
    );
    for (const b of all) log.write(b);
    const far = 1e16;
    for (const asked of [
      { minX: -far, minY: -far, maxX: far, maxY: far },
      { minX: -Infinity, minY: -Infinity, maxX: Infinity, maxY: Infinity },
      nothing,
      { minX: Number.NaN, minY: 0, maxX: 1, maxY: 1 },
      { minX: far, minY: far, maxX: far, maxY: far },
    ])
      expect(log.near(asked, 100)).toEqual(all.flatMap((b, i) => (boundsMeet(b, asked) ? [i] : [])));
  });

  test("are asked of by the thousand in a time that grows as they do, beside one as long as all of them", () => {
    expectGrowth(1.5, [4000, 8000, 16_000, 32_000], (n) => () => {
      const log = new BoxLog(4);
      log.write({ minX: 0, minY: 0, maxX: n * 10, maxY: 100 });
      let met = 0;
      for (let i = 0; i < n; i++) {
        met += log.near({ minX: i * 10, minY: 98, maxX: i * 10 + 8, maxY: 101 }, log.count).length;
        log.write({ minX: i * 10 + 2, minY: 98, maxX: i * 10 + 8, maxY: 100 });
      }
      if (met !== n) throw new Error("Each meets the plate alone.");
    });
  });
});

/** A bend that begins so far within its edge, which runs along x at 40 mm. */
const bend = (id: string, role: string | undefined, from: number, to: number, setback = 0) =>
  ({
    ...{ id, parent: "p", child: id, origin: point(from, 40 - setback), out: point(0, 1) },
    grownOn: role === undefined ? undefined : { role, from, to, setback },
  }) as DraftBend;

describe("bends on an edge", () => {
  const stretch = fc.record({ from: spread(0, 100), width: spread(0, 30), setback: spread(-3, 9) });

  test("are found along it as by looking at all of them, also where they lie over one another", () => {
    fc.assert(
      fc.property(
        fc.array(stretch, { maxLength: 40 }),
        stretch,
        fc.array(fc.nat(39), { maxLength: 6 }),
        (all, asked, gone) => {
          let list = all.map(({ from, width, setback }, i) =>
            bend(`b${i}`, "north", from, from + width, setback),
          );
          let row = list.reduce((row, b) => rowWith(row, b, (one) => Number(one.id.slice(1))), NO_ROW);
          for (const i of gone) {
            const out = list[i % (list.length || 1)];
            if (!out) continue;
            list = list.filter((b) => b !== out);
            row = rowWithout(row, out);
          }
          const [from, to] = [asked.from, asked.from + asked.width];
          const taking = list.filter((b) => b.grownOn!.from < to && b.grownOn!.to > from);
          expect(new Set(onStretch(row, from, to))).toEqual(new Set(taking));
          const left = list.flatMap((b) => (b.grownOn!.to <= from ? [from - b.grownOn!.to] : []));
          const right = list.flatMap((b) => (b.grownOn!.from >= from ? [b.grownOn!.from - from] : []));
          expect(freeBeside(row, from, "left")).toBe(Math.min(Infinity, ...left));
          expect(freeBeside(row, from, "right")).toBe(Math.min(Infinity, ...right));
          expect(row.innermost).toBe(Math.min(Infinity, ...list.map((b) => dot(b.origin, b.out))));
        },
      ),
      { numRuns: casesOf(500) },
    );
  });

  test("are those of their own edge, folds are on none, and a bend that changes stands where it is now", () => {
    const role = fc.constantFrom("north", "east", undefined);
    const set = fc.record({ i: fc.nat(8), role, from: spread(0, 90), copied: fc.boolean() });
    fc.assert(
      fc.property(fc.array(set, { maxLength: 40 }), (all) => {
        let bends = new DraftPieces();
        const kept: [DraftPieces, DraftCarrier[]][] = [];
        for (const { i, role, from, copied } of all) {
          if (copied) {
            kept.push([bends, bends.carriers()]);
            bends = new DraftPieces(bends);
          }
          bends.put(bend(`b${i}`, role, from, from + 8));
        }
        kept.push([bends, bends.carriers()]);
        for (const [those, list] of kept) {
          const on = (role: string | undefined) => list.filter((b) => b.grownOn?.role === role);
          expect(those.inOrder(those.onEdge("p", "north").carriers)).toEqual(on("north"));
          // Folds stand in the order in which they came, however often one of them was set anew.
          expect(those.foldsFrom("p")).toEqual(on(undefined));
          expect(those.inOrder(those.onOtherEdges("p", "north").flatMap((row) => row.carriers))).toEqual(
            on("east"),
          );
          expect(those.onEdge("q", "north").carriers).toEqual([]);
          const draft = { ...newDraft(1), pieces: those };
          const plate = { id: "p" } as Parameters<typeof takenBy>[1];
          // Of several the one that came first is told.
          const first = on("east").find(({ grownOn: g }) => g!.from < 50 - 1e-7 && g!.to > 20 + 1e-7);
          expect(takenBy(draft, plate, { role: "east" }, 20, 50)).toBe(first?.grownOn);
        }
      }),
      { numRuns: casesOf(300) },
    );
  });

  test("stand where they stood when work on them is taken back", () => {
    const before = new DraftPieces();
    before.put(bend("b1", "north", 0, 10));
    const now = new DraftPieces(before);
    now.put(bend("b1", "east", 5, 10));
    now.put(bend("b2", "north", 20, 30));
    now.become(before);
    expect(now.onEdge("p", "north").carriers).toEqual([bend("b1", "north", 0, 10)]);
    expect(now.onEdge("p", "east").carriers).toEqual([]);
  });
});

describe("flanges on both sides of a plate", () => {
  const flange = (id: string, edge: string, shift: number, more: object = {}): StepDocument => ({
    ...{ id, kind: "flange", edges: [{ key: "a", at: `s1.${edge}` }], length: "30" },
    ...{ span: "width", width: "20", at: "left", shift: `${shift}`, ...more },
  });
  const problemOf = (id: string, depth: string, ...flanges: StepDocument[]) =>
    examinePart(part(plate("200", depth), ...flanges)).findings.find(
      (f) => f.step === id && f.level === "stop",
    )?.message;

  test("need the plate between them to be deep enough for both bends, only where they face one another", () => {
    // From the left end of each edge: 10 to 30 of the one is 170 to 190 of the other.
    const first = flange("s2", "north", 10, { radius: "4" });
    expect(problemOf("s3", "9", first, flange("s3", "south", 170, { radius: "4" }))).toMatch(
      /The bend needs 5\.5 mm of plate A behind edge A south, but only 3\.5 mm is there/,
    );
    expect(problemOf("s3", "9", first, flange("s3", "south", 120, { radius: "4" }))).toBeUndefined();
    expect(problemOf("s3", "12", first, flange("s3", "south", 170, { radius: "4" }))).toBeUndefined();
  });

  test("are each held against the one that reaches in farthest, whichever of many it is", () => {
    const shallow = Array.from({ length: 4 }, (_, i) => flange(`s${i + 2}`, "north", 10 + 40 * i));
    for (let deep = 0; deep < 4; deep++) {
      const row = shallow.map((s, i) => (i === deep ? { ...s, radius: "6" } : s));
      for (let i = 0; i < 4; i++) {
        const facing = flange("s9", "south", 170 - 40 * i);
        expect(problemOf("s9", "9.5", ...row, facing) !== undefined, `${deep} ${i}`).toBe(i === deep);
      }
    }
  });

  test("by the thousand are grown in a time that grows as they do", () => {
    expectGrowth(1.6, [250, 500, 1000, 2000], (n) => () => {
      const sides = Array.from({ length: n }, (_, i) =>
        flange(`s${i + 2}`, i % 2 === 0 ? "north" : "south", (i >> 1) * 10, { width: "6" }),
      );
      const build = examinePart(part(plate(`${n * 5}`, "100"), ...sides));
      if (build.sheet!.pieces.length !== 2 * n + 1) throw new Error("All of them stand.");
    });
  });
});
