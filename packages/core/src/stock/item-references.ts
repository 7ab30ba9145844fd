import type { BendChart } from "../bend/chart.ts";
import type { RawValues } from "../fields/field.ts";
import { itemsOfFields } from "../fields/field-kinds.ts";
import { ITEM_FIELDS } from "./item-fields.ts";
import { STOCK_SECTIONS, type StockItem, type StockLibrary, type StockSection } from "./library.ts";

/** What an item refers to, by section and id. */
export function refersTo(section: StockSection, item: StockItem): { section: StockSection; id: string }[] {
  if (section === "charts") {
    const { testBends } = item as BendChart;
    return testBends ? [{ section: "testBends", id: testBends }] : [];
  }
  return itemsOfFields(ITEM_FIELDS[section], item as unknown as RawValues).map(({ section: of, id }) => ({
    section: of as StockSection,
    id,
  }));
}

/** Which items stand on this one. */
export function usersOf(
  library: StockLibrary,
  section: StockSection,
  id: string,
): { section: StockSection; item: StockItem }[] {
  return STOCK_SECTIONS.flatMap((s) =>
    (library[s] as readonly StockItem[])
      .filter((item) => refersTo(s, item).some((r) => r.section === section && r.id === id))
      .map((item) => ({ section: s, item })),
  );
}
