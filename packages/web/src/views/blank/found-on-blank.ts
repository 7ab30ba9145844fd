import {
  type Blank,
  type Bounds,
  grown,
  Kept,
  loopBounds,
  NearCurves,
  type Plate,
  type Point,
  platesOf,
} from "@hillcrest/core";
import type { Pick } from "../../state/view-slice.ts";
import { pickOf } from "../pick-names.ts";
import { awayFrom, type PickPlaces } from "../pick-places.ts";

/** How near the pointer has to be to a corner, a border and a bend's line, pixels. */
const REACH_PX = { corner: 7, border: 6.5, bend: 5.5 };

interface Placed<T> {
  readonly one: T;
  readonly box: Bounds;
}

const about = ({ x, y }: Point, by: number): Bounds => grown({ minX: x, maxX: x, minY: y, maxY: y }, by);

/** The outline of a plate, of which thousands of pieces need not be gone through for a place: that of a comb has eight a flange. */
const outlineOf = new Kept(
  ({ regions }: Plate) =>
    new NearCurves(regions.flatMap((r) => r.outer).map((curve) => ({ curve, box: loopBounds([curve]) }))),
);

/** The nearest of those that lie no farther than `within`. */
function nearest<T>(
  near: NearCurves<Placed<T>>,
  p: Point,
  within: number,
  far: (one: T) => number,
): T | undefined {
  let [best, least]: [T | undefined, number] = [undefined, within];
  for (const { one } of near.near(about(p, within))) {
    const d = far(one);
    if (d < least) [best, least] = [one, d];
  }
  return best;
}

/**
 * What lies at a place of a blank of which nothing is an element of the page, for there is too much of it: found in the
 * order in which elements would lie over each other. Laid out when somebody first points at it.
 */
export class FoundOnBlank {
  private readonly corners: NearCurves<Placed<{ readonly name: string; readonly at: Point }>>;
  private readonly bends: NearCurves<Placed<{ readonly bend: string; readonly a: Point; readonly b: Point }>>;
  private readonly plates: NearCurves<Placed<{ readonly plate: Plate; readonly nth: number }>>;

  constructor(
    private readonly places: PickPlaces,
    blank: Blank,
  ) {
    this.corners = new NearCurves(places.corners.map((one) => ({ one, box: about(one.at, 0) })));
    this.bends = new NearCurves(
      blank.centreLines.flatMap(({ bend, pieces }) =>
        pieces.map((piece) => ({ one: { bend, a: piece.a, b: piece.b }, box: loopBounds([piece]) })),
      ),
    );
    this.plates = new NearCurves(
      platesOf(places.sheet).flatMap((plate, nth) =>
        plate.regions.map(({ outer }) => ({ one: { plate, nth }, box: loopBounds(outer) })),
      ),
    );
  }

  /** @param zoom How many pixels a millimetre is. */
  at(p: Point, zoom: number): Pick | undefined {
    const corner = nearest(this.corners, p, REACH_PX.corner / zoom, ({ at }) =>
      Math.hypot(at.x - p.x, at.y - p.y),
    );
    if (corner) return { kind: "corner", name: corner.name };
    const border = this.places.borderAt(p, REACH_PX.border / zoom);
    if (border) return pickOf(border);
    const bend = nearest(this.bends, p, REACH_PX.bend / zoom, ({ a, b }) => awayFrom(p, a, b));
    if (bend) return { kind: "bend", id: bend.bend };
    return this.plateAt(p);
  }

  /** The plate at a place, with the place; where there is a round opening of one and no other stands in it, the opening. */
  private plateAt(p: Point): Pick | undefined {
    let top: { readonly plate: Plate; readonly nth: number } | undefined;
    let opened: Plate | undefined;
    for (const { one } of this.plates.near(about(p, 0))) {
      if (!outlineOf.of(one.plate).covers(p, (piece) => piece.curve)) continue;
      if (this.places.isInOpening(one.plate.id, p)) opened = one.plate;
      else if (one.nth >= (top?.nth ?? 0)) top = one;
    }
    if (top) return { kind: "plate", id: top.plate.id, x: p.x, y: p.y };
    if (!opened) return undefined;
    const [{ owner }] = this.places.round(opened.id);
    const round = this.places.roundAt(owner, p);
    return round && pickOf(round.border);
  }
}
