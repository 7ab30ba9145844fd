import { boxGap } from "./box.ts";
import type { Folds } from "./folds.ts";
import { collide, wayApart } from "./pair.ts";

/**
 * Two pieces are looked at along the way in steps no smaller than this share of it, and those that hang on one
 * another, which touch all the way and turn by one bend alone, in larger ones.
 */
const LEAST_STEP = 1 / 128;
const LEAST_STEP_JOINED = 1 / 16;
const EXACT = 1e-6;

/**
 * The first share of a way at which two pieces collide, to 1e-6; nothing when they do not. While their boxes are
 * farther apart than they can move in a part of the way, that part is free. What lasts for less than 1/128 of the
 * way may be passed over.
 */
export function firstMeeting(folds: Folds, a: number, b: number): number | undefined {
  const speed = folds.speedBetween(a, b);
  const least = folds.trail(a, b).pieces.length === 2 ? LEAST_STEP_JOINED : LEAST_STEP;
  const meets = (share: number) => collide(folds.solid(share, a), folds.solid(share, b));
  /** The earliest share between two at which they are found to collide. */
  const between = (from: number, to: number): number | undefined => {
    const [mid, half] = [(from + to) / 2, (to - from) / 2];
    const [p, q] = [folds.solid(mid, a), folds.solid(mid, b)];
    if (boxGap(p.box, q.box, speed * half) >= speed * half) return undefined;
    const found = collide(p, q) ? mid : undefined;
    if (half <= least) return found;
    return between(from, mid) ?? found ?? between(mid, to);
  };
  if (meets(0)) return 0;
  const found = between(0, 1) ?? (meets(1) ? 1 : undefined);
  if (found === undefined) return undefined;
  let [free, met] = [Math.max(0, found - 2 * least), found];
  if (free > 0 && meets(free)) free = 0;
  while (met - free > EXACT) {
    const mid = (free + met) / 2;
    if (meets(mid)) met = mid;
    else free = mid;
  }
  return met;
}

const LOOKS = 6;

/** Where on the rest of a way two pieces stand deepest in one another, of a few places that are looked at. */
export function deepestMeeting(
  folds: Folds,
  a: number,
  b: number,
  from: number,
): { readonly share: number; readonly depth: number } {
  let best = { share: from, depth: 0 };
  for (let i = 0; i <= LOOKS; i++) {
    const share = from + ((1 - from) * i) / LOOKS;
    const [p, q] = [folds.solid(share, a), folds.solid(share, b)];
    const depth = collide(p, q) ? wayApart(p, q).length : 0;
    if (depth > best.depth) best = { share, depth };
  }
  return best;
}
