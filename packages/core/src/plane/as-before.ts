import type { Curve } from "./curve.ts";
import type { Loop } from "./loop.ts";
import type { Point } from "./point.ts";

const samePlace = (p: Point, q: Point): boolean => Object.is(p.x, q.x) && Object.is(p.y, q.y);

/** Whether two curves are the same in all that is said of them, to the last bit. */
function sameCurve(p: Curve, q: Curve): boolean {
  if (p.name !== q.name || p.feature !== q.feature || !samePlace(p.a, q.a) || !samePlace(p.b, q.b))
    return false;
  if (p.kind === "line" || q.kind === "line") return p.kind === q.kind;
  return samePlace(p.c, q.c) && p.r === q.r && p.ccw === q.ccw;
}

/** A number for a place: of fingers side by side many have one of their coordinates in common, and hardly two have this. */
const keyOf = ({ x, y }: Point): number => x + y * Math.SQRT2;

/**
 * Loops with the very records of other loops wherever they say the same: whoever knows those need not be told anew.
 */
export function asBefore(loops: readonly Loop[], before: readonly Loop[]): Loop[] {
  if (before.length === 0) return [...loops];
  const known = new Map<number, { readonly curve: Curve; readonly loop: Loop }[]>();
  for (const loop of before)
    for (const curve of loop) {
      const there = known.get(keyOf(curve.a));
      if (there) there.push({ curve, loop });
      else known.set(keyOf(curve.a), [{ curve, loop }]);
    }
  return loops.map((loop) => {
    const found = loop.map((c) => known.get(keyOf(c.a))?.find(({ curve }) => sameCurve(c, curve)));
    const whole = found[0]?.loop;
    if (whole?.length === loop.length && found.every((f, i) => f && f.curve === whole[i])) return whole;
    return loop.map((c, i) => found[i]?.curve ?? c);
  });
}
