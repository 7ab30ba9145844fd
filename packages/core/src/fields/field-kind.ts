import type { Result } from "../result.ts";
import type { Plain, Say, Schema, Where } from "./checking.ts";
import type {
  FieldProblem,
  FieldSpec,
  FieldValues,
  PickEntry,
  PicksField,
  QuantityField,
  RawValues,
  RowValue,
} from "./field.ts";

/** How values are read. */
export interface Checking extends Where {
  readonly say: Say;
  /** The fields that stand beside it. */
  readonly among: readonly FieldSpec[];
  /** Checks values that stand within a value, such as those of a row. */
  readonly within: (fields: readonly FieldSpec[], values: Plain, path: string, row: boolean) => void;
}

/** An item of the stock library that a field names. */
export interface ItemReference {
  readonly section: string;
  readonly id: string;
}

/** Fields being evaluated: where their values go, and what an expression in them may use. */
export interface Evaluating {
  readonly values: {
    readonly quantities: Record<string, number | undefined>;
    readonly choices: Readonly<Record<string, string>>;
    readonly picks: Record<string, readonly PickEntry[]>;
    readonly rows: Record<string, readonly RowValue[]>;
  };
  /** The number that stands in a field. */
  readonly quantity: (field: QuantityField) => Result<number | undefined>;
  /** Says that a field's value is wrong. */
  readonly wrong: (field: FieldSpec, message: string) => void;
  /** Evaluates a row by its columns: `title` is what it is called in messages ("Hole 3"). */
  readonly row: (columns: readonly FieldSpec[], row: RawValues, at: string, title: string) => EvaluatedRow;
  /** What the fields were the last time, where every name that a row may use stands for the same as then. */
  readonly last: LastValues | undefined;
}

/** Fields as they were typed, and what came of them: without problems, so that every row has its value. */
export interface LastValues {
  readonly raw: RawValues;
  readonly values: FieldValues;
}

export interface EvaluatedRow {
  readonly quantities: Readonly<Record<string, number | undefined>>;
  readonly choices: Readonly<Record<string, string>>;
  readonly problems: readonly FieldProblem[];
}

/** How a schema is made of fields. */
export interface Describing extends Where {
  /** The fields that stand beside it. */
  readonly among: readonly FieldSpec[];
  /** The schemas of fields by their keys. */
  readonly properties: (fields: readonly FieldSpec[]) => Schema;
  /** An object with these fields, beginning with others. */
  readonly object: (fields: readonly FieldSpec[], first: Schema) => Schema;
}

/** An object that stands within a field's value: a row of a table, what is picked, its own values. */
export interface ObjectWithin {
  readonly fields: readonly FieldSpec[];
  readonly values: unknown;
  /** Its place from the record that holds the field: `holes/2`. */
  readonly path: string;
  /** Keys that may stand beside the fields. */
  readonly also: readonly string[];
  /** Whether its values stand for those of the record itself. */
  readonly own?: boolean;
}

/**
 * Everything that can be asked of a kind of field. Answers that a kind has none of are `undefined`: a text has no
 * number, nothing is picked in a choice.
 */
export interface FieldKind<F extends FieldSpec> {
  /** Whether values must give it. */
  readonly needed: (field: F, where: Where) => boolean;
  /** What stands in a new row or item. */
  readonly fresh: (field: F) => unknown;
  /** Says what is wrong with a value as it is kept; `value` is `undefined` where it must be given and is missing. */
  readonly check: (field: F, value: unknown, at: string, checking: Checking) => void;
  readonly schema: (field: F, describing: Describing) => Schema;
  /** The word that stands in it, on which may hang what else is shown. */
  readonly word: ((field: F, raw: RawValues) => string) | undefined;
  /** Puts what a build uses of it among the values. */
  readonly evaluate: ((field: F, raw: RawValues, evaluating: Evaluating) => void) | undefined;
  /** The value with every expression in it mapped, and nothing else: no word, name or pick. */
  readonly mapExpressions:
    | ((
        field: F,
        value: unknown,
        map: (text: unknown) => unknown,
        within: (values: RawValues, fields?: readonly FieldSpec[]) => RawValues,
      ) => unknown)
    | undefined;
  /** What is picked in it. */
  readonly picks:
    | ((field: F, raw: RawValues) => { readonly field: PicksField; readonly picks: readonly PickEntry[] })
    | undefined;
  /** The objects within a value, `among` the fields that stand beside it. */
  readonly within:
    | ((field: F, value: unknown, among: readonly FieldSpec[]) => readonly ObjectWithin[])
    | undefined;
  /** The items of the stock library that it names. */
  readonly items: ((field: F, value: unknown) => readonly ItemReference[]) | undefined;
}
