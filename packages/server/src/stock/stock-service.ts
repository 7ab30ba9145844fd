import {
  type CardSnapshot,
  emptyLibrary,
  itemOf,
  refersTo,
  SECTION_NOUNS,
  STOCK_SECTIONS,
  type StockCard,
  type StockItem,
  type StockLibrary,
  type StockSection,
  sameSnapshot,
  snapshotOf,
  usersOf,
} from "@hillcrest/core";
import type { DataSource, EntityManager } from "typeorm";
import { inTurn } from "../write-turns.ts";
import { StockItemRow } from "./stock-item.entity.ts";

/** An item as the Stock page lists it. */
export interface StockEntry {
  readonly section: StockSection;
  readonly revision: number;
  readonly updatedAt: string;
  /** A table of very many rows is left out of the list and read by itself. */
  readonly item: StockItem;
  readonly rows?: number;
}

export type StockSaveOutcome =
  | { readonly kind: "saved"; readonly entry: StockEntry }
  | { readonly kind: "stale"; readonly current: StockEntry }
  | { readonly kind: "missing" }
  | { readonly kind: "refused"; readonly message: string };

const MOST_LISTED_ROWS = 5000;

/** Keeps the stock library, item by item. */
export class StockService {
  private readonly source: DataSource;

  constructor(source: DataSource) {
    this.source = source;
  }

  async list(): Promise<StockEntry[]> {
    const rows = await this.rows(this.source.manager);
    return rows.map((row) => listed(entry(row)));
  }

  async read(section: StockSection, id: string): Promise<StockEntry | undefined> {
    const row = await this.source.manager.findOneBy(StockItemRow, { section, id });
    return row && isReadable(row) ? entry(row) : undefined;
  }

  /** Everything as one library, as it is exported. */
  async library(manager: EntityManager = this.source.manager): Promise<StockLibrary> {
    return libraryOf(await this.rows(manager));
  }

  /** All items that can be read: a damaged one costs itself only. */
  private async rows(manager: EntityManager): Promise<StockItemRow[]> {
    const rows = await manager.find(StockItemRow, { order: { section: "ASC", place: "ASC", name: "ASC" } });
    return rows.filter(isReadable);
  }

  async isEmpty(): Promise<boolean> {
    return (await this.source.manager.count(StockItemRow)) === 0;
  }

  /**
   * Saves an item against the revision it started from; 0 makes a new one.
   *
   * @param also What is written in the same transaction, once it is saved.
   */
  async save(
    section: StockSection,
    revision: number,
    item: StockItem,
    also?: (manager: EntityManager) => Promise<void>,
  ): Promise<StockSaveOutcome> {
    return inTurn(this.source, async (manager): Promise<StockSaveOutcome> => {
      const current = await manager.findOneBy(StockItemRow, { section, id: item.id });
      if (!current && revision > 0) return { kind: "missing" };
      if (current && current.revision !== revision) return { kind: "stale", current: entry(current) };
      const before = await this.library(manager);
      const after = withItem(before, section, item);
      const dangling = refersTo(section, item).find((r) => !itemOf(after, r.section, r.id));
      if (dangling)
        return {
          kind: "refused",
          message: `It refers to a ${SECTION_NOUNS[dangling.section]} that is not there. Choose another.`,
        };
      const row = rowOf(section, item, revision + 1, current?.place ?? (before[section] as unknown[]).length);
      await manager.save(StockItemRow, row);
      await raiseCards(manager, before, after, section === "cards" ? [item.id] : []);
      await also?.(manager);
      return { kind: "saved", entry: entry(row) };
    });
  }

  /** Takes an item away, unless something stands on it. */
  async remove(
    section: StockSection,
    id: string,
  ): Promise<{ kind: "removed" | "missing" } | { kind: "used"; message: string }> {
    const users = usersOf(await this.library(), section, id);
    if (users.length > 0) {
      const names = users.map((u) => `the ${SECTION_NOUNS[u.section]} ${u.item.name}`).join(", ");
      return { kind: "used", message: `It is used by ${names}. Let them use something else first.` };
    }
    const result = await inTurn(this.source, (manager) => manager.delete(StockItemRow, { section, id }));
    return { kind: result.affected === 1 ? "removed" : "missing" };
  }

