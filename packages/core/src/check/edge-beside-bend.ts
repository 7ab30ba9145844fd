import { bendsOf, platesOf } from "../sheet/sheet.ts";
import { mm } from "../units/spoken-length.ts";
import { edgesBeside } from "./beyond-bend.ts";
import { AS_GOOD } from "./opening-names.ts";
import { type BendRemark, type CheckRule, joinRemarks } from "./rule.ts";

/**
 * An edge of the plate that goes on beside the end of a bend, within a thickness of it: at the bend's own line it is
 * flush, well behind it is clear, and between the two it is drawn in. A notch that is the bend's own relief is asked
 * for its depth elsewhere.
 */
export const edgeBesideBendRule: CheckRule = ({ sheet }, { values }) => {
  const plates = new Map(platesOf(sheet).map((p) => [p.id, p]));
  const wanted = values.edgeBeside * sheet!.t;
  return joinRemarks(
    bendsOf(sheet).flatMap((bend) =>
      (["parent", "child"] as const).flatMap((side) => {
        const plate = plates.get(bend[side])!;
        return edgesBeside(bend, side, plate, { within: wanted, reach: sheet!.t }).flatMap(
          ({ end, away, at }): BendRemark[] => {
            if (away >= wanted - AS_GOOD) return [];
            if (bend.reliefs.some((r) => r.end === end && r.side === side)) return [];
            const says = `: the edge of plate ${plate.letter} beside its ${end} end lies ${mm(away)} behind its line; it needs ${mm(wanted)}, or to be flush. Move the edge ${mm(wanted - away)} back, or relieve the bend there.`;
            return [
              {
                bend: bend.number,
                level: "warn",
                rule: "edge-beside-bend",
                one: says,
                many: says,
                step: bend.step,
                pieces: [
                  { kind: "plate", id: plate.id },
                  { kind: "bend", id: bend.id },
                ],
                at,
                found: away,
                wanted,
              },
            ];
          },
        );
      }),
    ),
  );
};
