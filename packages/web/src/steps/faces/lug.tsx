import { facingOf, moveV, picksOf, platesOf, turnV } from "@hillcrest/core";
import { type Grip, lengthGrip } from "../../views/folded/grips.ts";
import { legAsDrawn } from "./as-drawn.ts";
import { drawsOutline } from "./drawn-outline.ts";
import { LEG_SHAPES, plans } from "./plans.tsx";
import type { GripPlace, StepFace } from "./step-face.ts";

function lugGrips({ build, folding, step, values }: GripPlace): Grip[] {
  const sheet = build.sheet;
  const [pick] = picksOf(step, "edges");
  if (!sheet || !pick || values.quantities.length === undefined) return [];
  const role = `${step.id}${pick.key}-end`;
  const plate = platesOf(sheet).find((p) => p.edges.some((e) => e.role === role));
  const edge = plate?.edges.find((e) => e.role === role);
  if (!plate || !edge) return [];
  const motion = facingOf(folding, sheet.pieces.indexOf(plate));
  const middle = [(edge.left.x + edge.right.x) / 2, (edge.left.y + edge.right.y) / 2] as const;
  return [
    {
      which: "length",
      title: "Drag the lug's length",
      step: step.id,
      pick: pick.key,
      field: "length",
      anchor: {
        id: "handle-length",
        at: moveV(motion, [middle[0], middle[1], sheet.t / 2]),
        along: turnV(motion, [edge.out.x, edge.out.y, 0]),
        off: 20,
      },
      ...lengthGrip(values.quantities.length, 0.1, []),
    },
  ];
}

export const lugFace: StepFace = {
  kind: "lug",
  pictogram: (
    <>
      <path
        d="M6 26 18 15h5l4-5h9l-4 5h7L28 26Z"
        fill="var(--metal-b)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
      <path d="M23 15h9" stroke="var(--bend-up)" strokeDasharray="3 2" />
    </>
  ),
  pictures: {
    shape: plans(LEG_SHAPES),
  },
  grows: [{ on: "edge", key: "L", field: "length" }],
  chooses: drawsOutline("shape", legAsDrawn),
  grips: lugGrips,
};
