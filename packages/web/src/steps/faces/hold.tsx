import type { StepFace } from "./step-face.ts";

export const holdFace: StepFace = {
  kind: "hold",
  pictogram: (
    <>
      <path d="M4 25h40v4H4Z" fill="var(--metal-edge)" stroke="currentColor" strokeLinejoin="round" />
      <path d="M24 25V10" stroke="var(--bend-up)" strokeDasharray="3 2" />
      <path d="M13 8v9m-3-3 3 4 3-4M35 8v9m-3-3 3 4 3-4" stroke="currentColor" />
    </>
  ),
  grows: [{ on: "bend", values: { which: "picked" } }],
};
