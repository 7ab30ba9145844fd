import { fail, ok, type Result } from "../result.ts";
import { type ChangedValues, changedBetween, withValues } from "../values.ts";
import type { StockItem, StockLibrary, StockSection } from "./library.ts";

/** Values of an item; one that is `null` goes. A chart's rule is one value, with all its rows. */
export interface ChangeItemCommand {
  readonly do: "change";
  readonly section: StockSection;
  readonly id: string;
  readonly values: ChangedValues;
}

/** An item more, at a place of its section or at the end; or in the place of the one of its id. */
export interface PutItemCommand {
  readonly do: "put";
  readonly section: StockSection;
  readonly item: StockItem;
  readonly at?: number;
}

/** An item less. */
export interface DropItemCommand {
  readonly do: "drop";
  readonly section: StockSection;
  readonly id: string;
}

/** An edit of a stock library: a plain record that can be kept, sent and done again. */
export type StockItemCommand = ChangeItemCommand | PutItemCommand | DropItemCommand;

/** What a command has made of a library, and the command that takes it back. */
export interface StockApplied {
  readonly library: StockLibrary;
  readonly undo: StockItemCommand;
}

/** Does a command to a library, which stays as it was. An error says what does not go. */
export function applyStockCommand(before: StockLibrary, command: StockItemCommand): Result<StockApplied> {
  const { section } = command;
  const items = before[section] as readonly StockItem[];
  const id = command.do === "put" ? command.item.id : command.id;
  const at = items.findIndex((i) => i.id === id);
  const library = (next: readonly StockItem[]): StockLibrary => ({ ...before, [section]: next });
  if (command.do === "put") {
    if (at >= 0)
      return ok({
        library: library(items.with(at, command.item)),
        undo: { do: "put", section, item: items[at] },
      });
    const place = Math.min(command.at ?? items.length, items.length);
    return ok({
      library: library(items.toSpliced(place, 0, command.item)),
      undo: { do: "drop", section, id },
    });
  }
  if (at < 0) return fail(`there is no "${id.slice(0, 60)}" among the ${section}`);
  if (command.do === "drop")
    return ok({
      library: library(items.toSpliced(at, 1)),
      undo: { do: "put", section, item: items[at], at },
    });
  if (Object.hasOwn(command.values, "id")) return fail("an item keeps its id; put another one instead");
  const changed = changeItem(items[at], command.values);
  return ok({
    library: library(items.with(at, changed.item)),
    undo: { do: "change", section, id, values: changed.back },
  });
}

/** An item with values changed, and the values that take it back. */
export function changeItem<T extends StockItem>(
  item: T,
  values: ChangedValues,
): { item: T; back: ChangedValues } {
  const changed = withValues(item, values);
  return { item: changed, back: itemChange(changed, item) };
}

/** The values that make one item of another. */
export const itemChange = (before: StockItem, after: StockItem): ChangedValues =>
  changedBetween({ ...before }, { ...after }) ?? {};
