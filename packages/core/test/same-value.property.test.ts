import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { sameValue } from "../src/values.ts";
import { sameCases } from "./random-cases.ts";

sameCases(73);

// Few keys and numbers, so that many are alike; what a text of them cannot tell is left to the tests below.
const { value } = fc.letrec((tie) => ({
  value: fc.oneof(
    { depthSize: "small" },
    fc.constantFrom<unknown>(0, 1, 2.5, "a", "", true, false, null),
    fc.array(tie("value"), { maxLength: 3 }),
    fc.dictionary(fc.constantFrom("a", "b", "name"), tie("value"), { maxKeys: 3 }),
  ),
}));

const text = (v: unknown): string =>
  JSON.stringify(v, (_key, inner) =>
    inner && typeof inner === "object" && !Array.isArray(inner)
      ? Object.fromEntries(Object.entries(inner).sort(([p], [q]) => (p < q ? -1 : 1)))
      : inner,
  );

describe("what says the same", () => {
  test("is what has the same text, whatever the order of its keys", () => {
    let alike = 0;
    fc.assert(
      fc.property(value, value, (p, q) => {
        const same = text(p) === text(q);
        if (same) alike++;
        expect(sameValue(p, q)).toBe(same);
        expect(sameValue(q, p)).toBe(same);
      }),
      { numRuns: 4000 },
    );
    expect(alike).toBeGreaterThan(50);
  });

  test("is any copy of it, and none in which one number differs", () => {
    fc.assert(
      fc.property(value, (v) => {
        expect(sameValue(v, structuredClone(v))).toBe(true);
        expect(sameValue({ deep: [{ v }], n: 1 }, { deep: [{ v }], n: 1 + Number.EPSILON })).toBe(false);
      }),
    );
  });

  test("has the same keys of its own, also where nothing stands under them", () => {
    expect(sameValue({ a: 1, b: undefined }, { a: 1 })).toBe(false);
    expect(sameValue({ a: 1 }, { a: 1, b: null })).toBe(false);
    expect(sameValue({ toString: 1 }, { a: 1 })).toBe(false);
    expect(sameValue(JSON.parse('{"__proto__": 1}'), {})).toBe(false);
    expect(sameValue([undefined], [])).toBe(false);
    expect(sameValue({}, [])).toBe(false);
  });

  test("looks into sets, whose text would say nothing", () => {
    expect(sameValue({ over: new Set(["s1a", "s2a"]) }, { over: new Set(["s2a", "s1a"]) })).toBe(true);
    expect(sameValue({ over: new Set(["s1a"]) }, { over: new Set(["s2a"]) })).toBe(false);
    expect(sameValue(new Set(), {})).toBe(false);
    expect(sameValue(Number.NaN, Number.NaN)).toBe(true);
    expect(sameValue(null, {})).toBe(false);
  });
});
