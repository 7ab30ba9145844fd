import { holePlace } from "@hillcrest/core";
import { flatAsDrawn } from "./as-drawn.ts";
import { drawsOutline } from "./drawn-outline.ts";
import { metal, plans } from "./plans.tsx";
import type { StepFace } from "./step-face.ts";

export const plateFace: StepFace = {
  kind: "plate",
  pictogram: (
    <>
      <path d="M6 27 19 15h23L31 27Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
      <path
        d="M6 27v3h25v-3M31 30l11-12v-3"
        fill="var(--metal-edge)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
    </>
  ),
  pictures: {
    form: plans({
      rectangle: <path d="M12 42V14h52v28Z" {...metal} />,
      round: <circle cx="38" cy="28" r="18" {...metal} />,
      drawn: <path d="M12 42 18 14l28-4 18 16-10 18Z" {...metal} />,
    }),
  },
  chooses: drawsOutline("form", flatAsDrawn("depth")),
  holeAt: holePlace,
};
