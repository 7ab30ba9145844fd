import { arcAngles, type Curve, curveLength, pointAt, withEnds } from "../../plane/curve.ts";
import type { Loop } from "../../plane/loop.ts";

/** A loop that is left uncut at some places. */
export interface JointedLoop {
  /** What is cut, each from one gap to the next. */
  readonly chains: readonly (readonly Curve[])[];
  /** The gaps, as the pieces of the loop that are not cut. */
  readonly gaps: readonly Curve[];
}

/** A piece of a curve by shares of its length. */
export function pieceOf(c: Curve, from: number, to: number): Curve {
  const [a, b] = [from <= 0 ? c.a : pointAt(c, from), to >= 1 ? c.b : pointAt(c, to)];
  return withEnds(c, a, b);
}

/** A gap may stand only where so much of its own width is cut on both sides of it in the same curve. */
const BESIDE = 1;

/**
 * Leaves `count` gaps of `width` in a loop, evenly along it, each within one line or arc and clear of its ends. Where no
 * curve is long enough for one, fewer are left; nothing where there is room for none.
 */
export function withJoints(loop: Loop, width: number, count: number): JointedLoop | undefined {
  const room = width * (1 + 2 * BESIDE);
  const lengths = loop.map(curveLength);
  let total = 0;
  const starts = lengths.map((length) => {
    total += length;
    return total - length;
  });
  const taken: { curve: number; from: number; to: number }[] = [];
  const free = (curve: number, from: number, to: number) =>
    taken.every((t) => t.curve !== curve || to + width <= t.from || t.to + width <= from);
  for (let k = 0; k < count; k++) {
    const wished = ((k + 0.5) / count) * total;
    const choices = loop.flatMap((_, i) => {
      if (lengths[i] < room) return [];
      const low = BESIDE * width;
      const high = lengths[i] - (1 + BESIDE) * width;
      const from = Math.max(low, Math.min(high, wished - starts[i] - width / 2));
      const off = Math.abs(starts[i] + from + width / 2 - wished);
      const away = Math.min(off, total - off);
      return free(i, from, from + width) ? [{ curve: i, from, to: from + width, away }] : [];
    });
    if (choices.length === 0) continue;
    taken.push(choices.reduce((m, c) => (c.away < m.away ? c : m)));
  }
  if (taken.length === 0) return undefined;
  taken.sort((p, q) => p.curve - q.curve || p.from - q.from);
  return cutAt(loop, lengths, taken);
}

function cutAt(
  loop: Loop,
  lengths: readonly number[],
  taken: readonly { curve: number; from: number; to: number }[],
): JointedLoop {
  const chains: Curve[][] = [[]];
  const gaps: Curve[] = [];
  const cut = (c: Curve) => chains[chains.length - 1].push(c);
  loop.forEach((c, i) => {
    let at = 0;
    for (const gap of taken.filter((t) => t.curve === i)) {
      cut(pieceOf(c, at / lengths[i], gap.from / lengths[i]));
      gaps.push(pieceOf(c, gap.from / lengths[i], gap.to / lengths[i]));
      chains.push([]);
      at = gap.to;
    }
    cut(pieceOf(c, at / lengths[i], 1));
  });
  // What begins the loop goes on from what ends it.
  const last = chains.pop()!;
  chains[0] = [...last, ...chains[0]];
  return { chains, gaps };
}

/** How far an arc turns, radians, without its sign; nought for a line. */
export const turnOf = (c: Curve): number => (c.kind === "arc" ? Math.abs(arcAngles(c).sweep) : 0);
