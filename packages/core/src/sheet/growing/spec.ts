import type { KSource } from "../../bend/why-line.ts";
import type { Loop } from "../../plane/loop.ts";
import type { Motion } from "../../space/vector.ts";
import type { BendRelief } from "../pieces/flat-pieces.ts";

/** What steps ask of a sheet. Lengths in mm, angles in radians. */

/** A round hole, in its plate's own frame. */
export interface HoleSpec {
  readonly key: string;
  readonly x: number;
  readonly y: number;
  readonly diameter: number;
}

/** The cut at one end of a bend that lets the metal beside it stay flat. Depth counts from the tangent line. */
export type ReliefSpec =
  | { readonly shape: "none" }
  | { readonly shape: "torn"; readonly depth: number }
  | { readonly shape: "square" | "round"; readonly width: number; readonly depth: number };

/** What a bend keeps of a relief; one that is torn has no width. */
export const sizeOf = (
  relief: Exclude<ReliefSpec, { shape: "none" }>,
): Pick<BendRelief, "shape" | "width" | "depth"> => ({
  shape: relief.shape,
  width: relief.shape === "torn" ? 0 : relief.width,
  depth: relief.depth,
});

/**
 * How much of an edge a flange takes, seen with the flange pointing away and side B towards the eye.
 * Insets below nothing reach past the edge.
 */
export type WidthSpec =
  | { readonly by: "whole" }
  | { readonly by: "inset"; readonly left: number; readonly right: number }
  | {
      readonly by: "width";
      readonly width: number;
      readonly at: "left" | "centre" | "right";
      readonly offset: number;
    };

/** What a bend is made of, wherever it comes from. */
export interface BendSpec {
  readonly up: boolean;
  readonly angle: number;
  readonly radius: number;
  readonly k: number;
  readonly kSource: KSource;
}

/** The outline of a flange's leg, given the width of its bend and how far it reaches. */
export type LegShape =
  | { readonly by: "rectangle" }
  /** How far each side leans in over the leg's length, as angles from square. */
  | { readonly by: "angles"; readonly left: number; readonly right: number }
  /** As drawn: x from the middle of the bend, y from where the straight leg begins, sides named. */
  | { readonly by: "outline"; readonly loop: Loop }
  /** From `height` on the leg is narrower by `left` and `right`. */
  | { readonly by: "step"; readonly height: number; readonly left: number; readonly right: number };

/** A plate grown from an edge through a bend. `id` names both the bend and the new plate. */
export interface FlangeSpec extends BendSpec {
  readonly id: string;
  readonly step: string;
  readonly edge: { readonly plate: string; readonly role: string };
  /** How far the first tangent line stands behind the edge; negative is beyond it. */
  readonly setback: number;
  /** The straight leg beyond the second tangent line. */
  readonly leg: number;
  readonly width: WidthSpec;
  readonly reliefs: { readonly left: ReliefSpec; readonly right: ReliefSpec };
  readonly shape?: LegShape;
  /** Holes in the leg: x from its middle, y from `holeBase` before the second tangent line. */
  readonly holes: readonly HoleSpec[];
  readonly holeBase: number;
}

/** The first plate of a sheet: an outline in its own frame, its straight pieces named. */
export interface PlateSpec {
  readonly id: string;
  readonly step: string;
  readonly outline: Loop;
  /** Openings within it, clockwise. */
  readonly openings?: readonly Loop[];
  readonly holes: readonly HoleSpec[];
  /** Where its own frame stands in space when everything is folded. */
  readonly place?: Motion;
}
