import type { FieldSpec } from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { growFold, type LineMeaning } from "../../sheet/growing/grow-fold.ts";
import { bendShape, bendSpec, kField, radiusField, reasonField, turnField } from "../bend-values.ts";
import { findLine, lineFields, lineSentence } from "../line-values.ts";
import type { SentencePart, StepKind } from "../step-kind.ts";

const MEANINGS: readonly { value: LineMeaning; label: string }[] = [
  { value: "middle", label: "middle of the bend" },
  { value: "start", label: "start of the bend" },
  { value: "end", label: "end of the bend" },
  { value: "outer-mould", label: "outer mould line" },
  { value: "inner-mould", label: "inner mould line" },
];

const fields: readonly FieldSpec[] = [
  ...lineFields,
  turnField,
  { kind: "quantity", key: "angle", label: "Angle", dimension: "angle", default: "90", above: 0, max: 179 },
  { kind: "choice", key: "meaning", label: "The line is", default: "middle", options: MEANINGS },
  radiusField,
  kField,
  reasonField,
];

/** A bend along a line drawn on a plate. The blank stays as it is. */
export const foldStep: StepKind = {
  kind: "fold",
  title: "Fold",
  about: "A bend along a line drawn on a plate",
  startsFrom: "edge",
  fields,
  makes: ({ id }) => [{ plate: id, onBend: true }],
  sentence: (raw) => {
    const c = choicesOf(fields, raw);
    const out: SentencePart[] = [
      "Fold ",
      ...lineSentence(raw, c),
      " ",
      { field: "turn" },
      ", ",
      { field: "angle" },
    ];
    out.push(", the line is the ", { field: "meaning" });
    if (raw.radius !== undefined && raw.radius !== "") out.push(", radius ", { field: "radius" });
    if (raw.k !== undefined && raw.k !== "") out.push(", K ", { field: "k" });
    return [...out, "."];
  },
  build: (values, context) => {
    const { step, draft, refuse } = context;
    const line = findLine(values, context);
    if (!line) return;
    const { quantities: q, choices } = values;
    const shape = bendShape(context, step, q.angle ?? Math.PI / 2, q.radius);
    const bend = bendSpec(context, step, shape, choices.turn === "up", q.k);
    if (!bend.ok) return refuse("radius", bend.error);
    const meaning = choices.meaning as LineMeaning;
    const refusal = growFold(
      draft,
      { id: step, step, line, meaning, relief: context.stock.relief, ...bend.value },
      context,
    );
    if (refusal) refuse(refusal.field === "distance" ? choices.by : refusal.field, refusal.message);
  },
};
