import type { FieldSpec, NumberField } from "../fields/field.ts";
import { METRIC_THREADS } from "./threads.ts";

export const HARDWARE_KINDS = ["press nut", "rivet nut", "press stud", "weld nut", "weld stud"] as const;

/** Something that a shop sets into a round opening of the sheet, with what it asks of it. Lengths in mm. */
export interface HardwareItem {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  readonly sort: (typeof HARDWARE_KINDS)[number];
  readonly thread: string;
  /** The diameter of its opening. */
  readonly opening: number;
  readonly leastThickness: number;
  /** From the middle of its opening to an edge or another opening, and to where a bend begins. */
  readonly toEdge: number;
  readonly toBend: number;
  /** The side that it is set into. */
  readonly side: "A" | "B" | "either";
}

const number = (
  key: string,
  label: string,
  initial: number,
  more: Partial<NumberField> = {},
): NumberField => ({
  kind: "number",
  key,
  label,
  dimension: "length",
  default: initial,
  above: 0,
  max: 500,
  ...more,
});

/** The fields of hardware but its name and its note. */
export const HARDWARE_FIELDS: readonly FieldSpec[] = [
  {
    kind: "choice",
    key: "sort",
    label: "Is a",
    default: "press nut",
    options: HARDWARE_KINDS.map((value) => ({ value, label: value })),
  },
  {
    kind: "choice",
    key: "thread",
    label: "Thread",
    default: "M4",
    options: [
      ...METRIC_THREADS.map(({ name }) => ({ value: name, label: name })),
      { value: "", label: "none" },
    ],
  },
  number("opening", "Opening ⌀", 5.4, { about: "as its maker says" }),
  number("leastThickness", "Least thickness of the sheet", 1),
  number("toEdge", "Middle to an edge", 7, { about: "or to another opening" }),
  number("toBend", "Middle to where a bend begins", 8),
  {
    kind: "choice",
    key: "side",
    label: "Set into side",
    default: "either",
    options: [
      { value: "either", label: "either" },
      { value: "A", label: "A" },
      { value: "B", label: "B" },
    ],
  },
];
