/** Where an input of a number comes from, so that a reader can open it. */
export type SourceLink =
  | { readonly to: "step"; readonly id: string }
  | { readonly to: "card"; readonly id: string }
  | { readonly to: "material"; readonly id: string }
  | { readonly to: "die"; readonly id: string }
  | { readonly to: "test bends"; readonly id: string }
  /** `row` counts from 1. */
  | { readonly to: "chart"; readonly id: string; readonly row?: number }
  /** The stock of the part itself. */
  | { readonly to: "stock" };

/** One line of an explanation: a formula or a value, and where it comes from. */
export interface WhyLine {
  readonly text: string;
  readonly source?: string;
  /** What is given as the reason, where the source is a step. */
  readonly because?: string;
  readonly link?: SourceLink;
}

/** Two halves of a sentence, without its full stop: why a chart does not cover a bend, and what is used instead. */
export interface Outside {
  readonly reason: string;
  readonly instead: string;
}

export const sayOutside = ({ reason, instead }: Outside): string => `${reason}; ${instead}.`;

/** How a bend came by its K: a name for the bend list, and the chain of lines behind it. */
export interface KSource {
  readonly label: string;
  readonly lines: readonly WhyLine[];
  readonly link?: SourceLink;
  /** Why the chart does not cover this bend, when it does not, and what is used instead. */
  readonly outside?: Outside;
  /** What should be looked at although it is meant. */
  readonly warning?: string;
}
