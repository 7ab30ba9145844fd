import type { Frame, Point } from "../plane/point.ts";
import type { Cone } from "./pieces/cone-piece.ts";
import type { Bend, EdgeSite } from "./pieces/flat-pieces.ts";
import type { Metal } from "./shaping/metal-op.ts";

/** A plate while steps are still working on it. All coordinates are developed ones. */
export interface DraftPlate {
  readonly kind: "plate";
  readonly id: string;
  readonly step: string;
  readonly frame: Frame;
  /** Edges that can still be named, at their full extent: a bend on one leaves it as it was. */
  readonly edges: readonly EdgeSite[];
  readonly metal: Metal;
}

/** Where something begins that hangs on a plate, and on which of its edges it was grown. */
interface Hanging {
  /** The left end of the line where it begins, its unit direction, the way from there over it, and how long the line is. */
  readonly origin: Point;
  readonly axis: Point;
  readonly out: Point;
  readonly width: number;
  /** How far it reaches past its parent's edge at each end, where it hangs on nothing. */
  readonly overhang: { readonly left: number; readonly right: number };
  readonly metal: Metal;
  /** The parent's edge it was grown from, and how far it takes it, from the edge's left end; none for a fold. */
  readonly grownOn?: {
    readonly role: string;
    readonly from: number;
    readonly to: number;
    readonly setback: number;
  };
}

/** A bend while steps are still working on it. */
export interface DraftBend extends Omit<Bend, "regions" | "marks" | "number">, Hanging {}

/** A wall that is rolled, while steps are still working on it. */
export interface DraftCone extends Omit<Cone, "axis" | "out" | "regions" | "marks">, Hanging {
  /** The unit direction from its tip along the line where it begins: that line's own, or against it. */
  readonly along: Point;
}

/** What hangs on one plate and carries another. */
export type DraftCarrier = DraftBend | DraftCone;

/** What a sheet is made of while steps work on it. What each kind answers stands in `draftKinds`. */
export type DraftPiece = DraftPlate | DraftCarrier;
