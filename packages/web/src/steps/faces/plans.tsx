import type { ReactNode } from "react";
import type { OptionPictures } from "../../fields/field-look.ts";

export const line = { fill: "none", stroke: "currentColor", strokeLinejoin: "round" as const };
export const metal = {
  fill: "var(--metal-b)",
  stroke: "currentColor",
  strokeLinejoin: "round" as const,
};

/** Outlines of a leg, seen square on. */
export const LEG_SHAPES = {
  rectangle: <path d="M14 46V14h48v32Z" {...metal} />,
  angles: <path d="M14 46 24 14h28l10 32Z" {...metal} />,
  drawn: <path d="M14 46V32L38 10l24 22v14Z" {...metal} />,
};

/** A choice made on plans, one for each option: corners seen from above, legs and outlines seen square on. */
export const plans = (drawn: Readonly<Record<string, ReactNode>>) => (): OptionPictures => ({
  picture: (option) => (
    <svg width={76} height={54} viewBox="0 0 76 54" aria-hidden="true">
      {drawn[option]}
    </svg>
  ),
});

export type Spot = readonly [number, number];

/** A plate with round openings at some places. */
export const Holes = ({ at, r = 3.5 }: { at: readonly Spot[]; r?: number }) => (
  <path
    d={`M10 46V10h56v36Z${at.map(([x, y]) => `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`).join("")}`}
    fillRule="evenodd"
    {...metal}
  />
);
