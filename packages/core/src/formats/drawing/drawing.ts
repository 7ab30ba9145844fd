import type { Curve } from "../../plane/curve.ts";
import type { Loop } from "../../plane/loop.ts";
import type { Bounds, Point } from "../../plane/point.ts";
import type { DrawnContent, PresetLayer } from "../../stock/export-preset.ts";

/** Something that is drawn, with what it is: lengths in the drawing's unit, angles in radians. */
export type DrawnEntity = { readonly content: DrawnContent } & (
  | { readonly kind: "curve"; readonly curve: Curve }
  | { readonly kind: "circle"; readonly c: Point; readonly r: number }
  | { readonly kind: "chain"; readonly curves: readonly Curve[]; readonly closed: boolean }
  | {
      readonly kind: "text";
      /** Its lower left corner. */
      readonly at: Point;
      readonly height: number;
      readonly turn: number;
      readonly text: string;
    }
);

/** A flat drawing, ready to be written in any format: every number as it will stand in the file. */
export interface Drawing {
  readonly units: "mm" | "in";
  /** Which layer each content is on. */
  readonly layers: ReadonlyMap<DrawnContent, PresetLayer>;
  readonly entities: readonly DrawnEntity[];
  /** What is cut reaches from here to there. */
  readonly bounds: Bounds;
}

/** What a file must show, in the drawing's unit, found from the blank itself and not from what was drawn. */
export interface DrawnFacts {
  /** Loops that are cut as closed outlines, and as openings. */
  readonly outlines: readonly Loop[];
  readonly openings: readonly Loop[];
  readonly slits: readonly Curve[];
  /** Openings that are not cut but marked. */
  readonly marked: readonly Loop[];
  readonly bendsUp: readonly Curve[];
  readonly bendsDown: readonly Curve[];
  /** So many gaps of this width are left in what is cut. */
  readonly joints: number;
  readonly jointWidth: number;
  /** Pieces that were shorter than the shortest, and how much area that can have moved. */
  readonly joinedPieces: number;
  readonly slack: number;
}

/** A blank drawn for a file, with what the file is held to and what a person should know of it. */
export interface DrawnBlank {
  readonly drawing: Drawing;
  readonly facts: DrawnFacts;
  /** Millimetres in the drawing's unit. */
  readonly unit: number;
  readonly notes: readonly string[];
  /** Why the part cannot be made as it stands, where it leaves all the same: the file and its proof say so. */
  readonly stops: readonly string[];
}
