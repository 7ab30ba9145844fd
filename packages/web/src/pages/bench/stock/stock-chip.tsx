import {
  allowsRadius,
  type CardSnapshot,
  cardOf,
  choicesOf,
  type FieldSpec,
  formatShort,
  MATERIAL_FIELDS,
  type Material,
  materialOf,
  overridesOf,
  type RawValues,
  STOCK_FIELDS,
  type StockRemark,
  sayLength,
  sayRule,
  shownFields,
  stockRaw,
  typedText,
  UNITS,
  type Units,
} from "@hillcrest/core";
import { Link } from "react-router";
import { FieldView } from "../../../fields/field-view.tsx";
import { openBuild } from "../../../state/build-slice.ts";
import { setPartValues, setStockValue, setStockValues } from "../../../state/edits.ts";
import { openPart } from "../../../state/part-slice.ts";
import { useItems, useStock } from "../../../state/stock.ts";
import { useApp, useSend } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";
import { viewActions } from "../../../state/view-slice.ts";
import { FindingMark } from "../../../ui/finding-mark.tsx";
import { Popover } from "../../../ui/popover.tsx";
import { CardPick } from "./card-pick.tsx";

const NO_REMARKS: readonly StockRemark[] = [];

/** What the part is cut from: said in a chip, changed in the card behind it. */
export function StockChip() {
  const raw = useApp((s) => openPart(s).document!.stock);
  const units = useUnits();
  const open = useApp((s) => s.view.stockOpen);
  const send = useSend();
  const setOpen = (shown: boolean) => void send(viewActions.stockShown(shown));
  const stock = useApp((s) => openBuild(s).latest?.stock);
  const told = useApp((s) => openBuild(s).latest?.stockRemarks ?? NO_REMARKS);
  const problems = told.filter((r) => r.level === "stop");
  const remarks = told.filter((r) => r.level !== "stop");
  const card = cardOf(raw);
  const values = stockRaw(raw);
  const choices = choicesOf(STOCK_FIELDS, values);
  const flat = {
    K: `K ${typedText(STOCK_FIELDS.find((f) => f.key === "k") as never, values)}`,
    "DIN 6935": "DIN 6935",
    card: card?.chart.name,
  }[choices.flatBy as "K"];
  const marked = remarks.length > 0;
  useStock();
  const revision = useApp(
    (s) => s.stock.entries?.find((e) => e.section === "cards" && e.item.id === card?.id)?.revision,
  );
  const newer = card !== undefined && revision !== undefined && revision > card.revision;
  return (
    <Popover
      label="Stock"
      align="center"
      open={open}
      onOpenChange={setOpen}
      trigger={
        <button
          type="button"
          data-stock
          title={marked ? remarks.map((r) => r.message).join("\n") : "The stock that this part is cut from"}
          className={`max-w-full truncate rounded-full border px-3.5 py-1 hover:border-moss ${problems.length > 0 ? "border-stop text-stop" : "border-hairline bg-ground"}`}
        >
          {problems.length > 0 && <FindingMark level="stop" />}
          {problems.length === 0 && marked && <FindingMark level={remarks[0].level} />}{" "}
          {card ? card.name : choices.material || "No material named"}{" "}
          {stock && (
            <>
              {!card && <span className="num">{sayLength(stock.thickness, units)} </span>}
              <span className="whitespace-nowrap">
                · radius <span className="num">{sayLength(stock.radius, units)}</span>
              </span>{" "}
              · <span className="num">{flat}</span>
            </>
          )}
          {newer && (
            <span
              className="ml-2 rounded-full bg-amber-soft px-1.5 text-[12px]"
              title="The card was changed since"
            >
              newer card
            </span>
          )}
        </button>
      }
    >
      <StockCardForm raw={raw} problems={problems} onLeave={() => setOpen(false)} />
    </Popover>
  );
}

const NAMES: Readonly<Record<Units, string>> = {
  mm: "millimetres",
  in: "inches",
  fractions: "inches, 64ths",
};

interface StockCardFormProps {
  readonly raw: RawValues;
  readonly problems: readonly StockRemark[];
  readonly onLeave: () => void;
}

