import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { circleLoop, type Loop, point, rectangleLoop } from "../src/index.ts";
import { regionLoops } from "../src/plane/region.ts";
import { type Span, spansInside } from "../src/plane/span.ts";
import { hasMetal, metalSpans, shapeMetal } from "../src/sheet/shaping/metal.ts";
import { withWork } from "../src/sheet/shaping/metal-boxes.ts";
import type { Metal, MetalOp } from "../src/sheet/shaping/metal-op.ts";
import { casesOf, sameCases, spread } from "./random-cases.ts";

sameCases(53);

const loop: fc.Arbitrary<Loop> = fc.oneof(
  fc
    .tuple(spread(-90, 90), spread(-90, 90), spread(1, 60), spread(1, 60))
    .map(([x, y, w, h]) => rectangleLoop(x, y, x + w, y + h)),
  fc.tuple(spread(-90, 90), spread(-90, 90), spread(1, 25)).map(([x, y, r]) => circleLoop(point(x, y), r)),
);
const op: fc.Arbitrary<MetalOp> = fc
  .tuple(fc.constantFrom("add" as const, "cut" as const, "cut" as const), loop, fc.boolean())
  .map(([kind, l, titled]) => ({ kind, step: "s1", loops: [l], ...(titled ? { title: "A hole" } : {}) }));
const work = fc.array(op, { minLength: 1, maxLength: 30 });
const plate: MetalOp = { kind: "add", step: "s1", loops: [rectangleLoop(-100, -100, 100, 100)] };

const grown = (ops: readonly MetalOp[], onto: Metal = [plate]) => ops.reduce((m, o) => withWork(m, o), onto);
const clipped = (spans: readonly Span[], [from, to]: Span): Span[] =>
  spans.flatMap(([a, b]): Span[] => {
    const s: Span = [Math.max(a, from), Math.min(b, to)];
    return s[1] - s[0] > 1e-5 ? [s] : [];
  });
function expectAlike(found: readonly Span[], wanted: readonly Span[]): void {
  expect(found.length).toBe(wanted.length);
  found.forEach((span, i) => {
    span.forEach((s, k) => {
      expect(Math.abs(s - wanted[i][k])).toBeLessThan(1e-5);
    });
  });
}

describe("where there is metal along a line", () => {
  const line = fc.record({ x: spread(-95, 95), y: spread(-95, 95), turn: spread(0, 6.28) });

  test("is the same in a window as along the outline that the work comes to", () => {
    fc.assert(
      fc.property(work, line, spread(-60, 0), spread(0.1, 60), (ops, { x, y, turn }, from, length) => {
        const metal = grown(ops);
        const axis = point(Math.cos(turn), Math.sin(turn));
        const outline = shapeMetal(metal).regions.flatMap(regionLoops);
        const window: Span = [from, from + length];
        const found = metalSpans(metal, point(x, y), axis, window);
        for (const [a, b] of found) {
          expect(a).toBeGreaterThanOrEqual(window[0]);
          expect(b).toBeLessThanOrEqual(window[1]);
        }
        expectAlike(clipped(found, window), clipped(spansInside(outline, point(x, y), axis), window));
        const untitled = (o: MetalOp) => o.kind !== "cut" || o.title === undefined;
        const counted = metal.filter(untitled);
        expectAlike(
          metalSpans(metal, point(x, y), axis, window, untitled),
          metalSpans(counted, point(x, y), axis, window),
        );
      }),
      { numRuns: casesOf(300) },
    );
  });

  test("is told apart for two who went on from the same metal, whoever is asked first", () => {
    fc.assert(
      fc.property(work, work, work, line, (before, one, other, { x, y }) => {
        const shared = grown(before);
        hasMetal(shared, point(0, 0));
        const [a, b] = [grown(one, shared), grown(other, shared)];
        const longer = grown(other, a);
        for (const metal of [longer, b, a, shared])
          expect(hasMetal(metal, point(x, y))).toBe(hasMetal([...metal], point(x, y)));
      }),
      { numRuns: casesOf(300) },
    );
  });
});
