import { openingChoices } from "./opening-choices.ts";
import { Holes, metal, plans, type Spot } from "./plans.tsx";
import type { StepFace } from "./step-face.ts";

const OPEN = [17, 23, 29, 35];

export const ventFace: StepFace = {
  kind: "vent",
  pictogram: (
    <>
      <path d="M6 27 18 12h25L31 27Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
      {[0, 1, 2].map((k) => (
        <path
          key={k}
          d={`m${15 + k * 3} ${24 - k * 3.5}h12l1.5-2h-12Z`}
          fill="var(--panel)"
          stroke="currentColor"
          strokeLinejoin="round"
        />
      ))}
    </>
  ),
  pictures: {
    form: plans({
      rectangle: <path d="M10 46V10h56v36ZM22 18v20h32V18Z" fillRule="evenodd" {...metal} />,
      round: <path d="M10 46V10h56v36ZM38 16a12 12 0 1 0 .01 0Z" fillRule="evenodd" {...metal} />,
      slot: (
        <path d="M10 46V10h56v36ZM28 20a8 8 0 0 0 0 16h20a8 8 0 0 0 0-16Z" fillRule="evenodd" {...metal} />
      ),
      drawn: <path d="M10 46V10h56v36ZM24 36 29 18 47 16 54 28 40 39Z" fillRule="evenodd" {...metal} />,
    }),
    filling: plans({
      bars: (
        <path
          d={`M10 46V10h56v36Z${OPEN.map((y) => `M22 ${y}v3h32v-3Z`).join("")}`}
          fillRule="evenodd"
          {...metal}
        />
      ),
      louvres: (
        <>
          <path d="M10 46V10h56v36Z" {...metal} />
          {[16, 26, 36].map((y) => (
            <path
              key={y}
              d={`M22 ${y + 7}a6 6 0 0 1 6-6h20a6 6 0 0 1 6 6Z`}
              fill="var(--metal-a)"
              stroke="currentColor"
              strokeLinejoin="round"
            />
          ))}
        </>
      ),
      holes: (
        <Holes
          r={2.2}
          at={[18, 25, 32, 39].flatMap((y, k) => [22, 30, 38, 46].map((x): Spot => [x + (k % 2) * 4, y]))}
        />
      ),
    }),
  },
  chooses: openingChoices,
};
