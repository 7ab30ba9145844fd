import { type Curve, withTags } from "../plane/curve.ts";
import { type Isometry, moveDirection, movePoint } from "../plane/isometry.ts";
import { asCircle, type Loop, loopBounds, loopsBounds } from "../plane/loop.ts";
import { type Frame, type Point, point } from "../plane/point.ts";
import type { HardwareItem } from "../stock/hardware.ts";

/** A round opening that is off its feature by less, mm, is as that has it. */
const AS_MADE = 1e-6;

export const FEATURE_KINDS = [
  "round",
  "slot",
  "rectangle",
  "polygon",
  "keyhole",
  "flattened",
  "drawn",
  "tab",
  "formed",
  "gusset",
  "mark",
] as const;

export type FeatureKind = (typeof FEATURE_KINDS)[number];

/** What a feature measures, mm, as its step gives it; which sizes there are hangs on its kind. */
export interface FeatureSize {
  readonly diameter?: number;
  readonly width?: number;
  readonly height?: number;
  readonly across?: number;
  readonly sides?: number;
  readonly rounding?: number;
  readonly neck?: number;
  readonly reach?: number;
}

/** What a feature is, wherever it stands: features of one step mostly share the record. */
export interface FeatureLook {
  readonly kind: FeatureKind;
  readonly size: FeatureSize;
  /** The metric thread that passes, or is tapped. */
  readonly thread?: { readonly name: string; readonly of: "clearance" | "core" };
  /** What is set into it. */
  readonly hardware?: HardwareItem;
}

/** A piece of a sheet by its kind and its own name: a flange's bend and its plate are called alike. */
export type PieceName = `${"plate" | "bend" | "cone"}:${string}`;

/**
 * An opening, tab, mark or shape that a step makes on purpose, one record from its step to every output. The curves that
 * bound it name it (`Curve.feature`), whatever is cut off them later.
 */
export interface Feature {
  /** The only one of its name in a sheet; a copy has its own. */
  readonly id: string;
  readonly step: string;
  readonly look: FeatureLook;
  /** The piece of sheet that it stands in. */
  readonly piece: PieceName;
  /** Its own frame in developed coordinates: its origin, mm, and by how much its x axis is turned, radians. */
  readonly x: number;
  readonly y: number;
  readonly turned: number;
  /** Whether its y axis stands on the other side, as in a mirror image. */
  readonly mirrored?: boolean;
  /** The step that made it again, of a copy. */
  readonly copiedBy?: string;
}

/** What was drawn, or came about otherwise: it measures what its box does. */
export function drawnLook(loops: readonly Loop[]): FeatureLook {
  const { minX, minY, maxX, maxY } = loopsBounds(loops);
  return { kind: "drawn", size: { width: maxX - minX, height: maxY - minY } };
}

/** A feature that is known by its outline alone: its middle, and what its box measures, or the diameter of a whole round. */
export function featureOfLoop(loop: Loop, own: Pick<Feature, "id" | "step" | "piece">): Feature {
  const circle = asCircle(loop);
  const { minX, minY, maxX, maxY } = loopBounds(loop);
  const look: FeatureLook = circle ? { kind: "round", size: { diameter: 2 * circle.r } } : drawnLook([loop]);
  return feature({ ...own, look }, [(minX + maxX) / 2, (minY + maxY) / 2, 0]);
}

/**
 * A feature that goes on through another piece, as a feature of its own there: of the same look where it comes out alike,
 * with its size as it lies there where it does not.
 */
export function featureThrough(through: Feature, piece: PieceName, loops: readonly Loop[]): Feature {
  const { id, step, look } = through;
  const { minX, minY, maxX, maxY } = loopsBounds(loops);
  const round = loops.length === 1 && look.kind === "round" ? asCircle(loops[0]) : undefined;
  const alike = round !== undefined && Math.abs(2 * round.r - (look.size.diameter ?? 0)) < AS_MADE;
  const own = { id: `${id}>${piece}`, step, piece, look: alike ? look : drawnLook(loops) };
  return feature(own, [(minX + maxX) / 2, (minY + maxY) / 2, 0]);
}

