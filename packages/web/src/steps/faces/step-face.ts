import type {
  Bend,
  BendSection,
  BuiltStock,
  FieldSpec,
  FieldValues,
  Folding,
  Outlooks,
  PartBuild,
  PickOf,
  Plate,
  Point,
  RawValues,
  Sheet,
  StepDocument,
} from "@hillcrest/core";
import type { ComponentType, ReactNode } from "react";
import type { OptionPictures, StepOfField } from "../../fields/field-look.ts";
import type { Grip } from "../../views/folded/grips.ts";

/** A step as its fields are shown: what it says, and what came out. */
export interface FieldContext extends StepOfField {
  /** The part's stock as built. */
  readonly stock?: BuiltStock;
  /** The section of the step's bend as it came out. */
  readonly section?: BendSection;
  /** What it would be with other choices. */
  readonly outlooks?: Outlooks;
  /** What the build says beside fields. */
  readonly notes?: Readonly<Record<string, string>>;
}

/** What a step can be started on when it is picked. */
export interface Growing {
  readonly on: PickOf;
  /** Which corners; those of the outline if it does not say. */
  readonly corners?: "flanges" | "outline";
  /** The key that starts it; without one it is only among the steps that can be added. */
  readonly key?: string;
  /** The field that is typed into first. */
  readonly field?: string;
  /** What it is called there, if not by the step's title. */
  readonly label?: string;
  /** Whether it takes one thing only. */
  readonly single?: boolean;
  /** Values that it begins with, by what it stands on. */
  readonly values?: RawValues;
  readonly valuesOn?: (names: readonly string[]) => RawValues;
}

/** What there is when a step is added. */
export interface Beginning {
  readonly openStep: string | undefined;
}

/** Where handles may be shown. */
export interface GripPlace {
  readonly build: PartBuild;
  readonly folding: Folding;
  readonly step: StepDocument;
  readonly values: FieldValues;
  /** The bend that carries the plate with the handles, if one does. */
  readonly bend?: Bend;
}

/**
 * One kind of step as it looks and feels: everything that the Bench knows about it and core does not. A kind has
 * what it says here, and nothing is guessed from its values.
 */
export interface StepFace {
  readonly kind: string;
  /** What it makes, in section or plan, in a box of 48 by 38. */
  readonly pictogram: ReactNode;
  readonly grows?: readonly Growing[];
  /** Values that a new one begins with. */
  readonly begins?: (beginning: Beginning) => RawValues;
  /** Choices that are made on pictures, by field. */
  readonly pictures?: Readonly<Record<string, (context: FieldContext) => OptionPictures | undefined>>;
  /** Fields whose view asks for more than the step. */
  readonly views?: Readonly<Record<string, ComponentType<{ field: FieldSpec; context: FieldContext }>>>;
  /** Choices that change more than their own value; they say whether they have done so. */
  readonly chooses?: Readonly<Record<string, (step: StepDocument, option: string) => boolean>>;
  /** What can be dragged in the folded view. */
  readonly grips?: (place: GripPlace) => Grip[];
  /** Numbers that follow from its values, above its fields. */
  readonly Follows?: ComponentType<{ context: FieldContext }>;
  /** What stands beneath its tables. */
  readonly Beneath?: ComponentType<{ context: FieldContext }>;
  /** Where on its plate a hole of its table stands that is put at a place of the flat sheet. */
  readonly holeAt?: (sheet: Sheet, plate: Plate, at: Point) => Point;
}
