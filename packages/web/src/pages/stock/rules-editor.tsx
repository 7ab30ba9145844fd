import {
  type FieldSpec,
  ITEM_FIELDS,
  RULE_GROUPS,
  SHOP_RULES,
  type ShopRule,
  type ShopRuleSet,
} from "@hillcrest/core";
import { FieldView } from "../../fields/field-view.tsx";
import { ItemForm } from "./item-form.tsx";
import { RulePicture } from "./rule-picture.tsx";

interface RulesEditorProps {
  readonly set: ShopRuleSet;
  readonly onChange: (set: ShopRuleSet, mark?: string) => void;
}

type Values = Readonly<Record<string, unknown>>;

const FIELDS = new Map(ITEM_FIELDS.rules.map((f) => [f.key, f]));

/** A set of shop rules: for each what it asks, with a picture, how grave it is taken, and the numbers it goes by. */
export function RulesEditor({ set, onChange }: RulesEditorProps) {
  const values = set as unknown as Values;
  const put = (key: string, value: unknown, mark?: string) =>
    onChange({ ...values, [key]: value } as unknown as ShopRuleSet, mark && `${key}:${mark}`);
  const form = {
    section: "rules",
    item: set,
    onChange: (i: unknown, m?: string) => onChange(i as ShopRuleSet, m),
  } as const;
  return (
    <div className="max-w-[1080px]">
      <ItemForm {...form} only={["name", "note"]} />
      {RULE_GROUPS.map((group) => (
        <section key={group} className="mt-6">
          <h2 className="font-bold text-quiet">{group}</h2>
          <div className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(420px,1fr))] gap-x-8">
            {SHOP_RULES.filter((r) => r.group === group).map((rule) => (
              <RuleCard key={rule.id} rule={rule} values={values} onPut={put} />
            ))}
          </div>
        </section>
      ))}
    </div>
  );
}

interface RuleCardProps {
  readonly rule: ShopRule;
  readonly values: Values;
  readonly onPut: (key: string, value: unknown, mark?: string) => void;
}

/** One rule: what it asks, with a picture, how grave it is taken, and the numbers it goes by. */
function RuleCard({ rule, values, onPut }: RuleCardProps) {
  const level = String(values[rule.id] ?? rule.level);
  return (
    <section data-rule={rule.id} className="flex gap-4 border-t border-hairline py-3">
      <RulePicture rule={rule.id} faded={level === "off"} />
      <div className="grow">
        <div className="flex items-baseline justify-between gap-4">
          <h3 className="font-bold">{rule.title}</h3>
          <FieldView
            look="form"
            field={FIELDS.get(rule.id)!}
            value={level}
            label={rule.title}
            onChange={(v, mark) => onPut(rule.id, v, mark)}
          />
        </div>
        <p className="text-[12.5px] leading-snug text-quiet">{rule.about}</p>
        {level !== "off" &&
          rule.values.map((v) => (
            <RuleAnswer
              key={v.key}
              field={FIELDS.get(v.key)!}
              initial={v.kind === "yes" ? false : v.default}
              value={values[v.key]}
              onChange={(next, mark) => onPut(v.key, next, mark)}
            />
          ))}
      </div>
    </section>
  );
}

interface RuleAnswerProps {
  readonly field: FieldSpec;
  readonly initial: number | boolean;
  readonly value: unknown;
  readonly onChange: (value: unknown, mark?: string) => void;
}

/** One number of a rule, or a yes or no, where its default comes from, and what that is where the shop says another. */
function RuleAnswer({ field, initial, value, onChange }: RuleAnswerProps) {
  const own = value !== undefined && value !== initial;
  return (
    <div className="mt-2 grid grid-cols-[1fr_auto] items-baseline gap-4">
      <span>
        {field.label}
        <span className="block text-[12px] leading-tight text-quiet">
          {own && typeof initial === "number" ? `${initial} by default: ` : ""}
          {field.about}
        </span>
      </span>
      <FieldView look="form" field={field} value={value ?? initial} onChange={onChange} />
    </div>
  );
}
