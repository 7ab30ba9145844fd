import type { PartBuild } from "../part/build.ts";
import type { Bend } from "../sheet/pieces/flat-pieces.ts";
import type { Finding } from "../steps/finding.ts";
import { mm } from "../units/spoken-length.ts";

/**
 * How the leg of a bend is made so much longer, mm (shorter, where it is below nought): by its step's own length, or by
 * that of the pick it grew from, where that has one or where `alone` the others are to stay. Nothing where the step
 * measures otherwise, or its leg is not a plain one.
 */
export function mendLength(
  { steps }: PartBuild,
  { id, step }: Bend,
  by: number,
  alone = false,
): Pick<Finding, "field" | "mend"> {
  const values = steps.find((s) => s.id === step)?.values;
  if (values?.quantities.length === undefined || values.choices.lengthTo === "overall-height") return {};
  const picks = Object.values(values.picks).flat();
  const pick = picks.find((p) => `${step}${p.key}` === id);
  const own = pick && (pick.own?.length !== undefined || (alone && picks.length > 1));
  return {
    field: "length",
    mend: {
      title: `Make it ${mm(Math.abs(by))} ${by < 0 ? "shorter" : "longer"}`,
      remedies: [{ do: "longer", step, field: "length", by, ...(own ? { pick: pick.key } : {}) }],
    },
  };
}
