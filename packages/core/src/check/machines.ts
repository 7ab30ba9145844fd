import { dot, subtract } from "../plane/point.ts";
import { bendsOf } from "../sheet/sheet.ts";
import { formatFixed, formatShort } from "../units/quantity.ts";
import { mm } from "../units/spoken-length.ts";
import type { CheckRule } from "./rule.ts";

/** A bend must fit between the uprights of the brake: from the first metal on its line to the last. */
export const longBendRule: CheckRule = ({ sheet, blank }, { values }) =>
  bendsOf(sheet).flatMap((bend, i) => {
    const places = blank!.centreLines[i].pieces
      .flatMap(({ a, b }) => [a, b])
      .map((p) => dot(subtract(p, bend.origin), bend.axis));
    const found = places.length === 0 ? 0 : Math.max(...places) - Math.min(...places);
    const wanted = values.brakeLength;
    if (found <= wanted + 1e-7) return [];
    return [
      {
        level: "stop" as const,
        rule: "long-bend",
        message: `Bend ${bend.number} is ${mm(found)} long; the brake takes ${mm(wanted)}. Part the sheet, or have it bent elsewhere.`,
        step: bend.step,
        pieces: [{ kind: "bend" as const, id: bend.id }],
        found,
        wanted,
      },
    ];
  });

/** A bend may take no more than the brake gives. */
export const brakeForceRule: CheckRule = ({ bends }, { values }) =>
  bends.flatMap(({ id, number, step, force }) => {
    const wanted = values.brakeForce;
    if (!force || force.total <= wanted + 1e-9) return [];
    return [
      {
        level: "stop" as const,
        rule: "brake-force",
        message: `Bend ${number} takes ${formatFixed(force.total, 0)} kN; the brake gives ${formatShort(wanted, 1)} kN. Bend over a wider V, or in shorter pieces.`,
        step,
        pieces: [{ kind: "bend" as const, id }],
        found: force.total,
        wanted,
      },
    ];
  });

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
