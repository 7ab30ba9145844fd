import { choice, type FieldSpec } from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { edgeLength } from "../../sheet/edges.ts";
import { growLug } from "../../sheet/growing/grow-lug.ts";
import { askedSpan } from "../../sheet/growing/site.ts";
import { partsOfName } from "../../sheet/sheet.ts";
import { lengthField } from "../bend-values.ts";
import { forEachPick } from "../each-pick.ts";
import { holesFrom, holesOf } from "../hole-values.ts";
import { drawnField, drawnLeg } from "../outline-values.ts";
import { pickedEdge, type SentencePart, type StepKind } from "../step-kind.ts";
import { leanField, widthFieldsFor, widthOf, widthSentence } from "../width-values.ts";

const OWN = ["length", "span", "leftInset", "rightInset", "width", "at", "shift"];

const fields: readonly FieldSpec[] = [
  { kind: "picks", key: "edges", label: "Edges", of: "edge", own: OWN },
  ...widthFieldsFor("width", "25"),
  lengthField("length", "Length", "10", { min: undefined, above: 0 }),
  choice("shape", "Shape", "rectangle", {
    rectangle: "rectangle",
    angles: "trapezoid",
    drawn: "drawn outline",
  }),
  { ...drawnField, shown: (c) => c.shape === "drawn" },
  leanField("leftLean", "Left side leans in by"),
  leanField("rightLean", "Right side leans in by"),
  holesFrom("0"),
];

/** A plate grown from an edge in its own plane. */
export const lugStep: StepKind = {
  kind: "lug",
  title: "Lug",
  about: "More plate from an edge, in its own plane",
  startsFrom: "edge",
  fields,
  sentence: (raw) => {
    const c = choicesOf(fields, raw);
    const out: SentencePart[] = ["Lug on ", { field: "edges" }, ", ", { field: "length" }, " long, "];
    out.push(...widthSentence(raw, c));
    if (c.shape === "drawn") out.push(", ", { field: "shape" }, " ", { field: "drawn" });
    if (c.shape === "angles")
      out.push(", ", { field: "shape" }, " ", { field: "leftLean" }, " and ", { field: "rightLean" });
    return [...out, "."];
  },
  build: (values, context) => {
    const picks = values.picks.edges ?? [];
    if (picks.length === 0)
      return context.refuse("edges", "Pick at least one edge for the lug to grow from.");
    forEachPick(picks, values, context, (pick, own) => {
      const found = pickedEdge(context, "edges", pick);
      if (!found) return;
      const { quantities: q, choices } = own;
      const span = askedSpan(widthOf(own), edgeLength(found.edge));
      const drawn =
        choices.shape === "drawn" ? drawnLeg(own, context.outlineOf, span.to - span.from) : undefined;
      if (drawn && !drawn.ok) return context.refuse(drawn.error.field, drawn.error.message);
      const refusal = growLug(
        context.draft,
        {
          id: `${context.step}${pick.key}`,
          step: context.step,
          edge: partsOfName(pick.at),
          leg: q.length ?? 0,
          width: widthOf(own),
          shape: drawn
            ? drawn.value
            : choices.shape === "angles"
              ? { by: "angles", left: q.leftLean ?? 0, right: q.rightLean ?? 0 }
              : { by: "rectangle" },
          holes: holesOf(own),
        },
        context.letterOf,
      );
      if (refusal) context.refuse(refusal.field, refusal.message);
    });
  },
};
