import { withOpenStep } from "./repeating.ts";
import type { StepFace } from "./step-face.ts";

export const patternFace: StepFace = {
  kind: "pattern",
  pictogram: (
    <>
      <rect x="5" y="13" width="9" height="14" fill="var(--metal-b)" stroke="currentColor" />
      <rect x="19.5" y="13" width="9" height="14" fill="none" stroke="currentColor" />
      <rect x="34" y="13" width="9" height="14" fill="none" stroke="currentColor" />
    </>
  ),
  begins: withOpenStep,
};