function StockCardForm({ raw, problems, onLeave }: StockCardFormProps) {
  const follows = useApp((s) => openPart(s).document!.follows);
  const card = cardOf(raw);
  return (
    <div className="w-[330px]">
      <div className="mb-2 flex items-baseline justify-between">
        <h2 className="font-bold">Stock</h2>
        <Link className="text-[12.5px] text-moss hover:underline" to="/stock" onClick={onLeave}>
          all of the shop's stock
        </Link>
      </div>
      {follows && (
        <p className="mb-2 leading-snug text-quiet">
          It is that of {follows.name}, which this part follows: change it there.
        </p>
      )}
      <div inert={follows !== undefined}>
        <CardPick />
        {card ? (
          <CardFields raw={raw} card={card} problems={problems} />
        ) : (
          <OwnFields raw={raw} problems={problems} />
        )}
      </div>
      {problems.map((p) => (
        <p key={p.field} role="alert" className="mt-2 leading-snug">
          <FindingMark level="stop" /> {p.message}
        </p>
      ))}
      <UnitsChoice />
    </div>
  );
}

/** In what the part shows lengths. Nothing of its shape changes by it. */
function UnitsChoice() {
  const units = useUnits();
  return (
    <fieldset className="mt-3 flex items-baseline gap-1 border-t border-hairline pt-2">
      <legend className="sr-only">Units</legend>
      <span className="grow text-quiet">Lengths in</span>
      {UNITS.map((u) => (
        <button
          key={u}
          type="button"
          data-units={u}
          aria-pressed={u === units}
          className={`rounded px-2 py-0.5 ${u === units ? "bg-moss-soft font-bold" : "text-quiet hover:text-ink"}`}
          onClick={() => setPartValues({ units: u === "mm" ? undefined : u })}
        >
          {NAMES[u]}
        </button>
      ))}
    </fieldset>
  );
}

const GRID = "grid grid-cols-[auto_1fr] items-baseline gap-x-4 gap-y-1.5";

/** A part without a card says everything itself. */
function OwnFields({ raw, problems }: Omit<StockCardFormProps, "onLeave">) {
  const choices = choicesOf(STOCK_FIELDS, raw);
  const needsReason = (key: string) => key !== "reason" || Number(raw.k) < 0 || Number(raw.k) > 1;
  const fields = shownFields(STOCK_FIELDS, choices)
    .filter((f) => needsReason(f.key))
    .map((f) =>
      f.kind === "choice" && f.key === "flatBy"
        ? { ...f, options: f.options.filter((o) => o.value !== "card") }
        : f,
    );
  const material = materialOf(raw);
  const own = material ? fields.filter((f) => !MATERIAL_FIELDS.includes(f.key)) : fields;
  return (
    <dl className={`${GRID} mt-2`}>
      <LibraryMaterial held={material} />
      {own.map((f) => (
        <Line key={f.key} label={f.key === "reason" ? "Why it is meant" : f.label}>
          <StockField spec={f} raw={raw} wrong={problems.some((p) => p.field === f.key)} />
        </Line>
      ))}
    </dl>
  );
}

/** Whose material the sheet is of: the shop's, which density and strength then follow, or the part's own words. */
function LibraryMaterial({ held }: { held?: Material }) {
  useStock();
  const materials = useItems("materials");
  const now = materials.find((m) => m.id === held?.id);
  const changed = held && now && JSON.stringify(now) !== JSON.stringify(held);
  const raw = useApp((s) => openPart(s).document!.stock);
  const take = (material: Material | undefined) => {
    // What it was stays written down, so that letting go of the library changes nothing.
    const own =
      held && !material
        ? Object.fromEntries(MATERIAL_FIELDS.map((key) => [key, textOf(stockRaw(raw)[key])]))
        : {};
    setStockValues({ libraryMaterial: material, ...own });
  };
  return (
    <>
      <Line label="Material of the shop">
        <select
          aria-label="Material of the shop"
          data-library-material
          className="max-w-44 rounded border border-hairline bg-raised px-1 py-0.5"
          value={held?.id ?? ""}
          onChange={(e) => take(materials.find((m) => m.id === e.currentTarget.value))}
        >
          <option value="">none: own values</option>
          {held && !now && <option value={held.id}>{held.name} (from elsewhere)</option>}
          {materials.map((m) => (
            <option key={m.id} value={m.id}>
              {m.name}
            </option>
          ))}
        </select>
      </Line>
      {held && (
        <Line label="Density, strength">
          <span className="num">
            {formatShort(held.density)} kg/m³, {formatShort(held.tensile)} MPa
          </span>
          {changed && (
            <button
              type="button"
              data-take-material
              className="ml-2 font-semibold text-moss hover:underline"
              title={`The shop now says ${formatShort(now.density)} kg/m³, ${formatShort(now.tensile)} MPa`}
              onClick={() => take(now)}
            >
              newer: take over
            </button>
          )}
        </Line>
      )}
    </>
  );
}

