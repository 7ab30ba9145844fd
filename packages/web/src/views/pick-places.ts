import {
  type Bounds,
  insideLoop,
  Kept,
  type Loop,
  loopBounds,
  NearCurves,
  type Pickable,
  type Point,
  pickables,
  platesOf,
  runsOf,
  type Sheet,
  type SheetCorner,
  sheetCorners,
} from "@hillcrest/core";
import { pickKey } from "../state/view-slice.ts";
import { pickOf } from "./pick-names.ts";

/** A border with its box, by which it is found. */
interface PlacedBorder {
  readonly border: Pickable;
  readonly box: Bounds;
}

/** Whether a border is a round opening as a whole: it is pointed at in its middle, too. */
export function isRound(border: Pickable): boolean {
  if (pickOf(border).kind !== "hole") return false;
  const [from, to] = [border.curves[0].a, border.curves[border.curves.length - 1].b];
  return Math.hypot(from.x - to.x, from.y - to.y) < 1e-6;
}

/** How far a point is from a straight run, mm. */
export function awayFrom(p: Point, from: Point, to: Point): number {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const f = ((p.x - from.x) * dx + (p.y - from.y) * dy) / (dx * dx + dy * dy || 1);
  const share = Math.max(0, Math.min(1, f));
  return Math.hypot(from.x + dx * share - p.x, from.y + dy * share - p.y);
}

/** What can be picked of a shape, found by where it lies on its plate, and by its name. */
export class PickPlaces {
  readonly borders: readonly Pickable[];
  readonly corners: readonly SheetCorner[];
  private readonly byOwner = new Map<number, NearCurves<PlacedBorder>>();
  private byKey: Map<string, Pickable[]> | undefined;
  private readonly ofOwner = new Map<number, Pickable[]>();

  constructor(readonly sheet: Sheet) {
    this.borders = pickables(sheet);
    this.corners = sheetCorners(sheet);
    for (const border of this.borders) {
      const list = this.ofOwner.get(border.owner);
      if (list) list.push(border);
      else this.ofOwner.set(border.owner, [border]);
    }
  }

  get owners(): Iterable<number> {
    return this.ofOwner.keys();
  }

  /** The borders of a plate. They are laid out when somebody first points at it. */
  on(owner: number): NearCurves<PlacedBorder> {
    const known = this.byOwner.get(owner);
    if (known) return known;
    const borders = (this.ofOwner.get(owner) ?? []).map((border) => ({
      border,
      box: loopBounds(border.curves),
    }));
    const made = new NearCurves(borders);
    this.byOwner.set(owner, made);
    return made;
  }

  /** The borders that a pick names. */
  named(key: string): readonly Pickable[] {
    if (!this.byKey) {
      this.byKey = new Map();
      for (const border of this.borders) {
        const own = pickKey(pickOf(border));
        const list = this.byKey.get(own);
        if (list) list.push(border);
        else this.byKey.set(own, [border]);
      }
    }
    return this.byKey.get(key) ?? [];
  }

  /** Whether a piece is flat: what turns has its edges too, but is small, and is often pointed at itself. */
  isFlat(owner: number): boolean {
    return this.sheet.pieces[owner].kind === "plate";
  }

  /** The border of a plate that is nearest to a point of the flat sheet, and no farther from it than `within` mm. */
  borderAt(p: Point, within: number): Pickable | undefined {
    let best: Pickable | undefined;
    let least = within;
    const box = { minX: p.x - within, minY: p.y - within, maxX: p.x + within, maxY: p.y + within };
    this.areas ??= new NearCurves(
      [...this.ofOwner].flatMap(([owner, borders]) =>
        this.isFlat(owner) ? [{ owner, box: loopBounds(borders.flatMap((b) => b.curves)) }] : [],
      ),
    );
    for (const { owner } of this.areas.near(box))
      for (const { border } of this.on(owner).near(box))
        for (const [from, to] of runsOf(border)) {
          const away = awayFrom(p, from, to);
          if (away >= least) continue;
          best = border;
          least = away;
        }
    return best;
  }

  /** Plates by where they lie: of thousands those near a place are looked at. */
  private areas: NearCurves<{ readonly owner: number; readonly box: Bounds }> | undefined;

  /** The round opening of a plate in which a point of the flat sheet lies, with its box. */
  roundAt(owner: number, p: Point): PlacedBorder | undefined {
    return this.on(owner)
      .near({ minX: p.x, minY: p.y, maxX: p.x, maxY: p.y })
      .find(({ border }) => isRound(border) && insideLoop(border.curves, p));
  }

  /** Whether a point of the flat sheet lies in an opening of a plate: another may stand within that. */
  isInOpening(plate: string, p: Point): boolean {
    this.openings ??= new NearCurves(
      platesOf(this.sheet).flatMap(({ id, regions }) =>
        regions.flatMap((r) => r.holes.map((loop) => ({ plate: id, loop, box: loopBounds(loop) }))),
      ),
    );
    const here = { minX: p.x, minY: p.y, maxX: p.x, maxY: p.y };
    return this.openings.near(here).some((o) => o.plate === plate && insideLoop(o.loop, p));
  }
  private openings:
    | NearCurves<{ readonly plate: string; readonly loop: Loop; readonly box: Bounds }>
    | undefined;

  private byPlate: ReadonlyMap<string, readonly Pickable[]> | undefined;

  /** All that can be picked round a plate. */
  round(plate: string): readonly Pickable[] {
    this.byPlate ??= new Map<string, readonly Pickable[]>(
      [...this.ofOwner]
        .flatMap(([owner, list]) => (this.isFlat(owner) ? [[list[0].piece, list] as const] : []))
        .reverse(),
    );
    return this.byPlate.get(plate) ?? [];
  }
}

const places = new Kept((sheet: Sheet) => new PickPlaces(sheet));

/** The places of a sheet, found once for both views. */
export const pickPlacesOf = (sheet: Sheet): PickPlaces => places.of(sheet);
