import { along } from "../plane/point.ts";
import { compose, type Motion, STILL } from "../space/vector.ts";
import { dividePlate } from "./divide.ts";
import { bendTo, type OpenDraft, type Refusal } from "./draft.ts";
import { bendMotion } from "./fold.ts";
import { type FoldLine, leftOf, type PartNames } from "./grow-fold.ts";

/** Where a plate stands in space when everything is folded. */
export function foldedPlace(draft: OpenDraft, plate: string): Motion {
  const bend = bendTo(draft, plate);
  if (!bend) return draft.roots.find((r) => r.plate === plate)?.place ?? STILL;
  const angle = draft.held.has(bend.id) ? 0 : bend.angle;
  return compose(foldedPlace(draft, bend.parent), bendMotion(bend, draft.t, angle, bend.allowance));
}

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
  const division = dividePlate(draft, line.plate, band, made, { letter, numberOf: names.numberOf });
  if ("message" in division) return division;
  draft.roots = [...draft.roots, { plate: made.id, place }];
  return undefined;
}
