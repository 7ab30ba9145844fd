import type { Arc, Line } from "../../plane/curve.ts";
import { intersectCurves } from "../../plane/intersect.ts";
import { circleLoop } from "../../plane/loop.ts";
import { hypotenuse, type Point } from "../../plane/point.ts";
import type { OutlineCurve } from "../outline.ts";
import { apart, asPoint, asXY, type Backdrop, minus, type XY } from "./place.ts";

type Shape = Backdrop["curve"];

/** A curve of an outline with its places instead of its points. */
export const shapeOf = (c: OutlineCurve, points: Readonly<Record<string, XY>>): Shape =>
  c.kind === "line"
    ? { kind: "line", a: points[c.a], b: points[c.b] }
    : c.kind === "arc"
      ? { kind: "arc", a: points[c.a], b: points[c.b], c: points[c.c], ccw: c.ccw }
      : { kind: "circle", c: points[c.c], r: c.r };

const WHOLE = 2 * Math.PI;
const turned = (angle: number) => ((angle % WHOLE) + WHOLE) % WHOLE;

/** Where an arc begins and how far it turns, radians, negative clockwise. */
export function turnOfArc({ a, b, c, ccw }: Extract<Shape, { kind: "arc" }>): {
  from: number;
  sweep: number;
} {
  const angle = (p: XY) => Math.atan2(p[1] - c[1], p[0] - c[0]);
  const from = angle(a);
  return { from, sweep: ccw ? turned(angle(b) - from) : -turned(from - angle(b)) };
}

/** The radius of a round. */
export const radiusOf = (s: Exclude<Shape, { kind: "line" }>): number =>
  s.kind === "circle" ? s.r : (apart(s.c, s.a) + apart(s.c, s.b)) / 2;

/** How far along a curve a place is, 0 at its beginning and 1 at its end; beyond them too. A circle begins at the right. */
export function shareAt(s: Shape, at: XY): number {
  if (s.kind === "line") {
    const [dx, dy] = minus(s.b, s.a);
    const [ex, ey] = minus(at, s.a);
    return (dx * ex + dy * ey) / (dx * dx + dy * dy || 1);
  }
  const angle = Math.atan2(at[1] - s.c[1], at[0] - s.c[0]);
  if (s.kind === "circle") return turned(angle) / WHOLE;
  const { from, sweep } = turnOfArc(s);
  const along = sweep > 0 ? turned(angle - from) : turned(from - angle);
  const size = Math.abs(sweep);
  // In the gap that the arc leaves the nearer end counts.
  return (along > size + (WHOLE - size) / 2 ? along - WHOLE : along) / (size || 1);
}

/** The place at a share of a curve. */
export function placeAt(s: Shape, share: number): XY {
  if (s.kind === "line") return [s.a[0] + (s.b[0] - s.a[0]) * share, s.a[1] + (s.b[1] - s.a[1]) * share];
  const { from, sweep } = s.kind === "arc" ? turnOfArc(s) : { from: 0, sweep: WHOLE };
  const [r, angle] = [radiusOf(s), from + sweep * share];
  return [s.c[0] + r * Math.cos(angle), s.c[1] + r * Math.sin(angle)];
}

/** The place of a curve that is nearest to another. */
export function nearestPlace(s: Shape, at: XY): XY {
  const share = shareAt(s, at);
  return s.kind === "circle" ? placeAt(s, share) : placeAt(s, Math.max(0, Math.min(1, share)));
}

/** The direction in which a curve runs at a share of it. */
export function directionOf(s: Shape, share: number): XY {
  if (s.kind === "line") return minus(s.b, s.a);
  const [x, y] = minus(placeAt(s, share), s.c);
  const ccw = s.kind === "circle" || s.ccw;
  return ccw ? [-y, x] : [y, -x];
}

/** A curve as the plane's own; a circle as its two halves. */
function inPlane(s: Shape): readonly (Line | Arc)[] {
  if (s.kind === "line") return [{ kind: "line", a: asPoint(s.a), b: asPoint(s.b) }];
  if (s.kind === "arc")
    return [{ kind: "arc", a: asPoint(s.a), b: asPoint(s.b), c: asPoint(s.c), r: radiusOf(s), ccw: s.ccw }];
  return circleLoop(asPoint(s.c), s.r);
}

/** Where two curves cross or touch. */
export function crossingsOf(p: Shape, q: Shape): XY[] {
  const found: Point[] = [];
  for (const a of inPlane(p))
    for (const b of inPlane(q))
      for (const at of intersectCurves(a, b))
        if (!found.some((f) => hypotenuse(f.x - at.x, f.y - at.y) < 1e-7)) found.push(at);
  return found.map(asXY);
}

/** A curve led on beyond both of its ends: a line by `far` mm, an arc to its whole circle. */
export function ledOn(s: Shape, far: number): Shape {
  if (s.kind === "arc") return { kind: "circle", c: s.c, r: radiusOf(s) };
  if (s.kind === "circle") return s;
  const length = apart(s.a, s.b) || 1;
  return { kind: "line", a: placeAt(s, -far / length), b: placeAt(s, 1 + far / length) };
}

/** How long a curve is, mm. */
export const lengthOfShape = (s: Shape): number =>
  s.kind === "line"
    ? apart(s.a, s.b)
    : s.kind === "circle"
      ? WHOLE * s.r
      : Math.abs(turnOfArc(s).sweep) * radiusOf(s);
