import { type DocumentProblem, isPlain, type Say } from "../fields/checking.ts";
import type { NumberField } from "../fields/field.ts";
import { parseJson } from "../json-text.ts";
import { fail, ok, type Result } from "../result.ts";

/** How grave a shop takes what a rule finds; `off`: it is not asked. */
export type RuleLevel = "off" | "note" | "warn" | "stop";
export const RULE_LEVELS: readonly RuleLevel[] = ["off", "note", "warn", "stop"];

/** A number that a rule asks for, with where its default comes from. */
export interface RuleValue extends NumberField {
  readonly default: number;
  /** The subject that the default is taken from. */
  readonly source: string;
}

/** One question of manufacture that a shop may answer its own way. */
export interface ShopRule {
  readonly id: string;
  readonly title: string;
  /** What it asks, in a sentence. */
  readonly about: string;
  readonly level: RuleLevel;
  readonly values: readonly RuleValue[];
}

const value = (
  key: string,
  label: string,
  initial: number,
  source: string,
  limits: Partial<NumberField> = {},
): RuleValue => ({
  kind: "number",
  key,
  label,
  dimension: "length",
  default: initial,
  min: 0,
  max: 100_000,
  ...limits,
  source,
});

const timesT = { dimension: "number", unit: "× t", max: 100 } as const;

const CUTTING =
  "shop practice of laser cutting: what is narrower than the sheet is thick burns or breaks away";
const BENDING = "shop practice of air bending: nearer to the bend an opening is drawn out of shape";

/** The rules whose numbers and levels a shop sets, in the order in which they are shown. */
export const SHOP_RULES: readonly ShopRule[] = [
  {
    id: "short-leg",
    title: "Legs long enough for the die",
    about:
      "Whether both legs of a bend lie on the shoulders of their die until it is finished, anywhere along the bend: openings, slanted and stepped edges count.",
    level: "warn",
    values: [
      value(
        "legSpare",
        "More than the geometry needs",
        0,
        "geometry: the leg still lies on the shoulder of the V",
        {
          max: 1000,
        },
      ),
    ],
  },
  {
    id: "close-bends",
    title: "Bends far enough from one another",
    about: "The same for two bends of one plate: the metal between them is the leg of both.",
    level: "warn",
    values: [],
  },
  {
    id: "opening-to-bend",
    title: "Openings far enough from bends",
    about: "Distance of an opening from the line where a bend begins, beyond the bend's inside radius.",
    level: "warn",
    values: [
      value("openingToBend", "Openings: r plus", 2, BENDING, timesT),
      value("longOpening", "Long ones begin at", 25, BENDING, { above: 0, min: undefined }),
      value("longOpeningToBend", "Long openings: r plus", 2.5, BENDING, timesT),
    ],
  },
  {
    id: "opening-in-bend",
    title: "No opening in a bend",
    about: "Whether an opening lies in the metal that turns: it is drawn out of shape there.",
    level: "warn",
    values: [],
  },
  {
    id: "small-opening",
    title: "Openings large enough to cut",
    about: "The least width of an opening against the thickness of the sheet.",
    level: "warn",
    values: [value("leastOpening", "Least width", 1, CUTTING, timesT)],
  },
  {
    id: "thin-web",
    title: "Webs wide enough to stand",
    about: "The metal between two openings, and between an opening and the outline.",
    level: "warn",
    values: [value("leastWeb", "Least width", 1, CUTTING, timesT)],
  },
  {
    id: "long-bend",
    title: "Bends no longer than the brake",
    about: "From the first metal on a bend line to the last.",
    level: "stop",
    values: [
      value("brakeLength", "Length of the brake", 3000, "a common press brake; put in your own", {
        above: 0,
        min: undefined,
      }),
    ],
  },
  {
    id: "brake-force",
    title: "Force within the brake's",
    about: "What a bend takes in all, against what the brake gives.",
    level: "stop",
    values: [
      value("brakeForce", "Most force", 1000, "a common press brake; put in your own", {
        dimension: "number",
        unit: "kN",
        above: 0,
        min: undefined,
      }),
    ],
  },
  {
    id: "tight-gap",
    title: "Gaps wide enough",
    about:
      "Between plates and bends that do not hang on one another, fully folded: room for paint, a weld or a hand. Metal that touches is meant to.",
    level: "warn",
    values: [value("leastGap", "Least gap; 0 asks nothing", 0, "none: what the finish needs", { max: 1000 })],
  },
  {
    id: "mass",
    title: "Light enough to lift",
    about: "The mass of the folded part, against what one person lifts.",
    level: "note",
    values: [
      value(
        "mostMass",
        "One person lifts",
        25,
        "occupational health: what one grown person lifts now and then",
        {
          dimension: "number",
          unit: "kg",
          above: 0,
          min: undefined,
        },
      ),
    ],
  },
];

