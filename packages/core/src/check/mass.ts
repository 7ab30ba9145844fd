import { formatFixed, formatShort } from "../units/quantity.ts";
import type { CheckRule } from "./rule.ts";

/** What one person cannot lift wants two, or a crane. */
export const massRule: CheckRule = ({ folded }, { values }) => {
  const wanted = values.mostMass;
  if (!folded || folded.mass <= wanted + 1e-9) return [];
  return [
    {
      level: "note" as const,
      rule: "mass",
      message: `The part weighs ${formatFixed(folded.mass, 1)} kg, more than the ${formatShort(wanted, 1)} kg that one person lifts.`,
      found: folded.mass,
      wanted,
    },
  ];
};
