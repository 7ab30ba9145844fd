import { expect } from "vitest";
import { spentOn } from "./plain-parts.ts";

/** The exponent by which a time grows with a size: the slope of its logarithm, fitted over all sizes. */
function exponentOf(sizes: readonly number[], took: readonly number[]): number {
  const [xs, ys] = [sizes.map(Math.log), took.map((t) => Math.log(Math.max(t, 0.2)))];
  const mean = (v: readonly number[]) => v.reduce((sum, x) => sum + x, 0) / v.length;
  const [mx, my] = [mean(xs), mean(ys)];
  return xs.reduce((s, x, i) => s + (x - mx) * (ys[i] - my), 0) / xs.reduce((s, x) => s + (x - mx) ** 2, 0);
}

/** The least of several times of the processor (ms) that the same work takes. */
export const least = (times: number, work: () => unknown): number =>
  Array.from({ length: times }, () => spentOn(work).took).reduce((m, t) => Math.min(m, t), Infinity);

/**
 * Holds that work, laid out for each size first, grows by less than an exponent. The quickest of a few rounds over
 * all sizes counts: a machine that is busy with other things now and then makes one size slower and none quicker,
 * and what really grows too fast is as steep in the fifth round as in the second. Limits stand between what is
 * nearly linear on a machine at work, and the square; the bench holds the sharp ones.
 */
export function expectGrowth(
  below: number,
  sizes: readonly number[],
  layOut: (size: number) => () => unknown,
  rounds = 5,
): void {
  layOut(sizes[0])();
  const works = sizes.map(layOut);
  const took = sizes.map(() => Infinity);
  let exponent = Infinity;
  for (let round = 0; round < rounds && (round < 2 || exponent >= below); round++) {
    works.forEach((work, i) => {
      took[i] = Math.min(took[i], spentOn(work).took);
    });
    exponent = exponentOf(sizes, took);
  }
  expect(
    exponent,
    `times for ${sizes.join(", ")}: ${took.map((t) => t.toFixed(1)).join(", ")} ms`,
  ).toBeLessThan(below);
}
