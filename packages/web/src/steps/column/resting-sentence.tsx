import {
  type FieldSpec,
  fieldsOf,
  type PicksField,
  picksOf,
  type StepDocument,
  stepKind,
  typedFor,
  typedText,
  type Units,
} from "@hillcrest/core";
import { cornerTitle, edgeTitle } from "../../views/pick-names.ts";

interface RestingProps {
  readonly step: StepDocument;
  readonly labels: ReadonlyMap<string, string>;
  readonly units: Units;
}

/** What a field says where nothing can be done with it. */
function wordOf(field: FieldSpec, { step, labels, units }: RestingProps): string {
  const value = step[field.key];
  switch (field.kind) {
    case "quantity": {
      const text = typedFor(typedText(field, step), field.dimension, units);
      const unit = field.dimension === "angle" && Number.isFinite(Number(text)) ? "°" : "";
      return text ? text + unit : (field.optional && field.empty) || "stock";
    }
    case "choice":
      return field.options.find((o) => o.value === (value ?? field.default))?.label ?? "";
    case "picks":
      return picksOf(step, field.key)
        .map((p) => pickWord(field, p.at, labels))
        .join(", ");
    case "rows": {
      const count = Array.isArray(value) ? value.length : 0;
      return `${count} ${field.noun}${count === 1 ? "" : "s"}`;
    }
    // What these are called stands in other parts of the document, or in the build.
    case "item":
    case "drawn":
      return "…";
    default:
      return typeof value === "string" || typeof value === "number" ? String(value) : "…";
  }
}

function pickWord({ of }: PicksField, at: string, labels: ReadonlyMap<string, string>): string {
  if (of === "edge") return edgeTitle(labels, at);
  if (of === "corner") return cornerTitle(labels, at);
  return (of === "plate" && labels.get(at)) || "…";
}

/**
 * A step's sentence as words alone, of a row that is out of sight: of thousands of steps each field would cost as much as
 * one that is worked on. It is there to be found by the browser's search, and to be about as high as the whole row.
 */
export function RestingSentence(props: RestingProps) {
  const { step } = props;
  const kind = stepKind(step.kind)!;
  const fields = new Map(fieldsOf(kind, step).map((f) => [f.key, f]));
  const words = kind
    .sentence(step)
    .map((part) => (typeof part === "string" ? part : wordOf(fields.get(part.field)!, props)));
  return (
    <>
      {step.name && <b className="block truncate">{step.name}</b>}
      {/* A value may be longer than the column is wide. */}
      <span className="[overflow-wrap:anywhere]">{words.join("")}</span>
    </>
  );
}
