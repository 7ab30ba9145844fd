import type { Outline, OutlineCurve } from "../outline.ts";
import { crossingsOf, directionOf, nearestPlace, radiusOf, shapeOf, shareAt } from "./curve-places.ts";
import {
  along,
  apart,
  type Backdrop,
  type Caught,
  leftOf,
  minus,
  type Place,
  plus,
  towards,
  turnOf,
  unit,
  type Way,
  type XY,
} from "./place.ts";

export interface SnapOptions {
  /** How near is near enough, mm: a few pixels of the view. */
  readonly within: number;
  /** Where the piece that is being drawn comes from. */
  readonly from?: Place;
  /** What is seen of the part behind. */
  readonly backdrops?: readonly Backdrop[];
  /** The pitch of the grid, mm; none if it is 0. */
  readonly grid?: number;
  /** Nothing is caught: the place is where the pointer is. */
  readonly free?: boolean;
}

/** A place with how far it is from the pointer. */
interface Found {
  readonly place: Place;
  readonly off: number;
}

const RAY = Math.PI / 12;

/**
 * The place that a person means who points at `pointer` in an outline: an end or centre near by, then the middle of a
 * line, where two curves cross, where the ray that is being drawn meets a curve, a curve, a ray by 15° or as its
 * neighbours run, the grid. What catches it holds from then on. `outline` stands where it is solved.
 */
export function snapPlace(outline: Outline, pointer: XY, options: SnapOptions): Place {
  if (options.free) return { at: pointer };
  const { within } = options;
  const behind = options.backdrops ?? [];
  const point = nearest([...pointsNear(outline, pointer), ...partPoints(behind, pointer)], within);
  if (point) return withWay(outline, point, options);
  const curves = curvesNear(outline, behind, pointer, within);
  const special = nearest(
    [
      ...middles(curves, pointer),
      ...crossings(curves, pointer),
      ...curves.flatMap((c) => touching(c, options.from, pointer)),
    ],
    within,
  );
  if (special) return withWay(outline, special, options);
  const rays = raysFrom(outline, options);
  const met = nearest(
    curves.flatMap((c) => rays.flatMap((ray) => rayOn(c, ray, pointer))),
    within,
  );
  if (met) return met;
  const curve = nearest(
    curves.map((c) => foundAt(nearestPlace(c.shape, pointer), pointer, caughtOn(c))),
    within,
  );
  if (curve) return curve;
  const lined = linedUp(outline, options);
  const corner = nearest(
    lined.flatMap((l) => rays.flatMap((r) => whereMet(r, l, pointer))),
    within,
  );
  if (corner) return corner;
  const ray = nearest(
    [...rays, ...lined].map((r) => onRay(r, pointer)),
    within,
  );
  if (ray) return ray;
  return onGrid(pointer, options.grid ?? 0);
}

const foundAt = (at: XY, pointer: XY, caught?: Caught, way?: Way, lined?: Place["lined"]): Found => ({
  place: { at, ...(caught ? { caught } : {}), ...(way ? { way } : {}), ...(lined ? { lined } : {}) },
  off: apart(at, pointer),
});

function nearest(found: readonly Found[], within: number): Place | undefined {
  let best: Found | undefined;
  for (const f of found) if (f.off <= within && (!best || f.off < best.off)) best = f;
  return best?.place;
}

const pointsNear = ({ points }: Outline, pointer: XY): Found[] =>
  Object.entries(points).map(([id, at]) => foundAt(at, pointer, { by: "point", id }));

function partPoints(backdrops: readonly Backdrop[], pointer: XY): Found[] {
  return backdrops.flatMap((backdrop) => {
    const { curve } = backdrop;
    const found = (at: "a" | "b" | "centre", place: XY) =>
      foundAt(place, pointer, { by: "part", backdrop, at });
    if (curve.kind === "line") return [found("a", curve.a), found("b", curve.b)];
    if (curve.kind === "arc") return [found("a", curve.a), found("b", curve.b), found("centre", curve.c)];
    return [found("centre", curve.c)];
  });
}

/** A curve that the pointer is near to, of the outline or of the part. */
interface Near {
  readonly shape: Backdrop["curve"];
  readonly own?: OutlineCurve;
  readonly backdrop?: Backdrop;
}

function curvesNear(outline: Outline, behind: readonly Backdrop[], pointer: XY, within: number): Near[] {
  const close = ({ shape }: Near) => apart(nearestPlace(shape, pointer), pointer) <= within;
  return [
    ...outline.curves.map((own): Near => ({ own, shape: shapeOf(own, outline.points) })),
    ...behind.map((backdrop): Near => ({ backdrop, shape: backdrop.curve })),
  ].filter(close);
}

const caughtOn = ({ own, backdrop }: Near): Caught =>
  own ? { by: "curve", curve: own.id } : { by: "part", backdrop: backdrop!, at: "on" };

const middles = (curves: readonly Near[], pointer: XY): Found[] =>
  curves.flatMap((near) => {
    const { shape, own, backdrop } = near;
    if (shape.kind !== "line") return [];
    const at: XY = [(shape.a[0] + shape.b[0]) / 2, (shape.a[1] + shape.b[1]) / 2];
    const caught: Caught = own
      ? { by: "middle", curve: own.id }
      : { by: "part", backdrop: backdrop!, at: "middle" };
    return [foundAt(at, pointer, caught)];
  });

const crossings = (curves: readonly Near[], pointer: XY): Found[] =>
  curves.flatMap((p, i) =>
    curves
      .slice(i + 1)
      .flatMap((q) =>
        p.own && q.own
          ? crossingsOf(p.shape, q.shape).map((at) =>
              foundAt(at, pointer, { by: "crossing", curves: [p.own!.id, q.own!.id] }),
            )
          : [],
      ),
  );

