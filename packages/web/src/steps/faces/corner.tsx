import { line, metal, plans } from "./plans.tsx";
import type { StepFace } from "./step-face.ts";

export const cornerFace: StepFace = {
  kind: "corner",
  pictogram: (
    <>
      <path d="M6 28V13l17-5v16Z" fill="var(--metal-a)" stroke="currentColor" strokeLinejoin="round" />
      <path d="M42 28V13L25 8v16Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
    </>
  ),
  pictures: {
    close: plans({
      mitre: (
        <>
          <path d="M8 14h41l9 9H8Z" {...metal} />
          <path d="M60 50V24l-9-9" {...line} />
          <path d="M51 15v0l9 9v26h-9Z" {...metal} />
        </>
      ),
      butt: (
        <>
          <path d="M8 14h52v9H8Z" {...metal} />
          <path d="M51 25h9v25h-9Z" {...metal} />
        </>
      ),
      open: (
        <>
          <path d="M8 14h38v9H8Z" {...metal} />
          <path d="M51 28h9v22h-9Z" {...metal} />
        </>
      ),
    }),
    relief: plans({
      none: <path d="M10 46V10h18v18h38v18Z" {...metal} />,
      round: <path d="M10 46V10h18v11a7 7 0 1 0 8 8h30v17Z" {...metal} />,
      square: <path d="M10 46V10h18v12h-5v11h11v-5h32v18Z" {...metal} />,
      slot: <path d="M10 46V10h18v13l-9 9a4 4 0 0 0 6 6l10-10h31v18Z" {...metal} />,
      teardrop: <path d="M10 46V10h18v14q-10 4-8 9 3 6 9 3 4-3 4-8h33v18Z" {...metal} />,
    }),
  },
  grows: [
    {
      on: "corner",
      corners: "flanges",
      key: "X",
      field: "gap",
      label: "Close the corner",
      values: { which: "picked" },
    },
  ],
};
