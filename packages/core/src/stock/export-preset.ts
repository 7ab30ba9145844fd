import { type DocumentProblem, isPlain, type Say } from "../fields/checking.ts";
import { choice, type FieldSpec, type NumberField } from "../fields/field.ts";
import { checkFields } from "../fields/field-kinds.ts";
import { parseJson } from "../json-text.ts";
import { fail, ok, type Result } from "../result.ts";
import type { Units } from "../units/display.ts";
import type { Dimension } from "../units/quantity.ts";

/** What of a blank can be put on a layer, each with how it is said. */
export const DRAWN_CONTENTS = {
  outline: "Outline",
  openings: "Openings",
  slits: "Cuts of no width",
  bendsUp: "Bends up ▲",
  bendsDown: "Bends down ▼",
  tangents: "Tangent lines",
  innerMould: "Inner mould lines",
  outerMould: "Outer mould lines",
  notes: "Bend notes",
  marks: "Engraving",
  centres: "Centre marks",
  grain: "Grain arrow",
} as const;

export type DrawnContent = keyof typeof DRAWN_CONTENTS;

export const LINE_TYPES = ["continuous", "dashed", "dotted", "chain"] as const;
export type LineType = (typeof LINE_TYPES)[number];

export interface PresetLayer {
  readonly content: DrawnContent;
  readonly name: string;
  /** The colour number of the file format, 1 to 255. */
  readonly colour: number;
  readonly lines: LineType;
  readonly leftOut?: boolean;
}

/** How a blank leaves as a file: what goes into it, on which layers, and how it is written. Lengths in mm. */
export interface ExportPreset {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  readonly version: "r12" | "r2000";
  /** `part`: inches where the part is shown in them. */
  readonly units: "part" | "mm" | "in";
  /** Outlines as one polyline each with arcs as bulges, or every line and arc by itself. */
  readonly curves: "joined" | "separate";
  readonly bendLines: "whole" | "ticks";
  readonly tickLength: number;
  readonly text: "text" | "strokes";
  readonly textHeight: number;
  readonly notes: "number" | "full";
  readonly turn: "page" | "modelled" | "longest" | "smallest" | "grain";
  readonly origin: "corner" | "middle" | "modelled";
  /** Openings whose smaller size is below this are written as centre marks; 0: none. */
  readonly centresBelow: number;
  readonly jointWidth: number;
  /** So many joints are left in each outline, and in each opening. */
  readonly jointsOutline: number;
  readonly jointsOpening: number;
  /** Pieces of an outline that are shorter are joined to the next; 0: none. */
  readonly shortest: number;
  readonly partName?: boolean;
  readonly sideMark?: boolean;
  readonly edgeTicks?: boolean;
  readonly layers: readonly PresetLayer[];
}

const number = (
  key: string,
  label: string,
  dimension: Dimension,
  initial: number,
  limits: Partial<NumberField>,
): NumberField => ({ kind: "number", key, label, dimension, default: initial, ...limits });

const yes = (key: string, label: string, about?: string): FieldSpec => ({
  kind: "yes",
  key,
  label,
  ...(about ? { about } : {}),
});

