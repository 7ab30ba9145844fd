import { type Choices, choice, type FieldSpec, type FieldValues } from "../../fields/field.ts";
import { choicesOf } from "../../fields/field-kinds.ts";
import { line } from "../../plane/curve.ts";
import { type Loop, loopFromFrame } from "../../plane/loop.ts";
import { along, type Frame, point, scale } from "../../plane/point.ts";
import { bendOf } from "../../sheet/draft.ts";
import { growFold, type LineMeaning } from "../../sheet/growing/grow-fold.ts";
import { cutFlat, type FlatCut } from "../../sheet/shaping/cut-flat.ts";
import { mm } from "../../units/spoken-length.ts";
import {
  bendShape,
  bendSpec,
  kField,
  lengthField,
  positive,
  radiusField,
  reasonField,
  turnField,
} from "../bend-values.ts";
import { findLine, lineFields, lineSentence } from "../line-values.ts";
import type { SentencePart, StepContext, StepKind } from "../step-kind.ts";

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
  choice("starts", "At both its ends", "plain", { plain: "nothing", slots: "a starting slot" }),
  lengthField("slotLength", "Slots are long", "5", {
    ...positive,
    max: 1000,
    shown: (c: Choices) => c.starts === "slots",
  }),
  lengthField("slotWidth", "Slots are wide", "t", {
    ...positive,
    max: 200,
    shown: (c: Choices) => c.starts === "slots",
  }),
  radiusField,
  kField,
  reasonField,
];

/** Slots on the line from both ends of the bend inward, by which it begins to turn just there. */
function startSlots({ quantities: q }: FieldValues, { draft, step, refuse }: StepContext) {
  const bend = bendOf(draft, step);
  if (!bend) return;
  const [length, width] = [q.slotLength ?? 0, q.slotWidth ?? 0];
  if (2 * length > bend.width - 1e-3)
    return refuse(
      "slotLength",
      `The bend is ${mm(bend.width)} long: two slots of ${mm(length)} leave nothing of it. Make them shorter.`,
    );
  if (width / 2 > length - 1e-3)
    return refuse(
      "slotLength",
      `A slot ${mm(width)} wide has a round end: let it be longer than ${mm(width / 2)}.`,
    );
  const middle = along(bend.origin, bend.out, bend.allowance / 2);
  const ends: Frame[] = [
    { origin: middle, x: bend.axis },
    { origin: along(middle, bend.axis, bend.width), x: scale(bend.axis, -1) },
  ];
  const half = width / 2;
  const cuts = ends.map((frame, k): FlatCut => {
    const name = (side: string) => `${step}-slot${k + 1}${side}`;
    const [a, b] = [point(length - half, -half), point(length - half, half)];
    const loop: Loop = [
      line(point(-1, -half), a, name("a")),
      { kind: "arc", a, b, c: point(length - half, 0), r: half, ccw: true, name: `${step}-slot${k + 1}end` },
      line(b, point(-1, half), name("b")),
      line(point(-1, half), point(-1, -half)),
    ];
    return { loops: [loopFromFrame(frame, loop)] };
  });
  cutFlat(draft, bend.parent, cuts, { step, over: new Set([step]) });
}

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
    if (c.starts === "slots") out.push(", with ", { field: "starts" }, " ", { field: "slotLength" }, " long");
    if (raw.radius !== undefined && raw.radius !== "") out.push(", radius ", { field: "radius" });
    if (raw.k !== undefined && raw.k !== "") out.push(", K ", { field: "k" });
    return [...out, "."];
  },
  build: (values, context) => {
    const { step, draft, refuse } = context;
    const drawn = findLine(values, context);
    if (!drawn) return;
    const { quantities: q, choices } = values;
    const shape = bendShape(context, step, q.angle ?? Math.PI / 2, q.radius);
    const bend = bendSpec(context, step, shape, choices.turn === "up", q.k);
    if (!bend.ok) return refuse("radius", bend.error);
    const meaning = choices.meaning as LineMeaning;
    const refusal = growFold(
      draft,
      { id: step, step, line: drawn, meaning, relief: context.stock.relief, ...bend.value },
      context,
    );
    if (refusal) return refuse(refusal.field === "distance" ? choices.by : refusal.field, refusal.message);
    if (choices.starts === "slots") startSlots(values, context);
  },
};
