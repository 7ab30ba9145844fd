import { legReach, lineOf } from "../sheet/leg-reach.ts";
import type { Bend, Plate } from "../sheet/pieces/flat-pieces.ts";
import { kindOf } from "../sheet/pieces/piece-kinds.ts";
import { pieceIndex } from "../sheet/sheet.ts";
import { dotV, inverse, moveV, scaleV, turnV, type Vector } from "../space/vector.ts";
import { axesOf, type Convex } from "./convex.ts";
import type { Folds } from "./folds.ts";
import { EVERYWHERE } from "./pair.ts";
import type { Body, Solid } from "./solids.ts";

/** A leg that is made longer by so much, mm (shorter, where it is below nought), by the bend it hangs on. */
export interface LengthChange {
  /** The bend's id: its place among the pieces changes with the next step. */
  readonly bend: string;
  readonly by: number;
  /** Whether it is the leg's own metal that is cut back, and not what hangs at its end that is carried off. */
  readonly own: boolean;
}

/** Of more bodies against bodies than this it is not looked for. */
const MOST_PAIRS = 40_000;

/**
 * Between which shifts of the second of two bodies along a direction they overlap; nothing where they never do. Along
 * each axis that can part them they overlap between two shifts, and they do where they do along all.
 */
function overlapsBetween(a: Convex, b: Convex, way: Vector): readonly [number, number] | undefined {
  let [from, to] = [-Infinity, Infinity];
  for (const axis of axesOf(a, b)) {
    const span = (body: Convex): [number, number] => {
      const places = body.corners.map((c) => dotV(c, axis));
      return [Math.min(...places), Math.max(...places)];
    };
    const [[a0, a1], [b0, b1]] = [span(a), span(b)];
    const speed = dotV(axis, way);
    if (Math.abs(speed) < 1e-12) {
      if (a1 <= b0 + 1e-9 || b1 <= a0 + 1e-9) return undefined;
      continue;
    }
    const [s, e] = [(a0 - b1) / speed, (a1 - b0) / speed];
    from = Math.max(from, Math.min(s, e));
    to = Math.min(to, Math.max(s, e));
    if (to <= from + 1e-9) return undefined;
  }
  return [from, to];
}

/** The least shift of the second bodies along a direction, not below nought, after which none overlap; nothing of too many. */
export function shiftAlong(still: readonly Body[], moved: readonly Body[], way: Vector): number | undefined {
  if (still.length * moved.length > MOST_PAIRS) return undefined;
  const spans = still
    .flatMap((a) => moved.flatMap((b) => [overlapsBetween(a.convex, b.convex, way)]))
    .filter((s) => s !== undefined && s[1] > 0)
    .map((s) => s!)
    .sort((p, q) => p[0] - q[0]);
  let at = 0;
  for (const [from, to] of spans) {
    if (from > at + 1e-9) break;
    at = Math.max(at, to);
  }
  return at;
}

/**
 * How legs could be made longer or shorter so that two pieces that stand in one another do so no longer: a leg that one
 * of them is, cut back to before what they share (its points in space are given), and legs at whose ends it hangs, which
 * carry it off. The least changes first; steps, shapes and what else hangs on a leg are for others to look at: that may
 * change while these two pieces and what lies between them stay.
 */
export function lengthChanges(folds: Folds, p: Solid, q: Solid, shared: readonly Vector[]): LengthChange[] {
  const { sheet } = folds;
  const [ps, qs] = [p.bodies(EVERYWHERE), q.bodies(EVERYWHERE)];
  const trail = folds.trail(p.index, q.index).pieces;
  const bends = trail.flatMap((i) => (sheet.pieces[i].kind === "bend" ? [i] : []));
  return bends
    .flatMap((index): LengthChange[] => {
      const bend = sheet.pieces[index] as Bend;
      const leg = pieceIndex(sheet, "plate", bend.child);
      const plate = sheet.pieces[leg] as Plate;
      const folded = folds.foldingAt(1).pieces[leg];
      const motion = kindOf(folded).facing(folded);
      const { origin, over } = lineOf(bend, "child");
      if (leg === p.index || leg === q.index) {
        const home = inverse(motion);
        let nearest = Infinity;
        for (const c of shared) {
          const [x, y] = moveV(home, c);
          nearest = Math.min(nearest, (x - origin.x) * over.x + (y - origin.y) * over.y);
        }
        const by = nearest - legReach(plate, bend, "child");
        return nearest === Infinity ? [] : [{ bend: bend.id, by, own: true }];
      }
      // What hangs at its end goes with it; what hangs at its sides stays.
      const next = bends.find((i) => {
        const b = sheet.pieces[i] as Bend;
        return b.parent === plate.id && b.edge === "end";
      });
      if (next === undefined || !trail.includes(leg)) return [];
      const carriesFirst = folds.hangsBeyond(p.index, next);
      if (carriesFirst === folds.hangsBeyond(q.index, next)) return [];
      const way = turnV(motion, [over.x, over.y, 0]);
      const [still, moved] = carriesFirst ? [qs, ps] : [ps, qs];
      return [1, -1].flatMap((sign) => {
        const by = shiftAlong(still, moved, scaleV(way, sign));
        return by === undefined || by === 0 ? [] : [{ bend: bend.id, by: sign * by, own: false }];
      });
    })
    .sort((a, b) => Math.abs(a.by) - Math.abs(b.by));
}
