/**
 * A metric screw thread of the coarse series (ISO 261), with the holes that go with it, mm. `clearance`: ISO 273, series
 * fine, medium and coarse. `core`: the drill before tapping, ISO 2306.
 */
export interface MetricThread {
  readonly name: string;
  readonly diameter: number;
  readonly pitch: number;
  readonly clearance: Readonly<Record<ClearanceFit, number>>;
  readonly core: number;
}

export type ClearanceFit = "fine" | "medium" | "coarse";

const thread = (
  diameter: number,
  pitch: number,
  [fine, medium, coarse]: readonly [number, number, number],
  core: number,
): MetricThread => ({ name: `M${diameter}`, diameter, pitch, clearance: { fine, medium, coarse }, core });

export const METRIC_THREADS: readonly MetricThread[] = [
  thread(1.6, 0.35, [1.7, 1.8, 2], 1.25),
  thread(2, 0.4, [2.2, 2.4, 2.6], 1.6),
  thread(2.5, 0.45, [2.7, 2.9, 3.1], 2.05),
  thread(3, 0.5, [3.2, 3.4, 3.6], 2.5),
  thread(3.5, 0.6, [3.7, 3.9, 4.2], 2.9),
  thread(4, 0.7, [4.3, 4.5, 4.8], 3.3),
  thread(5, 0.8, [5.3, 5.5, 5.8], 4.2),
  thread(6, 1, [6.4, 6.6, 7], 5),
  thread(7, 1, [7.4, 7.6, 8], 6),
  thread(8, 1.25, [8.4, 9, 10], 6.8),
  thread(10, 1.5, [10.5, 11, 12], 8.5),
  thread(12, 1.75, [13, 13.5, 14.5], 10.2),
  thread(14, 2, [15, 15.5, 16.5], 12),
  thread(16, 2, [17, 17.5, 18.5], 14),
  thread(18, 2.5, [19, 20, 21], 15.5),
  thread(20, 2.5, [21, 22, 24], 17.5),
  thread(22, 2.5, [23, 24, 26], 19.5),
  thread(24, 3, [25, 26, 28], 21),
  thread(27, 3, [28, 30, 32], 24),
  thread(30, 3.5, [31, 33, 35], 26.5),
  thread(33, 3.5, [34, 36, 38], 29.5),
  thread(36, 4, [37, 39, 42], 32),
];

const byName = new Map(METRIC_THREADS.map((t) => [t.name, t]));

/** A thread by its name, "M6". */
export const metricThread = (name: string): MetricThread | undefined => byName.get(name);
