import {
  cardOf,
  choicesOf,
  formatShort,
  MATERIAL_FIELDS,
  type Material,
  materialOf,
  STOCK_FIELDS,
  shownFields,
  stockRaw,
  UNITS,
  type Units,
} from "@hillcrest/core";
import { Link } from "react-router";
import { setStockValues } from "../../../state/edits.ts";
import { openPart } from "../../../state/part-slice.ts";
import { useItems, useStock } from "../../../state/stock.ts";
import { useApp, useSend } from "../../../state/store.ts";
import { chooseUnits, useUnits } from "../../../state/units.ts";
import { FindingMark } from "../../../ui/finding-mark.tsx";
import { CardFields } from "./card-fields.tsx";
import { GRID, Line, type StockCardFormProps } from "./card-lines.tsx";
import { CardPick } from "./card-pick.tsx";
import { StockField } from "./stock-field.tsx";

const NAMES: Readonly<Record<Units, string>> = {
  mm: "millimetres",
  in: "inches",
  fractions: "inches, 64ths",
};

export function StockCardForm({ raw, problems, onLeave }: StockCardFormProps) {
  const follows = useApp((s) => openPart(s).document!.follows);
  const card = cardOf(raw);
  return (
    <div className="w-[372px]">
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
  const send = useSend();
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
          onClick={() => send(chooseUnits(u))}
        >
          {NAMES[u]}
        </button>
      ))}
    </fieldset>
  );
}

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
