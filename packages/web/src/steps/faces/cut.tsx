import { choosePlaced } from "../../state/placing.ts";
import type { Placed } from "../../state/view-slice.ts";
import { flatAsDrawn } from "./as-drawn.ts";
import { drawsOutline } from "./drawn-outline.ts";
import { metal, plans } from "./plans.tsx";
import type { StepFace } from "./step-face.ts";

export const cutFace: StepFace = {
  kind: "cut",
  pictogram: (
    <>
      <path d="M6 27 18 12h25L31 27Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
      <path d="m17 23 5-7h11l-5 7Z" fill="var(--panel)" stroke="currentColor" strokeLinejoin="round" />
    </>
  ),
  pictures: {
    form: plans({
      rectangle: <path d="M10 46V10h56v36ZM24 22v12h28V22Z" fillRule="evenodd" {...metal} />,
      round: <path d="M10 46V10h56v36ZM38 20a8 8 0 1 0 .01 0Z" fillRule="evenodd" {...metal} />,
      slot: (
        <path d="M10 46V10h56v36ZM28 22a6 6 0 0 0 0 12h20a6 6 0 0 0 0-12Z" fillRule="evenodd" {...metal} />
      ),
      drawn: <path d="M10 46V10h56v36ZM26 34 30 20 46 18 52 28 40 36Z" fillRule="evenodd" {...metal} />,
    }),
  },
  chooses: {
    ...drawsOutline("form", flatAsDrawn("height")),
    placed: (step, option) => {
      choosePlaced(step, option as Placed);
      return true;
    },
  },
};
