import type { YesField } from "@hillcrest/core";
import type { FieldViewProps } from "./field-look.ts";

export const YesView = ({ field, value, onChange, label }: FieldViewProps<YesField>) => (
  <input
    type="checkbox"
    aria-label={label ?? field.label}
    className="accent-moss"
    checked={value === true}
    onChange={(e) => onChange(e.currentTarget.checked)}
  />
);
