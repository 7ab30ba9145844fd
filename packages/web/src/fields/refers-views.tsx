import type { RefersField, RefersManyField, StockSection } from "@hillcrest/core";
import { Link } from "react-router";
import { useItems } from "../state/stock.ts";
import { Choice } from "./choice-view.tsx";
import type { FieldViewProps } from "./field-look.ts";

/** An item of the stock, with a way to it. */
export function RefersView({ field, value, onChange, label }: FieldViewProps<RefersField>) {
  const items = useItems(field.section as StockSection);
  const id = String(value ?? "");
  return (
    <span className="flex items-baseline gap-2">
      <Choice
        label={label ?? field.label}
        value={id}
        options={[
          ...(field.optional ? [{ value: "", label: "by default" }] : []),
          ...items.map((i) => ({ value: i.id, label: i.name })),
        ]}
        onChange={(v) => onChange(v === "" ? undefined : v)}
      />
      {id !== "" && (
        <Link
          className="text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
          to={`/stock/${field.section}/${id}`}
        >
          open
        </Link>
      )}
    </span>
  );
}

/** Items of the stock, each switched on or off. */
export function RefersManyView({ field, value, onChange }: FieldViewProps<RefersManyField>) {
  const items = useItems(field.section as StockSection);
  const chosen = value as readonly string[];
  if (items.length === 0) return <p className="text-quiet">none in the stock yet</p>;
  return (
    <span className="mt-1 flex flex-wrap gap-1.5">
      {items.map((i) => {
        const on = chosen.includes(i.id);
        return (
          <button
            key={i.id}
            type="button"
            aria-pressed={on}
            className={`rounded-full border px-2.5 py-0.5 text-[12.5px] ${on ? "border-moss bg-moss-soft font-semibold" : "border-hairline text-quiet hover:border-moss"}`}
            onClick={() => onChange(on ? chosen.filter((v) => v !== i.id) : [...chosen, i.id])}
          >
            {on && "✓ "}
            {i.name}
          </button>
        );
      })}
    </span>
  );
}