/** The fields of a preset besides its name and note. */
export const PRESET_FIELDS: readonly FieldSpec[] = [
  choice("version", "File version", "r2000", {
    r2000: "R2000, says its units",
    r12: "R12, for the oldest readers",
  }),
  choice("units", "Units", "part", { part: "as the part", mm: "millimetres", in: "inches" }),
  choice("curves", "Outlines", "joined", {
    joined: "joined, arcs as bulges",
    separate: "lines and arcs apart",
  }),
  choice("bendLines", "Bend lines", "whole", { whole: "whole", ticks: "ticks at both ends" }),
  number("tickLength", "Length of ticks", "length", 6, { above: 0, max: 1000 }),
  choice("notes", "Bend notes", "full", { number: "number", full: "number, way, angle, radius" }),
  choice("text", "Text", "text", { text: "as text", strokes: "as strokes" }),
  number("textHeight", "Text height", "length", 4, { min: 0.5, max: 200 }),
  yes("partName", "Engrave the part's name"),
  yes("edgeTicks", "Engrave ticks where bends meet the outline"),
  yes("sideMark", "Engrave which side faces up"),
  choice("turn", "Turned", "page", {
    page: "as on the part's blank",
    modelled: "as modelled",
    longest: "longest edge level",
    smallest: "in the smallest rectangle",
    grain: "grain level",
  }),
  choice("origin", "Origin at", "corner", {
    corner: "the lower left corner",
    middle: "the middle",
    modelled: "where it was modelled",
  }),
  number("centresBelow", "Centre marks for openings below", "length", 0, {
    min: 0,
    max: 1000,
    about: "what is too small for the laser; 0: every opening is cut",
  }),
  number("jointWidth", "Width of micro-joints", "length", 0.3, { above: 0, max: 20 }),
  number("jointsOutline", "Micro-joints in each outline", "number", 0, { min: 0, max: 100 }),
  number("jointsOpening", "Micro-joints in each opening", "number", 0, { min: 0, max: 20 }),
  number("shortest", "Shortest piece", "length", 0, {
    min: 0,
    max: 10,
    about: "shorter pieces of an outline are joined to the next; 0: all are written",
  }),
  {
    kind: "rows",
    key: "layers",
    label: "Layers",
    noun: "layer",
    most: 40,
    keyless: true,
    columns: [
      {
        kind: "choice",
        key: "content",
        label: "Content",
        default: "outline",
        options: Object.entries(DRAWN_CONTENTS).map(([value, label]) => ({ value, label })),
      },
      { kind: "text", key: "name", label: "Layer", default: "", most: 31, needed: true, room: "line" },
      number("colour", "Colour number", "number", 7, { min: 1, max: 255 }),
      {
        kind: "choice",
        key: "lines",
        label: "Lines",
        default: "continuous",
        options: LINE_TYPES.map((value) => ({ value, label: value })),
      },
      { kind: "yes", key: "leftOut", label: "Left out" },
    ],
  },
];

/** Where each content goes by itself, with what is left out unless a shop wants it. */
const PLAIN_LAYERS: readonly PresetLayer[] = [
  { content: "outline", name: "OUTLINE", colour: 7, lines: "continuous" },
  { content: "slits", name: "OUTLINE", colour: 7, lines: "continuous" },
  { content: "openings", name: "OPENINGS", colour: 7, lines: "continuous" },
  { content: "bendsUp", name: "BENDS_UP", colour: 30, lines: "continuous" },
  { content: "bendsDown", name: "BENDS_DOWN", colour: 150, lines: "dashed" },
  { content: "centres", name: "CENTRES", colour: 6, lines: "continuous" },
  { content: "marks", name: "ENGRAVING", colour: 3, lines: "continuous" },
  { content: "notes", name: "BEND_NOTES", colour: 8, lines: "continuous", leftOut: true },
  { content: "tangents", name: "TANGENTS", colour: 8, lines: "continuous", leftOut: true },
  { content: "innerMould", name: "INNER_MOULD", colour: 9, lines: "dotted", leftOut: true },
  { content: "outerMould", name: "OUTER_MOULD", colour: 9, lines: "chain", leftOut: true },
  { content: "grain", name: "GRAIN", colour: 8, lines: "continuous", leftOut: true },
];

/** How a blank leaves where nothing else is said. */
export const PLAIN_PRESET: ExportPreset = {
  id: "plain",
  name: "Plain",
  note: "",
  version: "r2000",
  units: "part",
  curves: "joined",
  bendLines: "whole",
  tickLength: 6,
  notes: "full",
  text: "text",
  textHeight: 4,
  turn: "page",
  origin: "corner",
  centresBelow: 0,
  jointWidth: 0.3,
  jointsOutline: 0,
  jointsOpening: 0,
  shortest: 0,
  layers: PLAIN_LAYERS,
};

/** In what a file is written by a preset. */
export const writtenUnits = ({ units }: Pick<ExportPreset, "units">, part: Units = "mm"): "mm" | "in" =>
  units === "part" ? (part === "mm" ? "mm" : "in") : units;

/** Presets that are there whatever the shop keeps. */
export const BUILT_IN_PRESETS: readonly ExportPreset[] = [
  PLAIN_PRESET,
  { ...PLAIN_PRESET, id: "plain-r12", name: "Plain, R12", version: "r12" },
];

/** Layer names that both versions of the format read: the older one knows no others. */
const LAYER_NAME = /^[A-Za-z0-9_$-]{1,31}$/;