const textOf = (value: unknown): string =>
  typeof value === "number" ? formatShort(value, 6) : String(value ?? "");

const Line = ({ label, children }: { label: string; children: React.ReactNode }) => (
  <div className="contents">
    <dt className="text-quiet">{label}</dt>
    <dd className="text-right">{children}</dd>
  </div>
);

const OWN = "own";

/** Where an override begins: just beside what the card allows, so that it is one. */
function besideAllowed(radii: readonly number[]): number {
  let radius = radii[0] + 0.5;
  while (allowsRadius(radii, radius)) radius += 0.1;
  return radius;
}

/** A part with a card picks from what the card allows; anything else is an override, and marked. */
function CardFields({ raw, card, problems }: Omit<StockCardFormProps, "onLeave"> & { card: CardSnapshot }) {
  const units = useUnits();
  const values = stockRaw(raw);
  const choices = choicesOf(STOCK_FIELDS, values);
  const overrides = overridesOf(raw);
  const field = (key: string, value: RawValues = values) => {
    const spec = STOCK_FIELDS.find((f) => f.key === key)!;
    return <StockField inline spec={spec} raw={value} wrong={problems.some((p) => p.field === key)} />;
  };
  const otherRadius = overrides.includes("radius");
  const ownRelief =
    raw.relief !== undefined || raw.reliefWidth !== undefined || raw.reliefDepth !== undefined;
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
        <select
          aria-label="Inside radius of the card"
          data-card-radius
          className="rounded border border-hairline bg-raised px-1 py-0.5"
          value={otherRadius ? OWN : formatShort(Number(values.radius), 6)}
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
        {otherRadius && (
          <>
            {" "}
            <Mark /> {field("radius")}
          </>
        )}
      </Line>
      <Line label="Flat lengths by">
        {raw.flatBy === undefined ? (
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
        ) : (
          <span>
            <Mark /> {field("flatBy")} {choices.flatBy === "K" && field("k")} <Back keys={["flatBy", "k"]} />
          </span>
        )}
      </Line>
      <Line label="Bend relief">
        {ownRelief ? (
          <span>
            <Mark /> {field("relief")}{" "}
            {(choices.relief === "square" || choices.relief === "round") && field("reliefWidth")}{" "}
            {choices.relief !== "none" && field("reliefDepth")}{" "}
            <Back keys={["relief", "reliefWidth", "reliefDepth"]} />
          </span>
        ) : (
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
        )}
      </Line>
      {overrides.length > 0 && <Line label="Why not by the card">{field("reason", raw)}</Line>}
    </dl>
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

interface StockFieldProps {
  /** Among other words, not lined up in a column. */
  readonly inline?: boolean;
  readonly spec: FieldSpec;
  readonly raw: RawValues;
  readonly wrong: boolean;
}

const UNIT: Readonly<Record<string, string>> = {
  density: "kg/m³",
  tensile: "MPa",
  k: "",
  radiusOverV: "× V",
};

function StockField({ spec, raw, wrong, inline }: StockFieldProps) {
  const length = useUnits() === "mm" ? "mm" : "in";
  const field = (
    <FieldView
      look={spec.kind === "choice" ? "sentence" : "form"}
      field={spec}
      value={raw[spec.key]}
      fallback={spec.optional ? "not said" : undefined}
      wrong={wrong}
      onChange={(value, mark) => setStockValue(spec.key, value, mark)}
    />
  );
  if (spec.kind === "choice") return <span className={inline ? "" : "pr-12"}>{field}</span>;
  if (spec.kind !== "quantity") return field;
  return (
    <>
      {field}{" "}
      <span className={`num text-left text-quiet ${inline ? "" : "inline-block w-11"}`}>
        {UNIT[spec.key] ?? length}
      </span>
    </>
  );
}
