import type { Dimension } from "../units/quantity.ts";
import type { Say } from "./checking.ts";

/**
 * What a step, the stock of a part, an item of the stock library say of themselves: a list of fields. What can be
 * asked of a kind of field (reading, schema, default, evaluating, references, renaming) stands in `field-kinds.ts`.
 */

/** What a person typed: an expression, or a bare number (mm, degrees or plain). */
export type Typed = string | number;

/** What can be picked for a step. */
export type PickOf = "edge" | "corner" | "bend" | "plate" | "step";

/** Something picked. `key` stays the same when others are added or removed, and names what grows from it. */
export interface PickEntry {
  readonly key: string;
  /**
   * The stable name: an edge `s1.north`, a corner `s1.north+east`, a bend or plate `s2a`, a step `s3`.
   */
  readonly at: string;
  /** Values that differ here from the step's own. */
  readonly own?: RawValues;
}

/** One row of a table as typed: its key and a value for each column. */
export type RowEntry = { readonly key: string } & Readonly<Record<string, unknown>>;

/** The raw values of a step or of the stock, as the document holds them. */
export type RawValues = Readonly<Record<string, unknown>>;

/** How many characters a step's text can have. */
export const LONGEST_TEXT = 200;

export type Choices = Readonly<Record<string, string>>;

/** A field that is shown while the step's choices are so. */
export const when = (shown: (c: Choices) => boolean) => ({ shown });

interface FieldBase {
  readonly key: string;
  readonly label: string;
  /** What it is for, where the label does not say it. */
  readonly about?: string;
  /** Whether nothing may stand in it: then it is taken from elsewhere, as from the stock or from a default. */
  readonly optional?: boolean;
  /** Whether the field matters, given the choices made in the others. */
  readonly shown?: (choices: Choices) => boolean;
}

/** A number as a person types it: an expression, kept as text. In millimetres, degrees or plain numbers. */
export interface QuantityField extends FieldBase {
  readonly kind: "quantity";
  readonly dimension: Dimension;
  /** What stands in a new step. Empty together with `optional`: taken from elsewhere. */
  readonly default: string;
  /** What stands in a new row where there is no default. */
  readonly start?: string;
  /** What of the stock stands for it while it is empty. */
  readonly fromStock?: "radius" | "k";
  /** What is said to stand there while it is empty, where that is not the stock's. */
  readonly empty?: string;
  readonly min?: number;
  readonly above?: number;
  readonly max?: number;
}

/** A number kept as a number: lengths in mm, angles in degrees. */
export interface NumberField extends FieldBase {
  readonly kind: "number";
  readonly dimension: Dimension;
  /** The unit of a plain number. */
  readonly unit?: string;
  readonly default: number;
  readonly min?: number;
  readonly above?: number;
  readonly below?: number;
  readonly max?: number;
}

/** A short list of lengths (mm). */
export interface NumbersField extends FieldBase {
  readonly kind: "numbers";
  readonly min: number;
  readonly max: number;
  readonly most: number;
  readonly default: readonly number[];
}

/** One of some words. */
export interface ChoiceField extends FieldBase {
  readonly kind: "choice";
  readonly default: string;
  readonly options: readonly { readonly value: string; readonly label: string }[];
}

export interface TextField extends FieldBase {
  readonly kind: "text";
  readonly default: string;
  /** How many characters it can have. */
  readonly most: number;
  /** Whether it must not be blank. */
  readonly needed?: boolean;
  /** How much room it wants: a word, a line, or several lines. */
  readonly room?: "word" | "line" | "lines";
  /** What stands in the box while it is empty. */
  readonly hint?: string;
}

/** True or false. */
export interface YesField extends FieldBase {
  readonly kind: "yes";
}

/** One item of a section of the stock library, by its id. */
export interface RefersField extends FieldBase {
  readonly kind: "refers";
  readonly section: string;
}

/** Any items of a section of the stock library, by their ids. */
export interface RefersManyField extends FieldBase {
  readonly kind: "refersMany";
  readonly section: string;
  readonly most: number;
}

