import { mm } from "../units/spoken-length.ts";
import { mendLength } from "./leg-length.ts";
import type { CheckRule } from "./rule.ts";
import { aboutLeg, shortLegs } from "./short-legs.ts";

/** A leg must lie on the die's shoulder at the full angle, all along the bend, openings and slanted edges counted. */
export const shortLegRule: CheckRule = (build, { values }) =>
  shortLegs(build, values.legSpare)
    .filter((leg) => !leg.other)
    .map((leg) => ({
      ...aboutLeg(leg),
      level: "warn",
      rule: "short-leg",
      ...(leg.byLength ? mendLength(build, leg.bend, leg.wanted - leg.found) : {}),
      message: `Bend ${leg.bend.number}: its leg on plate ${leg.plate.letter} is ${mm(leg.found)} at its shortest, to the outer mould point; the die ${leg.die} needs ${mm(leg.wanted)}. Make it ${mm(leg.wanted - leg.found)} longer there, or bend over a narrower V.`,
    }));
