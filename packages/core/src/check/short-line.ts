import { curveLength } from "../plane/curve.ts";
import { loopMeasures } from "../plane/loop.ts";
import { mm } from "../units/spoken-length.ts";
import { piecesAt } from "./blank-corners.ts";
import { AS_GOOD } from "./opening-names.ts";
import type { CheckRule } from "./rule.ts";

/** Straight pieces and arcs so short that a machine stops at each of them, and marks the edge. */
export const shortLineRule: CheckRule = ({ sheet, blank }, { values }) => {
  const wanted = values.shortestLine;
  const isShort = (length: number) => length < wanted - AS_GOOD;
  const short = [...blank!.outlines, ...blank!.openings]
    .filter((loop) => isShort(loopMeasures(loop).shortest))
    .flat()
    .map((curve) => ({ curve, length: curveLength(curve) }))
    .filter(({ length }) => isShort(length));
  if (short.length === 0) return [];
  const least = short.reduce((p, q) => (q.length < p.length ? q : p));
  const many = short.length === 1 ? "1 piece of outline is" : `${short.length} pieces of outline are`;
  return [
    {
      level: "note" as const,
      rule: "short-line",
      message: `${many} shorter than ${mm(wanted)}; the shortest is ${mm(least.length)}. Draw what meets there so that it meets in one point, or round it.`,
      pieces: piecesAt(sheet!, least.curve.a),
      at: least.curve.a,
      found: least.length,
      wanted,
    },
  ];
};
