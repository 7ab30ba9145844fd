import { checkEntries, isNumber, isPlain, KEY_SCHEMA, type Say, type Schema } from "../fields/checking.ts";
import type { BlankTurn } from "../sheet/blank/orientation.ts";
import { BLANK_TURNS, type Orientation } from "../sheet/blank/orientation.ts";
import type { MeasureEnd } from "../sheet/picking/measuring.ts";
import { type ExportPreset, PLAIN_PRESET, presetProblems } from "../stock/export-preset.ts";
import { toRadians } from "../units/quantity.ts";

/** What the page of the blank draws besides its outline and openings. */
export const BLANK_SHOWS = [
  "bends",
  "letters",
  "numbers",
  "notes",
  "tangents",
  "innerMould",
  "outerMould",
  "ordinates",
  "marks",
  "grain",
] as const;
export type BlankShow = (typeof BLANK_SHOWS)[number];

/** A dimension on a blank: between two picked things, or of one; taken anew whenever the part changes. */
export interface BlankDimension {
  readonly key: string;
  readonly from: MeasureEnd;
  readonly to?: MeasureEnd;
  /** The shortest way between them, or as seen across or up. */
  readonly along: "shortest" | "level" | "upright";
  /** How far its line stands beside what is measured, mm on the blank; negative on the other side. */
  readonly beside: number;
}

/** What a part says of its blank and of how it leaves. */
export interface BlankSettings {
  readonly turn?: BlankTurn;
  /** Degrees, where it is turned by an angle. */
  readonly angle?: number;
  readonly edge?: string;
  /** The side that faces up; the one that is seen, or else side B, where nothing is said. */
  readonly side?: "A" | "B";
  readonly shows?: readonly BlankShow[];
  readonly dimensions?: readonly BlankDimension[];
  /** Edges that distances of bend lines are taken from: across and up. */
  readonly datums?: { readonly across?: MeasureEnd; readonly up?: MeasureEnd };
  /** In which order the bends are formed, by hand: the number of each in that order. */
  readonly forming?: Readonly<Record<string, number>>;
  /** The preset it leaves by, and what of that is otherwise for this part. */
  readonly preset?: string;
  readonly changes?: Readonly<Record<string, unknown>>;
}

/** A document, as far as it says anything of its blank. */
interface OfBlank {
  readonly blank?: BlankSettings;
}

export const MOST_DIMENSIONS = 200;
export const DEFAULT_SHOWS: readonly BlankShow[] = ["bends", "numbers", "notes", "grain"];

/** How a part's blank lies: which side faces up is for the side that is seen to say, where the part does not. */
export function orientationOf(
  document: OfBlank,
  stock: { readonly grain?: "x" | "y"; readonly visibleSide?: "A" | "B" } | undefined,
): Orientation {
  const { turn = "modelled", angle, edge, side } = document.blank ?? {};
  return {
    turn,
    side: side ?? stock?.visibleSide ?? "B",
    ...(angle === undefined ? {} : { angle: toRadians(angle) }),
    ...(edge === undefined ? {} : { edge }),
    ...(stock?.grain ? { grain: stock.grain } : {}),
  };
}

/**
 * The preset a part leaves by: that which it names, with its own changes. `gone` where it is not among those there are:
 * then it leaves plainly, with its changes all the same.
 */
export function presetOf(
  { blank }: OfBlank,
  among: readonly ExportPreset[],
): { readonly preset: ExportPreset; readonly gone: boolean; readonly changed: boolean } {
  const named = among.find((p) => p.id === (blank?.preset ?? PLAIN_PRESET.id));
  const base = named ?? PLAIN_PRESET;
  const changes = blank?.changes ?? {};
  const changed = Object.keys(changes).length > 0;
  return { preset: changed ? ({ ...base, ...changes } as ExportPreset) : base, gone: !named, changed };
}

const ENDS = ["edge", "corner", "bend", "hole"];

function checkEnd(value: unknown, at: string, say: Say): void {
  if (!isPlain(value) || !ENDS.includes(value.kind as string) || typeof value.name !== "string")
    say(at, `This must say the kind (${ENDS.join(", ")}) and the name of what is measured.`);
}

