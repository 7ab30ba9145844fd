import { arc, type Curve, line, reversed } from "./curve.ts";
import type { Loop } from "./loop.ts";
import { type Frame, frameY, type Point } from "./point.ts";

/**
 * A motion of the plane onto itself that keeps lengths: p goes to (xx·x + xy·y + ox, yx·x + yy·y + oy).
 * `flips` tells a mirroring, which turns counter-clockwise into clockwise.
 */
export interface Isometry {
  readonly xx: number;
  readonly xy: number;
  readonly yx: number;
  readonly yy: number;
  readonly ox: number;
  readonly oy: number;
  readonly flips: boolean;
}

export const translation = (d: Point): Isometry => ({
  xx: 1,
  xy: 0,
  yx: 0,
  yy: 1,
  ox: d.x,
  oy: d.y,
  flips: false,
});

/** Everything stays where it is. */
export const STAY: Isometry = translation({ x: 0, y: 0 });

/** A turn by `angle` radians, counter-clockwise, about a point. */
export function rotation(about: Point, angle: number): Isometry {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return {
    xx: c,
    xy: -s,
    yx: s,
    yy: c,
    ox: about.x - c * about.x + s * about.y,
    oy: about.y - s * about.x - c * about.y,
    flips: false,
  };
}

/** The mirroring about the line through `origin` along the unit direction `axis`. */
export function mirroring(origin: Point, axis: Point): Isometry {
  const xx = axis.x * axis.x - axis.y * axis.y;
  const xy = 2 * axis.x * axis.y;
  return {
    xx,
    xy,
    yx: xy,
    yy: -xx,
    ox: origin.x - xx * origin.x - xy * origin.y,
    oy: origin.y - xy * origin.x + xx * origin.y,
    flips: true,
  };
}

/** From the plane to coordinates along two unit directions that are square to one another, from an origin. */
export const intoAxes = (o: Point, x: Point, y: Point): Isometry => ({
  xx: x.x,
  xy: x.y,
  yx: y.x,
  yy: y.y,
  ox: -(o.x * x.x + o.y * x.y),
  oy: -(o.x * y.x + o.y * y.y),
  flips: x.x * y.y - x.y * y.x < 0,
});

/** From the plane that holds a frame to coordinates in the frame. */
export const intoFrame = (f: Frame): Isometry => intoAxes(f.origin, f.x, frameY(f));

/** The motion back: the turn the other way round. */
export const backOf = (m: Isometry): Isometry => ({
  xx: m.xx,
  xy: m.yx,
  yx: m.xy,
  yy: m.yy,
  ox: -(m.xx * m.ox + m.yx * m.oy),
  oy: -(m.xy * m.ox + m.yy * m.oy),
  flips: m.flips,
});

export const movePoint = (m: Isometry, p: Point): Point => ({
  x: m.xx * p.x + m.xy * p.y + m.ox,
  y: m.yx * p.x + m.yy * p.y + m.oy,
});

export const moveDirection = (m: Isometry, d: Point): Point => ({
  x: m.xx * d.x + m.xy * d.y,
  y: m.yx * d.x + m.yy * d.y,
});

/** Whether a motion only shifts. */
export const isShift = (m: Isometry): boolean => m.xx === 1 && m.yy === 1 && m.xy === 0 && m.yx === 0;

/** Written out for shifts, of which a blank with very many openings needs one for each: nothing but the curve is made. */
export function moveCurve(m: Isometry, c: Curve): Curve {
  if (isShift(m)) {
    const { ox, oy } = m;
    const a = { x: c.a.x + ox, y: c.a.y + oy };
    const b = { x: c.b.x + ox, y: c.b.y + oy };
    if (c.kind === "line") return line(a, b, c.name, c.feature);
    return arc(a, b, { x: c.c.x + ox, y: c.c.y + oy }, c.r, c.ccw, c.name, c.feature);
  }
  const [a, b] = [movePoint(m, c.a), movePoint(m, c.b)];
  if (c.kind === "line") return line(a, b, c.name, c.feature);
  return arc(a, b, movePoint(m, c.c), c.r, c.ccw !== m.flips, c.name, c.feature);
}

/** Moves a loop; a mirrored one is walked backwards, so that material stays on the same hand. */
export function moveLoop(m: Isometry, loop: Loop): Loop {
  const moved = loop.map((c) => moveCurve(m, c));
  return m.flips ? moved.map(reversed).reverse() : moved;
}

/** A moved frame is right-handed again: its x goes where it is taken, its y may turn over. */
export const moveFrame = (m: Isometry, f: Frame): Frame => ({
  origin: movePoint(m, f.origin),
  x: moveDirection(m, f.x),
});
