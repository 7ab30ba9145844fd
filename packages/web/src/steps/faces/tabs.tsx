import type { StepFace } from "./step-face.ts";

export const tabsFace: StepFace = {
  kind: "tabs",
  pictogram: (
    <>
      <path
        d="M5 22h13v-5h6v5h6v-5h6v5h7v8H5Z"
        fill="var(--metal-b)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
      <path
        d="M5 14h38V8H5ZM18 9.5h6v3h-6ZM30 9.5h6v3h-6Z"
        fill="var(--metal-b)"
        fillRule="evenodd"
        stroke="currentColor"
        strokeLinejoin="round"
      />
    </>
  ),
  grows: [{ on: "edge", field: "count", single: true }],
};
