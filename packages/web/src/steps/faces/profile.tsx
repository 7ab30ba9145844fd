import { chainAsDrawn } from "./as-drawn.ts";
import { drawsOutline } from "./drawn-outline.ts";
import { ProfilePicture } from "./profile-picture.tsx";
import type { StepFace } from "./step-face.ts";

export const profileFace: StepFace = {
  kind: "profile",
  pictogram: (
    <>
      <path
        d="M6 9v14q0 6 6 6h18q6 0 6-6v-5q0-3 3-3h5v-4h-5q-7 0-7 7v5q0 2-2 2H12q-2 0-2-2V9Z"
        fill="var(--metal-edge)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
    </>
  ),
  // A channel, quickly made into anything else.
  begins: () => ({
    legs: [
      { key: "a", length: "25", turn: "90" },
      { key: "b", length: "40", turn: "90" },
      { key: "c", length: "25", turn: "0" },
    ],
  }),
  chooses: drawsOutline("by", chainAsDrawn),
  Beneath: ProfilePicture,
};
