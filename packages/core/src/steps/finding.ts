import type { Point } from "../plane/point.ts";
import type { Piece } from "../sheet/sheet.ts";

/** How grave a finding is: `stop` means the part cannot be made as it stands. */
export type FindingLevel = "stop" | "warn" | "note";

/** A piece of sheet, by its stable name. */
export interface FindingPiece {
  readonly kind: "plate" | "bend" | "cone";
  readonly id: string;
}

/** What is shown of a piece in a view: of what is formed, the plate that it is formed out of. */
export const shownPiece = (piece: Piece): FindingPiece =>
  "host" in piece ? { kind: "plate", id: piece.host } : { kind: piece.kind, id: piece.id };

/** Two pieces that stand in one another. Shares of folding count from 0 flat to 1 folded, all bends together. */
export interface CollisionFacts {
  /** Where it first begins. */
  readonly at: number;
  /** Whether it is there fully folded. */
  readonly full: boolean;
  /** Where it is measured: fully folded, or where the two stand deepest. */
  readonly share: number;
  /** The least shift that parts these two alone, mm, and the metal that they share, mm³; none of very many. */
  readonly depth?: number;
  readonly volume?: number;
}

/**
 * A change of one step: a length longer (shorter where it is below nought), values set, a round hole of its table
 * moved along its plate's axes (mm), or the step left out.
 */
export type Remedy =
  | {
      readonly do: "longer";
      readonly step: string;
      readonly field: string;
      readonly by: number;
      /** The key of the pick whose own length it is, where it is not the step's. */
      readonly pick?: string;
    }
  | { readonly do: "set"; readonly step: string; readonly values: Readonly<Record<string, string>> }
  | { readonly do: "move"; readonly step: string; readonly hole: string; readonly by: Point }
  | { readonly do: "remove"; readonly step: string };

/** What would work, as one action: what it is called, and what it changes. */
export interface Mend {
  readonly title: string;
  readonly remedies: readonly Remedy[];
}

/** Something a person should know: what is wrong, where, and what would work. */
export interface Finding {
  readonly level: FindingLevel;
  /** A short stable name of the rule, for filtering and tests. */
  readonly rule: string;
  readonly message: string;
  /** The step it belongs to; none when it is the stock or the whole part. */
  readonly step?: string;
  /** The field of that step (or of the stock) to look at. */
  readonly field?: string;
  /** The plates and bends it is about. */
  readonly pieces?: readonly FindingPiece[];
  /** What a rule measured, and what it wants: mm, degrees, kN or kg, as the rule says. */
  readonly found?: number;
  readonly wanted?: number;
  /** Why it is taken as it is, and who says so: it blocks nothing then, and counts for nothing. */
  readonly accepted?: { readonly key: string; readonly reason: string; readonly by: string };
  /** How it can be mended at once. */
  readonly mend?: Mend;
  /** What is known of two pieces that collide. */
  readonly collision?: CollisionFacts;
  /** A place on the blank. */
  readonly at?: Point;
  /** Names that could be picked in the place of one that is gone. */
  readonly offers?: { readonly field: string; readonly key: string; readonly names: readonly string[] };
}

/** Whether a finding stops the part from being made: one that is accepted does not. */
export const stops = (f: Finding): boolean => f.level === "stop" && !f.accepted;
