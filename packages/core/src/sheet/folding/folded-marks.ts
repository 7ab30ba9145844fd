import { curveLength, flattenCurve, pointAt } from "../../plane/curve.ts";
import type { Point } from "../../plane/point.ts";
import type { Vector } from "../../space/vector.ts";
import type { Mark } from "../pieces/flat-pieces.ts";
import { kindOf } from "../pieces/piece-kinds.ts";
import { piecesWithMarks, type Sheet } from "../sheet.ts";
import { type Folding, foldPoint } from "./fold.ts";

/** No chord of a mark is longer, mm: over a bend a straight one is bowed too. */
const LONGEST = 1;

/** The points along a mark, pairs of them, no farther off than `chord`. */
function* runs({ curves }: Mark, chord: number, bowed: boolean): Generator<readonly [Point, Point]> {
  for (const c of curves) {
    const many = bowed ? Math.ceil(curveLength(c) / LONGEST) : 1;
    const points =
      c.kind === "line" && many > 1
        ? Array.from({ length: many }, (_, i) => pointAt(c, i / many))
        : flattenCurve(c, chord);
    const all = [...points, c.b];
    for (let i = 1; i < all.length; i++) yield [all[i - 1], all[i]];
  }
}

/** What is marked on a sheet in a fold state: pairs of points in space, on the side that is marked. */
export function foldedMarks(sheet: Sheet, folding: Folding, chord: number): Vector[] {
  return piecesWithMarks(sheet).flatMap(({ owner, marks }) => {
    const bowed = kindOf(sheet.pieces[owner]).metal !== "flat";
    return marks.flatMap((mark) => {
      const w = mark.side === "B" ? sheet.t : 0;
      return [...runs(mark, chord, bowed)].flatMap((run) =>
        run.map((p) => foldPoint(folding, owner, [p.x, p.y, w])),
      );
    });
  });
}
