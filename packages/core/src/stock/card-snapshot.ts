import type { BendChart, ChartRule, TableRule } from "../bend/chart.ts";
import { HEM_FORMS } from "../bend/hem-rule.ts";
import type { Die } from "../bend/tooling.ts";
import type { DocumentProblem } from "../fields/checking.ts";
import { fail, ok, type Result } from "../result.ts";
import {
  type HemValues,
  itemOf,
  type Material,
  type SheetSize,
  type StockCard,
  type StockLibrary,
} from "./library.ts";
import { itemProblems } from "./read-item.ts";
import type { ShopRuleSet } from "./shop-rule-set.ts";

/**
 * A stock card with everything it refers to, as a part keeps it: the part needs nothing else to be
 * built. A table holds only the rows for the card's thickness, under the numbers they have in the chart.
 */
export interface CardSnapshot extends HemValues {
  readonly id: string;
  readonly name: string;
  /** Grows whenever the card, or what it refers to, changes. */
  readonly revision: number;
  readonly material: Material;
  readonly thickness: number;
  readonly radii: readonly number[];
  readonly chart: BendChart;
  readonly dies: readonly Die[];
  readonly relief: string;
  readonly reliefWidth: string;
  readonly reliefDepth: string;
  /** The sheets that are kept of it. */
  readonly sheets?: readonly SheetSize[];
  /** The shop rules that the part is held to; those by default where there are none. */
  readonly rules?: ShopRuleSet;
}

/** Puts a card together with its material, chart and dies. The error names what is not there. */
export function snapshotOf(library: StockLibrary, card: StockCard, revision: number): Result<CardSnapshot> {
  const material = itemOf(library, "materials", card.material);
  if (!material) return fail(`The card ${card.name} names a material that is not there.`);
  const chart = itemOf(library, "charts", card.chart);
  if (!chart) return fail(`The card ${card.name} names a bend chart that is not there.`);
  const dies: Die[] = [];
  for (const id of card.dies) {
    const die = itemOf(library, "dies", id);
    if (!die) return fail(`The card ${card.name} names a die that is not there.`);
    dies.push(die);
  }
  const rules = card.rules === undefined ? undefined : itemOf(library, "rules", card.rules);
  if (card.rules !== undefined && !rules)
    return fail(`The card ${card.name} names shop rules that are not there.`);
  const { id, name, thickness, radii, relief, reliefWidth, reliefDepth, sheets } = card;
  return ok({
    id,
    name,
    revision,
    material,
    thickness,
    radii,
    chart: { ...chart, rule: ruleFor(chart.rule, thickness) },
    dies,
    relief,
    reliefWidth,
    reliefDepth,
    ...hemValues(card),
    ...(sheets && sheets.length > 0 ? { sheets } : {}),
    ...(rules ? { rules } : {}),
  });
}

/** What a card says of hems, and nothing where it says nothing. */
export const hemValues = (card: HemValues): HemValues =>
  Object.fromEntries(
    HEM_FORMS.flatMap((form) => [`${form}HemBy`, `${form}HemK`, `${form}HemBA`] as const).flatMap((key) =>
      card[key] === undefined ? [] : [[key, card[key]]],
    ),
  );

/** Everything that is wrong with a card as a part keeps it, each with its place. */
export function snapshotProblems(value: unknown, path: string): DocumentProblem[] {
  if (typeof value !== "object" || value === null || Array.isArray(value))
    return [{ path, message: "This must be an object." }];
  const card = value as Record<string, unknown>;
  const { material, chart, dies, rules, ...plain } = card;
  if (!Array.isArray(dies)) return [{ path: `${path}/dies`, message: "This must be a list." }];
  const referring = { ...plain, note: "", material: "m", chart: "c", dies: [] };
  const revision = Number.isInteger(card.revision) && (card.revision as number) >= 1;
  return [
    ...itemProblems("cards", referring, path),
    ...(revision ? [] : [{ path: `${path}/revision`, message: `"revision" must be a whole number from 1.` }]),
    ...itemProblems("materials", material, `${path}/material`),
    ...itemProblems("charts", chart, `${path}/chart`),
    ...dies.flatMap((die: unknown, i) => itemProblems("dies", die, `${path}/dies/${i}`)),
    ...(rules === undefined ? [] : itemProblems("rules", rules, `${path}/rules`)),
  ];
}

/** Whether two snapshots say the same, whatever their revisions. */
export const sameSnapshot = (a: CardSnapshot, b: CardSnapshot): boolean =>
  JSON.stringify({ ...a, revision: 0 }) === JSON.stringify({ ...b, revision: 0 });

/** What a chart's rule says about one thickness. */
const ruleFor = (rule: ChartRule, t: number): ChartRule =>
  rule.method === "table" ? tableFor(rule, t) : rule;

/** The rows for a thickness; where it is not in the table, those of its neighbours. */
function tableFor(rule: TableRule, t: number): TableRule {
  const all = [...new Set(rule.rows.map((r) => r[0]))].sort((a, b) => a - b);
  const same = (a: number, b: number) => Math.abs(a - b) < 1e-6;
  const below = all.filter((x) => x < t);
  const above = all.filter((x) => x > t);
  const kept = all.some((x) => same(x, t))
    ? all.filter((x) => same(x, t))
    : [...below.slice(-1), ...above.slice(0, 1)];
  const places = rule.rows.flatMap((r, i) => (kept.includes(r[0]) ? [i] : []));
  return {
    ...rule,
    rows: places.map((i) => rule.rows[i]),
    numbers: places.map((i) => rule.numbers?.[i] ?? i + 1),
  };
}
