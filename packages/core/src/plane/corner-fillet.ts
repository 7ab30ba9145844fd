import { fail, ok, type Result } from "../result.ts";
import { hypotenuse } from "./point.ts";

/** A piece of a chain beside a corner: straight, or an arc that turns left (1) or right (-1) about its centre. */
export type ChainPiece = { readonly radius: number; readonly way: 1 | -1 } | undefined;

/** What a rounded corner takes off its neighbours, and how far it turns itself. */
export interface CornerFillet {
  /** Taken off the end of the piece before: mm of a straight one, radians of an arc. */
  readonly before: number;
  /** Taken off the beginning of the piece after. */
  readonly after: number;
  /** Radians, positive to the left. */
  readonly turn: number;
}

type XY = readonly [number, number];

const HAIR = 1e-9;
const TURN = 2 * Math.PI;
const length = (p: XY) => hypotenuse(p[0], p[1]);

/** A curve at a distance from a piece that passes the corner at the origin: a line, or a circle. */
type Offset = { readonly at: XY; readonly along: XY } | { readonly centre: XY; readonly radius: number };

/** The line of centres of circles of radius `rho` that touch a piece on side `s`, where it passes with a heading. */
function offsetOf(piece: ChainPiece, heading: number, s: number, rho: number): Offset | undefined {
  const left: XY = [-Math.sin(heading), Math.cos(heading)];
  if (!piece)
    return { at: [left[0] * s * rho, left[1] * s * rho], along: [Math.cos(heading), Math.sin(heading)] };
  const { radius, way } = piece;
  const reach = radius - way * s * rho;
  return reach > HAIR
    ? { centre: [left[0] * way * radius, left[1] * way * radius], radius: reach }
    : undefined;
}

function meets(p: Offset, q: Offset): XY[] {
  if ("along" in p && "along" in q) {
    const det = p.along[0] * q.along[1] - p.along[1] * q.along[0];
    if (Math.abs(det) < HAIR) return [];
    const [dx, dy] = [q.at[0] - p.at[0], q.at[1] - p.at[1]];
    const f = (dx * q.along[1] - dy * q.along[0]) / det;
    return [[p.at[0] + p.along[0] * f, p.at[1] + p.along[1] * f]];
  }
  if ("along" in p && "centre" in q) {
    const [dx, dy] = [q.centre[0] - p.at[0], q.centre[1] - p.at[1]];
    const foot = dx * p.along[0] + dy * p.along[1];
    const away = dx * p.along[1] - dy * p.along[0];
    if (Math.abs(away) > q.radius + HAIR) return [];
    const half = Math.sqrt(Math.max(0, q.radius ** 2 - away ** 2));
    return [-half, half].map(
      (h): XY => [p.at[0] + p.along[0] * (foot + h), p.at[1] + p.along[1] * (foot + h)],
    );
  }
  if ("centre" in p && "centre" in q) {
    const [dx, dy] = [q.centre[0] - p.centre[0], q.centre[1] - p.centre[1]];
    const d = hypotenuse(dx, dy);
    if (d < HAIR) return [];
    const f = (p.radius ** 2 - q.radius ** 2 + d * d) / (2 * d);
    if (Math.abs(f) > p.radius + HAIR) return [];
    const half = Math.sqrt(Math.max(0, p.radius ** 2 - f * f));
    const [ux, uy] = [dx / d, dy / d];
    return [-half, half].map((h): XY => [p.centre[0] + ux * f - uy * h, p.centre[1] + uy * f + ux * h]);
  }
  return meets(q, p);
}

/** How far one goes on an arc from one place to another, going its way. */
function travel(way: number, centre: XY, from: XY, to: XY): number {
  const angle = (p: XY) => Math.atan2(p[1] - centre[1], p[0] - centre[0]);
  const turned = (way * (angle(to) - angle(from))) % TURN;
  const positive = turned < -HAIR ? turned + TURN : Math.max(0, turned);
  return positive > TURN - HAIR ? 0 : positive;
}

/** What a circle about `f` takes off a piece: from where it touches to the corner, or the other way. */
function taken(piece: ChainPiece, heading: number, f: XY, beforeCorner: boolean): number {
  if (!piece) {
    const along = f[0] * Math.cos(heading) + f[1] * Math.sin(heading);
    return beforeCorner ? -along : along;
  }
  const { radius, way } = piece;
  const centre: XY = [-Math.sin(heading) * way * radius, Math.cos(heading) * way * radius];
  return beforeCorner ? travel(way, centre, f, [0, 0]) : travel(way, centre, [0, 0], f);
}

/**
 * Rounds the corner of a chain where one piece meets the next at an angle: the circle of radius `rho`
 * that touches both, on the side to which the chain turns. Between two straight pieces it takes
 * ρ·tan(θ/2) off each; an arc beside it loses a part of its sweep, and the corner turns by that much more
 * or less. The error is a sentence: the pieces leave no room for such a circle.
 *
 * @param corner how far the chain turns at the corner, radians, positive to the left
 */
export function filletCorner(
  before: ChainPiece,
  after: ChainPiece,
  corner: number,
  rho: number,
): Result<CornerFillet> {
  const s = Math.sign(corner);
  const [p, q] = [offsetOf(before, 0, s, rho), offsetOf(after, corner, s, rho)];
  // Of the circles that touch both carriers on that side the one that rounds the corner is the nearest to it: every
  // other touches them where they have passed each other again.
  const [f] = (p && q ? meets(p, q) : []).sort((x, y) => length(x) - length(y));
  if (!f) return fail("the pieces beside it leave no room for its radius");
  const [a, b] = [taken(before, 0, f, true), taken(after, corner, f, false)];
  const turn = corner + (before ? before.way * a : 0) + (after ? after.way * b : 0);
  return ok({ before: Math.max(0, a), after: Math.max(0, b), turn });
}
