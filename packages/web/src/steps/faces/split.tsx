import type { StepFace } from "./step-face.ts";

export const splitFace: StepFace = {
  kind: "split",
  pictogram: (
    <>
      <path d="M4 26 13 15h8L12 26Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
      <path d="M20 26 29 15h14L34 26Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
    </>
  ),
  grows: [{ on: "edge", key: "S", field: "distance", single: true }],
};
