import { drawStep } from "../../state/drawn-shape.ts";
import type { StepFace } from "./step-face.ts";

/** A shape that is drawn begins as it stands, and its drawing is opened. `field`: the choice that says so. */
export const drawsOutline = (field: string, drawn = "drawn"): NonNullable<StepFace["chooses"]> => ({
  [field]: (step, option) => {
    if (option === drawn) drawStep(step, field, option);
    return option === drawn;
  },
});
