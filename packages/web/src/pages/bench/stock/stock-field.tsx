import type { FieldSpec, RawValues } from "@hillcrest/core";
import { FieldView } from "../../../fields/field-view.tsx";
import { setStockValue } from "../../../state/edits.ts";
import { useUnits } from "../../../state/units.ts";

interface StockFieldProps {
  /** Among other words, not lined up in a column. */
  readonly inline?: boolean;
  readonly spec: FieldSpec;
  readonly raw: RawValues;
  readonly wrong: boolean;
}

const UNIT: Readonly<Record<string, string>> = {
  density: "kg/m³",
  tensile: "MPa",
  k: "",
  radiusOverV: "× V",
};

export function StockField({ spec, raw, wrong, inline }: StockFieldProps) {
  const length = useUnits() === "mm" ? "mm" : "in";
  const field = (
    <FieldView
      look={spec.kind === "choice" ? "sentence" : "form"}
      field={spec}
      value={raw[spec.key]}
      fallback={spec.optional ? "not said" : undefined}
      wrong={wrong}
      onChange={(value, mark) => setStockValue(spec.key, value, mark)}
    />
  );
  if (spec.kind === "choice") return <span className={inline ? "" : "pr-12"}>{field}</span>;
  if (spec.kind !== "quantity") return field;
  return (
    <>
      {field}{" "}
      <span className={`num text-left text-quiet ${inline ? "" : "inline-block w-11"}`}>
        {UNIT[spec.key] ?? length}
      </span>
    </>
  );
}
