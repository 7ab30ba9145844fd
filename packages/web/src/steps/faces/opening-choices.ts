import { choosePlaced } from "../../state/placing.ts";
import type { Placed } from "../../state/view-slice.ts";
import { flatAsDrawn } from "./as-drawn.ts";
import { drawsOutline } from "./drawn-outline.ts";
import type { StepFace } from "./step-face.ts";

/** What a step that makes openings does where its form, or the way it is placed, is chosen. */
export const openingChoices: StepFace["chooses"] = {
  ...drawsOutline("form", flatAsDrawn("height")),
  placed: (step, option) => {
    void choosePlaced(step, option as Placed);
    return true;
  },
};
