import type { Frame } from "../plane/point.ts";
import type { Bend, EdgeSite } from "./pieces/flat-pieces.ts";
import type { Metal } from "./shaping/metal-op.ts";

/** A plate while steps are still working on it. All coordinates are developed ones. */
export interface DraftPlate {
  readonly id: string;
  readonly step: string;
  readonly frame: Frame;
  /** Edges that can still be named, at their full extent: a bend on one leaves it as it was. */
  readonly edges: readonly EdgeSite[];
  readonly metal: Metal;
}

/** A bend while steps are still working on it. */
export interface DraftBend extends Omit<Bend, "kind" | "regions" | "marks" | "number"> {
  readonly metal: Metal;
  /** The parent's edge it was grown from, and how far it takes it, from the edge's left end; none for a fold. */
  readonly grownOn?: {
    readonly role: string;
    readonly from: number;
    readonly to: number;
    readonly setback: number;
  };
}
