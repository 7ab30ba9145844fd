import {
  type BendChart,
  DEFAULT_RULES,
  type Die,
  type ExportPreset,
  type FormItem,
  formatShort,
  freshValues,
  type GaugeList,
  type HardwareItem,
  ITEM_FIELDS,
  type KeptGroup,
  type KeptOutline,
  type Material,
  ownForm,
  PLAIN_PRESET,
  rulesOf,
  SECTION_NOUNS,
  type ShopRuleSet,
  type StandardOpening,
  type StockCard,
  type StockItem,
  type StockItems,
  type StockSection,
  sayRule,
  stepKind,
  type TestBends,
} from "@hillcrest/core";
import { emptyOutline } from "../../state/drawing.ts";
import { freshItemId } from "../../state/stock.ts";

/** The sections in the order in which a shop looks for them. */
export const SECTION_TABS: readonly { readonly section: StockSection; readonly title: string }[] = [
  { section: "cards", title: "Stock cards" },
  { section: "charts", title: "Bend charts" },
  { section: "testBends", title: "Test bends" },
  { section: "materials", title: "Materials" },
  { section: "dies", title: "Dies" },
  { section: "gauges", title: "Thicknesses" },
  { section: "rules", title: "Shop rules" },
  { section: "outlines", title: "Outlines" },
  { section: "forms", title: "Forms" },
  { section: "openings", title: "Openings" },
  { section: "hardware", title: "Hardware" },
  { section: "groups", title: "Groups" },
  { section: "presets", title: "Export presets" },
];

const n = (v: number) => formatShort(v, 3);

/** What an item is, in one line beneath its name. */
export function sayItem(
  section: StockSection,
  item: StockItem,
  names: (id: string) => string,
  rows?: number,
): string {
  switch (section) {
    case "cards": {
      const card = item as StockCard;
      return `${n(card.thickness)} mm · radius ${card.radii.map(n).join(", ")} · ${names(card.chart)}`;
    }
    case "charts": {
      const chart = item as BendChart;
      const said = sayRule(chart.rule);
      const count = rows === undefined ? said : said.replace(/\d+ rows$/, `${rows} rows`);
      return `${count}${chart.starting ? " · starting values" : ""}`;
    }
    case "testBends":
      return `${(item as TestBends).coupons.length} coupons, measured ±${n((item as TestBends).error)} mm`;
    case "materials": {
      const material = item as Material;
      return `${n(material.density)} kg/m³ · ${n(material.tensile)} MPa`;
    }
    case "dies": {
      const die = item as Die;
      return `V ${n(die.v)} mm, ${n(die.angle)}°, ${n(die.length)} mm long`;
    }
    case "rules":
      return sayRules(item as ShopRuleSet);
    case "outlines": {
      const { curves, dimensions } = (item as KeptOutline).outline;
      const named = dimensions.flatMap((d) => d.name ?? []);
      return `${curves.length} ${curves.length === 1 ? "curve" : "curves"}${named.length > 0 ? ` · ${named.join(", ")}` : ""}`;
    }
    case "forms": {
      const { values, outline } = item as FormItem;
      return `${outline === "corners" ? "by corners" : outline} · ${values.map((v) => v.label.toLowerCase()).join(", ")}`;
    }
    case "openings": {
      const { form, diameter, width, height } = item as StandardOpening;
      return form === "round" ? `⌀ ${n(diameter ?? 0)}` : `${form} ${n(width ?? 0)} × ${n(height ?? 0)}`;
    }
    case "hardware": {
      const { sort, thread, opening } = item as HardwareItem;
      return `${sort}${thread ? ` ${thread}` : ""} · opening ⌀ ${n(opening)}`;
    }
    case "groups":
      return sayGroup(item as KeptGroup);
    case "presets": {
      const { version, units, layers } = item as ExportPreset;
      return `${version.toUpperCase()}, ${units} · ${layers.filter((l) => !l.leftOut).length} contents`;
    }
    case "gauges":
      return `${(item as GaugeList).rows.length} thicknesses`;
  }
}

/** What a group is made of: its kinds of steps, each once. */
export const sayGroup = ({ steps }: KeptGroup): string =>
  [...new Set(steps.map(({ kind }) => stepKind(String(kind))?.title ?? String(kind)))].join(", ");

/** How many of the rules a set answers in another way than by default. */
function sayRules(set: ShopRuleSet): string {
  const { values, levels } = rulesOf(set);
  const others = (own: Readonly<Record<string, unknown>>, given: Readonly<Record<string, unknown>>) =>
    Object.keys(given).filter((key) => own[key] !== given[key]).length;
  const own = others(values, DEFAULT_RULES.values) + others(levels, DEFAULT_RULES.levels);
  return own === 0 ? "as by default" : own === 1 ? "1 answer of its own" : `${own} answers of its own`;
}

/** A new item of a section, with the first of what it needs already chosen. */
export function newItem<S extends StockSection>(
  section: S,
  first: (section: StockSection) => string,
): StockItems[S] {
  const name = `New ${SECTION_NOUNS[section]}`;
  const item = { ...freshValues(ITEM_FIELDS[section]), id: freshItemId(section, name), name } as StockItem;
  if (section === "charts")
    return { ...item, rule: { method: "one K", k: 0.42 } } as unknown as StockItems[S];
  if (section === "cards")
    return { ...item, material: first("materials"), chart: first("charts") } as unknown as StockItems[S];
  if (section === "outlines") return { ...item, outline: emptyOutline(name) } as unknown as StockItems[S];
  if (section === "forms") return { ...ownForm("emboss")!, id: item.id, name } as StockItems[S];
  if (section === "openings") return { ...item, diameter: 6 } as StockItems[S];
  if (section === "presets") return { ...PLAIN_PRESET, id: item.id, name } as unknown as StockItems[S];
  if (section === "gauges")
    return { ...item, rows: [{ name: "1 mm", thickness: 1 }] } as unknown as StockItems[S];
  return item as StockItems[S];
}
