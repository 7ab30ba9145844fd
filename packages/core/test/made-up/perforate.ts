import type { FieldSpec } from "../../src/fields/field.ts";
import { choicesOf } from "../../src/fields/field-kinds.ts";
import { circleLoop, loopFromFrame, rectangleLoop } from "../../src/plane/loop.ts";
import { point } from "../../src/plane/point.ts";
import { cutFlat } from "../../src/sheet/shaping/cut-flat.ts";
import type { StepKind } from "../../src/steps/step-kind.ts";

const fields: readonly FieldSpec[] = [
  { kind: "picks", key: "plates", label: "Plates", of: "plate", own: ["size"] },
  { kind: "quantity", key: "size", label: "Size", dimension: "length", default: "4", above: 0 },
  {
    kind: "choice",
    key: "form",
    label: "Form",
    default: "round",
    options: [
      { value: "round", label: "round" },
      { value: "square", label: "square" },
    ],
  },
  {
    kind: "rows",
    key: "spots",
    label: "Spots",
    noun: "spot",
    most: 20,
    columns: [
      { kind: "quantity", key: "x", label: "X", dimension: "length", default: "" },
      { kind: "quantity", key: "y", label: "Y", dimension: "length", default: "0" },
    ],
  },
  { kind: "text", key: "reason", label: "Why", default: "", most: 40 },
  { kind: "picks", key: "corners", label: "Corners", of: "corner", optional: true, single: true },
];

/** A kind of step that there is not: spots pierced through plates. What a new kind has to say, and nothing else. */
export const perforateStep: StepKind = {
  kind: "perforate",
  title: "Perforate",
  about: "Spots pierced through plates",
  startsFrom: "plate",
  fields,
  sentence: (raw) => [
    "Pierce ",
    { field: "plates" },
    ` ${choicesOf(fields, raw).form}, `,
    { field: "size" },
    " wide, at ",
    { field: "spots" },
    ".",
  ],
  build: (values, { step, draft, lost, letterOf, valuesWith }) => {
    for (const pick of values.picks.plates ?? []) {
      const plate = draft.pieces.plate(pick.at);
      if (!plate) {
        lost("plates", pick);
        continue;
      }
      const { quantities, choices } = pick.own ? valuesWith(pick.own) : values;
      const half = (quantities.size ?? 0) / 2;
      for (const { key, quantities: q } of values.rows.spots ?? []) {
        const [x, y] = [q.x ?? 0, q.y ?? 0];
        const spot =
          choices.form === "square"
            ? rectangleLoop(x - half, y - half, x + half, y + half, ["a", "b", "c", "d"])
            : circleLoop(point(x, y), half, `cut:${step}${key}`);
        const title = `The spot on plate ${letterOf(plate.id)}`;
        cutFlat(draft, plate.id, [{ loops: [loopFromFrame(plate.frame, spot)], title }], {
          step,
          over: new Set(),
        });
      }
    }
  },
};
