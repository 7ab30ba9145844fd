import { regionArea } from "../plane/region.ts";
import type { Bend, Sheet } from "./sheet.ts";

const area = (part: { regions: Bend["regions"] }) => part.regions.reduce((sum, r) => sum + regionArea(r), 0);

/**
 * Volume of the fully folded sheet in mm³, in closed form: plates t·area, bends the area of their
 * strip times the mean developed height, θ((r+t)² − r²)/(2·BA).
 */
export function foldedVolume(sheet: Sheet): number {
  const plates = sheet.plates.reduce((sum, p) => sum + area(p) * sheet.t, 0);
  return sheet.bends.reduce((sum, b) => {
    const ring = (b.angle * ((b.radius + sheet.t) ** 2 - b.radius ** 2)) / 2;
    return sum + (area(b) / b.allowance) * ring;
  }, plates);
}

/** Area of plates and bend strips in the flat, in mm². */
export const developedArea = (sheet: Sheet): number =>
  [...sheet.plates, ...sheet.bends].reduce((sum, p) => sum + area(p), 0);
