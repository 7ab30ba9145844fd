import { setStepValues } from "../../state/edits.ts";
import { openingChoices } from "./opening-choices.ts";
import { Holes, line, metal, plans, type Spot } from "./plans.tsx";
import { ShopTools } from "./shop-tools.tsx";
import type { StepFace } from "./step-face.ts";

export const cutFace: StepFace = {
  kind: "cut",
  pictogram: (
    <>
      <path d="M6 27 18 12h25L31 27Z" fill="var(--metal-b)" stroke="currentColor" strokeLinejoin="round" />
      <path d="m17 23 5-7h11l-5 7Z" fill="var(--panel)" stroke="currentColor" strokeLinejoin="round" />
    </>
  ),
  pictures: {
    form: plans({
      rectangle: <path d="M10 46V10h56v36ZM24 22v12h28V22Z" fillRule="evenodd" {...metal} />,
      round: <path d="M10 46V10h56v36ZM38 20a8 8 0 1 0 .01 0Z" fillRule="evenodd" {...metal} />,
      slot: (
        <path d="M10 46V10h56v36ZM28 22a6 6 0 0 0 0 12h20a6 6 0 0 0 0-12Z" fillRule="evenodd" {...metal} />
      ),
      polygon: <path d="M10 46V10h56v36ZM33 19h10l5 9-5 9H33l-5-9Z" fillRule="evenodd" {...metal} />,
      keyhole: (
        <path
          d="M10 46V10h56v36ZM35.5 27V19a2.5 2.5 0 0 1 5 0v8a7 7 0 1 1-5 0Z"
          fillRule="evenodd"
          {...metal}
        />
      ),
      flattened: <path d="M10 46V10h56v36ZM32 22h12a9 9 0 1 1-12 0Z" fillRule="evenodd" {...metal} />,
      drawn: <path d="M10 46V10h56v36ZM26 34 30 20 46 18 52 28 40 36Z" fillRule="evenodd" {...metal} />,
    }),
    arranged: plans({
      once: <Holes at={[[38, 28]]} />,
      list: (
        <Holes
          at={[
            [22, 20],
            [48, 18],
            [34, 37],
            [56, 36],
          ]}
        />
      ),
      row: (
        <Holes
          at={[
            [20, 28],
            [32, 28],
            [44, 28],
            [56, 28],
          ]}
        />
      ),
      grid: <Holes at={[20, 32, 44, 56].flatMap((x) => [21, 35].map((y): Spot => [x, y]))} />,
      round: (
        <Holes
          at={[0, 1, 2, 3, 4, 5].map((k) => [
            38 + 12 * Math.cos((k * Math.PI) / 3),
            28 + 12 * Math.sin((k * Math.PI) / 3),
          ])}
        />
      ),
      edge: (
        <Holes
          at={[
            [18, 40],
            [31, 40],
            [45, 40],
            [58, 40],
          ]}
        />
      ),
      line: (
        <>
          <Holes
            at={[
              [19, 36],
              [31, 24],
              [45, 24],
              [57, 36],
            ]}
          />
          <path d="M16 39Q26 22 38 22T60 39" {...line} strokeDasharray="2 2" />
        </>
      ),
      fill: (
        <Holes
          r={2.5}
          at={[16, 26, 36, 46, 56].flatMap((x) => [16, 24, 32, 40].map((y, k): Spot => [x + (k % 2) * 5, y]))}
        />
      ),
    }),
  },
  Follows: ShopTools,
  chooses: {
    ...openingChoices,
    // A ring is told by its pitch circle, unless it has its radius already.
    arranged: (step, option) => {
      if (option !== "round" || step.ring !== undefined || step.ringBy !== undefined) return false;
      setStepValues(step.id, { arranged: option, ringBy: "diameter" });
      return true;
    },
  },
};
