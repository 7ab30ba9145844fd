import {
  allowsRadius,
  type CardSnapshot,
  choicesOf,
  formatShort,
  OWN_OF_PART,
  overridesOf,
  type RawValues,
  STOCK_FIELDS,
  sayLength,
  sayRule,
  stockRaw,
} from "@hillcrest/core";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { setStockValue, setStockValues } from "../../../state/edits.ts";
import { useUnits } from "../../../state/units.ts";
import { GRID, Line, type StockCardFormProps } from "./card-lines.tsx";
import { StockField } from "./stock-field.tsx";

const OWN = "own";

/** Where an override begins: just beside what the card allows, so that it is one. */
function besideAllowed(radii: readonly number[]): number {
  let radius = radii[0] + 0.5;
  while (allowsRadius(radii, radius)) radius += 0.1;
  return radius;
}

/** A part with a card picks from what the card allows; anything else is an override, and marked. */
export function CardFields({
  raw,
  card,
  problems,
}: Omit<StockCardFormProps, "onLeave"> & { card: CardSnapshot }) {
  const units = useUnits();
  const values = stockRaw(raw);
  const overrides = overridesOf(raw);
  const field = (key: string, value: RawValues = values) => {
    const spec = STOCK_FIELDS.find((f) => f.key === key)!;
    return <StockField inline spec={spec} raw={value} wrong={problems.some((p) => p.field === key)} />;
  };
  const otherRadius = overrides.includes("radius");
  return (
    <dl className={`${GRID} mt-2`}>
      <Line label="Material">
        <Link
          className="text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
          to={`/stock/materials/${card.material.id}`}
        >
          {card.material.name}
        </Link>
      </Line>
      <Line label="Thickness">
        <span className="num">{sayLength(card.thickness, units, 4)}</span>
      </Line>
      <Line label="Inside radius">
        <CardRadius card={card} radius={Number(values.radius)} own={otherRadius} />
        {otherRadius && (
          <>
            {" "}
            <Mark /> {field("radius")}
          </>
        )}
      </Line>
      <Line label="Flat lengths by">
        <FlatBy raw={raw} card={card} field={field} />
      </Line>
      <Line label="Bend relief">
        <Relief raw={raw} card={card} field={field} />
      </Line>
      {OWN_OF_PART.map((key) => (
        <Line key={key} label={STOCK_FIELDS.find((f) => f.key === key)!.label}>
          {field(key, raw)}
        </Line>
      ))}
      {overrides.length > 0 && <Line label="Why not by the card">{field("reason", raw)}</Line>}
    </dl>
  );
}

interface LineProps {
  readonly raw: RawValues;
  readonly card: CardSnapshot;
  /** A field of the part's own, by its key. */
  readonly field: (key: string) => ReactNode;
}

/** How flat lengths are found: by the card's chart, or otherwise. */
function FlatBy({ raw, card, field }: LineProps) {
  const { flatBy } = choicesOf(STOCK_FIELDS, stockRaw(raw));
  if (raw.flatBy !== undefined)
    return (
      <span>
        <Mark /> {field("flatBy")} {flatBy === "K" && field("k")} <Back keys={["flatBy", "k"]} />
      </span>
    );
  return (
    <span>
      <Link
        className="text-moss hover:underline"
        title={sayRule(card.chart.rule)}
        to={`/stock/charts/${card.chart.id}`}
      >
        {card.chart.name}
      </Link>{" "}
      <Override onClick={() => setStockValue("flatBy", "K")} />
    </span>
  );
}

/** The reliefs beside bends: as the card says, or otherwise. */
function Relief({ raw, card, field }: LineProps) {
  const { relief } = choicesOf(STOCK_FIELDS, stockRaw(raw));
  const own = raw.relief !== undefined || raw.reliefWidth !== undefined || raw.reliefDepth !== undefined;
  if (own)
    return (
      <span>
        <Mark /> {field("relief")} {(relief === "square" || relief === "round") && field("reliefWidth")}{" "}
        {relief !== "none" && field("reliefDepth")} <Back keys={["relief", "reliefWidth", "reliefDepth"]} />
      </span>
    );
  return (
    <span>
      {
        STOCK_FIELDS.flatMap((f) => (f.kind === "choice" && f.key === "relief" ? f.options : [])).find(
          (o) => o.value === card.relief,
        )?.label
      }
      {(card.relief === "square" || card.relief === "round") && (
        <span className="num">
          {" "}
          {card.reliefWidth} × {card.reliefDepth}
        </span>
      )}{" "}
      <Override onClick={() => setStockValue("relief", card.relief)} />
    </span>
  );
}

/** The radii that the card allows, and a way past them. */
function CardRadius({ card, radius, own }: { card: CardSnapshot; radius: number; own: boolean }) {
  const units = useUnits();
  return (
    <select
      aria-label="Inside radius of the card"
      data-card-radius
      className="rounded border border-hairline bg-raised px-1 py-0.5"
      value={own ? OWN : formatShort(radius, 6)}
      onChange={(e) => {
        const { value } = e.currentTarget;
        if (value === OWN) setStockValue("radius", formatShort(besideAllowed(card.radii), 6));
        else setStockValue("radius", value === formatShort(card.radii[0], 6) ? undefined : value);
      }}
    >
      {card.radii.map((r) => (
        <option key={r} value={formatShort(r, 6)}>
          {sayLength(r, units)}
        </option>
      ))}
      <option value={OWN}>override…</option>
    </select>
  );
}

const Mark = () => (
  <span className="text-[11px] text-warn" title="Not by the card">
    ◆
  </span>
);

const Override = ({ onClick }: { onClick: () => void }) => (
  <button type="button" className="ml-1 text-[12px] text-quiet underline hover:text-ink" onClick={onClick}>
    override
  </button>
);

const Back = ({ keys }: { keys: readonly string[] }) => (
  <button
    type="button"
    className="ml-1 text-[12px] text-quiet underline hover:text-ink"
    onClick={() => setStockValues(Object.fromEntries(keys.map((key) => [key, undefined])))}
  >
    by the card
  </button>
);
