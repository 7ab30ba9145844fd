import type { FormCorner, FormItem, FormSectionRow, FormValue } from "./form-item.ts";

const length = (name: string, label: string, value: string): FormValue => ({
  name,
  label,
  measures: "length",
  value,
  least: "0",
});

/** A radius, which may be nothing: then its edge is sharp. */
const radius = (name: string, label: string, value: string): FormValue => ({
  name,
  label,
  measures: "length",
  value,
});

const at = (inward: string, up: string, round = "0"): FormSectionRow => ({ inward, up, round });

const corner = (x: string, y: string, radius = "0", side: FormCorner["side"] = "formed"): FormCorner => ({
  x,
  y,
  radius,
  side,
});

/** A slot or, with a smaller radius, a rectangle about its middle. */
const box = (w: string, h: string, r: string): FormCorner[] => [
  corner(`-${w}/2`, `-${h}/2`, r),
  corner(`${w}/2`, `-${h}/2`, r),
  corner(`${w}/2`, `${h}/2`, r),
  corner(`-${w}/2`, `${h}/2`, r),
];

type Kind = Omit<FormItem, "note" | "tool" | "room" | "onBlank" | "middle"> & Partial<FormItem>;

const form = (kind: Kind): FormItem => ({
  note: "",
  tool: "",
  room: "2*t",
  onBlank: "centre",
  middle: "flat",
  ...kind,
});

/**
 * The forms that every shop has. They are written in the same words as a shop's own, and nothing in them is known to
 * the program but what they say.
 */
