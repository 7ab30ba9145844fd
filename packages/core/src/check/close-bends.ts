import { mm } from "../units/spoken-length.ts";
import type { CheckRule } from "./rule.ts";
import { aboutLeg, shortLegs } from "./short-legs.ts";

/** Two bends of one plate: the metal between them is the leg of each. Said once of both. */
export const closeBendsRule: CheckRule = (build, { values }) => {
  const seen = new Set<string>();
  return shortLegs(build, values.legSpare).flatMap((leg) => {
    const { bend, other, plate, found, wanted, die } = leg;
    const key = other && [bend.id, other.id].sort().join(" ");
    if (!other || !key || seen.has(key)) return [];
    seen.add(key);
    return [
      {
        ...aboutLeg(leg),
        level: "warn" as const,
        rule: "close-bends",
        message: `Bends ${bend.number} and ${other.number}: only ${mm(found)} of plate ${plate.letter} lie between them, to the outer mould point; the die ${die} needs ${mm(wanted)}. Set them ${mm(wanted - found)} further apart, or bend over a narrower V.`,
      },
    ];
  });
};
