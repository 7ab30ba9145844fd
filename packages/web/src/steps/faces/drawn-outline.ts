import { type AsDrawn, drawStep } from "../../state/drawn-shape.ts";
import type { StepFace } from "./step-face.ts";

/** A shape that is drawn begins as it stands (`asDrawn`), and its drawing is opened. `field`: the choice that says so. */
export const drawsOutline = (field: string, asDrawn?: AsDrawn): NonNullable<StepFace["chooses"]> => ({
  [field]: (step, option) => {
    if (option !== "drawn") return false;
    void drawStep(step, field, option, asDrawn);
    return true;
  },
});
