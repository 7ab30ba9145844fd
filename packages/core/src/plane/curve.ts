import {
  add,
  type Bounds,
  cross,
  distance,
  dot,
  EMPTY_BOUNDS,
  type Frame,
  fromFrame,
  joinBounds,
  type Point,
  point,
  scale,
  subtract,
} from "./point.ts";

/** A straight piece of an outline. `name` tells which edge it came from and survives cutting. */
export interface Line {
  readonly kind: "line";
  readonly a: Point;
  readonly b: Point;
  readonly name?: string;
}

/** A circular piece of an outline, from `a` to `b` about `c`; never a full turn. */
export interface Arc {
  readonly kind: "arc";
  readonly a: Point;
  readonly b: Point;
  readonly c: Point;
  readonly r: number;
  readonly ccw: boolean;
  readonly name?: string;
}

export type Curve = Line | Arc;

export const line = (a: Point, b: Point, name?: string): Line => ({ kind: "line", a, b, name });

const TURN = 2 * Math.PI;
const angleAt = (c: Point, p: Point) => Math.atan2(p.y - c.y, p.x - c.x);

/** Where an arc begins, in radians, and how far it turns: positive counter-clockwise. */
export function arcAngles(arc: Arc): { start: number; sweep: number } {
  const start = angleAt(arc.c, arc.a);
  let sweep = angleAt(arc.c, arc.b) - start;
  if (arc.ccw) while (sweep <= 1e-12) sweep += TURN;
  else while (sweep >= -1e-12) sweep -= TURN;
  return { start, sweep };
}

export const reversed = (c: Curve): Curve =>
  c.kind === "line" ? { ...c, a: c.b, b: c.a } : { ...c, a: c.b, b: c.a, ccw: !c.ccw };

/** The point a share `f` (0 to 1) of the way along. */
export function pointAt(c: Curve, f: number): Point {
  if (c.kind === "line") return point(c.a.x + (c.b.x - c.a.x) * f, c.a.y + (c.b.y - c.a.y) * f);
  const { start, sweep } = arcAngles(c);
  const angle = start + sweep * f;
  return point(c.c.x + c.r * Math.cos(angle), c.c.y + c.r * Math.sin(angle));
}

/** The unit direction of travel a share `f` of the way along. */
export function directionAt(c: Curve, f: number): Point {
  if (c.kind === "line") return scale(subtract(c.b, c.a), 1 / (distance(c.a, c.b) || 1));
  const p = subtract(pointAt(c, f), c.c);
  const unit = scale(p, 1 / c.r);
  return c.ccw ? point(-unit.y, unit.x) : point(unit.y, -unit.x);
}

export const curveLength = (c: Curve): number =>
  c.kind === "line" ? distance(c.a, c.b) : Math.abs(arcAngles(c).sweep) * c.r;

/** Twice the area swept from the origin along the curve; loops sum it to twice their area. */
export function sweptArea2(c: Curve): number {
  if (c.kind === "line") return cross(c.a, c.b);
  const { sweep } = arcAngles(c);
  return c.r * c.r * sweep + cross(c.c, subtract(c.b, c.a));
}

/** Whether angle position `angle` lies on the arc. */
export function arcCovers(arc: Arc, angle: number, slack = 1e-12): boolean {
  const { start, sweep } = arcAngles(arc);
  let turned = arc.ccw ? angle - start : start - angle;
  turned = ((turned % TURN) + TURN) % TURN;
  return turned <= Math.abs(sweep) + slack || turned >= TURN - slack;
}

export function curveBounds(c: Curve): Bounds {
  let box: Bounds = {
    minX: Math.min(c.a.x, c.b.x),
    minY: Math.min(c.a.y, c.b.y),
    maxX: Math.max(c.a.x, c.b.x),
    maxY: Math.max(c.a.y, c.b.y),
  };
  if (c.kind === "arc") {
    for (let k = 0; k < 4; k++) {
      const angle = (k * Math.PI) / 2;
      if (!arcCovers(c, angle)) continue;
      const p = point(c.c.x + c.r * Math.cos(angle), c.c.y + c.r * Math.sin(angle));
      box = joinBounds(box, { minX: p.x, minY: p.y, maxX: p.x, maxY: p.y });
    }
  }
  return box;
}

export const curvesBounds = (curves: readonly Curve[]): Bounds =>
  curves.reduce((box, c) => joinBounds(box, curveBounds(c)), EMPTY_BOUNDS);

/** Carries a curve from a frame's coordinates into the plane that holds the frame. */
export function curveFromFrame(f: Frame, c: Curve): Curve {
  const moved = { ...c, a: fromFrame(f, c.a), b: fromFrame(f, c.b) };
  return moved.kind === "arc" ? { ...moved, c: fromFrame(f, moved.c) } : moved;
}

/** How many chords keep within `chord` of a turn of `sweep` radians at radius `r`. */
export function chordCount(r: number, sweep: number, chord: number): number {
  if (r <= chord) return Math.max(1, Math.ceil(Math.abs(sweep) / (Math.PI / 2)));
  const step = 2 * Math.acos(1 - chord / r);
  return Math.max(1, Math.ceil(Math.abs(sweep) / Math.min(step, Math.PI / 4)));
}

/** The points of a curve from `a` up to but not including `b`, within `chord` of it. */
export function flattenCurve(c: Curve, chord: number): Point[] {
  if (c.kind === "line") return [c.a];
  const { start, sweep } = arcAngles(c);
  const n = chordCount(c.r, sweep, chord);
  const points: Point[] = [c.a];
  for (let i = 1; i < n; i++) {
    const angle = start + (sweep * i) / n;
    points.push(point(c.c.x + c.r * Math.cos(angle), c.c.y + c.r * Math.sin(angle)));
  }
  return points;
}

/** Distance from a point to the nearest place on a curve. */
export function distanceToCurve(c: Curve, p: Point): number {
  if (c.kind === "arc") {
    return arcCovers(c, angleAt(c.c, p))
      ? Math.abs(distance(c.c, p) - c.r)
      : Math.min(distance(c.a, p), distance(c.b, p));
  }
  const d = subtract(c.b, c.a);
  const f = Math.max(0, Math.min(1, dot(subtract(p, c.a), d) / (dot(d, d) || 1)));
  return distance(add(c.a, scale(d, f)), p);
}
