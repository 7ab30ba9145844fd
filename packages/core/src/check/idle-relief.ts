import { curvesBounds } from "../plane/curve.ts";
import { backOf, moveLoop } from "../plane/isometry.ts";
import { rectangleLoop } from "../plane/loop.ts";
import { bendsOf, platesOf } from "../sheet/sheet.ts";
import { bordersOf, intoLine } from "./beyond-bend.ts";
import { type BendRemark, type CheckRule, joinRemarks } from "./rule.ts";

/** A hair wider than the notch: its own borders count, wherever rounding puts them, mm. */
const HAIR = 1e-4;

/** A relief all around which there is no border of its plate cuts nothing: the metal there went with another cut. */
export const idleReliefRule: CheckRule = ({ sheet }) => {
  const plates = new Map(platesOf(sheet).map((p) => [p.id, p]));
  return joinRemarks(
    bendsOf(sheet).flatMap((bend) =>
      bend.reliefs.flatMap(({ end, side, width, depth }): BendRemark[] => {
        if (width === 0 || depth < HAIR) return [];
        // The side towards the bend may be a border anyway.
        const [from, to] =
          end === "left" ? [-width - HAIR, -HAIR] : [bend.width + HAIR, bend.width + width + HAIR];
        const notch = rectangleLoop(from, HAIR, to, depth + HAIR);
        const box = curvesBounds(moveLoop(backOf(intoLine(bend, side)), notch));
        if (bordersOf(plates.get(bend[side])!).near(box).length > 0) return [];
        return [
          {
            bend: bend.number,
            level: "note",
            rule: "idle-relief",
            one: `: its ${end} relief lies where there is no metal. Leave it out, or move the cut that took the metal.`,
            many: `: the ${end} relief of each lies where there is no metal. Leave them out, or move the cut that took the metal.`,
            step: bend.step,
            field: `${end}Relief`,
            pieces: [{ kind: "bend", id: bend.id }],
          },
        ];
      }),
    ),
  );
};
