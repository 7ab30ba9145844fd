import type { NumberField } from "../fields/field.ts";

/** A field of an item that holds a number. */
export const numberField = (
  key: string,
  label: string,
  dimension: NumberField["dimension"],
  initial: number,
  more: Partial<NumberField> = {},
): NumberField => ({ kind: "number", key, label, dimension, default: initial, ...more });
