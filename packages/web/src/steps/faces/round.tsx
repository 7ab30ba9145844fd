import { metal, plans } from "./plans.tsx";
import type { StepFace } from "./step-face.ts";

export const roundFace: StepFace = {
  kind: "round",
  pictogram: (
    <>
      <path
        d="M10 31V18q0-11 11-11h18v24Z"
        fill="var(--metal-b)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
      <path d="M10 18V7h11" stroke="var(--bend-up)" strokeDasharray="3 2" />
    </>
  ),
  pictures: {
    form: plans({
      round: <path d="M14 46V28q0-14 14-14h34v32Z" {...metal} />,
      chamfer: <path d="M14 46V28l14-14h34v32Z" {...metal} />,
    }),
  },
  grows: [
    { on: "corner", key: "R", field: "radius", label: "Round", values: { which: "picked" } },
    { on: "corner", key: "C", field: "size", label: "Chamfer", values: { which: "picked", form: "chamfer" } },
    { on: "plate", key: "R", field: "radius", label: "Round its corners", values: { which: "plates" } },
  ],
};
