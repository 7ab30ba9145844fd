import { bendsOf } from "../sheet/sheet.ts";
import { formatShort, toDegrees } from "../units/quantity.ts";
import { AS_GOOD } from "./opening-names.ts";
import { type BendRemark, type CheckRule, joinRemarks } from "./rule.ts";

/** A V-die bends no further than its own angle. Hems are pressed shut afterwards, and are no matter of a V alone. */
export const acuteBendRule: CheckRule = ({ sheet, stock, steps }, { values }) => {
  const dies = stock?.dies ?? [];
  if (dies.length === 0) return [];
  const least = Math.min(...dies.map((d) => d.angle));
  const wanted = least + values.overBend;
  const hems = new Set(steps.filter((s) => s.work?.hem !== undefined).map((s) => s.id));
  return joinRemarks(
    bendsOf(sheet).flatMap((bend): BendRemark[] => {
      const found = 180 - toDegrees(bend.angle);
      if (hems.has(bend.step) || bend.angle > Math.PI - 1e-6 || found >= wanted - AS_GOOD) return [];
      const sprung = values.overBend > 0 ? ` with ${formatShort(values.overBend, 2)}° of springing back` : "";
      const says = (verb: string) =>
        ` ${verb} to ${formatShort(found, 2)}°; the most acute of the card's dies has ${formatShort(least, 2)}°${sprung}. Open it to ${formatShort(wanted, 2)}°, or add a more acute die to the card.`;
      return [
        {
          bend: bend.number,
          level: "warn",
          rule: "acute-bend",
          one: says("closes"),
          many: says("close"),
          step: bend.step,
          field: "angle",
          pieces: [{ kind: "bend", id: bend.id }],
          found,
          wanted,
        },
      ];
    }),
  );
};
