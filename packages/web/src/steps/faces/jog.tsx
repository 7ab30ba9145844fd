import { bendsOf, type Vector } from "@hillcrest/core";
import { frameOf, type Grip, lengthGrip } from "../../views/folded/grips.ts";
import type { GripPlace, StepFace } from "./step-face.ts";
import { stripPictures } from "./strip-pictures.tsx";

function jogGrips({ build, folding, bend, values }: GripPlace): Grip[] {
  // The bend that leads on to what is set off: the one whose plate has the step's own name.
  const last = bendsOf(build.sheet).find((b) => b.child === bend?.step);
  if (values.choices.form !== "jog" || !last || values.quantities.offset === undefined) return [];
  const { at, rising } = frameOf(build, folding, last);
  const up: Vector = [-rising[0], -rising[1], -rising[2]];
  return [
    {
      which: "length",
      title: "Drag the jog's offset",
      step: last.step,
      field: "offset",
      anchor: { id: "handle-length", at: at(0, 8), along: up, off: 26 },
      ...lengthGrip(values.quantities.offset, 0, []),
    },
  ];
}

export const jogFace: StepFace = {
  kind: "jog",
  pictogram: (
    <path
      d="M4 30h14q7 0 7-7v-4q0-2 2-2h17v-4H27q-7 0-7 7v4q0 2-2 2H4Z"
      fill="var(--metal-edge)"
      stroke="currentColor"
      strokeLinejoin="round"
    />
  ),
  grows: [{ on: "edge", key: "J", field: "distance", single: true }],
  pictures: { form: stripPictures("form"), between: stripPictures("between") },
  grips: jogGrips,
};