/** What of a feature does not hang on where it stands. */
type Own = Pick<Feature, "id" | "step" | "look" | "piece">;

/** Made here and not by copying keys: features then come in one shape, which is much quicker to read. */
const feature = (
  { id, step, look, piece }: Own,
  [x, y, turned]: readonly [number, number, number],
  mirrored?: boolean,
  copiedBy?: string,
): Feature => ({ id, step, look, piece, x, y, turned, mirrored, copiedBy });

export const featureAt = (own: Own, { origin, x }: Frame): Feature =>
  feature(own, [origin.x, origin.y, Math.atan2(x.y, x.x)]);

/** The frame of a feature; of a mirrored one the y axis stands to the right of it. */
export const featureFrame = ({ x, y, turned }: Feature): Frame => ({
  origin: point(x, y),
  x: point(Math.cos(turned), Math.sin(turned)),
});

/** A feature that its plate has taken along. */
export function moveFeature(m: Isometry, f: Feature): Feature {
  const { origin, x } = featureFrame(f);
  const at = movePoint(m, origin);
  const way = moveDirection(m, x);
  const mirrored = m.flips !== (f.mirrored ?? false);
  return feature(f, [at.x, at.y, Math.atan2(way.y, way.x)], mirrored || undefined, f.copiedBy);
}

/** A feature that another step makes again, by the mark that goes behind the names of what it copies. */
export const copiedFeature = (f: Feature, mark: string, step: string): Feature =>
  feature({ ...f, id: `${f.id}${mark}` }, [f.x, f.y, f.turned], f.mirrored, step);

/** The same feature where it stands in another piece. */
export const featureIn = (f: Feature, piece: PieceName): Feature =>
  f.piece === piece ? f : feature({ ...f, piece }, [f.x, f.y, f.turned], f.mirrored, f.copiedBy);

/** A loop that bounds a feature. */
export const featureLoop = (loop: Loop, id: string): Loop =>
  loop.map((c) => withTags(c, { name: c.name, feature: id }));

/** The feature that a loop bounds as a whole: nothing where anything else has a share in it. */
export function wholeFeature(loop: Loop, features: ReadonlyMap<string, Feature>): Feature | undefined {
  const id = loop[0]?.feature;
  return id !== undefined && loop.every((c) => c.feature === id) ? features.get(id) : undefined;
}

/** The features that bound a loop, in the order in which they come along it. */
export function featuresAlong(loop: Loop, features: ReadonlyMap<string, Feature>): Feature[] {
  const ids = new Set(loop.flatMap((c: Curve) => c.feature ?? []));
  return [...ids].flatMap((id) => features.get(id) ?? []);
}

/** A round opening: its middle and its radius. */
export interface Round {
  readonly c: Point;
  readonly r: number;
}

/** Whether all of a loop is still the round that its feature makes. */
function isAsMade(loop: Loop, { id, look, x, y }: Feature, r: number): boolean {
  if (look.kind !== "round") return false;
  for (const c of loop) {
    if (c.kind !== "arc" || c.feature !== id || Math.abs(c.r - r) > AS_MADE) return false;
    if (Math.abs(c.c.x - x) > AS_MADE || Math.abs(c.c.y - y) > AS_MADE) return false;
  }
  return true;
}

/**
 * Whether a loop is a round opening, and which: with the numbers of its step where it is as that made it. Of what was drawn,
 * or became round otherwise, they are read from the curves. Asked of every opening that is drawn.
 */
export function roundOf(loop: Loop, features: ReadonlyMap<string, Feature>): Round | undefined {
  const id = loop[0]?.feature;
  const made = id === undefined ? undefined : features.get(id);
  const r = (made?.look.size.diameter ?? 0) / 2;
  return made && isAsMade(loop, made, r) ? { c: { x: made.x, y: made.y }, r } : asCircle(loop);
}
