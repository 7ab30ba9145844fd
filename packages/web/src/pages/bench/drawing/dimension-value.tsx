import { DIMENSION_WORDS, dimensionOf, type OutlineDimension } from "@hillcrest/core";
import { QuantityField } from "../../../fields/quantity-field.tsx";
import { putOutline } from "../../../state/drawing.ts";
import { useNames } from "../../../state/labels.ts";
import type { Drawing } from "./use-drawing.ts";

/** Puts a dimension in the place of what it was. */
export const setDimension = ({ key, outline }: Drawing, next: OutlineDimension, mark?: string): void =>
  putOutline(
    key,
    { ...outline, dimensions: outline.dimensions.map((o) => (o.id === next.id ? next : o)) },
    mark,
  );

interface DimensionValueProps {
  readonly drawing: Drawing;
  readonly dimension: OutlineDimension;
  readonly autoFocus?: boolean;
}

/** The value of a dimension, to be typed. */
export function DimensionValue({ drawing, dimension: d, autoFocus }: DimensionValueProps) {
  const names = useNames();
  const { solved } = drawing;
  return (
    <QuantityField
      boxed
      autoFocus={autoFocus}
      spec={{
        key: `drawn-${d.id}`,
        label: DIMENSION_WORDS[d.kind],
        dimension: dimensionOf(d.kind) === "angle" ? "angle" : "length",
        default: "",
      }}
      text={String(d.value)}
      value={solved.values[d.id]}
      names={names}
      wrong={solved.problems.some((p) => p.of === d.id)}
      onChange={(text, mark) => setDimension(drawing, { ...d, value: text }, mark)}
    />
  );
}
