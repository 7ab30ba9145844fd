import type { DimensionKind } from "./outline.ts";

/** What each kind of dimension is called. */
export const DIMENSION_WORDS: Readonly<Record<DimensionKind, string>> = {
  distance: "distance",
  distanceX: "distance along X",
  distanceY: "distance along Y",
  toLine: "distance from the line",
  length: "length",
  angle: "angle",
  radius: "radius",
  diameter: "diameter",
  arcLength: "length of the arc",
};
