import { Kept } from "../../kept.ts";
import { type Curve, curvesBounds } from "../../plane/curve.ts";
import type { Bounds, Point } from "../../plane/point.ts";
import { sameValue } from "../../values.ts";
import { BoxLog } from "./box-log.ts";
import type { Metal } from "./metal-op.ts";
import { isOutlining, type MetalOp } from "./metal-op.ts";

/** The first so many boxes of a log are those of the metal's work. */
interface Boxes {
  readonly log: BoxLog;
  readonly count: number;
}

const boxes = new Kept((metal: Metal): Boxes => {
  const log = new BoxLog(metal.length);
  for (const op of metal) log.write(opBox.of(op));
  return { log, count: metal.length };
});

const opBox = new Kept((op: MetalOp) => curvesBounds(op.loops.flat()));

/**
 * Metal with one more thing done to it. Its boxes are those of before and one more: the thousandth
 * flange on a plate does not look again at what the others did.
 */
export function withWork(metal: Metal, op: MetalOp): Metal {
  const longer = [...metal, op];
  boxes.from(longer, metal, ({ log, count }) => {
    // Somebody else went on from the same metal: it gets a list of its own.
    if (log.count !== count) return undefined;
    log.write(opBox.of(op));
    return { log, count: count + 1 };
  });
  return longer;
}

/** Which things done to metal have a box that meets another, in order. */
export function workNear(metal: Metal, box: Bounds): MetalOp[] {
  const { log } = boxes.of(metal);
  return log.near(box, metal.length).map((i) => metal[i]);
}

/** With fewer things done anew it is not looked whether they were done before. */
const FEW = 16;

/**
 * Metal that a step has made again: what it did just as the last time is the very same record as then, so that what
 * is known of it need not be found again.
 *
 * @param from How many things were done to it before the step.
 * @param last What it was after the step the last time.
 */
export function workAgain(metal: Metal, from: number, last: Metal | undefined): Metal {
  // One shape that is formed has a mesh that is as much work as that of many openings.
  const few = metal.length - from < FEW && metal.slice(from).every(isOutlining);
  if (!last || few) return metal;
  let all = metal.length === last.length;
  const joined = metal.map((op, i) => {
    const old = last[i];
    if (op === old || (old && sameOp(op, old))) return old;
    all = false;
    return op;
  });
  if (all) return last;
  boxes.from(joined, metal, (known) => known);
  return joined;
}

/** Whether the same was done. Loops are looked at number by number: this is asked for every hole of a field. */
function sameOp(p: MetalOp, q: MetalOp): boolean {
  return (
    p.kind === q.kind &&
    p.loops.length === q.loops.length &&
    p.loops.every((loop, i) => sameLoop(loop, q.loops[i])) &&
    sameValue({ ...p, loops: undefined }, { ...q, loops: undefined })
  );
}

const samePlace = (p: Point, q: Point) => p.x === q.x && p.y === q.y;

const sameLoop = (p: readonly Curve[], q: readonly Curve[]): boolean =>
  p === q ||
  (p.length === q.length &&
    p.every((c, i) => {
      const d = q[i];
      if (c.kind !== d.kind || c.name !== d.name || c.feature !== d.feature) return false;
      if (!samePlace(c.a, d.a) || !samePlace(c.b, d.b)) return false;
      return c.kind === "line" || (d.kind === "arc" && samePlace(c.c, d.c) && c.r === d.r && c.ccw === d.ccw);
    }));
