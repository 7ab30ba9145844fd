import type { Line } from "../plane/curve.ts";
import { movePoint } from "../plane/isometry.ts";
import { cross, distance, dot, type Point, subtract } from "../plane/point.ts";
import { flatPlace } from "../sheet/blank/flat-place.ts";
import { orientBlank, type PlacedBlank } from "../sheet/blank/orientation.ts";
import { outsideSizes } from "../sheet/outside-size.ts";
import type { MeasureEnd } from "../sheet/picking/measuring.ts";
import type { Sheet } from "../sheet/sheet.ts";
import { orientationOf } from "./blank-settings.ts";
import type { BendRow, PartBuild } from "./build.ts";
import type { PartDocument } from "./document.ts";

/** One bend as the person at the brake needs it. Lengths in mm, angles in radians. */
export interface BendListRow extends BendRow {
  /** Up or down as seen on the blank, from the side that faces up. */
  readonly seenUp: boolean;
  readonly opening: number;
  /** Outside sizes of its two legs as a caliper finds them. */
  readonly legs: readonly [number | undefined, number | undefined];
  /** From the two datum edges to its line: one number, or those of its two ends where it is slanted to the edge. */
  readonly across: readonly number[];
  readonly upwards: readonly number[];
  /** Its place in the order of forming, where one was put in by hand. */
  readonly forming?: number;
}

/** A line that distances are taken from: a place on it, and the direction that counts positive. */
interface Datum {
  readonly at: Point;
  readonly way: Point;
}

/** The datum edges of a placed blank: those that were picked, else the left and the lower border of what is cut. */
function datumsOf(
  sheet: Sheet,
  placed: PlacedBlank,
  picked: PartDocument["blank"],
): { across: Datum; up: Datum } {
  const { minX, minY, maxX, maxY } = placed.blank.bounds;
  const middle = { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
  const of = (end: MeasureEnd | undefined, otherwise: Datum): Datum => {
    const found = end && flatPlace(sheet, end);
    if (found?.kind !== "line") return otherwise;
    const [a, b] = [movePoint(placed.motion, found.a), movePoint(placed.motion, found.b)];
    const length = distance(a, b) || 1;
    const left = { x: -(b.y - a.y) / length, y: (b.x - a.x) / length };
    // Positive is towards the blank's middle.
    const sign = dot(subtract(middle, a), left) >= 0 ? 1 : -1;
    return { at: a, way: { x: left.x * sign, y: left.y * sign } };
  };
  return {
    across: of(picked?.datums?.across, { at: { x: minX, y: minY }, way: { x: 1, y: 0 } }),
    up: of(picked?.datums?.up, { at: { x: minX, y: minY }, way: { x: 0, y: 1 } }),
  };
}

/** How far a line stands from a datum: one number where it runs along it, nothing where it runs square to it, else two. */
export function fromDatum({ at, way }: Datum, { a, b }: Pick<Line, "a" | "b">): readonly number[] {
  const [p, q] = [dot(subtract(a, at), way), dot(subtract(b, at), way)];
  const length = distance(a, b) || 1;
  if (Math.abs(p - q) <= 1e-6 * length) return [(p + q) / 2];
  const run = { x: (b.x - a.x) / length, y: (b.y - a.y) / length };
  return Math.abs(cross(run, way)) < 1e-6 ? [] : [p, q];
}

/** The bend list in full, in the order of the bends' numbers; a place in the order of forming is told and moves nothing. */
export function bendList(document: PartDocument, build: PartBuild): BendListRow[] {
  const { sheet, blank, stock } = build;
  if (!sheet || !blank) return [];
  const placed = orientBlank(sheet, blank, orientationOf(document, stock));
  const sizes = outsideSizes(sheet);
  const lines = new Map(placed.blank.centreLines.map((l) => [l.bend, l.pieces]));
  const datums = datumsOf(sheet, placed, document.blank);
  const { forming = {} } = document.blank ?? {};
  return build.bends.map((row): BendListRow => {
    const [piece] = lines.get(row.id) ?? [];
    return {
      ...row,
      seenUp: row.up === (placed.side === "B"),
      opening: Math.PI - row.angle,
      legs: sizes.get(row.id) ?? [undefined, undefined],
      across: piece ? fromDatum(datums.across, piece) : [],
      upwards: piece ? fromDatum(datums.up, piece) : [],
      ...(Object.hasOwn(forming, row.id) ? { forming: forming[row.id] } : {}),
    };
  });
}
