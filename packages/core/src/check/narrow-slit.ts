import { Kept } from "../kept.ts";
import { type Curve, curveBounds, directionAt } from "../plane/curve.ts";
import { gapBetween } from "../plane/curve-gap.ts";
import type { Loop } from "../plane/loop.ts";
import { NearCurves } from "../plane/near-curves.ts";
import { cross, dot, hypotenuse, type Point, subtract } from "../plane/point.ts";
import type { Blank } from "../sheet/blank/blank.ts";
import { mm } from "../units/spoken-length.ts";
import { piecesAt } from "./blank-corners.ts";
import { AS_GOOD } from "./opening-names.ts";
import type { CheckRule } from "./rule.ts";

interface Slit {
  readonly gap: number;
  readonly at: Point;
}

/** Where a curve is nearest to a point, as a share of its way. */
function shareOf(c: Curve, p: Point): number {
  const [d, e] = [subtract(c.b, c.a), subtract(p, c.a)];
  if (c.kind === "line") return Math.max(0, Math.min(1, dot(e, d) / (dot(d, d) || 1)));
  const turn = (q: Point) => {
    const [u, v] = [subtract(c.a, c.c), subtract(q, c.c)];
    const angle = Math.atan2(cross(u, v), dot(u, v)) * (c.ccw ? 1 : -1);
    return angle < -1e-12 ? angle + 2 * Math.PI : angle;
  };
  return Math.max(0, Math.min(1, turn(p) / (turn(c.b) || 2 * Math.PI)));
}

/**
 * Whether two stretches of one loop face one another across air: they run against one another, and the second lies on
 * the right of the first, where its metal is not.
 */
function facing(p: Curve, q: Curve, at: Point): boolean {
  const from = directionAt(p, shareOf(p, at));
  const share = shareOf(q, at);
  const there = directionAt(q, share);
  if (dot(from, there) > -0.5) return false;
  const on =
    q.kind === "line" ? { x: q.a.x + (q.b.x - q.a.x) * share, y: q.a.y + (q.b.y - q.a.y) * share } : q.a;
  const across = q.kind === "line" ? subtract(on, at) : subtract(nearestOf(q, at), at);
  return cross(from, across) < 0;
}

function nearestOf(q: Extract<Curve, { kind: "arc" }>, at: Point): Point {
  const d = subtract(at, q.c);
  const length = hypotenuse(d.x, d.y) || 1;
  return { x: q.c.x + (d.x * q.r) / length, y: q.c.y + (d.y * q.r) / length };
}

/** The narrowest air between two stretches of a loop that are no neighbours, under `least` mm; nothing of no width. */
const narrowest = (loop: Loop, least: number): Slit | undefined =>
  loop.length < 4 ? undefined : slitOf.of(loop, least);

// Of the borders of a blank hardly one is another after an edit.
const slitOf = new Kept((loop: Loop, least: number): Slit | undefined => {
  const curves = loop.map((curve, i) => ({ curve, i, box: curveBounds(curve) }));
  const near = new NearCurves(curves);
  let best: Slit | undefined;
  for (const { curve, i, box } of curves) {
    const around = {
      minX: box.minX - least,
      minY: box.minY - least,
      maxX: box.maxX + least,
      maxY: box.maxY + least,
    };
    for (const other of near.near(around)) {
      const steps = Math.abs(other.i - i);
      if (other.i <= i || steps < 2 || steps > loop.length - 2) continue;
      const { gap, at } = gapBetween(curve, other.curve);
      if (gap < (best?.gap ?? least) && gap > 1e-6 && facing(curve, other.curve, at)) best = { gap, at };
    }
  }
  return best;
});

const slits = new Kept((blank: Blank, least: number): Slit[] =>
  [...blank.outlines, ...blank.openings].flatMap((loop) => narrowest(loop, least) ?? []),
);

/** Air that is narrower than the cut is wide: the cuts at either side of it become one, and take metal. */
export const narrowSlitRule: CheckRule = ({ sheet, blank }, { values }) => {
  const wanted = values.kerf;
  return slits.of(blank!, wanted - AS_GOOD).map(({ gap, at }) => ({
    level: "warn" as const,
    rule: "narrow-slit",
    message: `Two stretches of outline stand ${mm(gap, 4)} apart; the cut is ${mm(wanted)} wide. Make the slit at least so wide, or of no width at all.`,
    pieces: piecesAt(sheet!, at),
    at,
    found: gap,
    wanted,
  }));
};
