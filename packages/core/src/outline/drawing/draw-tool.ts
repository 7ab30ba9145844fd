import type { Dimension } from "../../units/quantity.ts";
import type { Outline } from "../outline.ts";
import type { OutlineDraft } from "./outline-draft.ts";
import type { Place } from "./place.ts";

/** A number that is typed while something is drawn: as it was written, and what it comes to (mm, radians, plain). */
export interface TypedNumber {
  readonly text: string | number;
  readonly value: number;
}

export type TypedNumbers = Readonly<Record<string, TypedNumber | undefined>>;

/** A number that can be typed for a tool. */
export interface ToolValue {
  readonly key: string;
  readonly label: string;
  readonly dimension: Dimension;
  /** What it is until something else is typed, if the pointer does not say it; it stays for the next time. */
  readonly default?: string;
}

/** One place that a tool asks for. */
export interface ToolStage {
  /** What to do now, beside the pointer. */
  readonly hint: string;
  /** The numbers that say where it comes to. */
  readonly values?: readonly string[];
  /** What must be under the pointer; any place if nothing is said. */
  readonly takes?: "curve" | "line" | "corner";
}

/** What the tool has beside the places and the numbers. */
export interface ToolTask {
  readonly places: readonly Place[];
  readonly typed: TypedNumbers;
  /** What is picked, by id. */
  readonly picks: readonly string[];
}

/** What is to be drawn cannot be: why. */
export interface Undrawn {
  readonly problem: string;
}

/** What comes after something was drawn: the place from which a chain goes on, the curves that are new. */
export interface Drawn {
  readonly next?: Place;
}

/** A way to draw something into an outline or to change it, in a few places and numbers. */
export interface DrawTool {
  readonly kind: string;
  readonly title: string;
  /** The key that takes it up. */
  readonly key: string;
  readonly group: "draw" | "change";
  readonly values: readonly ToolValue[];
  readonly stages: readonly ToolStage[];
  /** It works on what is picked. */
  readonly onPicks?: boolean;
  /** Where the place of a stage comes to once its numbers are counted; where it is pointed at otherwise. */
  readonly aim?: (place: Place, task: ToolTask, outline: Outline) => Place;
  /** The numbers that a place would come to, for those that are not typed. */
  readonly reads?: (
    place: Place,
    task: ToolTask,
    outline: Outline,
  ) => Readonly<Record<string, number | undefined>>;
  readonly draw: (into: OutlineDraft, task: ToolTask) => Drawn | Undrawn;
}

export const undrawn = (problem: string): Undrawn => ({ problem });
/** Shorter than this is nothing, mm. */
export const NOTHING = 1e-6;
