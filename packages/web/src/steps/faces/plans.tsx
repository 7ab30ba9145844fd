import type { ReactNode } from "react";
import type { OptionPictures } from "../../fields/field-look.ts";

export const line = { fill: "none", stroke: "currentColor", strokeLinejoin: "round" as const };
export const metal = {
  fill: "var(--metal-b)",
  stroke: "currentColor",
  strokeLinejoin: "round" as const,
};

/** A choice made on plans, one for each option: corners seen from above, legs and outlines seen square on. */
export const plans = (drawn: Readonly<Record<string, ReactNode>>) => (): OptionPictures => ({
  picture: (option) => (
    <svg width={76} height={54} viewBox="0 0 76 54" aria-hidden="true">
      {drawn[option]}
    </svg>
  ),
});
