import { type FieldSpec, formatShort, shortLength } from "@hillcrest/core";
import { FieldView } from "../../fields/field-view.tsx";
import { setStepValue } from "../../state/edits.ts";
import { useUnits } from "../../state/units.ts";
import type { FieldContext } from "../faces/step-face.ts";
import { stepFace } from "../faces/step-faces.ts";
import { RadiusChoices } from "./radius-choices.tsx";

/** One field of a step, as it stands in its sentence, its list or beneath them. */
export function StepField({
  spec,
  context,
  look = "sentence",
}: {
  spec: FieldSpec;
  context: FieldContext;
  look?: "sentence" | "form";
}) {
  const { step, values, wrong, stock, notes, names } = context;
  const fallback = useFallback(spec, context);
  const face = stepFace(step.kind);
  const View = face?.views?.[spec.key];
  if (View) return <View field={spec} context={context} />;
  const set = (value: unknown, mark?: string) => {
    if (typeof value === "string" && face?.chooses?.[spec.key]?.(step, value)) return;
    setStepValue(step.id, spec.key, value, mark);
  };
  const fromStock = spec.kind === "quantity" ? spec.fromStock : undefined;
  return (
    <>
      <FieldView
        look={look}
        field={spec}
        value={step[spec.key]}
        evaluated={values?.quantities[spec.key]}
        fallback={fallback}
        wrong={wrong.has(spec.key)}
        names={names}
        pictures={face?.pictures?.[spec.key]?.(context)}
        step={context}
        onChange={set}
      />
      {fromStock === "radius" && (
        <RadiusChoices stock={stock} value={values?.quantities[spec.key]} onChoose={set} />
      )}
      {notes?.[spec.key] && (
        <span data-note={spec.key} className="ml-1 text-[12px] text-quiet">
          ({notes[spec.key]})
        </span>
      )}
    </>
  );
}

/** What stands for an empty value that may be empty: the stock's. */
function useFallback(spec: FieldSpec, { stock }: FieldContext): string | undefined {
  const units = useUnits();
  if (spec.kind !== "quantity" || !spec.optional) return undefined;
  if (spec.empty !== undefined) return spec.empty;
  if (spec.fromStock === "radius" && stock) return shortLength(stock.radius, units);
  if (spec.fromStock === "k" && stock) return formatShort(stock.k);
  return "stock";
}
