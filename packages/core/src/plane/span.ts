import { firstPlace } from "../first-place.ts";
import { arcCovers } from "./curve.ts";
import type { Loop } from "./loop.ts";
import { type Point, SAME } from "./point.ts";

/** From where to where along a line, in millimetres. */
export type Span = readonly [number, number];

interface Crossing {
  readonly at: number;
  readonly way: 1 | -1;
}

/**
 * Where the area inside `loops` lies along the line through `origin` in the unit direction `axis`,
 * looked at just to the right of the line, so that borders on the line itself do not blur the answer.
 */
export function spansInside(loops: readonly Loop[], origin: Point, axis: Point): Span[] {
  const crossings: Crossing[] = [];
  const [ox, oy, dx, dy] = [origin.x, origin.y, axis.x, axis.y];
  // Beyond the line, to its right, counts positive; rounding must not put a border on the line there.
  const beyond = (p: Point) => (p.x - ox) * dy - (p.y - oy) * dx - SAME;
  const along = (p: Point) => (p.x - ox) * dx + (p.y - oy) * dy;
  for (const loop of loops) {
    for (const c of loop) {
      if (c.kind === "line") {
        const [fa, fb] = [beyond(c.a), beyond(c.b)];
        if (fa > 0 === fb > 0) continue;
        const f = Math.max(0, Math.min(1, (fa + SAME) / (fa - fb)));
        const sa = along(c.a);
        crossings.push({ at: sa + (along(c.b) - sa) * f, way: fa > 0 ? 1 : -1 });
        continue;
      }
      const off = beyond(c.c);
      if (Math.abs(off) >= c.r) continue;
      const half = Math.sqrt(c.r * c.r - off * off);
      // Looked at a hair beside the line, but placed where the arc crosses the line itself.
      const true0 = off + SAME;
      const exact = Math.abs(true0) < c.r ? Math.sqrt(c.r * c.r - true0 * true0) : half;
      const middle = along(c.c);
      for (const way of [-1, 1]) {
        const side = way * exact;
        const s = middle + side;
        const h = middle + way * half;
        const p = { x: ox + dx * h + dy * SAME, y: oy + dy * h - dx * SAME };
        if (!arcCovers(c, Math.atan2(p.y - c.c.y, p.x - c.c.x))) continue;
        // On the far side of the line's foot a counter-clockwise arc comes back across the line.
        crossings.push({ at: s, way: side > 0 === c.ccw ? 1 : -1 });
      }
    }
  }
  return chain(crossings);
}

/** Joins crossings, sorted along the line, to spans in which something winds around. */
function chain(crossings: Crossing[]): Span[] {
  crossings.sort((p, q) => p.at - q.at);
  const spans: Span[] = [];
  let depth = 0;
  let from = 0;
  for (const { at, way } of crossings) {
    const before = depth;
    depth += way;
    if (before === 0) from = at;
    else if (depth === 0 && Math.abs(at - from) > SAME) spans.push([from, at]);
  }
  return spans;
}

export function joinSpans(p: readonly Span[], q: readonly Span[]): Span[] {
  const sorted = [...p, ...q].sort((a, b) => a[0] - b[0]);
  const out: [number, number][] = [];
  for (const [a, b] of sorted) {
    const last = out[out.length - 1];
    if (last && a <= last[1] + SAME) last[1] = Math.max(last[1], b);
    else out.push([a, b]);
  }
  return out;
}

/** What is left of spans where others are cut out of them, in one walk along the line. */
export function withoutSpans(p: readonly Span[], cut: readonly Span[]): Span[] {
  if (cut.length === 0) return [...p];
  const cuts = joinSpans(cut, []);
  const out: Span[] = [];
  let k = 0;
  for (const [from, to] of joinSpans(p, [])) {
    while (k > 0 && cuts[k - 1][1] > from) k--;
    while (k < cuts.length && cuts[k][1] <= from) k++;
    let at = from;
    for (; k < cuts.length && cuts[k][0] < to; k++) {
      if (cuts[k][0] - at > SAME) out.push([at, cuts[k][0]]);
      at = Math.max(at, cuts[k][1]);
    }
    if (to - at > SAME) out.push([at, to]);
  }
  return out;
}

/** Where a span of the first and one of the second lie over each other. Of the second only those beside it are looked at. */
export function commonSpans(p: readonly Span[], q: readonly Span[]): Span[] {
  const sorted = [...q].sort((a, b) => a[0] - b[0]);
  // How far the spans up to each one reach.
  const reach = new Float64Array(sorted.length);
  let far = -Infinity;
  sorted.forEach(([, end], i) => {
    far = Math.max(far, end);
    reach[i] = far;
  });
  return p.flatMap(([from, to]) => {
    const out: Span[] = [];
    for (let i = firstFrom(sorted, to) - 1; i >= 0 && reach[i] > from; i--) {
      const s: Span = [Math.max(from, sorted[i][0]), Math.min(to, sorted[i][1])];
      if (s[1] - s[0] > SAME) out.push(s);
    }
    return out.reverse();
  });
}

/** The first of sorted spans that begins at a place or after it. */
const firstFrom = (sorted: readonly Span[], at: number): number =>
  firstPlace(sorted.length, (i) => sorted[i][0] >= at);

/** Those of sorted spans that lie apart which have something in common with another span. */
export function spansAt(sorted: readonly Span[], [from, to]: Span): readonly Span[] {
  const end = firstFrom(sorted, to);
  let start = firstFrom(sorted, from);
  while (start > 0 && sorted[start - 1][1] > from) start--;
  return sorted.slice(start, end);
}

export const spansLength = (spans: readonly Span[]): number => spans.reduce((sum, [p, q]) => sum + q - p, 0);
