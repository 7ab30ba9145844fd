import type { Choices, FieldSpec } from "../fields/field.ts";
import { intoFrame, moveLoop } from "../plane/isometry.ts";
import type { Region } from "../plane/region.ts";
import type { DraftPlate } from "../sheet/draft-pieces.ts";
import { shapeMetal } from "../sheet/shaping/metal.ts";
import { hasPlace } from "./arrangement.ts";
import { placeFields } from "./place-values.ts";

/** The fields of a place, where the arrangement goes by one. */
export const arrangedPlaceFields: readonly FieldSpec[] = placeFields.map((f) => ({
  ...f,
  shown: (c: Choices) => hasPlace(c) && (f.shown?.(c) ?? true),
}));

/** The metal of a plate in its own frame. */
export const ownMetal = (plate: DraftPlate): readonly Region[] => {
  const own = intoFrame(plate.frame);
  return shapeMetal(plate.metal).regions.map(({ outer, holes }) => ({
    outer: moveLoop(own, outer),
    holes: holes.map((h) => moveLoop(own, h)),
  }));
};
