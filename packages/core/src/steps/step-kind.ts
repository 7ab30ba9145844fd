import type { BendShape } from "../bend/allowance.ts";
import type { FlangeSpec, PlateSpec, ReliefSpec } from "../sheet/spec.ts";
import type { FieldSpec, FieldValues, RawValues } from "./field.ts";

/** A piece of a step's sentence: plain words, or a field to show in place. */
export type SentencePart = string | { readonly field: string };

/** What the stock says to every step. Millimetres. */
export interface StockValues {
  readonly thickness: number;
  readonly radius: number;
  readonly density: number;
  readonly relief: ReliefSpec;
  /** The neutral-axis ratio of a bend, and where it came from. */
  kOf(shape: BendShape): { readonly k: number; readonly source: string };
}

/** The sheet as steps have made it so far. */
export interface SheetDraft {
  root?: PlateSpec;
  readonly flanges: FlangeSpec[];
}

export interface StepContext {
  readonly step: string;
  readonly stock: StockValues;
  readonly draft: SheetDraft;
  /** Says why the step cannot do what it is asked; it is then left out. */
  readonly refuse: (field: string | undefined, message: string) => void;
}

/** One kind of step: everything that the document, the build and the interface need to know about it. */
export interface StepKind {
  readonly kind: string;
  readonly title: string;
  readonly about: string;
  /** What must be picked first. */
  readonly startsFrom: "nothing" | "edge";
  readonly fields: readonly FieldSpec[];
  readonly sentence: (raw: RawValues) => readonly SentencePart[];
  readonly build: (values: FieldValues, context: StepContext) => void;
}
