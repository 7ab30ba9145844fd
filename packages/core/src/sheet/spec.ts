/** What steps ask of a sheet, before its plates are laid out. Lengths in mm, angles in radians. */

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

/** How much of an edge a flange takes, seen with the flange pointing away and side B towards the eye. */
export type WidthSpec =
  | { readonly by: "whole" }
  | { readonly by: "inset"; readonly left: number; readonly right: number }
  | {
      readonly by: "width";
      readonly width: number;
      readonly at: "left" | "centre" | "right";
      readonly offset: number;
    };

/** The first plate of a sheet: a rectangle in its own frame. */
export interface PlateSpec {
  readonly id: string;
  readonly step: string;
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
  readonly holes: readonly HoleSpec[];
}

/** A plate grown from an edge through a bend. `id` names both the bend and the new plate. */
export interface FlangeSpec {
  readonly id: string;
  readonly step: string;
  readonly edge: { readonly plate: string; readonly role: string };
  readonly up: boolean;
  readonly angle: number;
  readonly radius: number;
  readonly k: number;
  readonly kSource: string;
  /** How far the first tangent line stands behind the edge; negative is beyond it. */
  readonly setback: number;
  /** The straight leg beyond the second tangent line. */
  readonly leg: number;
  readonly width: WidthSpec;
  readonly reliefs: { readonly left: ReliefSpec; readonly right: ReliefSpec };
  /** Holes in the leg: x from its middle, y from `holeBase` before the second tangent line. */
  readonly holes: readonly HoleSpec[];
  readonly holeBase: number;
}

export interface SheetSpec {
  readonly t: number;
  readonly root: PlateSpec;
  readonly flanges: readonly FlangeSpec[];
  /** All plates that letters and numbers count, in order, also those that are not built just now. */
  readonly order?: readonly string[];
}
