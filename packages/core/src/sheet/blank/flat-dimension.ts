import { type Isometry, movePoint } from "../../plane/isometry.ts";
import { along, cross, distance, dot, type Point, scale, subtract } from "../../plane/point.ts";
import type { FlatPlace } from "./flat-place.ts";

/** What a dimension on a blank says, and between which places its line is drawn. Lengths in mm, angles in radians. */
export interface FlatDimension {
  readonly says: "length" | "diameter" | "angle";
  readonly value: number;
  readonly from: Point;
  readonly to: Point;
  /** The unit direction that is measured along. */
  readonly way: Point;
}

export type DimensionAlong = "shortest" | "level" | "upright";

/** Lines that turn by less are parallel, radians. */
const PARALLEL = 1e-9;
/** No length is below this, mm. */
const NOTHING = 1e-9;

export function movePlace(m: Isometry, place: FlatPlace): FlatPlace {
  if (place.kind === "line") return { kind: "line", a: movePoint(m, place.a), b: movePoint(m, place.b) };
  return { ...place, at: movePoint(m, place.at) };
}

const unit = (a: Point, b: Point): Point => scale(subtract(b, a), 1 / (distance(a, b) || 1));
const middle = (a: Point, b: Point): Point => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });

function between(from: Point, to: Point, way?: Point): FlatDimension | undefined {
  const d = way ?? unit(from, to);
  const value = Math.abs(dot(subtract(to, from), d));
  return value > NOTHING ? { says: "length", value, from, to, way: d } : undefined;
}

/** Of one thing its own size: how long a line is, how wide a round opening. A place has none. */
function ofOne(place: FlatPlace): FlatDimension | undefined {
  if (place.kind === "line") return between(place.a, place.b);
  if (place.kind === "point") return undefined;
  const { at, r } = place;
  return {
    says: "diameter",
    value: 2 * r,
    from: { x: at.x - r, y: at.y },
    to: { x: at.x + r, y: at.y },
    way: { x: 1, y: 0 },
  };
}

const WAYS = { level: { x: 1, y: 0 }, upright: { x: 0, y: 1 } } as const;

/** From a place to a line: square to it, or straight across or up as far as the line. */
function toLine(p: Point, a: Point, b: Point, by: DimensionAlong): FlatDimension | undefined {
  const d = unit(a, b);
  if (by === "shortest") return between(p, along(a, d, dot(subtract(p, a), d)));
  const way = WAYS[by];
  const turn = cross(way, d);
  if (Math.abs(turn) < PARALLEL) return undefined;
  return between(p, along(p, way, cross(subtract(a, p), d) / turn), way);
}

/**
 * Measures on a blank as it lies: one thing, or from one to another. Two lines that are not parallel have an angle; a
 * circle counts by its centre. Nothing where there is nothing to measure, as across a line that is level itself.
 */
export function flatDimension(
  from: FlatPlace,
  to: FlatPlace | undefined,
  by: DimensionAlong,
): FlatDimension | undefined {
  if (!to) return ofOne(from);
  if (from.kind === "line" && to.kind === "line") {
    const [d, e] = [unit(from.a, from.b), unit(to.a, to.b)];
    const turn = Math.abs(cross(d, e));
    if (turn < PARALLEL) return toLine(middle(from.a, from.b), to.a, to.b, by);
    const angle = Math.atan2(turn, Math.abs(dot(d, e)));
    return { says: "angle", value: angle, from: middle(from.a, from.b), to: middle(to.a, to.b), way: d };
  }
  if (from.kind === "line") return to.kind === "line" ? undefined : toLine(to.at, from.a, from.b, by);
  if (to.kind === "line") return toLine(from.at, to.a, to.b, by);
  return between(from.at, to.at, by === "shortest" ? undefined : WAYS[by]);
}
