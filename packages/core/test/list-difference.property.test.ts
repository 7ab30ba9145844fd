import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { commonEnds, listDifference } from "../src/list-difference.ts";
import { casesOf } from "./random-cases.ts";

/** Records that may stand in either list, each once, in any order. */
const lists = fc.nat(12).chain((n) => {
  const all = Array.from({ length: n }, (_, i) => ({ i }));
  return fc.tuple(fc.shuffledSubarray(all), fc.shuffledSubarray(all));
});

describe("how two lists of records differ", () => {
  test("is told as by looking for each in the other", () => {
    fc.assert(
      fc.property(lists, ([before, now]) => {
        expect(listDifference(before, now)).toEqual({
          gone: before.filter((one) => !now.includes(one)),
          come: now.filter((one) => !before.includes(one)),
        });
      }),
      { numRuns: casesOf(2000) },
    );
  });

  test("what they begin and end with is alike, and does not overlap", () => {
    fc.assert(
      fc.property(fc.array(fc.nat(2), { maxLength: 8 }), fc.array(fc.nat(2), { maxLength: 8 }), (p, q) => {
        const { first, last } = commonEnds(p, q);
        expect(first + last).toBeLessThanOrEqual(Math.min(p.length, q.length));
        expect(p.slice(0, first)).toEqual(q.slice(0, first));
        expect(p.slice(p.length - last)).toEqual(q.slice(q.length - last));
        // And no more of it is.
        if (first + last < Math.min(p.length, q.length)) {
          expect(p[first]).not.toBe(q[first]);
          expect(p[p.length - 1 - last]).not.toBe(q[q.length - 1 - last]);
        }
      }),
      { numRuns: casesOf(2000) },
    );
  });

  test("one that says the same but is another has come, and the other has gone", () => {
    const [a, b, c] = [{ at: 1 }, { at: 2 }, { at: 1 }];
    expect(listDifference([a, b], [c, b])).toEqual({ gone: [a], come: [c] });
    expect(listDifference([a, b], [c, b]).come[0]).toBe(c);
  });
});
