import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { line, NearCurves } from "../src/index.ts";
import { curveBounds } from "../src/plane/curve.ts";
import { boundsMeet } from "../src/plane/point.ts";
import { commonSpans, joinSpans, type Span, spansAt, spansLength } from "../src/plane/span.ts";
import { expectGrowth } from "./growth.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(20261130);
const RUNS = casesOf(400);

const span: fc.Arbitrary<Span> = fc
  .tuple(spread(-20, 20), spread(0.001, 8))
  .map(([from, long]): Span => [from, from + long]);
const spans = fc.array(span, { maxLength: 14 });

describe("spans of a line", () => {
  test("have in common what every two of them have, whichever way they are looked through", () => {
    fc.assert(
      fc.property(spans, spans, (p, q) => {
        const every = p.flatMap((a) =>
          q.flatMap((b): Span[] => {
            const s: Span = [Math.max(a[0], b[0]), Math.min(a[1], b[1])];
            return s[1] - s[0] > 1e-7 ? [s] : [];
          }),
        );
        const found = commonSpans(p, q);
        const sorted = (list: readonly Span[]) => [...list].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
        expect(sorted(found)).toEqual(sorted(every));
        expect(spansLength(found)).toBeCloseTo(spansLength(every), 9);
      }),
      { numRuns: RUNS },
    );
  });

  test("that lie apart are found by another that meets them, those that only touch it left out", () => {
    fc.assert(
      fc.property(spans, span, (all, asked) => {
        const apart = joinSpans(all, []);
        const wanted = apart.filter(([from, to]) => from < asked[1] && to > asked[0]);
        expect(spansAt(apart, asked)).toEqual(wanted);
      }),
      { numRuns: RUNS },
    );
    expect(spansAt([], [0, 1])).toEqual([]);
    expect(
      spansAt(
        [
          [0, 1],
          [2, 3],
        ],
        [1, 2],
      ),
    ).toEqual([]);
    expect(
      spansAt(
        [
          [0, 1],
          [2, 3],
        ],
        [0.5, 2.5],
      ),
    ).toEqual([
      [0, 1],
      [2, 3],
    ]);
  });

  test("side by side are compared in a time that grows with their number", () => {
    expectGrowth(1.6, [2000, 4000, 8000, 16_000], (n) => {
      const p = Array.from({ length: n }, (_, i): Span => [i, i + 0.7]);
      const q = Array.from({ length: n }, (_, i): Span => [i + 0.5, i + 1.2]);
      return () => commonSpans(p, q);
    });
  });
});

const place = fc.record({ x: spread(-30, 30), y: spread(-30, 30), dx: spread(-6, 6), dy: spread(-6, 6) });
const things = fc
  .array(place, { maxLength: 60 })
  .map((all) =>
    all.map(({ x, y, dx, dy }, i) => ({ i, box: curveBounds(line({ x, y }, { x: x + dx, y: y + dy })) })),
  );

describe("things with boxes", () => {
  test("are found by a box that meets theirs, each once, and no more of them are looked at than are asked for", () => {
    fc.assert(
      fc.property(things, place, (all, { x, y, dx, dy }) => {
        const box = curveBounds(line({ x, y }, { x: x + dx, y: y + dy }));
        const near = new NearCurves(all);
        const wanted = all.filter((t) => boundsMeet(t.box, box)).map((t) => t.i);
        const found = near.near(box).map((t) => t.i);
        expect([...found].sort((a, b) => a - b)).toEqual(wanted);
        let looked = 0;
        const last = found.at(-1);
        const is = near.some(box, (t) => {
          looked++;
          return t.i === found[0];
        });
        expect([is, looked]).toEqual([last !== undefined, last === undefined ? 0 : 1]);
        expect(near.some(box, () => false)).toBe(false);
      }),
      { numRuns: RUNS },
    );
  });
});
