import { drawShape } from "../../state/drawn-shape.ts";
import type { StepFace } from "./step-face.ts";

/** A shape that is an outline of its own begins as it stands, with its points to be drawn. */
export const drawsOutline: StepFace["chooses"] = {
  shape: (step, option) => {
    if (option === "outline") drawShape(step);
    return option === "outline";
  },
};
