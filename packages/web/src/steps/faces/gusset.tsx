import type { StepFace } from "./step-face.ts";

export const gussetFace: StepFace = {
  kind: "gusset",
  pictogram: (
    <>
      <path d="M8 34V30H30V8h4v26Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
      <path d="M16 30 30 16v14Z" fill="var(--metal-a)" stroke="currentColor" strokeLinejoin="round" />
    </>
  ),
  grows: [{ on: "bend", key: "G", field: "count" }],
};
