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

/**
 * A straight piece of an outline. `name` tells which edge it came from, `feature` which feature it bounds; both survive
 * cutting.
 */
export interface Line {
  readonly kind: "line";
  readonly a: Point;
  readonly b: Point;
  readonly name?: string;
  readonly feature?: string;
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
  readonly feature?: string;
}

export type Curve = Line | Arc;

export const line = (a: Point, b: Point, name?: string, feature?: string): Line => ({
  kind: "line",
  a,
  b,
  name,
  feature,
});

/**
 * An arc from `a` to `b` about `c`. Made here and not copied by its keys: curves then come in one shape each, and
 * everything that reads them is quicker for that.
 */
export const arc = (
  a: Point,
  b: Point,
  c: Point,
  r: number,
  ccw: boolean,
  name?: string,
  feature?: string,
): Arc => ({ kind: "arc", a, b, c, r, ccw, name, feature });

/** What a curve is called and bounds. */
export type CurveTags = Pick<Curve, "name" | "feature">;

/** The same curve called otherwise. */
export const withTags = (c: Curve, { name, feature }: CurveTags): Curve =>
  c.kind === "line" ? line(c.a, c.b, name, feature) : arc(c.a, c.b, c.c, c.r, c.ccw, name, feature);

/** The same curve between other ends, on the same circle. */
export const withEnds = (c: Curve, a: Point, b: Point): Curve =>
  c.kind === "line" ? line(a, b, c.name, c.feature) : arc(a, b, c.c, c.r, c.ccw, c.name, c.feature);

const TURN = 2 * Math.PI;
const QUARTER = Math.PI / 2;
const angleAt = (c: Point, p: Point) => Math.atan2(p.y - c.y, p.x - c.x);

/** Where an arc begins, in radians, and how far it turns: positive counter-clockwise. */
export interface ArcAngles {
  readonly start: number;
  readonly sweep: number;
}

export function arcAngles(arc: Arc): ArcAngles {
  const start = angleAt(arc.c, arc.a);
  let sweep = angleAt(arc.c, arc.b) - start;
  if (arc.ccw) while (sweep <= 1e-12) sweep += TURN;
  else while (sweep >= -1e-12) sweep -= TURN;
  return { start, sweep };
}

export const reversed = (c: Curve): Curve =>
  c.kind === "line" ? line(c.b, c.a, c.name, c.feature) : arc(c.b, c.a, c.c, c.r, !c.ccw, c.name, c.feature);

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
export const arcCovers = (arc: Arc, angle: number, slack = 1e-12): boolean =>
  covers(arcAngles(arc), angle, slack);

/** The same of an arc whose angles are known: they take longer to find than all that is asked of them. */
export function covers({ start, sweep }: ArcAngles, angle: number, slack = 1e-12): boolean {
  let turned = sweep > 0 ? angle - start : start - angle;
  turned = ((turned % TURN) + TURN) % TURN;
  return turned <= Math.abs(sweep) + slack || turned >= TURN - slack;
}

export function curveBounds(c: Curve): Bounds {
  let minX = Math.min(c.a.x, c.b.x);
  let minY = Math.min(c.a.y, c.b.y);
  let maxX = Math.max(c.a.x, c.b.x);
  let maxY = Math.max(c.a.y, c.b.y);
  if (c.kind === "line") return { minX, minY, maxX, maxY };
  const { start, sweep } = arcAngles(c);
  const [from, to] = sweep > 0 ? [start, start + sweep] : [start + sweep, start];
  // The quarters of the circle that it passes: right, top, left and bottom of it.
  for (let k = Math.ceil((from - 1e-12) / QUARTER); k * QUARTER <= to + 1e-12; k++) {
    const quarter = ((k % 4) + 4) % 4;
    if (quarter === 0) maxX = Math.max(maxX, c.c.x + c.r);
    else if (quarter === 1) maxY = Math.max(maxY, c.c.y + c.r);
    else if (quarter === 2) minX = Math.min(minX, c.c.x - c.r);
    else minY = Math.min(minY, c.c.y - c.r);
  }
  return { minX, minY, maxX, maxY };
}

export const curvesBounds = (curves: readonly Curve[]): Bounds =>
  curves.reduce((box, c) => joinBounds(box, curveBounds(c)), EMPTY_BOUNDS);

/** Carries a curve from a frame's coordinates into the plane that holds the frame; it may be called otherwise there. */
export function curveFromFrame(f: Frame, c: Curve, { name, feature }: CurveTags = c): Curve {
  const [a, b] = [fromFrame(f, c.a), fromFrame(f, c.b)];
  return c.kind === "line"
    ? line(a, b, name, feature)
    : arc(a, b, fromFrame(f, c.c), c.r, c.ccw, name, feature);
}

/** How many chords keep within `chord` of a turn of `sweep` radians at radius `r`. */
export function chordCount(r: number, sweep: number, chord: number): number {
  if (r <= chord) return Math.max(1, Math.ceil(Math.abs(sweep) / (Math.PI / 2)));
  const step = 2 * Math.acos(1 - chord / r);
  return Math.max(1, Math.ceil(Math.abs(sweep) / Math.min(step, Math.PI / 4)));
}

/** Says the places on a curve from `a` up to but not including `b`, within `chord` of it. */
export function eachChord(c: Curve, chord: number, take: (x: number, y: number) => void): void {
  take(c.a.x, c.a.y);
  if (c.kind === "line") return;
  const { start, sweep } = arcAngles(c);
  const n = chordCount(c.r, sweep, chord);
  for (let i = 1; i < n; i++) {
    const angle = start + (sweep * i) / n;
    take(c.c.x + c.r * Math.cos(angle), c.c.y + c.r * Math.sin(angle));
  }
}

/** The same places as points. */
export function flattenCurve(c: Curve, chord: number): Point[] {
  const points: Point[] = [];
  eachChord(c, chord, (x, y) => points.push({ x, y }));
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
