import {
  type Bounds,
  type Folding,
  foldPoint,
  kindOf,
  type PartBuild,
  type Pickable,
  type Point,
  type RayHit,
  rayHit,
  runsOf,
  type SheetCorner,
  unfoldPoint,
  type Vector,
} from "@hillcrest/core";
import { type Camera, type OrthographicCamera, Raycaster, Vector2, Vector3 } from "three";
import type { Pick } from "../../state/view-slice.ts";
import { pickOf } from "../pick-names.ts";
import type { PickPlaces } from "../pick-places.ts";

export interface PickScene {
  readonly build: PartBuild;
  readonly folding: Folding;
  readonly places: PickPlaces;
  readonly camera: Camera;
  readonly size: { readonly width: number; readonly height: number };
}

const REACH_PX = 8;
/** The edges of what turns are near to each other: there mostly the bend itself is meant. */
const TURNING_PX = 3;
const CORNER_PX = 7;
/** Through a round opening that is seen wider, what lies behind it is pointed at. */
const WINDOW_PX = 30;
const ray = new Raycaster();
const a = new Vector3();
const b = new Vector3();

/** A line of sight through a plate: how far along it its sides are, mm, and where on each. */
interface Through {
  readonly along: readonly number[];
  readonly places: readonly Point[];
  /** How much it rises over the plate for each mm along. */
  readonly rise: number;
}

/** A point of the view, with the line through it into the picture and the metal that this first meets. */
class Pointed {
  readonly from: Vector;
  readonly way: Vector;
  readonly hit: RayHit | undefined;
  /** Millimetres to a pixel across the view. */
  readonly mmPerPx: number;

  constructor(
    readonly scene: PickScene,
    readonly x: number,
    readonly y: number,
  ) {
    const { camera, size, build, folding } = scene;
    ray.setFromCamera(new Vector2((x / size.width) * 2 - 1, 1 - (y / size.height) * 2), camera);
    this.from = ray.ray.origin.toArray();
    this.way = ray.ray.direction.toArray();
    this.hit = rayHit(build.sheet!, folding, this.from, this.way);
    const { left, right, zoom } = camera as OrthographicCamera;
    this.mmPerPx = (right - left) / zoom / size.width;
  }

  /** Where what is seen at the point passes through the planes of a plate's sides; nowhere where it is seen from its edge. */
  through(owner: number): Through | undefined {
    if (!this.throughs.has(owner)) this.throughs.set(owner, this.throughPlate(owner));
    return this.throughs.get(owner);
  }
  private readonly throughs = new Map<number, Through | undefined>();

  private throughPlate(owner: number): Through | undefined {
    const { folding, build } = this.scene;
    const p = unfoldPoint(folding, owner, this.from);
    const [x, y, z] = this.from;
    const q = unfoldPoint(folding, owner, [x + this.way[0], y + this.way[1], z + this.way[2]]);
    const rise = q[2] - p[2];
    if (Math.abs(rise) < 0.01) return undefined;
    const along = [0, build.sheet!.t].map((w) => (w - p[2]) / rise);
    const places = along.map((s) => ({ x: p[0] + (q[0] - p[0]) * s, y: p[1] + (q[1] - p[1]) * s }));
    return { along, places, rise: Math.abs(rise) };
  }

  /**
   * Where on a plate lies what is seen within some pixels of the point; on one that is seen from its edge that may be
   * anywhere.
   */
  around(owner: number, px: number): Bounds {
    const through = this.through(owner);
    if (!through) return EVERYWHERE;
    const reach = (px * this.mmPerPx) / through.rise;
    const [u, v] = [through.places.map(({ x }) => x), through.places.map(({ y }) => y)];
    return {
      minX: Math.min(...u) - reach,
      maxX: Math.max(...u) + reach,
      minY: Math.min(...v) - reach,
      maxY: Math.max(...v) + reach,
    };
  }

  /** Puts where a point in space is seen, in pixels, into `out`. */
  project(p: Vector, out: Vector3): void {
    const { camera, size } = this.scene;
    out.set(...p).project(camera);
    out.x = ((out.x + 1) / 2) * size.width;
    out.y = ((1 - out.y) / 2) * size.height;
  }

  /** Behind the metal under the pointer by more than its own thickness: hidden. */
  hides(p: Vector): boolean {
    if (!this.hit) return false;
    const depth = [0, 1, 2].reduce((sum, k) => sum + (p[k] - this.from[k]) * this.way[k], 0);
    return depth > this.hit.along + this.scene.build.sheet!.t * 1.5 + 0.5;
  }
}

