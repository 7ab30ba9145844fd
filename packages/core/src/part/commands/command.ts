import type { ChangedValues } from "../../values.ts";
import type { PartDocument, StepDocument } from "../document.ts";

/** Values of a step. `paused` and `name` are values too. */
export interface SetCommand {
  readonly do: "set";
  readonly step: string;
  readonly values: ChangedValues;
}

/** A step more: at a place, or after the bookmark, which then moves along, or at the end. */
export interface AddCommand {
  readonly do: "add";
  readonly step: StepDocument;
  readonly at?: number;
}

/** A step less, with all that has nothing else to stand on. */
export interface RemoveCommand {
  readonly do: "remove";
  readonly step: string;
}

/** A step at another place of the order; places count from 0. */
export interface MoveCommand {
  readonly do: "move";
  readonly step: string;
  readonly to: number;
}

/** Steps of another part, at the end, under names of this part. */
export interface PasteCommand {
  readonly do: "paste";
  readonly steps: readonly StepDocument[];
}

/** Another name for a named value, followed in every expression. */
export interface RenameCommand {
  readonly do: "rename";
  readonly variable: string;
  readonly name: string;
}

/** Values of the stock. */
export interface StockCommand {
  readonly do: "stock";
  readonly values: ChangedValues;
}

/** What a part says besides its steps and its stock: its name, units, named values, measurements and so on. */
export interface SayCommand {
  readonly do: "part";
  readonly values: ChangedValues;
}

/**
 * What makes one document of another, whatever was done to it: the inverse of a command is one of these.
 * `order` lists all steps as they then stand; those that are not there before are in `put`.
 */
export interface PatchCommand {
  readonly do: "patch";
  readonly order?: readonly string[];
  readonly put?: readonly StepDocument[];
  readonly set?: Readonly<Record<string, ChangedValues>>;
  readonly stock?: ChangedValues;
  readonly part?: ChangedValues;
}

/** Several commands as one, in their order. */
export interface SeveralCommand {
  readonly do: "several";
  readonly commands: readonly PartCommand[];
}

/** A document taken in whole. */
export interface ReplaceCommand {
  readonly do: "replace";
  readonly document: PartDocument;
}

/** An edit of a part: a plain record that can be kept, sent and done again. */
export type PartCommand =
  | SetCommand
  | AddCommand
  | RemoveCommand
  | MoveCommand
  | PasteCommand
  | RenameCommand
  | StockCommand
  | SayCommand
  | PatchCommand
  | SeveralCommand
  | ReplaceCommand;
