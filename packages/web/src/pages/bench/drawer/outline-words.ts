import type { Outline, OutlineDimension } from "@hillcrest/core";
import { RELATION_WORDS } from "../drawing/glyphs.tsx";

export const DIMENSION_WORDS: Readonly<Record<OutlineDimension["kind"], string>> = {
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

/** A relation or dimension in words, by its id. */
export const nameOf = ({ relations, dimensions }: Outline, id: string): string => {
  const dimension = dimensions.find((d) => d.id === id);
  if (dimension)
    return `${dimension.name ?? id}: ${DIMENSION_WORDS[dimension.kind]} of ${dimension.of.join(" and ")}`;
  const relation = relations.find((r) => r.id === id);
  return relation ? `${id}: ${relation.of.join(" and ")} ${RELATION_WORDS[relation.kind]}` : id;
};
