import {
  type BendChart,
  CHART_METHODS,
  type ChartRule,
  formatShort,
  type StockItem,
  type TableRule,
} from "@hillcrest/core";
import { useState } from "react";
import { Link } from "react-router";
import { Choice } from "../../fields/choice-view.tsx";
import { NumberBox } from "../../ui/number-box.tsx";
import { ChartTrial } from "./chart-trial.tsx";
import { FormLine, ItemForm } from "./item-form.tsx";
import { StepTitle } from "./step-title.tsx";
import { TableEditor } from "./table-editor.tsx";

interface ChartEditorProps {
  readonly chart: BendChart;
  readonly onChange: (item: StockItem, mark?: string) => void;
}

const METHOD_WORDS: Readonly<Record<ChartRule["method"], string>> = {
  "one K": "one K for every bend",
  "K by r/t": "K by radius over thickness",
  table: "a table by thickness × radius × angle",
  "DIN 6935": "DIN 6935",
  expression: "an expression of t, r, angle and K",
};

/** A rule of another method, with what the old one said where it fits. */
function ruleOf(method: ChartRule["method"], old: ChartRule): ChartRule {
  const k = "k" in old ? old.k : 0.42;
  const giving = {
    gives: "gives" in old ? old.gives : ("K" as const),
    angleIs: "angleIs" in old ? old.angleIs : ("bend angle" as const),
    deductionTo: "deductionTo" in old ? old.deductionTo : ("mould points" as const),
  };
  switch (method) {
    case "one K":
      return { method, k };
    case "K by r/t":
      return {
        method,
        between: "linear",
        points: [
          [0, 0.38],
          [1, k],
          [5, 0.48],
        ],
      };
    case "table":
      return { method, ...giving, gives: "K", acrossThickness: false, rows: [[1.5, 1.5, 90, k]] };
    case "DIN 6935":
      return { method };
    case "expression":
      return { method, ...giving, gives: "BA", k, expression: "angle * pi/180 * (r + K*t)" };
  }
}

/** A chart's own editor: how it finds flat lengths, its numbers, and a bend to try it on. */
export function ChartEditor({ chart, onChange }: ChartEditorProps) {
  const { rule } = chart;
  // Switching back and forth loses nothing of what was entered.
  const [others, setOthers] = useState<Partial<Record<ChartRule["method"], ChartRule>>>({});
  const set = (next: ChartRule, mark?: string) => onChange({ ...chart, rule: next }, mark && `rule:${mark}`);
  const choose = (method: string) => {
    setOthers({ ...others, [rule.method]: rule });
    set(others[method as ChartRule["method"]] ?? ruleOf(method as ChartRule["method"], rule));
  };
  return (
    <div className="flex flex-wrap gap-x-10 gap-y-5">
      <div className="w-[430px] space-y-4">
        <section className="space-y-2">
          <StepTitle number={1}>How it finds flat lengths</StepTitle>
          <ItemForm section="charts" item={chart} onChange={onChange} only={["name"]} />
          <FormLine field={{ kind: "choice", label: "By" }}>
            <Choice
              label="Finds flat lengths by"
              value={rule.method}
              options={CHART_METHODS.map((value) => ({ value, label: METHOD_WORDS[value] }))}
              onChange={choose}
            />
          </FormLine>
        </section>
        <section className="space-y-2">
          <StepTitle number={2}>What its numbers mean</StepTitle>
          <RuleFields rule={rule} onChange={set} />
        </section>
        {rule.method === "K by r/t" && (
          <section>
            <StepTitle number={3}>Its points</StepTitle>
            <PointsEditor rule={rule} onChange={set} />
          </section>
        )}
        {rule.method === "table" && (
          <section>
            <StepTitle number={3}>Its rows</StepTitle>
            <TableEditor rule={rule} chart={chart} onChange={set} />
          </section>
        )}
      </div>
      <div className="w-[430px] space-y-5">
        <ChartTrial chart={chart} />
        <section className="space-y-2">
          <StepTitle number={5}>Where it comes from</StepTitle>
          <ItemForm section="charts" item={chart} onChange={onChange} only={["note", "starting", "reason"]} />
          {chart.testBends && (
            <p>
              Made from measured coupons:{" "}
              <Link
                className="text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
                to={`/stock/testBends/${chart.testBends}`}
              >
                open the test bends
              </Link>
            </p>
          )}
        </section>
      </div>
    </div>
  );
}

interface RuleProps<R extends ChartRule> {
  readonly rule: R;
  readonly onChange: (rule: ChartRule, mark?: string) => void;
}

const options = (...words: [string, string][]) => words.map(([value, label]) => ({ value, label }));

