import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { createPartBuilder, newPart, type PartDocument, type StepDocument } from "../src/index.ts";
import { asBefore } from "../src/plane/as-before.ts";
import type { Curve } from "../src/plane/curve.ts";
import type { Loop } from "../src/plane/loop.ts";
import { expectGrowth } from "./growth.ts";
import { casesOf, sameCases } from "./random-cases.ts";

sameCases(72);

const place = fc.record({ x: fc.integer({ min: 0, max: 2 }), y: fc.integer({ min: 0, max: 2 }) });
// Few places and names: many say the same, and many differ in one thing only.
const curve: fc.Arbitrary<Curve> = fc.oneof(
  fc.record({
    ...{ kind: fc.constant("line" as const), a: place, b: place },
    name: fc.constantFrom("north", "south", undefined),
  }),
  fc.record({
    ...{ kind: fc.constant("arc" as const), a: place, b: place, c: place },
    ...{ r: fc.constantFrom(1, 2), ccw: fc.boolean() },
  }),
);
const loops = fc.array(fc.array(curve, { minLength: 1, maxLength: 5 }), { maxLength: 4 });

const says = (value: unknown) => JSON.stringify(value);

describe("borders as they were before", () => {
  test("say what they said, by records that are known wherever one says the same", () => {
    fc.assert(
      fc.property(loops, loops, (now, before) => {
        const known = new Set<Curve>(before.flat());
        const texts = new Set([...known].map(says));
        const out = asBefore(now, before);
        expect(says(out)).toBe(says(now));
        for (const c of out.flat()) expect(known.has(c)).toBe(texts.has(says(c)));
      }),
      { numRuns: casesOf(1000) },
    );
  });

  test("of a loop that is the same all round the loop itself is known", () => {
    const before: Loop[] = [[{ kind: "line", a: { x: 0, y: 0 }, b: { x: 1, y: 0 }, name: "south" }]];
    expect(asBefore(structuredClone(before), before)[0]).toBe(before[0]);
  });
});

test("of thousands of borders that begin on one line each is found at once", () => {
  for (const upright of [true, false])
    expectGrowth(1.5, [4000, 8000, 16_000, 32_000], (n) => {
      const at = (i: number) => (upright ? { x: 7, y: i / 3 } : { x: i / 3, y: 7 });
      const comb = (): Loop =>
        Array.from({ length: n }, (_, i) => ({ kind: "line", a: at(i), b: at(i + 1) }));
      const [before, now] = [comb(), comb()];
      return () => {
        if (asBefore([now], [before])[0] !== before) throw new Error("It is the same all round.");
      };
    });
});

describe("an edit of the first of forty flanges", () => {
  const part = (length: string): PartDocument => ({
    ...newPart("Comb"),
    steps: [
      { id: "s1", kind: "plate", width: "800", depth: "60" },
      ...Array.from(
        { length: 40 },
        (_, i): StepDocument => ({
          ...{ id: `s${i + 2}`, kind: "flange", edges: [{ key: "a", at: "s1.north" }] },
          ...{
            length: i === 0 ? length : "20",
            span: "width",
            width: "12",
            at: "left",
            shift: `${i * 20 + 4}`,
          },
        }),
      ),
    ],
  });

  test("leaves what later steps say and came to, their rows of the bend list and their borders the records they were", () => {
    const build = createPartBuilder();
    const [before, now] = [build(part("25")), build(part("31"))];
    for (let i = 2; i <= 40; i++) expect(now.steps[i]).toBe(before.steps[i]);
    expect(now.steps[1]).not.toBe(before.steps[1]);
    expect(now.steps[1].values!.quantities.length).toBe(31);
    for (let i = 1; i < 40; i++) expect(now.bends[i]).toBe(before.bends[i]);
    const known = new Set(before.blank!.outlines.flat());
    const fresh = now.blank!.outlines.flat().filter((c) => !known.has(c));
    // Two sides and the end of the leg that has grown.
    expect(fresh.length).toBe(3);
    expect(now.blank!.height).toBeCloseTo(before.blank!.height + 6, 9);
  });

  test("in another stock leaves none of them", () => {
    const build = createPartBuilder();
    const thick = part("25");
    const before = build(thick);
    const now = build({ ...thick, stock: { ...thick.stock, k: "0.3", reason: "Try" } });
    for (const [i, row] of now.bends.entries()) {
      expect(row.k).toBe(0.3);
      expect(row.allowance).toBeLessThan(before.bends[i].allowance);
    }
  });
});