/**
 * Where a piece from a place touches a round, and where it stands square on a line: of the outline's own curves, for only
 * those can be related.
 */
function touching(near: Near, from: Place | undefined, pointer: XY): Found[] {
  const { shape, own } = near;
  if (!from || !own) return [];
  if (shape.kind === "line") {
    const way = unit(minus(shape.b, shape.a));
    const foot = plus(shape.a, way, along(minus(from.at, shape.a), way));
    // From a place on the line itself nothing stands square on it.
    if (apart(foot, from.at) < 1e-6 || apart(nearestPlace(shape, foot), foot) > 1e-6) return [];
    return [foundAt(foot, pointer, caughtOn(near), { kind: "square", line: own.id })];
  }
  const r = radiusOf(shape);
  const out = minus(from.at, shape.c);
  const far = Math.hypot(...out);
  if (far <= r + 1e-6) return [];
  const [turn, half] = [Math.atan2(out[1], out[0]), Math.acos(r / far)];
  return [turn - half, turn + half]
    .map((angle) => plus(shape.c, towards(angle), r))
    .filter((at) => apart(nearestPlace(shape, at), at) < 1e-6)
    .map((at) => foundAt(at, pointer, caughtOn(near), { kind: "tangent", round: own.id }));
}

/** A way in which the piece that is being drawn may run, from its beginning or through the beginning of its chain. */
interface Ray {
  readonly from: XY;
  readonly to: XY;
  readonly way?: Way;
  readonly lined?: Place["lined"];
}

/** Level with the place where the chain began, and upright over it: there it is to come back to. */
function linedUp({ points }: Outline, { from }: SnapOptions): Ray[] {
  const point = from?.start;
  const at = point === undefined ? undefined : points[point];
  if (!from || !at || point === undefined || apart(at, from.at) < 1e-9) return [];
  return [
    { from: at, to: [1, 0], lined: { kind: "level", point } },
    { from: at, to: [0, 1], lined: { kind: "upright", point } },
  ];
}

/** Where a ray crosses the line over the beginning of its chain, if it does so squarely enough to be meant. */
function whereMet(ray: Ray, line: Ray, pointer: XY): Found[] {
  const across = turnOf(ray.to, line.to);
  if (Math.abs(across) < 0.1) return [];
  const at = plus(ray.from, ray.to, turnOf(minus(line.from, ray.from), line.to) / across);
  if (apart(at, ray.from) < 1e-6) return [];
  return [foundAt(at, pointer, undefined, ray.way, line.lined)];
}

function raysFrom(outline: Outline, { from }: SnapOptions): Ray[] {
  if (!from) return [];
  const rays: Ray[] = [];
  // Ways that say something come first: of two that are as near the first one counts.
  rays.push(
    { from: from.at, to: [1, 0], way: { kind: "level" } },
    { from: from.at, to: [0, 1], way: { kind: "upright" } },
  );
  const after = outline.curves.find((c) => c.id === from.after);
  if (after?.kind === "line") {
    const way = unit(minus(outline.points[after.b], outline.points[after.a]));
    rays.push({ from: from.at, to: leftOf(way), way: { kind: "square", line: after.id } });
  }
  if (after && after.kind !== "line") {
    const shape = shapeOf(after, outline.points);
    const way = unit(directionOf(shape, shareAt(shape, from.at)));
    rays.push({ from: from.at, to: way, way: { kind: "tangent", round: after.id } });
  }
  for (let k = 1; k < 12; k++) if (k !== 6) rays.push({ from: from.at, to: towards(k * RAY) });
  return rays;
}

function onRay({ from, to, way, lined }: Ray, pointer: XY): Found {
  const far = along(minus(pointer, from), to);
  return foundAt(plus(from, to, far), pointer, undefined, way, lined);
}

/** Where a ray meets a curve that the pointer is near to. */
function rayOn(near: Near, ray: Ray, pointer: XY): Found[] {
  const { shape } = near;
  const places: XY[] = [];
  if (shape.kind === "line") {
    const d = minus(shape.b, shape.a);
    const across = turnOf(ray.to, d);
    if (Math.abs(across) < 1e-9 * (apart(shape.a, shape.b) || 1)) return [];
    const far = turnOf(minus(shape.a, ray.from), d) / across;
    places.push(plus(ray.from, ray.to, far));
  } else {
    const r = radiusOf(shape);
    const e = minus(shape.c, ray.from);
    const [t, off] = [along(e, ray.to), turnOf(ray.to, e)];
    const half = r * r - off * off;
    if (half <= 0) return [];
    for (const side of [-1, 1]) places.push(plus(ray.from, ray.to, t + side * Math.sqrt(half)));
  }
  return places
    .filter((at) => apart(nearestPlace(shape, at), at) < 1e-6 && apart(at, ray.from) > 1e-6)
    .map((at) => foundAt(at, pointer, caughtOn(near), ray.way));
}

/** A caught place keeps the way that leads to it, where it runs exactly so. */
function withWay(outline: Outline, place: Place, options: SnapOptions): Place {
  const { from } = options;
  if (!from || apart(from.at, place.at) < 1e-9) return place;
  const size = apart(from.at, place.at);
  const ray = raysFrom(outline, options).find(
    (r) => r.way && Math.abs(turnOf(r.to, minus(place.at, from.at))) < 1e-6 * size,
  );
  return ray?.way ? { ...place, way: ray.way } : place;
}

function onGrid(pointer: XY, grid: number): Place {
  if (!(grid > 0)) return { at: pointer };
  const round = (v: number) => Number((Math.round(v / grid) * grid).toFixed(9));
  return { at: [round(pointer[0]), round(pointer[1])], caught: { by: "grid" } };
}