function RuleFields({ rule, onChange }: RuleProps<ChartRule>) {
  if (rule.method === "DIN 6935")
    return (
      <>
        <p className="text-quiet">
          K = (0.65 + 0.5·log10(r/t)) / 2, half of 1 above r/t 5, never below 0: the standard's correction
          factor, halved. Above 165° opening, which is a bend below 15°, the standard adds nothing: BD = 0.
        </p>
        <label className="flex items-baseline gap-2">
          <input
            type="checkbox"
            data-field="carryOn"
            className="accent-moss"
            checked={rule.carryOn ?? false}
            onChange={(e) =>
              onChange({ method: "DIN 6935", ...(e.currentTarget.checked ? { carryOn: true } : {}) })
            }
          />
          Carry the formula on below 15°, without the standard's step
        </label>
      </>
    );
  return (
    <>
      {(rule.method === "one K" || rule.method === "expression") && (
        <FormLine
          field={{
            kind: "number",
            label: "K",
            about: rule.method === "expression" ? "what the name K stands for" : undefined,
          }}
        >
          <NumberBox
            label="K"
            field="k"
            value={rule.k}
            dimension="number"
            onChange={(k, mark) => onChange({ ...rule, k }, mark)}
          />
        </FormLine>
      )}
      {rule.method === "K by r/t" && (
        <FormLine field={{ kind: "choice", label: "Between two points" }}>
          <Choice
            label="Between two points"
            value={rule.between}
            options={options(["linear", "linear"], ["stepwise", "stepwise: the lower point counts"])}
            onChange={(between) => onChange({ ...rule, between: between as "linear" })}
          />
        </FormLine>
      )}
      {(rule.method === "table" || rule.method === "expression") && (
        <GivingFields rule={rule} onChange={onChange} />
      )}
      {rule.method === "expression" && (
        <FormLine field={{ kind: "text", label: "Expression", about: "t and r in mm, angle in degrees, K" }}>
          <input
            aria-label="Expression"
            className="num w-72 rounded border border-hairline bg-raised px-1.5 py-0.5"
            value={rule.expression}
            spellCheck={false}
            onChange={(e) => onChange({ ...rule, expression: e.currentTarget.value }, "expression")}
          />
        </FormLine>
      )}
    </>
  );
}

type GivingRule = TableRule | Extract<ChartRule, { method: "expression" }>;

function GivingFields({ rule, onChange }: RuleProps<GivingRule>) {
  return (
    <>
      <FormLine field={{ kind: "choice", label: "Gives" }}>
        <Choice
          label="Gives"
          value={rule.gives}
          options={options(["K", "K"], ["BA", "bend allowance, BA"], ["BD", "bend deduction, BD"])}
          onChange={(gives) => onChange({ ...rule, gives: gives as "K" })}
        />
      </FormLine>
      <FormLine field={{ kind: "choice", label: "Its angle is the" }}>
        <Choice
          label="Its angle is the"
          value={rule.angleIs}
          options={options(
            ["bend angle", "bend angle: flat is 0°"],
            ["opening angle", "opening angle: flat is 180°"],
          )}
          onChange={(angleIs) => onChange({ ...rule, angleIs: angleIs as "bend angle" })}
        />
      </FormLine>
      {rule.gives === "BD" && (
        <FormLine field={{ kind: "choice", label: "Above 90° legs count to the" }}>
          <Choice
            label="Above 90° legs count to the"
            value={rule.deductionTo}
            options={options(
              ["mould points", "outer mould points"],
              ["outermost tangents", "outermost tangents"],
            )}
            onChange={(to) => onChange({ ...rule, deductionTo: to as "mould points" })}
          />
        </FormLine>
      )}
    </>
  );
}

function PointsEditor({ rule, onChange }: RuleProps<Extract<ChartRule, { method: "K by r/t" }>>) {
  const put = (i: number, at: 0 | 1, value: number, mark: string) =>
    onChange(
      {
        ...rule,
        points: rule.points.map((p, k) => (k === i ? (at === 0 ? [value, p[1]] : [p[0], value]) : p)),
      },
      `${i}:${at}:${mark}`,
    );
  return (
    <div>
      <table className="text-[12.5px]">
        <thead className="text-left text-quiet">
          <tr>
            <th className="pr-3 font-medium">#</th>
            <th className="pr-3 font-medium">r/t</th>
            <th className="font-medium">K</th>
          </tr>
        </thead>
        <tbody>
          {rule.points.map((p, i) => (
            <tr key={i} data-row={i + 1} className="border-t border-hairline/60">
              <td className="num pr-3 text-quiet">{i + 1}</td>
              {([0, 1] as const).map((at) => (
                <td key={at} className="py-0.5 pr-3">
                  <NumberBox
                    label={`${at === 0 ? "r/t" : "K"}, row ${i + 1}`}
                    value={p[at]}
                    dimension="number"
                    width="5.5rem"
                    onChange={(v, mark) => put(i, at, v, mark)}
                  />
                </td>
              ))}
              <td>
                <button
                  type="button"
                  className="px-1 text-quiet hover:text-stop"
                  aria-label={`Remove row ${i + 1}`}
                  onClick={() => onChange({ ...rule, points: rule.points.filter((_, k) => k !== i) })}
                >
                  ×
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <button
        type="button"
        className="mt-1 font-semibold text-moss hover:underline"
        onClick={() => {
          const [ratio, k] = rule.points.at(-1) ?? [0, 0.4];
          onChange({ ...rule, points: [...rule.points, [Number(formatShort(ratio + 1)), k]] });
        }}
      >
        + row
      </button>
    </div>
  );
}