  /** Takes a whole library in: items of the same id are replaced, others added. All of it or nothing. */
  async take(library: StockLibrary): Promise<{ added: number; replaced: number }> {
    return inTurn(this.source, async (manager) => {
      const before = await this.library(manager);
      const rows = await this.rows(manager);
      let after = before;
      const saved: string[] = [];
      let added = 0;
      let replaced = 0;
      for (const section of STOCK_SECTIONS) {
        const places = (before[section] as readonly StockItem[]).length;
        for (const [i, item] of (library[section] as readonly StockItem[]).entries()) {
          const current = rows.find((r) => r.section === section && r.id === item.id);
          after = withItem(after, section, item);
          if (current && current.item === JSON.stringify(item)) continue;
          if (current) replaced++;
          else added++;
          if (section === "cards") saved.push(item.id);
          const revision = (current?.revision ?? 0) + 1;
          await manager.save(StockItemRow, rowOf(section, item, revision, current?.place ?? places + i));
        }
      }
      await raiseCards(manager, before, after, saved);
      return { added, replaced };
    });
  }

  /** A card with all it refers to, as a part takes it over. */
  async snapshot(id: string): Promise<CardSnapshot | undefined> {
    const row = await this.source.manager.findOneBy(StockItemRow, { section: "cards", id });
    if (!row) return undefined;
    const made = snapshotOf(await this.library(), JSON.parse(row.item) as StockCard, row.revision);
    return made.ok ? made.value : undefined;
  }

  /**
   * Every card as it is, or as it would be after a change, with the revision it would have. Cards that
   * the change alters count one up.
   */
  async snapshots(
    change?: { section: StockSection; item: StockItem },
    manager: EntityManager = this.source.manager,
  ): Promise<CardSnapshot[]> {
    const rows = await this.rows(manager);
    const before = libraryOf(rows);
    const after = change ? withItem(before, change.section, change.item) : before;
    return after.cards.flatMap((card) => {
      const revision = rows.find((r) => r.section === "cards" && r.id === card.id)?.revision ?? 0;
      const now = snapshotOf(after, card, revision);
      if (!now.ok) return [];
      const old = itemOf(before, "cards", card.id);
      const was = old && snapshotOf(before, old, revision);
      const same = was?.ok && sameSnapshot(was.value, now.value);
      return [same ? now.value : { ...now.value, revision: revision + 1 }];
    });
  }
}

/** Cards whose meaning a change altered get a new revision, unless they were saved themselves. */
async function raiseCards(
  manager: EntityManager,
  before: StockLibrary,
  after: StockLibrary,
  saved: readonly string[],
): Promise<void> {
  for (const card of after.cards) {
    const old = itemOf(before, "cards", card.id);
    if (!old || saved.includes(card.id)) continue;
    const was = snapshotOf(before, old, 1);
    const now = snapshotOf(after, card, 1);
    if (was.ok && now.ok && sameSnapshot(was.value, now.value)) continue;
    await manager.increment(StockItemRow, { section: "cards", id: card.id }, "revision", 1);
  }
}

function isReadable({ item }: StockItemRow): boolean {
  try {
    const value: unknown = JSON.parse(item);
    return typeof value === "object" && value !== null;
  } catch {
    return false;
  }
}

const entry = (row: StockItemRow): StockEntry => ({
  section: row.section,
  revision: row.revision,
  updatedAt: row.updatedAt,
  item: JSON.parse(row.item) as StockItem,
});

function listed(whole: StockEntry): StockEntry {
  if (!("rule" in whole.item) || whole.item.rule.method !== "table") return whole;
  const { rows } = whole.item.rule;
  if (rows.length <= MOST_LISTED_ROWS) return { ...whole, rows: rows.length };
  return {
    ...whole,
    rows: rows.length,
    item: { ...whole.item, rule: { ...whole.item.rule, rows: [] } },
  };
}

const rowOf = (section: StockSection, item: StockItem, revision: number, place: number): StockItemRow => ({
  section,
  id: item.id,
  name: item.name,
  item: JSON.stringify(item),
  revision,
  place,
  updatedAt: new Date().toISOString(),
});

function libraryOf(rows: readonly StockItemRow[]): StockLibrary {
  const of = (section: StockSection) =>
    rows.filter((r) => r.section === section).map((r) => JSON.parse(r.item) as StockItem);
  return {
    ...emptyLibrary(),
    ...Object.fromEntries(STOCK_SECTIONS.map((section) => [section, of(section)])),
  };
}

function withItem(library: StockLibrary, section: StockSection, item: StockItem): StockLibrary {
  const list = library[section] as readonly StockItem[];
  const there = list.some((i) => i.id === item.id);
  const next = there ? list.map((i) => (i.id === item.id ? item : i)) : [...list, item];
  return { ...library, [section]: next };
}