const EVERYWHERE: Bounds = { minX: -Infinity, minY: -Infinity, maxX: Infinity, maxY: Infinity };

/** What lies under a point of the view (pixels): an edge or hole border within reach, else a plate or bend. */
export function pickAt(scene: PickScene, x: number, y: number): Pick | undefined {
  const pointed = new Pointed(scene, x, y);
  const corner = nearestCorner(pointed);
  if (corner) return { kind: "corner", name: corner.name };
  const border = nearestBorder(pointed);
  if (border) return pickOf(border);
  const round = nearestRound(pointed);
  if (round) return pickOf(round);
  if (!pointed.hit) return undefined;
  const piece = scene.build.sheet!.pieces[pointed.hit.piece];
  const { kind, id } = kindOf(piece).pickedAs(piece);
  const [u, v] = pointed.hit.at;
  return kind === "bend" ? { kind, id } : { kind, id, x: u, y: v };
}

function nearestCorner(pointed: Pointed): SheetCorner | undefined {
  const { build, folding, places } = pointed.scene;
  const near = new Map<number, Bounds>();
  let best: SheetCorner | undefined;
  let least = CORNER_PX;
  for (const corner of places.corners) {
    let within = near.get(corner.owner);
    if (!within) {
      within = pointed.around(corner.owner, CORNER_PX);
      near.set(corner.owner, within);
    }
    const { x, y } = corner.at;
    if (x < within.minX || x > within.maxX || y < within.minY || y > within.maxY) continue;
    for (const w of [0, build.sheet!.t]) {
      const at = foldPoint(folding, corner.owner, [x, y, w]);
      pointed.project(at, a);
      const away = Math.hypot(a.x - pointed.x, a.y - pointed.y);
      if (away >= least || pointed.hides(at)) continue;
      best = corner;
      least = away;
    }
  }
  return best;
}

/** The first round opening that is looked through: where nothing is seen in it, or it is too small for that. */
function nearestRound(pointed: Pointed): Pickable | undefined {
  const { places } = pointed.scene;
  let best: Pickable | undefined;
  let nearest = pointed.hit?.along ?? Number.POSITIVE_INFINITY;
  for (const owner of places.owners) {
    const through = pointed.through(owner);
    if (!through || Math.min(...through.along) >= nearest) continue;
    const [a, b] = through.places.map((p) => places.roundAt(owner, p));
    if (!a || a !== b) continue;
    const wide = ((a.box.maxX - a.box.minX) * through.rise) / pointed.mmPerPx;
    if (pointed.hit && wide > WINDOW_PX) continue;
    best = a.border;
    nearest = Math.min(...through.along);
  }
  return best;
}

function nearestBorder(pointed: Pointed): Pickable | undefined {
  const { build, folding, places } = pointed.scene;
  let best: Pickable | undefined;
  let least = REACH_PX;
  const look = (border: Pickable, [p, q]: readonly [Point, Point], w: number, within: number) => {
    const from = foldPoint(folding, border.owner, [p.x, p.y, w]);
    const to = foldPoint(folding, border.owner, [q.x, q.y, w]);
    pointed.project(from, a);
    pointed.project(to, b);
    const length2 = (b.x - a.x) ** 2 + (b.y - a.y) ** 2 || 1;
    const along = ((pointed.x - a.x) * (b.x - a.x) + (pointed.y - a.y) * (b.y - a.y)) / length2;
    const f = Math.max(0, Math.min(1, along));
    const away = Math.hypot(a.x + (b.x - a.x) * f - pointed.x, a.y + (b.y - a.y) * f - pointed.y);
    if (away >= within) return;
    const place: Vector = [
      from[0] + (to[0] - from[0]) * f,
      from[1] + (to[1] - from[1]) * f,
      from[2] + (to[2] - from[2]) * f,
    ];
    if (pointed.hides(place)) return;
    best = border;
    least = away;
  };
  for (const owner of places.owners) {
    const reach = places.isFlat(owner) ? REACH_PX : TURNING_PX;
    const within = pointed.around(owner, reach);
    for (const { border } of places.on(owner).near(within))
      for (const run of runsOf(border))
        for (const w of [0, build.sheet!.t]) look(border, run, w, Math.min(least, reach));
  }
  return best;
}