/** What is wrong with a preset beyond its single fields. */
export function checkPreset(preset: ExportPreset, path: string, say: Say): void {
  const looks = new Map<string, PresetLayer>();
  const seen = new Set<string>();
  preset.layers.forEach((layer, i) => {
    const at = `${path}/layers/${i}`;
    const said = DRAWN_CONTENTS[layer.content];
    if (!LAYER_NAME.test(layer.name))
      say(`${at}/name`, `“${layer.name}”: a layer's name is 1 to 31 letters, digits, _, - or $.`);
    if (!Number.isInteger(layer.colour))
      say(`${at}/colour`, `Layer ${layer.name}: a colour number is a whole one from 1 to 255.`);
    if (seen.has(layer.content)) say(`${at}/content`, `${said} would be written twice.`);
    seen.add(layer.content);
    const key = layer.name.toUpperCase();
    const other = looks.get(key);
    if (other && (other.colour !== layer.colour || other.lines !== layer.lines))
      say(
        `${at}/colour`,
        `${DRAWN_CONTENTS[other.content]} and ${said} are on one layer, ${layer.name}: give both one colour and one line type.`,
      );
    if (!other) looks.set(key, layer);
  });
  if (!layersOf(preset).has("outline"))
    say(`${path}/layers`, "The outline must be on a layer: without it there is nothing to cut.");
  for (const key of ["jointsOutline", "jointsOpening"] as const)
    if (!Number.isInteger(preset[key])) say(`${path}/${key}`, "Micro-joints are counted in whole numbers.");
}

export const PRESET_FORMAT = "hillcrest-preset";
export const PRESET_VERSION = 1;

/** A preset as a document that can be given to others. */
export const presetDocument = ({ id: _id, ...preset }: ExportPreset): Readonly<Record<string, unknown>> => ({
  format: PRESET_FORMAT,
  version: PRESET_VERSION,
  preset,
});

/** Everything that is wrong with what a preset says, each with its place. */
export function presetProblems(value: unknown, path: string): DocumentProblem[] {
  const problems: DocumentProblem[] = [];
  const say: Say = (at, message) => problems.push({ path: at, message });
  if (!isPlain(value)) return [{ path, message: "This must be an object." }];
  checkFields(PRESET_FIELDS, value, path, { say, sparse: false });
  if (problems.length === 0) checkPreset(value as unknown as ExportPreset, path, say);
  return problems;
}

/** Reads a preset from the text of a file. What it does not say is as it is plainly. */
export function readPresetText(text: string): Result<ExportPreset, DocumentProblem[]> {
  const read = parseJson(text, "an export preset");
  if (!read.ok) return fail([{ path: "", message: read.error }]);
  const { value } = read;
  if (!isPlain(value) || value.format !== PRESET_FORMAT)
    return fail([
      { path: "/format", message: `This is no export preset: "format" must be "${PRESET_FORMAT}".` },
    ]);
  if (value.version !== PRESET_VERSION)
    return fail([
      {
        path: "/version",
        message: `Version ${JSON.stringify(value.version)} is not one that this program reads (${PRESET_VERSION}). Use a later program.`,
      },
    ]);
  if (!isPlain(value.preset)) return fail([{ path: "/preset", message: `"preset" must be an object.` }]);
  const { name } = value.preset;
  const preset = {
    ...PLAIN_PRESET,
    ...value.preset,
    id: "from-file",
    name: typeof name === "string" && name.trim() !== "" ? name.slice(0, 100) : "From a file",
  };
  const problems = presetProblems(preset, "/preset");
  return problems.length > 0 ? fail(problems) : ok(preset as ExportPreset);
}

/**
 * The layers of all contents: those that a preset does not list are as in the plain one. A layer that it names itself keeps
 * its look, whatever else comes onto it.
 */
export function allLayers({ layers }: Pick<ExportPreset, "layers">): readonly PresetLayer[] {
  const listed = new Set(layers.map((l) => l.content));
  const looks = new Map(layers.map((l) => [l.name.toUpperCase(), l]));
  const others = PLAIN_LAYERS.filter((l) => !listed.has(l.content)).map((l): PresetLayer => {
    const same = looks.get(l.name);
    return same ? { ...l, name: same.name, colour: same.colour, lines: same.lines } : l;
  });
  return others.length === 0 ? layers : [...layers, ...others];
}

/** Which layer each content is on; none where it is left out. */
export const layersOf = (preset: Pick<ExportPreset, "layers">): ReadonlyMap<DrawnContent, PresetLayer> =>
  new Map(allLayers(preset).flatMap((l) => (l.leftOut ? [] : [[l.content, l] as const])));

/** The layer of a content, also where the preset leaves that out. */
export const layerFor = (preset: Pick<ExportPreset, "layers">, content: DrawnContent): PresetLayer =>
  allLayers(preset).find((l) => l.content === content)!;
