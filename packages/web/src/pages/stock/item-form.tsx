import {
  choicesOf,
  type FieldSpec,
  ITEM_FIELDS,
  type StockItem,
  type StockSection,
  shownFields,
} from "@hillcrest/core";
import type { ReactNode } from "react";
import { FieldView } from "../../fields/field-view.tsx";

type Values = Readonly<Record<string, unknown>>;

interface ItemFormProps {
  readonly section: StockSection;
  readonly item: StockItem;
  readonly onChange: (item: StockItem, mark?: string) => void;
  /** Only these fields, where others have a form of their own. */
  readonly only?: readonly string[];
  /** Whether its tables have many columns. */
  readonly wide?: boolean;
}

/** The fields of an item, one line each. */
export function ItemForm({ section, item, onChange, only, wide = false }: ItemFormProps) {
  const values = item as unknown as Values;
  const all = ITEM_FIELDS[section];
  const fields = shownFields(all, choicesOf(all, values)).filter((f) => only?.includes(f.key) ?? true);
  const set = (key: string, value: unknown, mark?: string) => {
    const { [key]: _before, ...others } = values;
    // What is taken from elsewhere again stands nowhere in the item.
    const next = value === undefined ? others : { ...values, [key]: value };
    onChange(next as unknown as StockItem, mark && `${key}:${mark}`);
  };
  return (
    <div className={`${wide ? "w-[610px]" : "w-[430px]"} max-w-full space-y-2`}>
      {fields.map((f) => (
        <FormLine key={f.key} field={f}>
          <FieldView
            look="form"
            field={f}
            value={standing(f, values)}
            onChange={(v, mark) => set(f.key, v, mark)}
          />
        </FormLine>
      ))}
    </div>
  );
}

/** What stands in a field: its default where an item may say nothing and says nothing. */
const standing = (f: FieldSpec, values: Values): unknown =>
  values[f.key] ?? (f.optional && "default" in f ? f.default : undefined);

export function FormLine({
  field,
  children,
}: {
  field: { readonly label: string; readonly about?: string; readonly kind: string };
  children: ReactNode;
}) {
  const tall = field.kind === "rows" || field.kind === "refersMany";
  return (
    <div className={tall ? "" : "grid grid-cols-[1fr_auto] items-baseline gap-4"}>
      <span>
        {field.label}
        {field.about && <span className="block text-[12px] leading-tight text-quiet">{field.about}</span>}
      </span>
      {children}
    </div>
  );
}
