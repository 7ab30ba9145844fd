import { type ComponentType, createContext, useContext } from "react";
import type { FieldViewProps } from "./field-look.ts";

/** The view of any field, for views of fields that hold others: rows hold columns, picks their own values. */
const AnyField = createContext<ComponentType<FieldViewProps> | undefined>(undefined);

export const WithNestedFields = AnyField.Provider;

/** A field within another field. */
export function NestedField(props: FieldViewProps) {
  const View = useContext(AnyField);
  if (!View) throw new Error("A field within a field stands in none.");
  return <View {...props} />;
}
