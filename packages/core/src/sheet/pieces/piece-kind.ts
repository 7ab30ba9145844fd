import type { Curve } from "../../plane/curve.ts";
import type { Isometry } from "../../plane/isometry.ts";
import type { Point } from "../../plane/point.ts";
import type { Region } from "../../plane/region.ts";
import type { Motion, Vector } from "../../space/vector.ts";
import type { EdgeSite, Mark } from "./flat-pieces.ts";

/**
 * Developed points between which lies the farthest that a piece reaches along an axis: on both its sides, or at a height
 * over side A.
 */
export type Take = (u: number, v: number, w?: number) => void;

/** Whether a height along an axis of space, or against it, is past the box that is known. */
export type Beyond = (axis: 0 | 1 | 2, way: 1 | -1, height: number) => boolean;

/** A straight seam in developed coordinates: its left end, its unit direction and its length, mm. */
export interface SeamLine {
  readonly origin: Point;
  readonly axis: Point;
  readonly width: number;
}

/** Where a piece counts its own points from in the developed plane: it goes with the piece wherever that is moved. */
export interface OwnFrame {
  readonly origin: Point;
  /** Unit directions, square to one another. Of what curls, it is straight across and turns along. */
  readonly across: Point;
  readonly along: Point;
}

/** How the points of a piece move in a state, as numbers that a graphics card can evaluate; see `fold-map.ts`. */
export interface Curl {
  /** `still`: by the piece's own motion alone; `cylinder`: about an axis; `cone`: about an axis through its tip. */
  readonly form: "still" | "cylinder" | "cone";
  /** The motion of the parent; before it the point is curled in the piece's own frame. */
  readonly motion: Motion;
  /** Three at most, by form; what each is stands where the kind makes them. */
  readonly numbers: readonly number[];
}

/** How a piece is bowed in a state, as its developed plane sees it: straight across, turning along. */
export interface Bow {
  readonly origin: Point;
  /** Unit directions in the developed plane, square to one another. */
  readonly across: Point;
  readonly along: Point;
  /** Radians that it turns for each mm along, at most; nought where it is flat. */
  readonly rate: number;
  /** How wide it may be across and still be as good as straight there, mm. */
  readonly straight: number;
  /** The largest radius of its outer side, mm, and which side that is. */
  readonly radius: number;
  readonly outer: "A" | "B";
}

/** Lines of a piece on the blank that bound no metal: what is marked, and what is cut without width. */
export interface PieceStrokes {
  readonly marks: readonly Mark[];
  readonly slits: readonly Curve[];
}

/** An edge of a piece that has a name: straight or curved, on a plate or on what turns. */
export interface PieceEdge {
  readonly role: string;
  /** From one end to the other; of an edge on a plate that is straight, at its full extent before cuts. */
  readonly curves: readonly Curve[];
  /** Where something can be grown from it; none where nothing can. */
  readonly site?: EdgeSite;
}

/** What a list of bends says of a piece that turns. Lengths in mm, angles in radians. */
export interface TurnNumbers {
  readonly up: boolean;
  readonly angle: number;
  readonly k: number;
  /** Inside radius, and length over the turn along the neutral surface: least and most, alike where it is a cylinder. */
  readonly radius: readonly [number, number];
  readonly allowance: readonly [number, number];
  /** How long it is along its straight lines. */
  readonly length: number;
}

/**
 * What a kind of piece answers. Developed points are (u, v) in mm, w counts from side A; `share` is how far the
 * piece is folded, 0 flat to 1 full; `t` is the thickness in mm. An answer may be none where a kind has none.
 */
export interface PieceKind<P, F> {
  /** Whether its metal stays flat, turns, or is that of a host which it only shapes. */
  readonly metal: "flat" | "turns" | "of a host";
  /** By how many radians it turns fully folded what it carries; none where it carries nothing. */
  readonly turn?: (piece: P) => number;
  /** What it is picked as where somebody points at it. */
  readonly pickedAs: (piece: P) => { readonly kind: "plate" | "bend"; readonly id: string };
  /** Its edges by their names. */
  readonly edges: (piece: P) => readonly PieceEdge[];
  /** What a list of bends says of it; none of what does not turn. */
  readonly numbers?: (piece: P, t: number) => TurnNumbers;
  /** Where its letter or number stands in the flat; none for what has neither. */
  readonly labelAt?: (piece: P) => Point;
  /** How broad it is across its straight lines, mm; none of what stays flat. */
  readonly breadth?: (piece: P) => number;
  /** Itself without its openings, where that is another shape that can be asked the same. */
  readonly filled: (piece: P) => P;
  /** The metal it has, in developed coordinates. */
  readonly regions: (piece: P) => readonly Region[];
  /** What of it is seen on the blank besides its borders. */
  readonly strokes: (piece: P) => PieceStrokes;
  /** Volume of its metal fully folded, in mm³, in closed form. */
  readonly volume: (piece: P, t: number) => number;
  /** The piece on another motion of the flat sheet. */
  readonly moved: (piece: P, m: Isometry) => P;
  /** The piece in a state; `on` is the motion of what it hangs on. */
  readonly fold: (piece: P, on: Motion, share: number, t: number) => F;
  /** The motion that it passes on to what hangs on it; none for a piece on which nothing hangs but by others. */
  readonly passes?: (folded: F, t: number) => Motion;
  /** The motion that carries its metal at a developed point. */
  readonly motionAt: (folded: F, t: number, at: Point) => Motion;
  /** Where its metal at a developed point and a height over side A stands: that motion's place for it. */
  readonly placeAt: (folded: F, t: number, at: Point, w: number) => Vector;
  /** The motion that a direction at the piece turns by: that of its first border. */
  readonly facing: (folded: F) => Motion;
  /** The same piece seen from another place. */
  readonly seenFrom: (folded: F, back: Motion) => F;
  /** The developed point of a folded one; none for a piece without a flat state. */
  readonly unfold?: (folded: F, t: number, q: Vector) => Vector;
  /**
   * Takes every developed point by which its box is decided. `outside`: the box may be larger than the metal.
   * What would be long to find is not looked for where it could not be `beyond` the box that others have already.
   */
  readonly reach: (piece: P, folded: F, t: number, take: Take, beyond: Beyond) => "exact" | "outside";
  /**
   * Lines across the piece, as signed distances, along which its mesh is cut so that it can be curled
   * with chords no farther off than `chord`, mm.
   */
  readonly slices: (piece: P, t: number, chord: number) => readonly ((at: Point) => number)[];
  /**
   * Developed four-cornered pieces that make up metal that turns, for a picture: each turns by `most` radians at most, and
   * goes from one end of its lines to the other. None for metal that is drawn by its regions.
   */
  readonly facets?: (piece: P, most: number) => readonly (readonly [Point, Point, Point, Point])[];
  /** The lines along which it meets the plate that it hangs on and the one that it carries, smooth across them. */
  readonly seams?: (piece: P) => { readonly parent: SeamLine; readonly child: SeamLine };
  readonly ownFrame: (piece: P) => OwnFrame;
  readonly curl: (folded: F, t: number) => Curl;
  readonly bow: (piece: P, folded: F, t: number) => Bow;
  /**
   * The metal that it stands in the way with, from one height over side A to another, where that is not what `regions`
   * has from side to side.
   */
  readonly stands?: (
    piece: P,
    t: number,
  ) => { readonly regions: readonly Region[]; readonly low: number; readonly high: number };
}
