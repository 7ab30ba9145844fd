import {
  type Backdrop,
  type Bounds,
  EMPTY_BOUNDS,
  type Outline,
  placeAt,
  shapeOf,
  type XY,
} from "@hillcrest/core";

/** Steps along a round: what it bows out to is seen to a two-hundredth of its radius. */
const STEPS = 32;

/** Places along a curve, so that what a round bows out to is among them. */
export const placesOfShape = (shape: Backdrop["curve"]): XY[] =>
  shape.kind === "line"
    ? [shape.a, shape.b]
    : Array.from({ length: STEPS + 1 }, (_, i) => placeAt(shape, i / STEPS));

/** All points of an outline, and places along its rounds. */
export const placesOfOutline = ({ points, curves }: Pick<Outline, "points" | "curves">): XY[] => [
  ...Object.values(points),
  ...curves.flatMap((c) => (c.kind === "line" ? [] : placesOfShape(shapeOf(c, points)))),
];

/** The box about places; of none it is empty. */
export const boundsOfPlaces = (places: readonly XY[]): Bounds =>
  places.reduce(
    (b, [x, y]) => ({
      minX: Math.min(b.minX, x),
      minY: Math.min(b.minY, y),
      maxX: Math.max(b.maxX, x),
      maxY: Math.max(b.maxY, y),
    }),
    EMPTY_BOUNDS,
  );
