import {
  choicesOf,
  evaluateStock,
  type FieldSpec,
  formatShort,
  STOCK_FIELDS,
  typedText,
} from "@hillcrest/core";
import { useMemo } from "react";
import { setStockValue } from "../../state/edits.ts";
import { useApp } from "../../state/store.ts";
import { ChoiceField } from "../../steps/choice-field.tsx";
import { QuantityField } from "../../steps/quantity-field.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { Popover } from "../../ui/popover.tsx";

/** What the part is cut from: said in a chip, changed in the card behind it. */
export function StockChip() {
  const raw = useApp((s) => s.part.document!.stock);
  const follows = useApp((s) => s.part.document!.follows);
  const { stock, problems } = useMemo(() => evaluateStock(raw), [raw]);
  const choices = choicesOf(STOCK_FIELDS, raw);
  const flat =
    choices.flatBy === "K"
      ? `K ${typedText(STOCK_FIELDS.find((f) => f.key === "k") as never, raw)}`
      : "DIN 6935";
  return (
    <Popover
      label="Stock"
      align="center"
      trigger={
        <button
          type="button"
          data-stock
          className={`max-w-full truncate rounded-full border px-3.5 py-1 hover:border-moss ${problems.length > 0 ? "border-stop text-stop" : "border-hairline bg-ground"}`}
        >
          {problems.length > 0 && <FindingMark level="stop" />} {choices.material || "No material named"}{" "}
          {stock && (
            <>
              <span className="num">{formatShort(stock.thickness)}</span> · radius{" "}
              <span className="num">{formatShort(stock.radius)}</span> · <span className="num">{flat}</span>
            </>
          )}
        </button>
      }
    >
      <h2 className="mb-2 font-bold">Stock</h2>
      {follows && (
        <p className="mb-2 w-[290px] leading-snug text-quiet">
          It is that of {follows.name}, which this part follows: change it there.
        </p>
      )}
      <dl
        inert={follows !== undefined}
        className="grid w-[290px] grid-cols-[auto_1fr] items-baseline gap-x-4 gap-y-1.5"
      >
        {STOCK_FIELDS.filter((f) => f.shown?.(choices) ?? true).map((f) => (
          <div key={f.key} className="contents">
            <dt className="text-quiet">{f.label}</dt>
            <dd className="text-right">
              <StockField
                spec={f}
                raw={raw}
                choices={choices}
                wrong={problems.some((p) => p.field === f.key)}
              />
            </dd>
          </div>
        ))}
      </dl>
      {problems.map((p) => (
        <p key={p.field} role="alert" className="mt-2 w-[290px] leading-snug">
          <FindingMark level="stop" /> {p.message}
        </p>
      ))}
    </Popover>
  );
}

interface StockFieldProps {
  readonly spec: FieldSpec;
  readonly raw: Readonly<Record<string, unknown>>;
  readonly choices: Readonly<Record<string, string>>;
  readonly wrong: boolean;
}

function StockField({ spec, raw, choices, wrong }: StockFieldProps) {
  const unit: Readonly<Record<string, string>> = { density: "kg/m³", k: "" };
  if (spec.kind === "quantity") {
    return (
      <>
        <QuantityField
          boxed
          spec={spec}
          text={typedText(spec, raw)}
          wrong={wrong}
          onChange={(text, mark) => setStockValue(spec.key, text, mark)}
        />{" "}
        <span className="num inline-block w-11 text-left text-quiet">{unit[spec.key] ?? "mm"}</span>
      </>
    );
  }
  if (spec.kind === "choice") {
    return (
      <span className="pr-12">
        <ChoiceField spec={spec} value={choices[spec.key]} onChange={(v) => setStockValue(spec.key, v)} />
      </span>
    );
  }
  return (
    <input
      aria-label={spec.label}
      data-field={spec.key}
      key={choices[spec.key]}
      defaultValue={choices[spec.key]}
      maxLength={100}
      className="w-full rounded border border-hairline bg-raised px-1.5 py-0.5"
      onBlur={(e) =>
        e.currentTarget.value !== choices[spec.key] && setStockValue(spec.key, e.currentTarget.value)
      }
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") e.currentTarget.blur();
      }}
    />
  );
}
