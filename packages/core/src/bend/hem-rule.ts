import { formatShort } from "../units/quantity.ts";
import { mm } from "../units/spoken-length.ts";
import { type BendShape, bendAllowance, kFromAllowance } from "./allowance.ts";
import type { ChartAnswer } from "./chart-look-up.ts";
import type { SourceLink, WhyLine } from "./why-line.ts";

/** Hems whose flat length a stock may have a rule of its own for; a rolled one is bent like any bend. */
export const HEM_FORMS = ["closed", "open", "teardrop"] as const;
export type HemForm = (typeof HEM_FORMS)[number];

/** How the flat length of a form of hem is found: as of every bend, by a K, or by an allowance (mm). */
export type HemRule =
  | { readonly by: "bends" }
  | { readonly by: "K"; readonly k: number }
  | { readonly by: "BA"; readonly allowance: number };

export const HEM_RULES = [
  { value: "bends", label: "as every bend" },
  { value: "K", label: "a K of their own" },
  { value: "BA", label: "a BA of their own" },
] as const;

/**
 * What stands in where neither the stock nor its rule for bends says anything of such a hem. A hem pressed
 * flat has its neutral axis far inside: K 0.18 makes the blank shorter than both its lengths by 0.43 t, as
 * shops commonly find.
 */
export const STARTING_HEM_K: Readonly<Record<HemForm, number>> = { closed: 0.18, open: 0.4, teardrop: 0.4 };

const n = (v: number) => formatShort(v, 4);

/**
 * The neutral-axis ratio of a hem. `asBend` is what the stock's rule for bends gives: where that is no
 * answer, because the chart ends before it or the neutral axis would lie on the inside face, the
 * starting value for the form stands in and is said.
 */
export function kForHem(
  form: HemForm,
  rule: HemRule,
  shape: BendShape,
  asBend: ChartAnswer,
  from: { readonly name: string; readonly link: SourceLink },
): ChartAnswer {
  const { link } = from;
  const label = `${from.name}, ${form} hems`;
  if (rule.by === "K")
    return {
      k: rule.k,
      source: { label, link, lines: [{ text: `K of ${form} hems = ${n(rule.k)}`, source: from.name, link }] },
    };
  if (rule.by === "BA") {
    const k = kFromAllowance(shape, rule.allowance);
    const lines: WhyLine[] = [
      { text: `BA of ${form} hems = ${mm(rule.allowance, 4)}`, source: from.name, link },
      { text: `K = (BA/θ − r)/t = ${n(k)}` },
    ];
    return { k, source: { label, link, lines } };
  }
  if (asBend.k > 0 && !asBend.source.outside && bendAllowance(shape, asBend.k) > 1e-6) return asBend;
  const k = STARTING_HEM_K[form];
  const why =
    asBend.source.outside?.reason ?? `K = ${n(asBend.k)} by ${asBend.source.label} would leave it no length`;
  const lines: WhyLine[] = [
    { text: `${why}.`, source: asBend.source.label, link: asBend.source.link },
    {
      text: `K of ${form} hems = ${n(k)}, a starting value: give the stock its own`,
      source: from.name,
      link,
    },
  ];
  return { k, source: { label: `starting value for ${form} hems`, link, lines } };
}
