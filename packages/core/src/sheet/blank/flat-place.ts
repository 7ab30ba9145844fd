import { hypotenuse, type Point } from "../../plane/point.ts";
import { regionLoops } from "../../plane/region.ts";
import { roundOf } from "../feature.ts";
import { flatPlaces, type MeasureEnd } from "../picking/measuring.ts";
import { featuresOf, partsOfName, platesOf, type Sheet } from "../sheet.ts";

/** Where a picked thing lies on the flat sheet: a place, a straight line, or a round opening. */
export type FlatPlace =
  | { readonly kind: "point"; readonly at: Point }
  | { readonly kind: "line"; readonly a: Point; readonly b: Point }
  | { readonly kind: "circle"; readonly at: Point; readonly r: number };

/** Where something lies in developed coordinates; nothing when it is gone. */
export function flatPlace(sheet: Sheet, end: MeasureEnd): FlatPlace | undefined {
  const ends = flatPlaces(sheet, end);
  if (!ends) return undefined;
  const [a, b] = ends;
  if (end.kind === "hole") {
    const r = radiusAt(sheet, end.name.split(" ")[0], a);
    return r === undefined ? { kind: "point", at: a } : { kind: "circle", at: a, r };
  }
  return end.kind === "corner" ? { kind: "point", at: a } : { kind: "line", a, b };
}

/** The radius of the round opening about a place on a plate. */
function radiusAt(sheet: Sheet, name: string, at: Point): number | undefined {
  const plate = platesOf(sheet).find((p) => p.id === partsOfName(name).plate);
  for (const loop of plate?.regions.flatMap(regionLoops) ?? []) {
    const round = roundOf(loop, featuresOf(sheet));
    if (round && hypotenuse(round.c.x - at.x, round.c.y - at.y) < 1e-6) return round.r;
  }
  return undefined;
}
