import { type Choices, choice, type FieldSpec, type FieldValues, type RawValues } from "../fields/field.ts";
import type { WidthSpec } from "../sheet/growing/spec.ts";
import { lengthField } from "./bend-values.ts";
import type { SentencePart } from "./step-kind.ts";

const bySpan = (span: string) => ({ shown: (c: Choices) => c.span === span });

/** How much of an edge something takes, as fields. `initial` is how a new one starts. */
export const widthFieldsFor = (initial: "whole" | "width", width: string): readonly FieldSpec[] => [
  choice("span", "Width", initial, { whole: "whole edge", inset: "inset", width: "a width of" }),
  lengthField("leftInset", "Left inset", "0", { min: -20000, ...bySpan("inset") }),
  lengthField("rightInset", "Right inset", "0", { min: -20000, ...bySpan("inset") }),
  lengthField("width", "Width", width, { min: undefined, above: 0, ...bySpan("width") }),
  choice(
    "at",
    "Placed",
    "centre",
    { left: "from the left end", centre: "in the middle", right: "from the right end" },
    { ...bySpan("width") },
  ),
  lengthField("shift", "Moved by", "0", { min: -20000, ...bySpan("width") }),
];

/** How far a side leans in, shown while sides stand at angles. */
export const leanField = (key: string, label: string): FieldSpec => ({
  kind: "quantity",
  key,
  label,
  dimension: "angle",
  default: "0",
  min: -80,
  max: 80,
  shown: (c) => c.shape === "angles",
});

export const widthFields = widthFieldsFor("whole", "25");

export function widthOf({ quantities: q, choices }: FieldValues): WidthSpec {
  if (choices.span === "inset") return { by: "inset", left: q.leftInset ?? 0, right: q.rightInset ?? 0 };
  if (choices.span === "width") {
    return {
      by: "width",
      width: q.width ?? 0,
      at: choices.at as "left" | "centre" | "right",
      offset: q.shift ?? 0,
    };
  }
  return { by: "whole" };
}

export function widthSentence(raw: RawValues, choices: Choices): SentencePart[] {
  const out: SentencePart[] = [{ field: "span" }];
  if (choices.span === "inset")
    out.push(" ", { field: "leftInset" }, " left and ", { field: "rightInset" }, " right");
  if (choices.span === "width") {
    out.push(" ", { field: "width" }, " ", { field: "at" });
    if (raw.shift !== undefined && String(raw.shift) !== "0") out.push(", moved ", { field: "shift" });
  }
  return out;
}
