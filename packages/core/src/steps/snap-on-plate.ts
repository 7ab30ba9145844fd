import { distanceToCurve } from "../plane/curve.ts";
import { intoFrame, movePoint } from "../plane/isometry.ts";
import { loopBounds } from "../plane/loop.ts";
import { NearCurves } from "../plane/near-curves.ts";
import { distance, fromFrame, type Point, point } from "../plane/point.ts";
import { type Region, regionLoops } from "../plane/region.ts";
import { insideLoop } from "../plane/stitch.ts";
import type { Plate } from "../sheet/pieces/flat-pieces.ts";
import type { Sheet } from "../sheet/sheet.ts";

/** How a pointed place is put right. Lengths in mm. */
export interface SnapWish {
  /** What is no farther off is meant. */
  readonly within: number;
  /** Places that are near to nothing stand on whole steps. */
  readonly step: number;
}

/** Middles of what already stands in a plate, in its own frame. */
function middlesIn({ features }: Sheet, plate: Plate): Point[] {
  const own = intoFrame(plate.frame);
  return features
    .filter((f) => f.piece === `plate:${plate.id}` && f.look.kind !== "mark" && f.look.kind !== "tab")
    .map(({ x, y }) => movePoint(own, point(x, y)));
}

/** Centres of the arcs that bound a plate from outside, in its own frame. */
function arcCentres(plate: Plate): Point[] {
  const own = intoFrame(plate.frame);
  return plate.regions.flatMap((r) =>
    r.outer.flatMap((c) => (c.kind === "arc" && c.name?.includes(":") !== true ? [movePoint(own, c.c)] : [])),
  );
}

/** The value that is nearest to another and no farther off than `within`. */
const nearestTo = (v: number, values: readonly number[], within: number): number | undefined =>
  values.filter((w) => Math.abs(w - v) <= within).sort((p, q) => Math.abs(p - v) - Math.abs(q - v))[0];

/**
 * The place that is meant by a pointed one, both in the plate's own frame: the middle of the plate or of an arc of its
 * border, in line with its middle, with the middle of an edge or with what stands in it already, else on whole steps from the
 * plate's lower left corner, so that its distances from the edges are whole.
 */
export function snapOnPlate(sheet: Sheet, plate: Plate, at: Point, { within, step }: SnapWish): Point {
  const { box, middle } = plate;
  const centres = [middle, ...arcCentres(plate)];
  const [near] = centres
    .filter((p) => distance(p, at) <= within)
    .sort((p, q) => distance(p, at) - distance(q, at));
  if (near) return near;
  const own = intoFrame(plate.frame);
  const edges = plate.edges.map(({ left, right }) =>
    movePoint(own, point((left.x + right.x) / 2, (left.y + right.y) / 2)),
  );
  const lines = [...centres, ...middlesIn(sheet, plate), ...edges];
  const along = (v: number, values: readonly number[], from: number) =>
    nearestTo(v, values, within) ?? from + Math.round((v - from) / step) * step;
  return point(
    along(
      at.x,
      lines.map((p) => p.x),
      box.x0,
    ),
    along(
      at.y,
      lines.map((p) => p.y),
      box.y0,
    ),
  );
}

/** So many rings of places about the middle are tried. */
const RINGS = 8;

/**
 * A place on a plate for something of a size, in its own frame: its middle, else one as near to that as can be found that is in
 * metal and clear of borders, openings and bends. The middle where there is none.
 */
export function freePlace(plate: Plate, size: number): Point {
  const { middle, regions, frame } = plate;
  const clear = clearOf(regions, size / 2);
  for (let ring = 0; ring <= RINGS; ring++)
    for (let k = 0; k < Math.max(1, 8 * ring); k++) {
      const angle = (2 * Math.PI * k) / Math.max(1, 8 * ring);
      const far = ring * size * 0.75;
      const p = point(middle.x + far * Math.cos(angle), middle.y + far * Math.sin(angle));
      if (clear(fromFrame(frame, p))) return p;
    }
  return middle;
}

/** Whether a developed place lies in metal and no border is as near to it. */
function clearOf(regions: readonly Region[], room: number): (p: Point) => boolean {
  const curves = new NearCurves(
    regions
      .flatMap(regionLoops)
      .flatMap((loop) => loop.map((curve) => ({ curve, box: loopBounds([curve]) }))),
  );
  return (p) => {
    const inside = regions.some((r) => insideLoop(r.outer, p) && !r.holes.some((h) => insideLoop(h, p)));
    if (!inside) return false;
    const about = { minX: p.x - room, minY: p.y - room, maxX: p.x + room, maxY: p.y + room };
    return !curves.some(about, ({ curve }) => distanceToCurve(curve, p) < room);
  };
}
