import type { ChoiceField as Spec } from "@hillcrest/core";
import { ChoiceField } from "./choice-field.tsx";
import { BOX, type FieldViewProps } from "./field-look.ts";

/** One of some words: a word of the sentence that is clicked, or a list in forms and tables. */
export function ChoiceView(props: FieldViewProps<Spec>) {
  const { field, value, onChange, look, wrong, label, pictures } = props;
  const word = typeof value === "string" ? value : field.default;
  if (look === "sentence")
    return (
      <ChoiceField
        spec={label ? { ...field, label } : field}
        value={word}
        wrong={wrong}
        onChange={onChange}
        {...pictures}
      />
    );
  return (
    <Choice
      label={label ?? field.label}
      value={word}
      options={field.options}
      onChange={onChange}
      narrow={look === "cell"}
    />
  );
}

interface ChoiceProps {
  readonly label: string;
  readonly value: string;
  readonly options: readonly { readonly value: string; readonly label: string }[];
  readonly onChange: (value: string) => void;
  readonly narrow?: boolean;
}

/** Words of more letters have no room in a narrow list. */
const WIDE = 14;

/** A list to choose from; one that has nothing chosen says so. */
export function Choice({ label, value, options, onChange, narrow }: ChoiceProps) {
  return (
    <select
      aria-label={label}
      title={options.find((o) => o.value === value)?.label}
      className={`${BOX} ${narrow ? (options.some((o) => o.label.length > WIDE) ? "w-40" : "w-[5.6rem]") : "max-w-72"}`}
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
