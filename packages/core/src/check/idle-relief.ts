import { Kept } from "../kept.ts";
import { curvesBounds } from "../plane/curve.ts";
import { backOf, moveLoop } from "../plane/isometry.ts";
import { rectangleLoop } from "../plane/loop.ts";
import { NearCurves } from "../plane/near-curves.ts";
import type { Bend, Plate } from "../sheet/pieces/flat-pieces.ts";
import { bendsOf, platesOf, type Sheet } from "../sheet/sheet.ts";
import { bordersOf, intoLine } from "./beyond-bend.ts";
import { type BendRemark, type CheckRule, joinRemarks } from "./rule.ts";

/** A hair wider than the notch: its own borders count, wherever rounding puts them, mm. */
const HAIR = 1e-4;

/** The strips of all bends, found by where they lie in the flat. */
const stripsOf = new Kept(
  (sheet: Sheet) =>
    new NearCurves(
      bendsOf(sheet).map((bend) => {
        const strip = rectangleLoop(0, -bend.allowance, bend.width, 0);
        return { bend, box: curvesBounds(moveLoop(backOf(intoLine(bend, "parent")), strip)) };
      }),
    ),
);

/** Whether a border of its plate lies at a relief of a bend, or about it. */
const hasBorder = new Kept(
  (relief: Bend["reliefs"][number], { bend, plate }: { readonly bend: Bend; readonly plate: Plate }) => {
    const [from, to] = alongLine(bend, relief);
    const notch = rectangleLoop(from, HAIR, to, relief.depth + HAIR);
    const zone = curvesBounds(moveLoop(backOf(intoLine(bend, relief.side)), notch));
    return bordersOf(plate).some(zone, () => true);
  },
  (p, q) => p.bend === q.bend && p.plate === q.plate,
);

/** From where to where a relief lies along the line of its bend. The side towards the bend may be a border anyway. */
const alongLine = (bend: Bend, { end, width }: Bend["reliefs"][number]): readonly [number, number] =>
  end === "left" ? [-width - HAIR, -HAIR] : [bend.width + HAIR, bend.width + width + HAIR];

/** A relief all around which there is no border of its plate cuts nothing, where a cut has taken the metal. */
export const idleReliefRule: CheckRule = ({ sheet, steps }) => {
  const plates = new Map(platesOf(sheet).map((p) => [p.id, p]));
  const choices = new Map(steps.map((s) => [s.id, s.values?.choices]));
  return joinRemarks(
    bendsOf(sheet).flatMap((bend) =>
      bend.reliefs.flatMap((relief): BendRemark[] => {
        const { end, side, width, depth } = relief;
        // What the stock relieves by itself, wherever it may help, is no matter of the step's.
        const chosen = choices.get(bend.step)?.[`${end}Relief`];
        if (chosen === undefined || chosen === "stock" || width === 0 || depth < HAIR) return [];
        if (hasBorder.of(relief, { bend, plate: plates.get(bend[side])! })) return [];
        // Where a neighbouring bend took the corner, both of them are relieved by that.
        const [from, to] = alongLine(bend, relief);
        const back = backOf(intoLine(bend, side));
        const around = curvesBounds(
          moveLoop(back, rectangleLoop(from - width, -depth - 2 * sheet!.t, to + width, 2 * depth)),
        );
        const strips = stripsOf.of(sheet!);
        if (strips.some(around, (s) => s.bend !== bend)) return [];
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
