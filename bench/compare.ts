import { QUICK, tell } from "./tell.ts";

const ROUNDS = QUICK ? 5 : 11;

export const median = (values: readonly number[]): number =>
  [...values].sort((p, q) => p - q)[Math.floor(values.length / 2)];

/** The processor's time for a piece of work, ms: of all its threads, whatever else runs on the machine. */
export function spent(work: () => void): number {
  const before = process.cpuUsage();
  work();
  const { user, system } = process.cpuUsage(before);
  return (user + system) / 1000;
}

/** Runs two pieces of work in turn, so that noise falls on both alike, and tells the ratio of their medians. */
export function compare(
  name: string,
  most: number,
  reference: () => void,
  work: () => void,
  rounds = ROUNDS,
): void {
  const ours: number[] = [];
  const theirs: number[] = [];
  for (let i = 0; i < rounds + 2; i++) {
    const [r, w] = [spent(reference), spent(work)];
    // The first rounds warm the compiler up.
    if (i < 2) continue;
    theirs.push(r);
    ours.push(w);
  }
  const [r, w] = [median(theirs), median(ours)];
  tell({
    name,
    value: w / r,
    most,
    unit: "×",
    detail: `${w.toFixed(1)} ms against ${r.toFixed(1)} ms`,
  });
}

/** Tells the exponent by which the processor's time for work grows over sizes. `layOut` makes what is not measured. */
export function growth(
  name: string,
  most: number,
  sizes: readonly number[],
  layOut: (n: number) => () => void,
): void {
  const measured = QUICK ? sizes.slice(0, 3) : sizes;
  layOut(measured[0])();
  const took = measured.map((n) => {
    const work = layOut(n);
    const once = spent(work);
    // What takes seconds is not so much quicker the second time.
    return once > 2000 ? once : Math.min(once, spent(work));
  });
  const [xs, ys] = [measured.map(Math.log), took.map(Math.log)];
  const mean = (v: readonly number[]) => v.reduce((sum, x) => sum + x, 0) / v.length;
  const [mx, my] = [mean(xs), mean(ys)];
  const value =
    xs.reduce((s, x, i) => s + (x - mx) * (ys[i] - my), 0) / xs.reduce((s, x) => s + (x - mx) ** 2, 0);
  const detail = measured.map((n, i) => `${n}: ${took[i].toFixed(0)} ms`).join(", ");
  tell({ name, value, most, unit: "exponent", detail });
}
