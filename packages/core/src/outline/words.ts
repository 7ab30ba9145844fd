import type { DimensionKind, Outline, RelationKind } from "./outline.ts";

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

/** What each relation is called where one is chosen or told of. */
export const RELATION_WORDS: Readonly<Record<RelationKind, string>> = {
  coincident: "in one place",
  level: "level",
  upright: "upright",
  parallel: "parallel",
  square: "square",
  inLine: "in line",
  tangent: "touching",
  concentric: "about one middle",
  equal: "equal",
  symmetric: "symmetric",
  middle: "half way",
  on: "on it",
  fixed: "fixed here",
};

/** A relation or dimension of an outline in words, by its id. */
export function sayOf(
  { relations, dimensions }: Pick<Outline, "relations" | "dimensions">,
  id: string,
): string {
  const dimension = dimensions.find((d) => d.id === id);
  if (dimension)
    return `${dimension.name ?? id}: ${DIMENSION_WORDS[dimension.kind]} of ${dimension.of.join(" and ")}`;
  const relation = relations.find((r) => r.id === id);
  return relation ? `${id}: ${relation.of.join(" and ")} ${RELATION_WORDS[relation.kind]}` : id;
}