/** The numbers and levels that a shop goes by. */
export interface ShopRules {
  /** By the keys of `SHOP_RULES`' values. */
  readonly values: Readonly<Record<string, number>>;
  readonly levels: Readonly<Record<string, RuleLevel>>;
}

export const RULES_FORMAT = "hillcrest-rules";
export const RULES_VERSION = 1;

/** What is gone by where a shop says nothing. */
export const DEFAULT_RULES: ShopRules = {
  values: Object.fromEntries(
    SHOP_RULES.flatMap((r): [string, number][] => r.values.map((v) => [v.key, v.default])),
  ),
  levels: Object.fromEntries(SHOP_RULES.map((r): [string, RuleLevel] => [r.id, r.level])),
};

const VALUES = new Map(SHOP_RULES.flatMap((r) => r.values.map((v) => [v.key, v])));

/** What is wrong with a value, and what would work; nothing when it is fine. */
function wrongWith(key: string, given: unknown): string | undefined {
  const field = VALUES.get(key);
  if (!field) return `There is no such value. There are: ${[...VALUES.keys()].join(", ")}.`;
  const unit = field.unit ?? (field.dimension === "length" ? "mm" : "");
  const what = `${field.label}: ${JSON.stringify(given)}`;
  if (typeof given !== "number" || !Number.isFinite(given)) return `${what} is not a number (${unit}).`;
  const { min = -Infinity, above = -Infinity, max = Infinity } = field;
  if (given < min) return `${what} ${unit} is below ${min}.`;
  if (given <= above) return `${what} ${unit} must be above ${above}.`;
  return given > max ? `${what} ${unit} is more than ${max}, which no shop needs.` : undefined;
}

/** Reads a rules document: what it does not say is as it is by default. Every problem has its place. */
export function readRules(document: unknown): Result<ShopRules, DocumentProblem[]> {
  const problems: DocumentProblem[] = [];
  const say: Say = (path, message) => problems.push({ path, message });
  if (!isPlain(document) || document.format !== RULES_FORMAT)
    return fail([
      { path: "/format", message: `This is no set of shop rules: "format" must be "${RULES_FORMAT}".` },
    ]);
  if (document.version !== RULES_VERSION)
    return fail([
      {
        path: "/version",
        message: `Version ${JSON.stringify(document.version)} is not one that this program reads (${RULES_VERSION}). Use a later program.`,
      },
    ]);
  const { values = {}, levels = {} } = document;
  if (!isPlain(values)) say("/values", `"values" must be an object.`);
  else
    for (const [key, given] of Object.entries(values)) {
      const wrong = wrongWith(key, given);
      if (wrong) say(`/values/${key}`, wrong);
    }
  if (!isPlain(levels)) say("/levels", `"levels" must be an object.`);
  else
    for (const [id, level] of Object.entries(levels)) {
      if (!Object.hasOwn(DEFAULT_RULES.levels, id))
        say(`/levels/${id}`, `There is no such rule. There are: ${SHOP_RULES.map((r) => r.id).join(", ")}.`);
      else if (!RULE_LEVELS.includes(level as RuleLevel))
        say(`/levels/${id}`, `${JSON.stringify(level)} is not one of ${RULE_LEVELS.join(", ")}.`);
    }
  for (const key of Object.keys(document))
    if (!["format", "version", "name", "values", "levels"].includes(key))
      say(`/${key}`, "This is nothing that shop rules say.");
  if (problems.length > 0) return fail(problems);
  return ok({
    values: { ...DEFAULT_RULES.values, ...(values as Record<string, number>) },
    levels: { ...DEFAULT_RULES.levels, ...(levels as Record<string, RuleLevel>) },
  });
}

/** The same from the text of a file. */
export function readRulesText(text: string): Result<ShopRules, DocumentProblem[]> {
  const value = parseJson(text, "a set of shop rules");
  return value.ok ? readRules(value.value) : fail([{ path: "", message: value.error }]);
}
