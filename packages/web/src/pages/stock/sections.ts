import {
  type BendChart,
  type Die,
  formatShort,
  freshValues,
  type GaugeList,
  ITEM_FIELDS,
  type Material,
  SECTION_NOUNS,
  type StockCard,
  type StockItem,
  type StockItems,
  type StockSection,
  sayRule,
  type TestBends,
} from "@hillcrest/core";
import { freshItemId } from "../../state/stock.ts";

/** The sections in the order in which a shop looks for them. */
export const SECTION_TABS: readonly { readonly section: StockSection; readonly title: string }[] = [
  { section: "cards", title: "Stock cards" },
  { section: "charts", title: "Bend charts" },
  { section: "testBends", title: "Test bends" },
  { section: "materials", title: "Materials" },
  { section: "dies", title: "Dies" },
  { section: "gauges", title: "Thicknesses" },
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
    case "gauges":
      return `${(item as GaugeList).rows.length} thicknesses`;
  }
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
  if (section === "gauges")
    return { ...item, rows: [{ name: "1 mm", thickness: 1 }] } as unknown as StockItems[S];
  return item as StockItems[S];
}
