import { DIMENSION_WORDS, type Outline } from "@hillcrest/core";
import { RELATION_WORDS } from "../drawing/glyphs.tsx";

/** A relation or dimension in words, by its id. */
export const nameOf = ({ relations, dimensions }: Outline, id: string): string => {
  const dimension = dimensions.find((d) => d.id === id);
  if (dimension)
    return `${dimension.name ?? id}: ${DIMENSION_WORDS[dimension.kind]} of ${dimension.of.join(" and ")}`;
  const relation = relations.find((r) => r.id === id);
  return relation ? `${id}: ${relation.of.join(" and ")} ${RELATION_WORDS[relation.kind]}` : id;
};
