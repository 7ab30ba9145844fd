import {
  type BendChart,
  type BendShape,
  type ChartAnswer,
  formatShort,
  kByChart,
  kByDin,
} from "@hillcrest/core";

/** How the study finds K: a number of its own, the standard, or one of the shop's charts. */
export type Method = "own" | "DIN 6935" | `chart:${string}`;

export interface FoundBy {
  readonly method: Method;
  readonly name: string;
  readonly find: (shape: BendShape) => ChartAnswer;
}

export const OWN_K = (k: number): FoundBy => ({
  method: "own",
  name: `K ${formatShort(k, 4)}`,
  find: () => ({
    k,
    source: { label: "own K", lines: [{ text: `K = ${formatShort(k, 4)}`, source: "this page" }] },
  }),
});

export const DIN: FoundBy = {
  method: "DIN 6935",
  name: "DIN 6935",
  find: (shape) => kByDin("DIN 6935", { to: "stock" }, shape),
};

export const byChart = (chart: BendChart): FoundBy => ({
  method: `chart:${chart.id}`,
  name: chart.name,
  find: (shape) => kByChart(chart, shape),
});

/** A chart too long for the list: it can be chosen, and answers once it is read. */
export const unreadChart = (chart: BendChart): FoundBy => ({
  method: `chart:${chart.id}`,
  name: chart.name,
  find: () => ({
    k: 0.5,
    source: {
      label: chart.name,
      lines: [],
      outside: { reason: `The rows of ${chart.name} are not read yet`, instead: "K 0.5 stands in" },
    },
  }),
});
