import { moveCurve } from "../plane/isometry.ts";
import { bendsOf } from "../sheet/sheet.ts";
import { formatShort, toDegrees } from "../units/quantity.ts";
import { intoLine } from "./beyond-bend.ts";
import { AS_GOOD } from "./opening-names.ts";
import { type BendRemark, type CheckRule, joinRemarks } from "./rule.ts";

/** A strip whose outline crosses it askew: the bend runs out on a slanted edge. */
export const slantedEndRule: CheckRule = ({ sheet }, { values }) =>
  joinRemarks(
    bendsOf(sheet).flatMap((bend): BendRemark[] => {
      const frame = intoLine(bend, "parent");
      let found = 0;
      for (const { outer } of bend.regions)
        for (const curve of outer) {
          const { a, b } = moveCurve(frame, curve);
          const across = Math.abs(b.y - a.y);
          // From one of the strip's lines to the other, as its ends are, and not along them.
          if (across < bend.allowance - 1e-6 || across < 1e-6) continue;
          found = Math.max(found, toDegrees(Math.atan(Math.abs(b.x - a.x) / across)));
        }
      if (found <= values.mostSlant + AS_GOOD) return [];
      const says = ` ends on an edge ${formatShort(found, 1)}° off square; the shop asks for ${formatShort(values.mostSlant, 1)}° at most. Square the edge off beside the bend, or cut a notch there.`;
      return [
        {
          bend: bend.number,
          level: "note",
          rule: "slanted-end",
          one: says,
          many: says.replace(" ends", " end"),
          step: bend.step,
          pieces: [{ kind: "bend", id: bend.id }],
          found,
          wanted: values.mostSlant,
        },
      ];
    }),
  );