export const OWN_FORMS: readonly FormItem[] = [
  form({
    id: "dimple",
    name: "Dimple",
    values: [length("d", "Diameter", "8"), length("h", "Height", "1.5")],
    outline: "round",
    diameter: "d",
    section: [at("0", "0"), at("0.08*d", "0", "0.4*d"), at("0.36*d", "h", "0.4*d"), at("d/2", "h")],
  }),
  form({
    id: "emboss",
    name: "Round emboss",
    values: [
      length("d", "Diameter", "30"),
      length("h", "Height", "2"),
      length("slope", "Width of the slope", "2*h"),
      radius("r", "Radius of its edges", "1.5*t"),
    ],
    outline: "round",
    diameter: "d",
    section: [at("0", "0"), at("0.25*slope", "0", "r"), at("slope", "h", "r"), at("1.25*slope", "h")],
  }),
  form({
    id: "long-emboss",
    name: "Long emboss",
    values: [
      length("l", "Length", "60"),
      length("w", "Width", "20"),
      length("h", "Height", "2"),
      length("c", "Radius of its corners", "w/2"),
      length("slope", "Width of the slope", "2*h"),
      radius("r", "Radius of its edges", "1.5*t"),
    ],
    outline: "corners",
    corners: box("l", "w", "c"),
    section: [at("0", "0"), at("0.25*slope", "0", "r"), at("slope", "h", "r"), at("1.25*slope", "h")],
  }),
  form({
    id: "bead",
    name: "Stiffening bead",
    values: [length("l", "Length", "80"), length("w", "Width", "8"), length("h", "Height", "2")],
    outline: "corners",
    corners: box("l", "w", "w/2"),
    section: [at("0", "0"), at("0.1*w", "0", "0.5*w"), at("0.38*w", "h", "0.5*w"), at("w/2", "h")],
    onBlank: "outline",
  }),
  form({
    id: "louvre",
    name: "Louvre",
    values: [length("l", "Length", "50"), length("w", "Depth", "10"), length("h", "Height", "4")],
    outline: "corners",
    corners: [
      corner("-l/2", "-w/2", "0", "cut"),
      corner("l/2", "-w/2"),
      corner("l/2", "w/2", "w"),
      corner("-l/2", "w/2", "w"),
    ],
    section: [at("0", "0"), at("0.12*w", "0", "0.5*w"), at("0.7*w", "h", "0.6*w"), at("w", "h")],
    room: "3*t",
    onBlank: "cut",
  }),
  form({
    id: "bridge",
    name: "Lanced bridge",
    values: [
      length("l", "Length", "24"),
      length("w", "Width", "6"),
      length("h", "Height", "4"),
      length("slope", "Length of each slope", "l/3"),
      radius("r", "Radius of its bends", "2*t"),
    ],
    outline: "corners",
    corners: [
      corner("-l/2", "-w/2", "0", "cut"),
      corner("l/2", "-w/2"),
      corner("l/2", "w/2", "0", "cut"),
      corner("-l/2", "w/2"),
    ],
    section: [at("0", "0"), at("0.15*slope", "0", "r"), at("0.85*slope", "h", "r"), at("slope", "h")],
    room: "3*t",
    onBlank: "cut",
  }),
  form({
    id: "half-lance",
    name: "Lance on one side",
    values: [
      length("l", "Length", "16"),
      length("w", "Width", "10"),
      length("h", "Height", "4"),
      radius("r", "Radius of its bend", "2*t"),
    ],
    outline: "corners",
    corners: [
      corner("-l/2", "-w/2", "0", "cut"),
      corner("l/2", "-w/2", "0", "cut"),
      corner("l/2", "w/2", "0", "cut"),
      corner("-l/2", "w/2"),
    ],
    section: [at("0", "0"), at("0.1*l", "0", "r"), at("l", "h")],
    room: "3*t",
    onBlank: "cut",
  }),
  form({
    id: "knock-out",
    name: "Knock-out",
    values: [
      length("d", "Diameter", "20"),
      { name: "n", label: "Joints", measures: "number", value: "2", least: "0" },
      length("j", "Width of a joint", "1.5"),
    ],
    outline: "round",
    diameter: "d",
    joints: "n",
    joint: "j",
    section: [at("0", "0")],
    room: "2*t",
    onBlank: "cut",
  }),
  form({
    id: "collar",
    name: "Extruded hole",
    values: [
      length("d", "Hole", "3.3"),
      length("h", "Height of the collar", "0.9*t"),
      length("wall", "Wall of the collar", "0.5*t"),
      length("r", "Radius of its root", "0.4*t"),
    ],
    outline: "round",
    diameter: "d + 2*wall + 2*r",
    // Side A turns up into the bore, side B into the outside of the collar.
    section: [
      { ...at("0", "0"), inwardB: "0", upB: "t" },
      { ...at("r + wall", "0", "r + wall"), inwardB: "r", upB: "t", roundB: "r" },
      { ...at("r + wall", "t + h"), inwardB: "r", upB: "t + h" },
    ],
    middle: "open",
    room: "2*t",
    engages: "h + t - r - wall",
  }),
  form({
    id: "countersink",
    name: "Countersink",
    values: [
      length("d", "Through hole", "3.4"),
      length("s", "Diameter at the face", "6"),
      { name: "angle", label: "Angle", measures: "angle", value: "90", least: "0" },
    ],
    outline: "round",
    diameter: "s",
    section: [
      { ...at("0", "0"), inwardB: "0", upB: "t" },
      { ...at("(s - d)/2", "0"), inwardB: "(s - d)/2", upB: "t - (s - d)/2/tan(angle/2)" },
    ],
    middle: "open",
    opening: "d",
    room: "t",
    cutAway: true,
  }),
  form({
    id: "foot",
    name: "Stand-off foot",
    values: [
      length("d", "Diameter at the root", "24"),
      length("h", "Height", "5"),
      length("top", "Diameter of its face", "10"),
      radius("r", "Radius of its edges", "2*t"),
    ],
    outline: "round",
    diameter: "d",
    section: [
      at("0", "0"),
      at("0.06*d", "0", "r"),
      at("(d - top)/2 - 0.03*d", "h", "r"),
      at("(d - top)/2", "h"),
    ],
    room: "3*t",
  }),
  form({
    id: "card-guide",
    name: "Card guide",
    values: [
      length("l", "Length", "40"),
      length("w", "Width at the root", "12"),
      length("h", "Height", "2.5"),
      length("slope", "Width of each slope", "w/3"),
      radius("r", "Radius of its bends", "1.5*t"),
    ],
    outline: "corners",
    corners: [
      corner("-l/2", "-w/2"),
      corner("l/2", "-w/2", "0", "cut"),
      corner("l/2", "w/2"),
      corner("-l/2", "w/2", "0", "cut"),
    ],
    section: [at("0", "0"), at("0.15*slope", "0", "r"), at("0.85*slope", "h", "r"), at("slope", "h")],
    room: "3*t",
    onBlank: "cut",
  }),
];

const byId = new Map(OWN_FORMS.map((f) => [f.id, f]));

/** A form that every shop has, by its id. */
export const ownForm = (id: string): FormItem | undefined => byId.get(id);