/**
 * An item of a section of the stock library, kept whole, so that the part needs nothing else to be built; or, by its id,
 * one that every shop has.
 */
export interface ItemField extends FieldBase {
  readonly kind: "item";
  readonly section: string;
  readonly default: string;
  /** Those that every shop has. */
  readonly own: readonly { readonly id: string; readonly name: string }[];
  /** Says what is wrong with one that is kept whole. */
  readonly check: (value: Readonly<Record<string, unknown>>, at: string, say: Say) => void;
}

/** One of the outlines that are drawn in the part, by its key. */
export interface DrawnField extends FieldBase {
  readonly kind: "drawn";
}

/** What is picked on the part. */
export interface PicksField extends FieldBase {
  readonly kind: "picks";
  readonly of: PickOf;
  /** Whether each pick makes a plate of its own, named by the step and the pick's key. */
  readonly grows?: boolean;
  /** Whether it takes one thing only: picking another puts it in the place of the first. */
  readonly single?: boolean;
  /** Fields in which a pick may differ from the others. */
  readonly own?: readonly string[];
  /** Which corners it takes: those of the outline, unless it says those between flanges. */
  readonly corners?: "flanges" | "outline";
}

/** A table. Its rows carry keys that stay theirs, unless it says that they have none. */
export interface RowsField extends FieldBase {
  readonly kind: "rows";
  /** What one row is: "hole", "leg", "corner". */
  readonly noun: string;
  readonly columns: readonly FieldSpec[];
  readonly most: number;
  readonly keyless?: boolean;
  /** How rows come about otherwise than by adding one, said while there is none. */
  readonly empty?: string;
  /** How a row is said in a line, where a table would be too much for it. */
  readonly line?: readonly RowWord[];
  /** Columns that a new row begins anew; in the others it is like the row before it. */
  readonly anew?: readonly string[];
}

/** A word of a row's line, or a column to show in place. */
export type RowWord = string | { readonly column: string };

export type FieldSpec =
  | QuantityField
  | NumberField
  | NumbersField
  | ChoiceField
  | TextField
  | YesField
  | RefersField
  | RefersManyField
  | DrawnField
  | ItemField
  | PicksField
  | RowsField;

/** The fields of one kind. */
export type FieldOf<K extends FieldSpec["kind"]> = Extract<FieldSpec, { kind: K }>;

/** A choice from words: each value with how it is said. */
export const choice = (
  key: string,
  label: string,
  initial: string,
  options: Readonly<Record<string, string>>,
  more: Partial<ChoiceField> = {},
): ChoiceField => ({
  kind: "choice",
  key,
  label,
  default: initial,
  options: Object.entries(options).map(([value, said]) => ({ value, label: said })),
  ...more,
});

export interface FieldProblem {
  readonly field: string;
  readonly message: string;
}

/** A table's row with numbers (mm, radians) and words; columns left empty are missing. */
export interface RowValue {
  readonly key: string;
  readonly quantities: Readonly<Record<string, number | undefined>>;
  readonly choices: Choices;
}

/** A step's values as numbers (mm, radians), choices, picks and tables. */
export interface FieldValues {
  readonly quantities: Readonly<Record<string, number | undefined>>;
  readonly choices: Choices;
  readonly picks: Readonly<Record<string, readonly PickEntry[]>>;
  readonly rows: Readonly<Record<string, readonly RowValue[]>>;
  readonly problems: readonly FieldProblem[];
}

export const picksOf = (raw: RawValues, field: string): readonly PickEntry[] =>
  (raw[field] as readonly PickEntry[] | undefined) ?? [];
export const rowsOf = (raw: RawValues, field: string): readonly RowEntry[] =>
  (raw[field] as readonly RowEntry[] | undefined) ?? [];

/** What stands in a quantity field: the typed text, or its default. */
export function typedText(spec: Pick<QuantityField, "key" | "default">, raw: RawValues): string {
  const value = raw[spec.key];
  return typeof value === "string" || typeof value === "number" ? String(value) : spec.default;
}