/** Checks what a document says of its blank. */
export function checkBlankSettings(value: unknown, say: Say): void {
  if (value === undefined) return;
  if (!isPlain(value)) return void say("/blank", `"blank" must be an object.`);
  const oneOf = (key: string, words: readonly string[]) => {
    if (value[key] !== undefined && !words.includes(value[key] as string))
      say(`/blank/${key}`, `"${key}" must be one of ${words.join(", ")}.`);
  };
  oneOf("turn", BLANK_TURNS);
  oneOf("side", ["A", "B"]);
  if (value.angle !== undefined && !(isNumber(value.angle) && Math.abs(value.angle) <= 360))
    say("/blank/angle", `"angle" must be a number of degrees from -360 to 360.`);
  for (const key of ["edge", "preset"])
    if (value[key] !== undefined && typeof value[key] !== "string")
      say(`/blank/${key}`, `"${key}" must be a text.`);
  const { shows, datums, forming, dimensions, changes } = value;
  if (shows !== undefined && !(Array.isArray(shows) && shows.every((s) => BLANK_SHOWS.includes(s))))
    say("/blank/shows", `"shows" must be a list of: ${BLANK_SHOWS.join(", ")}.`);
  if (datums !== undefined) {
    if (!isPlain(datums)) say("/blank/datums", `"datums" must be an object.`);
    else
      for (const key of ["across", "up"])
        if (datums[key] !== undefined) checkEnd(datums[key], `/blank/datums/${key}`, say);
  }
  checkForming(forming, say);
  if (dimensions !== undefined)
    checkEntries(dimensions, "/blank/dimensions", MOST_DIMENSIONS, say, (entry, at) => {
      checkEnd(entry.from, `${at}/from`, say);
      if (entry.to !== undefined) checkEnd(entry.to, `${at}/to`, say);
      if (!["shortest", "level", "upright"].includes(entry.along as string))
        say(`${at}/along`, `"along" must be shortest, level or upright.`);
      if (!isNumber(entry.beside)) say(`${at}/beside`, `"beside" must be a number of millimetres.`);
    });
  if (changes !== undefined) {
    if (!isPlain(changes)) say("/blank/changes", `"changes" must be an object of a preset's values.`);
    else
      for (const p of presetProblems({ ...PLAIN_PRESET, ...changes }, "/blank/changes"))
        say(p.path, p.message);
  }
}

function checkForming(forming: unknown, say: Say): void {
  if (forming === undefined) return;
  const whole = (v: unknown) => Number.isInteger(v) && (v as number) >= 1 && (v as number) <= 9999;
  if (!isPlain(forming) || !Object.values(forming).every(whole))
    say("/blank/forming", `"forming" must give each bend a whole number from 1 to 9999.`);
}

const END: Schema = {
  type: "object",
  required: ["kind", "name"],
  properties: { kind: { enum: ENDS }, name: { type: "string" } },
};

export const BLANK_SCHEMA: Schema = {
  type: "object",
  description: "How the blank lies, what is shown with it, and how it leaves as a file",
  properties: {
    turn: { enum: BLANK_TURNS, default: "modelled" },
    angle: { type: "number", minimum: -360, maximum: 360, description: "Degrees, counter-clockwise" },
    edge: { type: "string", description: "The edge that lies level, at the foot" },
    side: {
      enum: ["A", "B"],
      description: "The side that faces up; the one that is seen if nothing is said",
    },
    shows: { type: "array", items: { enum: BLANK_SHOWS } },
    dimensions: {
      type: "array",
      maxItems: MOST_DIMENSIONS,
      items: {
        type: "object",
        required: ["key", "from", "along", "beside"],
        properties: {
          key: KEY_SCHEMA,
          from: END,
          to: END,
          along: { enum: ["shortest", "level", "upright"] },
          beside: { type: "number", description: "How far its line stands beside, mm" },
        },
      },
    },
    datums: { type: "object", properties: { across: END, up: END } },
    forming: {
      type: "object",
      description: "In which order bends are formed, by their names",
      additionalProperties: { type: "integer", minimum: 1, maximum: 9999 },
    },
    preset: { type: "string", description: "The export preset, by its id" },
    changes: { type: "object", description: "What of the preset is otherwise for this part" },
  },
};
