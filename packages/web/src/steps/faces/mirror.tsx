import { withOpenStep } from "./repeating.ts";
import type { StepFace } from "./step-face.ts";

export const mirrorFace: StepFace = {
  kind: "mirror",
  pictogram: (
    <>
      <path d="M5 29h12V10Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
      <path d="M43 29H31V10Z" fill="none" stroke="currentColor" strokeLinejoin="round" />
      <path d="M24 4v30" stroke="var(--bend-up)" strokeDasharray="3 2" />
    </>
  ),
  begins: withOpenStep,
};
