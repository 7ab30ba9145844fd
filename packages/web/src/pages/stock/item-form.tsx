import {
  ITEM_FIELDS,
  type ItemField,
  type NumberItemField,
  numberProblem,
  type StockItem,
  type StockSection,
} from "@hillcrest/core";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { useItems } from "../../state/stock.ts";
import { NumberBox } from "../../ui/number-box.tsx";
import { RowsEditor } from "./rows-editor.tsx";

type Values = Readonly<Record<string, unknown>>;

interface ItemFormProps {
  readonly section: StockSection;
  readonly item: StockItem;
  readonly onChange: (item: StockItem, mark?: string) => void;
  /** Only these fields, where others have a form of their own. */
  readonly only?: readonly string[];
}

/** The fields of an item, one line each. */
export function ItemForm({ section, item, onChange, only }: ItemFormProps) {
  const values = item as unknown as Values;
  const fields = ITEM_FIELDS[section].filter(
    (f) => (only?.includes(f.key) ?? true) && (f.shown?.(values) ?? true),
  );
  const set = (key: string, value: unknown, mark?: string) =>
    onChange({ ...values, [key]: value } as unknown as StockItem, mark && `${key}:${mark}`);
  return (
    <div className="w-[430px] max-w-full space-y-2">
      {fields.map((f) => (
        <FormLine key={f.key} field={f}>
          <FieldInput field={f} value={standing(f, values)} onChange={(v, mark) => set(f.key, v, mark)} />
        </FormLine>
      ))}
    </div>
  );
}

/** What stands in a field: its default where an item may say nothing and says nothing. */
const standing = (f: ItemField, values: Values): unknown =>
  values[f.key] ?? (f.optional && "default" in f ? f.default : undefined);

