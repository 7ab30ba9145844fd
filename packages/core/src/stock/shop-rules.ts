import { type DocumentProblem, isPlain, type Say } from "../fields/checking.ts";
import { parseJson } from "../json-text.ts";
import { fail, ok, type Result } from "../result.ts";
import { RULE_LEVELS, type RuleLevel, SHOP_RULES } from "./shop-rule-list.ts";

/** The numbers and levels that a shop goes by. */
export interface ShopRules {
  /** By the keys of `SHOP_RULES`' values; a yes is 1. */
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
  if (field.kind === "yes")
    return typeof given === "boolean"
      ? undefined
      : `${field.label}: ${JSON.stringify(given)} is neither true nor false.`;
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
    values: {
      ...DEFAULT_RULES.values,
      ...Object.fromEntries(Object.entries(values as object).map(([key, given]) => [key, Number(given)])),
    },
    levels: { ...DEFAULT_RULES.levels, ...(levels as Record<string, RuleLevel>) },
  });
}

/** The same from the text of a file. */
export function readRulesText(text: string): Result<ShopRules, DocumentProblem[]> {
  const value = parseJson(text, "a set of shop rules");
  return value.ok ? readRules(value.value) : fail([{ path: "", message: value.error }]);
}
