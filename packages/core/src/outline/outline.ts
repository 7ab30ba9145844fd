import type { NamedValue } from "../units/named-values.ts";

/** An outline as drawn: points, curves between them, what is to hold, and numbers that drive it. Lengths in mm. */
export interface Outline {
  readonly format: typeof OUTLINE_FORMAT;
  readonly version: number;
  readonly name: string;
  /** Where each point stands, by its id. Every solve starts from here. */
  readonly points: Readonly<Record<string, readonly [number, number]>>;
  readonly curves: readonly OutlineCurve[];
  readonly relations: readonly Relation[];
  readonly dimensions: readonly OutlineDimension[];
  /** Values by name, for the expressions of dimensions. */
  readonly values?: readonly NamedValue[];
  /** Curves that stand for something of the part: they are where that is, and follow it. */
  readonly references?: readonly OutlineReference[];
  /** Areas that do not count, each by a curve of its outer border. */
  readonly leftOut?: readonly string[];
}

/** A curve of an outline, by its id, and the part's name of the edge, bend line or opening that it stands for. */
export interface OutlineReference {
  readonly id: string;
  readonly to: string;
}

interface CurveBase {
  readonly id: string;
  /** Only to draw by: no border of anything. */
  readonly construction?: boolean;
}

export interface OutlineLine extends CurveBase {
  readonly kind: "line";
  readonly a: string;
  readonly b: string;
}

/** From a to b about c, counter-clockwise or the other way round. */
export interface OutlineArc extends CurveBase {
  readonly kind: "arc";
  readonly a: string;
  readonly b: string;
  readonly c: string;
  readonly ccw: boolean;
}

export interface OutlineCircle extends CurveBase {
  readonly kind: "circle";
  readonly c: string;
  readonly r: number;
}

export type OutlineCurve = OutlineLine | OutlineArc | OutlineCircle;

/** What is to hold between points and curves. */
export interface Relation {
  readonly id: string;
  readonly kind: RelationKind;
  /** Points and curves by id, in the order that the kind asks for. */
  readonly of: readonly string[];
  /** Where a point that is fixed stands; where it is drawn if nothing is said. */
  readonly at?: readonly [number, number];
}

export type RelationKind =
  | "coincident"
  | "level"
  | "upright"
  | "parallel"
  | "square"
  | "inLine"
  | "tangent"
  | "concentric"
  | "equal"
  | "symmetric"
  | "middle"
  | "on"
  | "fixed";

/** A number that drives the outline, or only shows what it is. */
export interface OutlineDimension {
  readonly id: string;
  readonly kind: DimensionKind;
  readonly of: readonly string[];
  /** An expression, or a bare number: mm or degrees. */
  readonly value: string | number;
  /** By which other expressions use it. */
  readonly name?: string;
  /** It drives nothing: it says what is there. */
  readonly showing?: boolean;
  /** Where its text stands. */
  readonly where?: readonly [number, number];
}

export type DimensionKind =
  | "distance"
  | "distanceX"
  | "distanceY"
  | "toLine"
  | "length"
  | "angle"
  | "radius"
  | "diameter"
  | "arcLength";

export const OUTLINE_FORMAT = "hillcrest-outline";
export const OUTLINE_VERSION = 1;

/** What can stand at a place of a relation or dimension. */
export type Slot = "point" | "line" | "round" | "curve";

/** What each kind of relation and dimension takes, one list for each way to write it. */
export const RELATION_SLOTS: Readonly<Record<RelationKind, readonly (readonly Slot[])[]>> = {
  coincident: [["point", "point"]],
  level: [["line"], ["point", "point"]],
  upright: [["line"], ["point", "point"]],
  parallel: [["line", "line"]],
  square: [["line", "line"]],
  inLine: [["line", "line"]],
  tangent: [
    ["line", "round"],
    ["round", "line"],
    ["round", "round"],
  ],
  concentric: [
    ["round", "round"],
    ["point", "round"],
  ],
  equal: [
    ["line", "line"],
    ["round", "round"],
  ],
  symmetric: [["point", "point", "line"]],
  middle: [
    ["point", "line"],
    ["point", "point", "point"],
  ],
  on: [["point", "curve"]],
  fixed: [["point"]],
};

export const DIMENSION_SLOTS: Readonly<Record<DimensionKind, readonly (readonly Slot[])[]>> = {
  distance: [["point", "point"]],
  distanceX: [["point", "point"]],
  distanceY: [["point", "point"]],
  toLine: [["point", "line"]],
  length: [["line"]],
  angle: [["line", "line"]],
  radius: [["round"]],
  diameter: [["round"]],
  arcLength: [["round"]],
};

export const MOST_POINTS = 20_000;
export const MOST_CURVES = 10_000;
export const MOST_RELATIONS = 20_000;
/** A coordinate or a size may be no larger, mm. */
export const FARTHEST = 1e6;

/** Whether a curve can stand at a place. */
export const fitsSlot = (slot: Slot, found: OutlineCurve | "point"): boolean => {
  if (found === "point") return slot === "point";
  if (slot === "curve") return true;
  return slot === (found.kind === "line" ? "line" : "round");
};

/**
 * An outline whose relations and dimensions are called like none of its points and curves, so that an id says what is meant.
 * The format lets them share ids, and a file from elsewhere may.
 */
export function withDistinctIds(outline: Outline): Outline {
  const { points, curves, relations, dimensions } = outline;
  const things = new Set([...Object.keys(points), ...curves.map((c) => c.id)]);
  if (![...relations, ...dimensions].some((r) => things.has(r.id))) return outline;
  const fresh = freshIds(outline);
  const own = <T extends { readonly id: string }>(of: string, list: readonly T[]): T[] =>
    list.map((r) => (things.has(r.id) ? { ...r, id: fresh(of) } : r));
  return { ...outline, relations: own("r", relations), dimensions: own("d", dimensions) };
}

/** Gives ids that nothing in an outline has yet, none of them twice: `r1`, `r2` and so on, by what they are of. */
export function freshIds({ points, curves, relations, dimensions }: Outline): (of: string) => string {
  const taken = new Set([
    ...Object.keys(points),
    ...[...curves, ...relations, ...dimensions].map((thing) => thing.id),
  ]);
  const counts = new Map<string, number>();
  return (of) => {
    let count = counts.get(of) ?? 0;
    do count++;
    while (taken.has(`${of}${count}`));
    counts.set(of, count);
    return `${of}${count}`;
  };
}
