import type { RawValues } from "../fields/field.ts";
import type { Outline } from "../outline/outline.ts";
import type { MeasureEnd, MeasureFaces } from "../sheet/picking/measuring.ts";
import type { Units } from "../units/display.ts";
import type { NamedValue } from "../units/named-values.ts";
import type { AcceptedFinding } from "./accepted.ts";
import type { BlankSettings } from "./blank-settings.ts";

export const DOCUMENT_FORMAT = "hillcrest-part";
export const DOCUMENT_VERSION = 4;

/** A step as written: its kind and values. Values that are not there stand at their defaults. */
export interface StepDocument extends RawValues {
  readonly id: string;
  readonly kind: string;
  /** What a person calls it. */
  readonly name?: string;
  /** A paused step is skipped, and so is what hangs on it. */
  readonly paused?: boolean;
}

/** A named value of a part, usable in every field. */
export interface Variable extends NamedValue {
  readonly key: string;
}

/** That a part begins with the steps of another one, and takes over what changes there. */
export interface Follows {
  /** The other part's address, and its name when it was last looked at. */
  readonly part: string;
  readonly name: string;
  /** The revision that its steps were taken from. */
  readonly revision: number;
  /** How many of this part's steps are the other's. */
  readonly steps: number;
}

/** A part as written to disk, sent over the wire and kept in undo. Unknown fields are kept. */
export interface PartDocument {
  readonly format: typeof DOCUMENT_FORMAT;
  readonly version: number;
  readonly name: string;
  readonly stock: RawValues;
  readonly steps: readonly StepDocument[];
  /** Named values that every field may use. */
  readonly variables?: readonly Variable[];
  /** Outlines that are drawn in it, for its steps. */
  readonly outlines?: readonly PartOutline[];
  /** Measurements that stay with the part. */
  readonly measures?: readonly Measure[];
  /** The part that this one begins with and follows. */
  readonly follows?: Follows;
  /** Build only up to and with this step. */
  readonly builtTo?: string;
  /** In what lengths are shown; bare numbers in the document are millimetres all the same. */
  readonly units?: Units;
  /** The plate that stays still when the part folds; the first one if none is named. */
  readonly anchor?: string;
  /** Findings that are accepted as they are. */
  readonly accepted?: readonly AcceptedFinding[];
  /** Bends that are shown unfolded. */
  readonly held?: readonly string[];
  /** How its blank lies, what is shown with it, and how it leaves. */
  readonly blank?: BlankSettings;
}

/** An outline of a part, and the key by which steps name it. */
export interface PartOutline {
  readonly key: string;
  readonly outline: Outline;
  /** The kept outline of the shop's stock that it was taken from, and at which revision. */
  readonly kept?: { readonly id: string; readonly revision: number };
}

export const MOST_OUTLINES = 200;

/** A pinned measurement: it is taken anew whenever the part changes. */
export interface Measure {
  readonly key: string;
  readonly from: MeasureEnd;
  readonly to: MeasureEnd;
  /** Between which faces, where the ends name none; the nearest if nothing is said. */
  readonly faces?: MeasureFaces;
}

export const MOST_MEASURES = 200;
export const MOST_STEPS = 5000;
export const LONGEST_NAME = 200;
/** A part document may have at most this many bytes. */
export const LARGEST_DOCUMENT = 16_000_000;

/** An empty part in the stock that a new one starts with. */
export function newPart(name: string): PartDocument {
  return {
    format: DOCUMENT_FORMAT,
    version: DOCUMENT_VERSION,
    name,
    stock: {
      material: "Galvanised steel",
      density: "7850",
      thickness: "1.5",
      radius: "1.5",
      flatBy: "K",
      k: "0.42",
    },
    steps: [],
  };
}