export function FormLine({
  field,
  children,
}: {
  field: Pick<ItemField, "label" | "about" | "kind">;
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

interface FieldInputProps {
  /** In a table: narrow, without its unit, which the head says. */
  readonly compact?: boolean;
  readonly field: ItemField;
  readonly value: unknown;
  readonly onChange: (value: unknown, mark?: string) => void;
}

const BOX = "rounded border border-hairline bg-raised px-1.5 py-0.5";

/** The control for one field of an item. */
export function FieldInput({ field: f, value, onChange, compact }: FieldInputProps) {
  switch (f.kind) {
    case "number":
      return <NumberField field={f} value={value as number} onChange={onChange} compact={compact} />;
    case "text":
      return f.key === "note" ? (
        <textarea
          aria-label={f.label}
          rows={3}
          maxLength={f.most}
          value={String(value ?? "")}
          className={`${BOX} w-72 leading-snug`}
          onChange={(e) => onChange(e.currentTarget.value, "text")}
        />
      ) : (
        <input
          aria-label={f.label}
          data-field={f.key}
          maxLength={f.most}
          value={String(value ?? "")}
          className={`${BOX} ${compact ? "w-14" : f.key === "name" || f.key === "reason" ? "w-72" : "num w-28 text-right"}`}
          onChange={(e) => onChange(e.currentTarget.value, "text")}
        />
      );
    case "choice":
      return (
        <Choice
          label={f.label}
          value={String(value)}
          options={f.options}
          onChange={onChange}
          narrow={compact}
        />
      );
    case "yes":
      return (
        <input
          type="checkbox"
          aria-label={f.label}
          className="accent-moss"
          checked={value === true}
          onChange={(e) => onChange(e.currentTarget.checked)}
        />
      );
    case "refers":
      return <Refers field={f} value={String(value)} onChange={onChange} />;
    case "refersMany":
      return <RefersMany field={f} value={value as readonly string[]} onChange={onChange} />;
    case "numbers":
      return <Numbers field={f} value={value as readonly number[]} onChange={onChange} />;
    case "rows":
      return <RowsEditor field={f} rows={value as readonly Values[]} onChange={onChange} />;
  }
}

interface ChoiceProps {
  readonly label: string;
  readonly value: string;
  readonly options: readonly { readonly value: string; readonly label: string }[];
  readonly onChange: (value: string) => void;
  readonly narrow?: boolean;
}

export function Choice({ label, value, options, onChange, narrow }: ChoiceProps) {
  return (
    <select
      aria-label={label}
      title={options.find((o) => o.value === value)?.label}
      className={`${BOX} ${narrow ? "w-[5.6rem]" : "max-w-72"}`}
      value={value}
      onChange={(e) => onChange(e.currentTarget.value)}
    >
      {!options.some((o) => o.value === value) && <option value={value}>choose…</option>}
      {options.map((o) => (
        <option key={o.value} value={o.value}>
          {o.label}
        </option>
      ))}
    </select>
  );
}

function NumberField({
  field: f,
  value,
  onChange,
  compact,
}: {
  field: NumberItemField;
  value: number;
  onChange: (value: unknown, mark?: string) => void;
  compact?: boolean;
}) {
  return (
    <NumberBox
      label={f.label}
      field={f.key}
      value={value}
      dimension={f.dimension}
      unit={compact ? "" : f.unit}
      width={compact ? "3.75rem" : "8rem"}
      problem={(v) => numberProblem(f, v)}
      onChange={onChange}
    />
  );
}

function Refers({
  field: f,
  value,
  onChange,
}: FieldInputProps & { field: Extract<ItemField, { kind: "refers" }>; value: string }) {
  const items = useItems(f.section);
  return (
    <span className="flex items-baseline gap-2">
      <Choice
        label={f.label}
        value={value}
        options={items.map((i) => ({ value: i.id, label: i.name }))}
        onChange={onChange}
      />
      <Link
        className="text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
        to={`/stock/${f.section}/${value}`}
      >
        open
      </Link>
    </span>
  );
}

function RefersMany({
  field: f,
  value,
  onChange,
}: FieldInputProps & { field: Extract<ItemField, { kind: "refersMany" }>; value: readonly string[] }) {
  const items = useItems(f.section);
  if (items.length === 0) return <p className="text-quiet">none in the stock yet</p>;
  return (
    <span className="mt-1 flex flex-wrap gap-1.5">
      {items.map((i) => {
        const on = value.includes(i.id);
        return (
          <button
            key={i.id}
            type="button"
            aria-pressed={on}
            className={`rounded-full border px-2.5 py-0.5 text-[12.5px] ${on ? "border-moss bg-moss-soft font-semibold" : "border-hairline text-quiet hover:border-moss"}`}
            onClick={() => onChange(on ? value.filter((v) => v !== i.id) : [...value, i.id])}
          >
            {on && "✓ "}
            {i.name}
          </button>
        );
      })}
    </span>
  );
}

/** A short list of lengths: each a field, the last one empty to add another. */
function Numbers({
  field: f,
  value,
  onChange,
}: FieldInputProps & { field: Extract<ItemField, { kind: "numbers" }>; value: readonly number[] }) {
  const within = (v: number) =>
    v < f.min || v > f.max ? `It must be from ${f.min} to ${f.max} mm.` : undefined;
  return (
    <span className="flex max-w-72 flex-wrap items-baseline justify-end gap-1.5">
      {value.map((v, i) => (
        <span key={i} className="inline-flex items-baseline">
          <NumberBox
            label={`${f.label}, number ${i + 1}`}
            value={v}
            dimension="length"
            width="5.4rem"
            problem={within}
            onChange={(next, mark) =>
              onChange(
                value.map((old, k) => (k === i ? next : old)),
                `${i}:${mark}`,
              )
            }
          />
          {value.length > 1 && (
            <button
              type="button"
              className="px-1 text-quiet hover:text-stop"
              aria-label={`Remove radius ${v}`}
              onClick={() => onChange(value.filter((_, k) => k !== i))}
            >
              ×
            </button>
          )}
        </span>
      ))}
      {value.length < f.most && (
        <button
          type="button"
          className="text-[12.5px] font-semibold text-moss hover:underline"
          onClick={() => onChange([...value, (value.at(-1) ?? 1) + 0.5])}
        >
          + radius
        </button>
      )}
    </span>
  );
}
