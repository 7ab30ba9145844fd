import type { ItemField, StockItem, StockSection } from "@hillcrest/core";
import { useItems } from "../state/stock.ts";
import { ChoiceView } from "./choice-view.tsx";
import type { FieldViewProps } from "./field-look.ts";

/** What stands before the id of an item of the shop's, which may be called like one that every shop has. */
const SHOP = "shop ";

/** One of those that every shop has, or an item of the stock, which the part then keeps whole. */
export function ItemView(props: FieldViewProps<ItemField>) {
  const { field, value, onChange } = props;
  const items = useItems(field.section as StockSection);
  const kept = typeof value === "object" && value !== null ? (value as StockItem) : undefined;
  const now = kept && items.find(({ id }) => id === kept.id);
  const gone = kept && !now ? [{ value: SHOP + kept.id, label: `${kept.name} (as this part keeps it)` }] : [];
  // Where nothing is chosen yet that is a choice too, or a row of none would be nothing to click.
  const empty = !kept && !field.own.some(({ id }) => id === (value ?? field.default));
  const none = items.length + field.own.length === 0 ? "none in Stock yet" : "choose…";
  const options = [
    ...(empty ? [{ value: field.default, label: none }] : []),
    ...field.own.map(({ id, name }) => ({ value: id, label: name })),
    ...items.map(({ id, name }) => ({ value: SHOP + id, label: name })),
    ...gone,
  ];
  const choose = (chosen: unknown) => {
    if (typeof chosen !== "string") return;
    const item = items.find(({ id }) => SHOP + id === chosen);
    if (item) onChange(item);
    else if (field.own.some(({ id }) => id === chosen)) onChange(chosen);
  };
  const changed = now && JSON.stringify(now) !== JSON.stringify(kept);
  return (
    <>
      <ChoiceView
        {...props}
        field={{ kind: "choice", key: field.key, label: field.label, default: field.default, options }}
        value={kept ? SHOP + kept.id : (value ?? field.default)}
        onChange={choose}
      />
      {changed && (
        <button
          type="button"
          data-take-over={field.key}
          title="The shop has changed it since this part took it; the part keeps its own until you take it over"
          className="ml-1.5 font-semibold text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
          onClick={() => onChange(now)}
        >
          take over as it is now
        </button>
      )}
    </>
  );
}
