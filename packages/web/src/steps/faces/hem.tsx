import { frameOf, type Grip, lengthGrip } from "../../views/folded/grips.ts";
import type { GripPlace, StepFace } from "./step-face.ts";
import { stripPictures } from "./strip-pictures.tsx";

function hemGrips({ build, folding, bend, values }: GripPlace): Grip[] {
  if (!bend || values.quantities.length === undefined) return [];
  const { plate, at, out } = frameOf(build, folding, bend);
  const least = bend.radius + build.sheet!.t;
  return [
    {
      which: "length",
      title: "Drag the hem's length",
      step: bend.step,
      pick: bend.id.slice(bend.step.length),
      field: "length",
      anchor: { id: "handle-length", at: at(0, plate.box.y1), along: out, off: 20 },
      ...lengthGrip(values.quantities.length, least, []),
    },
  ];
}

export const hemFace: StepFace = {
  kind: "hem",
  pictogram: (
    <>
      <path
        d="M5 23h28q5 0 5 4.5t-5 4.5H18v-4h14q1 0 1-.5t-1-.5H5Z"
        fill="var(--metal-edge)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
      <path d="M41 8v26" stroke="var(--bend-up)" strokeDasharray="3 2" />
    </>
  ),
  grows: [{ on: "edge", key: "H", field: "length" }],
  pictures: { form: stripPictures("form"), place: stripPictures("place") },
  grips: hemGrips,
};
