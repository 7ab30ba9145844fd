import type { StepFace } from "./step-face.ts";

export const matchFace: StepFace = {
  kind: "match",
  pictogram: (
    <>
      <path d="M18 4h24v20H18Z" fill="var(--metal-a)" stroke="currentColor" strokeLinejoin="round" />
      <path
        d="M6 12h26v22H6ZM12 18v10h14V18Z"
        fill="var(--metal-b)"
        fillRule="evenodd"
        stroke="currentColor"
        strokeLinejoin="round"
      />
      <path d="M14 20h10v6H14Z" stroke="currentColor" strokeDasharray="2 1.5" />
    </>
  ),
  grows: [{ on: "plate", key: "K", single: true, label: "Match what is behind", field: "takes" }],
};
