import type { FieldSpec, FieldValues, Names, StepDocument } from "@hillcrest/core";
import type { ReactNode } from "react";

/** Where a field stands: among the words of a sentence, in a form, or in a table's cell. */
export type FieldLook = "sentence" | "form" | "cell";

/** The step whose field it is: what is picked belongs to it, and its own values may differ from pick to pick. */
export interface StepOfField {
  readonly step: StepDocument;
  readonly labels: ReadonlyMap<string, string>;
  readonly values?: FieldValues;
  /** Fields that findings point at. */
  readonly wrong: ReadonlySet<string>;
  /** What expressions may use. */
  readonly names?: Names;
}

/** How the options of a choice are shown: each by a picture, and by what would follow. */
export interface OptionPictures {
  readonly picture: (option: string) => ReactNode;
  readonly note?: (option: string) => string;
}

/** What the view of any field is given. */
export interface FieldViewProps<F extends FieldSpec = FieldSpec> {
  readonly field: F;
  /** What stands in it, as it is kept. */
  readonly value: unknown;
  /** `mark` joins quick edits of one value into one undo step. */
  readonly onChange: (value: unknown, mark?: string) => void;
  readonly look: FieldLook;
  readonly wrong?: boolean;
  /** What it is called to those who do not see where it stands, if not by its label. */
  readonly label?: string;
  /** The name under which it is found on the page, if not its key. */
  readonly place?: string;
  /** What an expression may use. */
  readonly names?: Names;
  /** The number that an expression stands for. */
  readonly evaluated?: number;
  /** What is shown while it is empty. */
  readonly fallback?: string;
  readonly pictures?: OptionPictures;
  readonly step?: StepOfField;
}

export const BOX = "rounded border border-hairline bg-raised px-1.5 py-0.5";
