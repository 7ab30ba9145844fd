import type { FieldSpec, TextField } from "../../fields/field.ts";
import type { BlankShown } from "../../forming/section.ts";
import type { Outline } from "../../outline/outline.ts";
import type { Dimension } from "../../units/quantity.ts";

/** A value of a shape that its step gives. `value` and `least` are expressions, which may use the others and t. */
export interface FormValue {
  readonly name: string;
  readonly label: string;
  readonly measures: Dimension;
  readonly value: string;
  /** It must be more than that; anything where it says nothing. */
  readonly least?: string;
}

/** A corner of an outline about its middle, and the side that leaves it. */
export interface FormCorner {
  readonly x: string;
  readonly y: string;
  readonly radius: string;
  readonly side: "formed" | "cut";
}

/** A corner of a section; those of side B stand only where the metal does not go along with side A. */
export interface FormSectionRow {
  readonly inward: string;
  readonly up: string;
  readonly round: string;
  readonly inwardB?: string;
  readonly upB?: string;
  readonly roundB?: string;
}

/**
 * A shape that can be formed out of a plate, described by its outline and its section with named values. All lengths
 * are expressions; docs/format/form.md says what each is.
 */
export interface FormItem {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  /** Which version of this format it is written in; 1 where it says nothing. */
  readonly version?: number;
  readonly tool: string;
  readonly room: string;
  readonly onBlank: BlankShown;
  readonly values: readonly FormValue[];
  readonly outline: "round" | "corners" | "drawn";
  readonly diameter?: string;
  /** So many joints, so wide, hold a round outline that is cut free otherwise; formed all round where it says nothing. */
  readonly joints?: string;
  readonly joint?: string;
  readonly corners?: readonly FormCorner[];
  readonly drawn?: Outline;
  readonly section: readonly FormSectionRow[];
  readonly middle: "flat" | "open";
  /** The opening that is cut on the blank where the middle is open; by the metal that is kept where it says nothing. */
  readonly opening?: string;
  /** The length over which a thread in it is engaged. */
  readonly engages?: string;
  /** Whether its metal is cut away, and not formed. */
  readonly cutAway?: boolean;
}

export const FORM_VERSION = 1;
const MOST_VALUES = 24;
const MOST_CORNERS = 64;
export const MOST_SECTION = 40;

const text = (key: string, label: string, initial: string, more: Partial<TextField> = {}): TextField => ({
  kind: "text",
  key,
  label,
  default: initial,
  most: 100,
  needed: true,
  ...more,
});

/** The fields of a form but its name and its note. */
export const FORM_FIELDS: readonly FieldSpec[] = [
  { kind: "text", key: "tool", label: "Tool", default: "", most: 100, room: "line" },
  {
    kind: "rows",
    key: "values",
    label: "Values",
    noun: "value",
    most: MOST_VALUES,
    keyless: true,
    about: "what a step gives; expressions may use the other values, and t for the thickness",
    columns: [
      text("name", "Name", "d", { room: "word" }),
      text("label", "Called", "Diameter", { room: "line" }),
      {
        kind: "choice",
        key: "measures",
        label: "Measures",
        default: "length",
        options: [
          { value: "length", label: "length" },
          { value: "angle", label: "angle" },
          { value: "number", label: "number" },
        ],
      },
      text("value", "Begins at", "10"),
      text("least", "More than", "", { optional: true, needed: false }),
    ],
  },
  {
    kind: "choice",
    key: "outline",
    label: "Outline",
    default: "round",
    options: [
      { value: "round", label: "round" },
      { value: "corners", label: "by corners" },
      { value: "drawn", label: "drawn" },
    ],
  },
  text("diameter", "Diameter", "", {
    optional: true,
    shown: (c) => c.outline === "round",
  }),
  text("joints", "Joints", "", {
    optional: true,
    needed: false,
    shown: (c) => c.outline === "round",
    about: "so many hold it, and it is cut free between them; nothing: it is formed all round",
  }),
  text("joint", "Width of a joint", "", {
    optional: true,
    needed: false,
    shown: (c) => c.outline === "round",
  }),
  {
    kind: "rows",
    key: "corners",
    label: "Corners",
    noun: "corner",
    most: MOST_CORNERS,
    keyless: true,
    optional: true,
    about: "about its middle, counter-clockwise; the side is the one that leaves the corner",
    shown: (c) => c.outline === "corners",
    columns: [
      text("x", "X", "0"),
      text("y", "Y", "0"),
      text("radius", "Radius", "0"),
      {
        kind: "choice",
        key: "side",
        label: "Side",
        default: "formed",
        options: [
          { value: "formed", label: "formed" },
          { value: "cut", label: "cut free" },
        ],
      },
    ],
  },
  {
    kind: "rows",
    key: "section",
    label: "Section",
    noun: "corner",
    most: MOST_SECTION,
    keyless: true,
    about:
      "from the border inward: how far in, how high, and by what the corner is rounded; side B only where it goes its own way",
    columns: [
      text("inward", "Inward", "0"),
      text("up", "Up", "0"),
      text("round", "Rounded", "0"),
      text("inwardB", "Inward, B", "", { optional: true, needed: false }),
      text("upB", "Up, B", "", { optional: true, needed: false }),
      text("roundB", "Rounded, B", "", { optional: true, needed: false }),
    ],
  },
  {
    kind: "choice",
    key: "middle",
    label: "Within the last corner",
    default: "flat",
    options: [
      { value: "flat", label: "the metal goes on flat" },
      { value: "open", label: "it is open" },
    ],
  },
  text("opening", "Opening on the blank", "", {
    optional: true,
    needed: false,
    shown: (c) => c.middle === "open",
    about: "its diameter; nothing: as much as leaves the metal that is needed",
  }),
  text("engages", "A thread in it is engaged over", "", {
    optional: true,
    needed: false,
    shown: (c) => c.middle === "open",
  }),
  { kind: "yes", key: "cutAway", label: "Its metal is cut away, not formed" },
  text("room", "Room it needs", "2*t", {
    about: "to bends, edges and openings",
  }),
  {
    kind: "choice",
    key: "onBlank",
    label: "On the blank",
    default: "centre",
    options: [
      { value: "centre", label: "a mark in its middle" },
      { value: "outline", label: "its outline, as a mark" },
      { value: "cut", label: "what is cut free" },
      { value: "nothing", label: "nothing" },
    ],
  },
];
