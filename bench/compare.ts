const ROUNDS = 15;

function median(values: number[]): number {
  return [...values].sort((p, q) => p - q)[Math.floor(values.length / 2)];
}

const timed = (work: () => void) => {
  const start = performance.now();
  work();
  return performance.now() - start;
};

/**
 * Runs two pieces of work in turn, so that noise falls on both alike, and prints the ratio of their
 * medians beside the aim. Returns the ratio.
 */
export function compare(name: string, aim: number, reference: () => void, work: () => void): number {
  const ours: number[] = [];
  const theirs: number[] = [];
  for (let i = 0; i < ROUNDS + 3; i++) {
    const [r, w] = [timed(reference), timed(work)];
    // The first rounds warm the compiler up.
    if (i < 3) continue;
    theirs.push(r);
    ours.push(w);
  }
  const ratio = median(ours) / median(theirs);
  const verdict = ratio <= aim ? "within" : "OVER";
  process.stdout.write(
    `${name}: ${ratio.toFixed(2)}× the reference (${median(ours).toFixed(1)} ms against ${median(theirs).toFixed(1)} ms), ${verdict} the aim of ${aim}×\n`,
  );
  return ratio;
}
