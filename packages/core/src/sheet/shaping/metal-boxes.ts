import { Kept } from "../../kept.ts";
import { curvesBounds } from "../../plane/curve.ts";
import type { Bounds } from "../../plane/point.ts";
import type { Metal, MetalOp } from "./metal.ts";

/** The boxes of one thing done after another: minX, minY, maxX, maxY of each in turn. */
interface Log {
  numbers: Float64Array;
  count: number;
}

/** The first so many boxes of a log are those of the metal's work. */
interface Boxes {
  readonly log: Log;
  readonly count: number;
}

const boxes = new Kept((metal: Metal): Boxes => {
  const log: Log = { numbers: new Float64Array(Math.max(4, metal.length) * 4), count: 0 };
  for (const op of metal) write(log, op);
  return { log, count: metal.length };
});

function write(log: Log, op: MetalOp): void {
  const at = log.count * 4;
  if (at + 4 > log.numbers.length) {
    const wider = new Float64Array(log.numbers.length * 2);
    wider.set(log.numbers);
    log.numbers = wider;
  }
  const { minX, minY, maxX, maxY } = curvesBounds(op.loops.flat());
  log.numbers.set([minX, minY, maxX, maxY], at);
  log.count++;
}

/**
 * Metal with one more thing done to it. Its boxes are those of before and one more: the thousandth
 * flange on a plate does not look again at what the others did.
 */
export function withWork(metal: Metal, op: MetalOp): Metal {
  const longer = [...metal, op];
  boxes.from(longer, metal, ({ log, count }) => {
    // Somebody else went on from the same metal: it gets a list of its own.
    if (log.count !== count) return undefined;
    write(log, op);
    return { log, count: count + 1 };
  });
  return longer;
}

/** Which things done to metal have a box that meets another, in order. */
export function workNear(metal: Metal, box: Bounds): MetalOp[] {
  const { numbers } = boxes.of(metal).log;
  const out: MetalOp[] = [];
  for (let i = 0, at = 0; i < metal.length; i++, at += 4)
    if (
      numbers[at] <= box.maxX &&
      numbers[at + 2] >= box.minX &&
      numbers[at + 1] <= box.maxY &&
      numbers[at + 3] >= box.minY
    )
      out.push(metal[i]);
  return out;
}
