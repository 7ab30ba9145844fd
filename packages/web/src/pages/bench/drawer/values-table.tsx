import { formatVariable, nameProblem, sayLength, type Variable } from "@hillcrest/core";
import { useState } from "react";
import { QuantityField } from "../../../fields/quantity-field.tsx";
import { openBuild } from "../../../state/build-slice.ts";
import { addVariable, edit, setVariables } from "../../../state/edits.ts";
import { useNames } from "../../../state/labels.ts";
import { openPart } from "../../../state/part-slice.ts";
import { useApp } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";
import { Button } from "../../../ui/button.tsx";
import { wholeValue } from "../../../ui/whole-value.ts";

const NONE: readonly Variable[] = [];

/** Named values that any field of the part may use. */
export function ValuesTable() {
  const variables = useApp((s) => openPart(s).document?.variables ?? NONE);
  return (
    <div className="scroll-quiet grow overflow-auto px-3.5 py-1">
      {variables.length === 0 && (
        <p className="py-2 text-quiet">
          No named values yet. One can stand in any field: call it <i>height</i> here, then write{" "}
          <i>height/2 + t</i> there.
        </p>
      )}
      {variables.length > 0 && (
        <table className="text-[12.5px]">
          <thead className="text-left text-quiet">
            <tr>
              {["name", "value", "measures", "comes to", ""].map((h) => (
                <th key={h} className="pr-6 font-medium">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {variables.map((v) => (
              <ValueRow key={v.key} variable={v} others={variables} />
            ))}
          </tbody>
        </table>
      )}
      <Button kind="quiet" data-add-variable onClick={addVariable}>
        + value
      </Button>
    </div>
  );
}

function ValueRow({ variable: v, others }: { variable: Variable; others: readonly Variable[] }) {
  const result = useApp((s) => openBuild(s).latest?.variables?.find((r) => r.variable.key === v.key)?.result);
  const names = useNames();
  const units = useUnits();
  const measures = v.measures ?? "length";
  const change = (next: Partial<Variable>, mark?: string) =>
    setVariables(
      others.map((o) => (o.key === v.key ? { ...o, ...next } : o)),
      mark,
    );
  return (
    <tr data-variable={v.name} className="border-t border-hairline/60">
      <td className="py-1 pr-6">
        <NameField variable={v} others={others} />
      </td>
      <td className="pr-6">
        <QuantityField
          boxed
          spec={{
            key: `variable-${v.name}`,
            label: `Value of ${v.name}`,
            dimension: measures,
            default: "",
          }}
          text={String(v.value)}
          names={names}
          wrong={result && !result.ok}
          onChange={(text, mark) => change({ value: text }, mark)}
        />
      </td>
      <td className="pr-6">
        <select
          aria-label={`What ${v.name} measures`}
          className="rounded border border-hairline bg-raised px-1 py-0.5"
          value={measures}
          onChange={(e) => change({ measures: e.currentTarget.value as "length" })}
        >
          <option value="length">a length</option>
          <option value="angle">an angle</option>
          <option value="number">a number</option>
        </select>
      </td>
      <td className="num pr-6">
        {result?.ok ? (
          measures === "length" ? (
            sayLength(result.value, units, 4)
          ) : (
            formatVariable(result.value, v.measures)
          )
        ) : (
          <span className="text-stop">■ {result?.error}</span>
        )}
      </td>
      <td>
        <button
          type="button"
          aria-label={`Remove ${v.name}`}
          className="px-1 text-quiet hover:text-stop"
          onClick={() => setVariables(others.filter((o) => o.key !== v.key))}
        >
          ×
        </button>
      </td>
    </tr>
  );
}

/** A name is taken when one leaves the field; every expression that used the old one follows. */
function NameField({ variable, others }: { variable: Variable; others: readonly Variable[] }) {
  const [draft, setDraft] = useState<string>();
  const shown = draft ?? variable.name;
  const problem =
    draft === undefined || draft === variable.name
      ? undefined
      : nameProblem(
          draft,
          others.filter((o) => o.key !== variable.key),
        );
  const keep = () => {
    if (draft !== undefined && draft !== variable.name && !problem)
      edit({ do: "rename", variable: variable.key, name: draft });
    setDraft(undefined);
  };
  return (
    <>
      <input
        aria-label={`Name of ${variable.name}`}
        data-field="variable-name"
        aria-invalid={problem ? true : undefined}
        value={shown}
        className={`w-32 rounded border bg-raised px-1.5 py-0.5 font-semibold ${problem ? "border-stop" : "border-hairline"}`}
        {...wholeValue}
        onChange={(e) => setDraft(e.currentTarget.value.trim())}
        onBlur={keep}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === "Enter") e.currentTarget.blur();
          if (e.key === "Escape") setDraft(undefined);
        }}
      />
      {problem && <span className="ml-2 text-stop">{problem}</span>}
    </>
  );
}
