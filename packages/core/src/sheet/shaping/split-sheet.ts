import { along } from "../../plane/point.ts";
import type { OpenDraft, Refusal } from "../draft.ts";
import { foldedPlace } from "../folding/folded-place.ts";
import { type FoldLine, leftOf, type PartNames } from "../growing/grow-fold.ts";
import { dividePlate } from "./divide.ts";

/** Cuts a sheet in two along a line across a plate; what was beyond becomes a piece of its own, `gap` away. */
export function splitSheet(
  draft: OpenDraft,
  line: FoldLine,
  gap: number,
  made: { readonly id: string; readonly step: string },
  names: PartNames,
): Refusal | undefined {
  const place = foldedPlace(draft, line.plate);
  const n = leftOf(line.axis);
  const band = {
    origin: along(line.origin, n, -gap / 2),
    axis: line.axis,
    width: gap,
    ...(line.limit ? { limit: line.limit } : {}),
  };
  const letter = names.letterOf(line.plate);
  const division = dividePlate(draft, line.plate, band, made, {
    letter,
    numberOf: names.numberOf,
    band: "gap",
  });
  if ("message" in division) return division;
  draft.roots = [...draft.roots, { plate: made.id, place }];
  return undefined;
}
