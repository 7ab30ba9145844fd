import type { FieldSpec } from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { attempt } from "../../sheet/draft.ts";
import { splitSheet } from "../../sheet/shaping/split-sheet.ts";
import { lengthField } from "../bend-values.ts";
import { findLine, lineFields, lineSentence } from "../line-values.ts";
import type { StepKind } from "../step-kind.ts";

const fields: readonly FieldSpec[] = [
  ...lineFields.map((f): FieldSpec => (f.key === "moves" ? { ...f, label: "What is parted off" } : f)),
  lengthField("gap", "Gap", "0", { max: 1000 }),
];

/** Cuts a sheet in two along a line: two pieces, each with its own blank. */
export const splitStep: StepKind = {
  kind: "split",
  title: "Split",
  about: "Cuts a sheet in two along a line, or opens a seam in it",
  startsFrom: "edge",
  fields,
  makes: ({ id }) => [{ plate: id, onBend: false }],
  sentence: (raw) => {
    const line = lineSentence(raw, choicesOf(fields, raw)).map((p) =>
      p === " moves" ? " is parted off" : p,
    );
    return ["Split ", ...line, ", gap ", { field: "gap" }, "."];
  },
  build: (values, context) => {
    const line = findLine(values, context);
    if (!line) return;
    const { draft, step, refuse } = context;
    const gap = values.quantities.gap ?? 0;
    const refusal = attempt(draft, () => splitSheet(draft, line, gap, { id: step, step }, context));
    if (refusal) refuse(refusal.field === "distance" ? values.choices.by : refusal.field, refusal.message);
  },
};
