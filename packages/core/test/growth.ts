import { spentOn } from "./plain-parts.ts";

/** The exponent by which a time grows with a size: the slope of its logarithm, fitted over all sizes. */
export function exponentOf(sizes: readonly number[], took: readonly number[]): number {
  const [xs, ys] = [sizes.map(Math.log), took.map((t) => Math.log(Math.max(t, 0.2)))];
  const mean = (v: readonly number[]) => v.reduce((sum, x) => sum + x, 0) / v.length;
  const [mx, my] = [mean(xs), mean(ys)];
  return xs.reduce((s, x, i) => s + (x - mx) * (ys[i] - my), 0) / xs.reduce((s, x) => s + (x - mx) ** 2, 0);
}

/** The least of several times of the processor (ms) that the same work takes. */
export const least = (times: number, work: () => unknown): number =>
  Array.from({ length: times }, () => spentOn(work).took).reduce((m, t) => Math.min(m, t), Infinity);

/** The exponent of work that is laid out for each size first: once is for the warm-up, and of two the quicker counts. */
export function growth(sizes: readonly number[], layOut: (size: number) => () => unknown): number {
  layOut(sizes[0])();
  return exponentOf(
    sizes,
    sizes.map((size) => least(2, layOut(size))),
  );
}
