import type { KSource } from "../../bend/why-line.ts";
import type { Curve } from "../../plane/curve.ts";
import type { Frame, Point } from "../../plane/point.ts";
import type { Region } from "../../plane/region.ts";

/** An edge that a flange can be grown from: its full extent before anything was cut from it. */
export interface EdgeSite {
  /** `south`, `east`, `north`, `west` on a rectangle; `end`, `left`, `right` on a flange. */
  readonly role: string;
  /** Left end, seen with the outside of the plate ahead and side B towards the eye. */
  readonly left: Point;
  readonly right: Point;
  /** Unit direction out of the plate. */
  readonly out: Point;
}

/** Lines that are marked on the metal of a piece, as far as there is metal; in developed coordinates. */
export interface Mark {
  readonly step: string;
  readonly feature?: string;
  /** The side that is marked; of a mark for a tool none. */
  readonly side?: "A" | "B";
  readonly curves: readonly Curve[];
}

/** A flat piece, in developed coordinates. */
export interface Plate {
  readonly kind: "plate";
  readonly id: string;
  readonly step: string;
  readonly letter: string;
  readonly frame: Frame;
  /** The plate's extent in its own frame before cuts. */
  readonly box: { readonly x0: number; readonly y0: number; readonly x1: number; readonly y1: number };
  /** Its middle as it is seen, in its own frame; see `middleOfPlate`. */
  readonly middle: Point;
  readonly edges: readonly EdgeSite[];
  readonly regions: readonly Region[];
  readonly marks: readonly Mark[];
}

/** A notch beside one end of a bend, on one of the plates it joins. Lengths in mm. */
export interface BendRelief {
  readonly end: "left" | "right";
  readonly side: "parent" | "child";
  readonly shape: "torn" | "square" | "round";
  /** Along the bend; nought where it is torn. */
  readonly width: number;
  /** How far it reaches into its plate from where the bend begins there. */
  readonly depth: number;
}

/** A strip of metal that turns, between the plate it starts from and the one it carries. */
export interface Bend {
  readonly kind: "bend";
  readonly id: string;
  readonly number: number;
  readonly step: string;
  readonly parent: string;
  readonly child: string;
  /** Left end of the first tangent line, in developed coordinates. */
  readonly origin: Point;
  /** Unit direction of the bend line, left to right. */
  readonly axis: Point;
  /** Unit direction from parent to child. */
  readonly out: Point;
  readonly width: number;
  readonly allowance: number;
  readonly angle: number;
  readonly radius: number;
  readonly k: number;
  readonly kSource: KSource;
  readonly up: boolean;
  readonly regions: readonly Region[];
  readonly marks: readonly Mark[];
  /** Ends at which metal of the parent stands beside the bend and nothing relieves it. */
  readonly unrelieved: readonly ("left" | "right")[];
  /** What relieves it beside its ends. */
  readonly reliefs: readonly BendRelief[];
  /** How far it reaches past its parent's edge at each end, where it hangs on nothing. */
  readonly overhang: { readonly left: number; readonly right: number };
  /** The parent's edge it was grown from; none for a fold across a plate. */
  readonly edge?: string;
}
