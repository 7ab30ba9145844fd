import type { Choices, FieldSpec } from "../fields/field.ts";
import { Kept } from "../kept.ts";
import { RULE_LEVELS, type RuleLevel, SHOP_RULES } from "./shop-rule-list.ts";
import { DEFAULT_RULES, type ShopRules } from "./shop-rules.ts";

/** A shop's answers to the rules: besides these, each rule's level by its id and each number by its key. */
export interface ShopRuleSet {
  readonly id: string;
  readonly name: string;
  readonly note: string;
}

const LEVEL_WORDS: Readonly<Record<RuleLevel, string>> = {
  off: "not asked",
  note: "note",
  warn: "warning",
  stop: "stops the part",
};

/** The fields of a set of rules: how grave each is taken, and the numbers that it goes by. */
export const SHOP_RULE_FIELDS: readonly FieldSpec[] = SHOP_RULES.flatMap((rule): FieldSpec[] => [
  {
    kind: "choice",
    key: rule.id,
    label: rule.title,
    about: rule.about,
    default: rule.level,
    options: RULE_LEVELS.map((value) => ({ value, label: LEVEL_WORDS[value] })),
    optional: true,
  },
  ...rule.values.map(({ source, ...field }): FieldSpec => {
    const asked = { about: source, optional: true, shown: (c: Choices) => c[rule.id] !== "off" };
    if (field.kind === "number") return { ...field, ...asked };
    const { default: _no, ...yes } = field;
    return { ...yes, ...asked };
  }),
]);

const answers = new Kept((given: ShopRuleSet): ShopRules => {
  const set = given as unknown as Readonly<Record<string, unknown>>;
  return {
    values: Object.fromEntries(
      Object.entries(DEFAULT_RULES.values).map(([key, initial]) => [key, Number(set[key] ?? initial)]),
    ),
    levels: Object.fromEntries(
      Object.entries(DEFAULT_RULES.levels).map(([id, level]) => [id, (set[id] ?? level) as RuleLevel]),
    ),
  };
});

/** What a set of rules says; what it does not say, and all where there is none, is as by default. */
export const rulesOf = (set: ShopRuleSet | undefined): ShopRules => (set ? answers.of(set) : DEFAULT_RULES);
