import { type QuantityField as Spec, typedText } from "@hillcrest/core";
import type { FieldViewProps } from "./field-look.ts";
import { QuantityField } from "./quantity-field.tsx";

/** A number as it is typed, in the part's own units. */
export function QuantityView(props: FieldViewProps<Spec>) {
  const { field, value, onChange, look, wrong, label, place, names, evaluated, fallback } = props;
  return (
    <QuantityField
      spec={{ ...field, key: place ?? field.key, label: label ?? field.label }}
      text={typedText(field, { [field.key]: value })}
      fallback={fallback}
      value={evaluated}
      wrong={wrong}
      names={names}
      boxed={look === "form"}
      onChange={onChange}
    />
  );
}
