import { regionArea } from "../../plane/region.ts";
import { kindOf } from "../pieces/piece-kinds.ts";
import type { Sheet } from "../sheet.ts";

/** Volume of the fully folded sheet in mm³, in closed form piece by piece. */
export const foldedVolume = (sheet: Sheet): number =>
  sheet.pieces.reduce((sum, p) => sum + kindOf(p).volume(p, sheet.t), 0);

/** Area of all pieces in the flat, in mm². */
export const developedArea = (sheet: Sheet): number =>
  sheet.pieces.reduce(
    (sum, p) =>
      sum +
      kindOf(p)
        .regions(p)
        .reduce((own, r) => own + regionArea(r), 0),
    0,
  );
