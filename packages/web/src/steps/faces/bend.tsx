import type { StepFace } from "./step-face.ts";

export const bendFace: StepFace = {
  kind: "bend",
  pictogram: (
    <>
      <path
        d="M6 30h12q12 0 12-12V6h4v12q0 16-16 16H6Z"
        fill="var(--metal-edge)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
      <path d="M18 22 26 27" stroke="var(--bend-up)" strokeWidth="1.6" />
      <path d="M18 22h5M18 22v5" stroke="var(--bend-up)" />
    </>
  ),
  grows: [{ on: "bend", key: "C", field: "angle", label: "Change it" }],
};
