import { formatFixed, formatShort } from "../units/quantity.ts";
import type { CheckRule } from "./rule.ts";

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
