import type { FieldSpec } from "../fields/field.ts";
import { numberField } from "./number-field.ts";
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

const limits = { above: 0, max: 500 };

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
  numberField("opening", "Opening ⌀", "length", 5.4, { ...limits, about: "as its maker says" }),
  numberField("leastThickness", "Least thickness of the sheet", "length", 1, limits),
  numberField("toEdge", "Middle to an edge", "length", 7, { ...limits, about: "or to another opening" }),
  numberField("toBend", "Middle to where a bend begins", "length", 8, limits),
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
